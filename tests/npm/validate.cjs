// Validates JSON texts: node validate.cjs SCHEMA FILE…  Draft 4 and draft 7 of JSON Schema, as the schema says.
const fs = require("fs");
const [schemaFile, ...files] = process.argv.slice(2);
const schema = JSON.parse(fs.readFileSync(schemaFile, "utf8"));
const draft4 = String(schema.$schema).includes("draft-04");
const Ajv = require(draft4 ? "ajv-draft-04" : "ajv").default;
const ajv = new Ajv({ strict: false, allErrors: true, unicodeRegExp: false });
require("ajv-formats").default(ajv);
const validate = ajv.compile(schema);
let bad = 0;
for (const file of files) {
  if (validate(JSON.parse(fs.readFileSync(file, "utf8")))) continue;
  bad += 1;
  for (const error of validate.errors.slice(0, 5)) console.log(`${file}: ${error.instancePath} ${error.message} ${JSON.stringify(error.params)}`);
}
process.exit(bad ? 1 : 0);
