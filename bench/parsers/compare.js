// Holds what scan_modules printed (the file named first) against the TypeScript compiler's own parser: every string, and
// every specifier with its kind. Files that the parser finds faulty are passed over.
'use strict';
const ts = require('typescript');
const fs = require('fs');

const mocks = new Set(['mock', 'doMock', 'unmock', 'doUnmock', 'dontMock', 'deepUnmock', 'setMock', 'requireMock', 'requireActual',
  'importActual', 'importMock', 'unstable_mockModule', 'createMockFromModule', 'replace']);

const records = [];
for (const line of fs.readFileSync(process.argv[2], 'latin1').split('\n')) {
  if (line[0] === 'F') records.push({ file: Buffer.from(line.slice(2), 'latin1').toString(), strings: new Set(), found: [] });
  if (line[0] === 'S') records[records.length - 1].strings.add(line.slice(2).replace(' ', '-'));
  if (line[0] === 'M') records[records.length - 1].found.push(line.slice(2).replace(/ (\d+) (\d+)$/, ' $1-$2'));
}

let files = 0, skipped = 0, differing = 0, strings = 0, specifiers = 0;
for (const record of records) {
  const bytes = fs.readFileSync(record.file);
  if (bytes.includes(0)) { skipped++; continue; }
  // One letter for each byte, so that the parser's offsets are those of bytes.
  let text = bytes.toString('latin1').replace(/[\x80-\xff]/g, 'é');
  if (bytes[0] === 0xef && bytes[1] === 0xbb) text = '   ' + text.slice(3);
  const kind = /\.tsx$/.test(record.file) ? ts.ScriptKind.TSX : /\.[mc]?ts$/.test(record.file) ? ts.ScriptKind.TS : ts.ScriptKind.JSX;
  const options = { languageVersion: ts.ScriptTarget.ESNext, jsDocParsingMode: ts.JSDocParsingMode.ParseAll };
  const source = ts.createSourceFile(record.file, text, options, true, kind);
  if (source.parseDiagnostics.length) { skipped++; continue; }
  const wantedStrings = new Set(), wanted = new Set();
  const isString = (node) => node && (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node));
  const span = (node) => (node.getStart(source, false) + 1) + '-' + (node.end - 1);
  const add = (name, node) => { if (isString(node) && !text.slice(node.getStart(source), node.end).includes('\\')) wanted.add(name + ' ' + span(node)); };
  const visit = (node) => {
    if (isString(node)) wantedStrings.add(span(node));
    if ((ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) && node.moduleSpecifier) add('import_from', node.moduleSpecifier);
    if (ts.isExternalModuleReference(node)) add('require', node.expression);
    if (ts.isImportTypeNode(node) && ts.isLiteralTypeNode(node.argument)) add('dynamic', node.argument.literal);
    if (ts.isModuleDeclaration(node)) add('augmentation', node.name);
    if (ts.isCallExpression(node) && node.arguments.length) {
      const called = node.expression, first = node.arguments[0];
      if (called.kind === ts.SyntaxKind.ImportKeyword) add('dynamic', first);
      if (ts.isIdentifier(called) && called.text === 'require') add('require', first);
      if (ts.isIdentifier(called) && called.text === 'importScripts') add('worker', first);
      if (ts.isPropertyAccessExpression(called)) {
        const owner = called.expression, name = called.name.text;
        const is = (text) => ts.isIdentifier(owner) && owner.text === text;
        if (is('require') && name === 'resolve') add('require', first);
        if (is('require') && name === 'context') add('folder', first);
        if ((is('jest') || is('vi') || is('vitest') || is('td')) && mocks.has(name)) add('mock', first);
        if (ts.isMetaProperty(owner) && name === 'resolve') add('dynamic', first);
        if (ts.isMetaProperty(owner) && (name === 'glob' || name === 'globEager')) add('glob', first);
      }
    }
    if (ts.isNewExpression(node) && node.arguments && node.arguments.length && ts.isIdentifier(node.expression)) {
      const second = node.arguments[1];
      if (node.expression.text === 'URL' && second && second.getText(source) === 'import.meta.url') add('url', node.arguments[0]);
      if (node.expression.text === 'Worker' || node.expression.text === 'SharedWorker') add('worker', node.arguments[0]);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  for (const each of source.referencedFiles) wanted.add('reference ' + each.pos + '-' + each.end);
  for (const each of source.typeReferenceDirectives) wanted.add('types ' + each.pos + '-' + each.end);
  // Specifiers in doc comments are no strings of the program; they are held against nothing here.
  const outside = (item) => /^(reference|types) /.test(item) || wantedStrings.has(item.split(' ')[1]);
  const found = new Set(record.found.filter(outside));
  const faults = [...wantedStrings].filter((s) => !record.strings.has(s)).map((s) => 'missing string ' + s)
    .concat([...record.strings].filter((s) => !wantedStrings.has(s)).map((s) => 'no string ' + s))
    .concat([...wanted].filter((s) => !found.has(s)).map((s) => 'missing ' + s))
    .concat([...found].filter((s) => !wanted.has(s)).map((s) => 'not ' + s));
  files++;
  strings += wantedStrings.size;
  specifiers += wanted.size;
  if (faults.length && ++differing <= 20) console.log(record.file + ': ' + faults.length + ', first: ' + faults[0]);
}
console.log(`${files} files, ${strings} strings, ${specifiers} specifiers; ${differing} files differ, ${skipped} passed over`);
process.exit(differing ? 1 : 0);
