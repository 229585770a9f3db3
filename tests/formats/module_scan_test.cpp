// What the scanner of modules takes for a specifier, and what must not confuse it.
#include "formats/modules/module_scan.h"

#include <gtest/gtest.h>

#include "formats/modules/embedded.h"

namespace yc::modules {
namespace {

const char* name_of(Specifier::Kind kind) {
  static const char* const kNames[] = {"from",   "dynamic", "require", "mock",      "augment", "url",
                                       "worker", "glob",    "folder",  "reference", "types"};
  return kNames[static_cast<int>(kind)];
}

std::string dump(const ModuleFacts& facts, const std::string& bytes) {
  std::string out;
  for (const Specifier& specifier : facts.specifiers) {
    if (!out.empty()) out += ' ';
    out += std::string(name_of(specifier.kind)) + ":" + specifier.text;
    EXPECT_EQ(bytes.substr(specifier.span.begin, specifier.span.size()), specifier.text);
  }
  return out;
}

std::string dump(const std::string& bytes, Dialect dialect = Dialect::typed_jsx) {
  return dump(scan_module(bytes, dialect), bytes);
}

void expect_all(const std::vector<std::pair<std::string, std::string>>& cases, Dialect dialect) {
  for (const auto& [bytes, wanted] : cases) EXPECT_EQ(dump(bytes, dialect), wanted) << bytes;
}

TEST(ModuleScan, every_form_of_import) {
  expect_all(
      {
          {"import './tide.css';", "from:./tide.css"},
          {"import a from \"./a\"", "from:./a"},
          {"import a, { b as c, default as d } from './a'", "from:./a"},
          {"import * as tide from './tide'", "from:./tide"},
          {"import type { Level } from './level'", "from:./level"},
          {"import { type Level, now } from './level'", "from:./level"},
          {"import data from './level.json' with { type: 'json' };", "from:./level.json"},
          {"import{a}from'./a';import{b}from'./b'", "from:./a from:./b"},
          {"import { from } from './from'", "from:./from"},
          {"import from from './from'", "from:./from"},
          {"import {\n  // why\n  a, /* and './no' */\n} from './a'", "from:./a"},
          {"export * from './a'", "from:./a"},
          {"export * as tide from './a'", "from:./a"},
          {"export { a, b as 'odd name' } from './a'", "from:./a"},
          {"export type { Level } from './level'", "from:./level"},
          {"export const a = './no'", ""},
          {"const later = () => import('./later')", "dynamic:./later"},
          {"await import( /* chunk: 'x' */ './later' )", "dynamic:./later"},
          {"import(`./later.js`)", "dynamic:./later.js"},
          {"let x: import('./level').Level", "dynamic:./level"},
          {"let x: typeof import('./level')", "dynamic:./level"},
          {"const a = require('./a')", "require:./a"},
          {"import a = require('./a')", "require:./a"},
          {"require.resolve('./a')", "require:./a"},
          {"import.meta.resolve('./a')", "dynamic:./a"},
          {"[...require('./a'), 1]", "require:./a"},
          {"jest.mock('./a', () => ({}))", "mock:./a"},
          {"vi.importActual<typeof import('./b')>('./a')", "dynamic:./b mock:./a"},
          {"jest.requireActual('./a')", "mock:./a"},
          {"jest.spyOn('./a')", ""},
          {"new URL('./a.png', import.meta.url)", "url:./a.png"},
          {"new URL('./a.png', base)", ""},
          {"new Worker('./w.js')", "worker:./w.js"},
          {"new Worker(new URL('./w.ts', import.meta.url), { type: 'module' })", "url:./w.ts"},
          {"importScripts('./w.js')", "worker:./w.js"},
          {"import.meta.glob('./charts/*.ts')", "glob:./charts/*.ts"},
          {"import.meta.glob<Chart>(['./a/*.ts', '!./a/no.ts'], { eager: true })",
           "glob:./a/*.ts glob:!./a/no.ts"},
          {"require.context('./charts', true, /\\.js$/)", "folder:./charts"},
          {"declare module './level' { interface Level {} }", "augment:./level"},
          {"/// <reference path=\"./types.d.ts\" />\n/// <reference types='node' />\nlet a",
           "reference:./types.d.ts types:node"},
          {"let a\n/// <reference path=\"./late.d.ts\" />", ""},
          {"/** @type {import('./level').Level} */ let x", "dynamic:./level"},
          {"/** @import { Level } from './level' */", "dynamic:./level"},
          {"/* import('./no') */ // import('./no')", ""},
      },
      Dialect::typed_jsx);
}

TEST(ModuleScan, calls_of_that_name_on_other_things_are_none) {
  expect_all(
      {
          {"tool.import('./no')", ""},
          {"tool?.require('./no')", ""},
          {"tool.importScripts('./no')", ""},
          {"console.log('from', './no')", ""},
          {"q.from('./no')", ""},
          {"const from = './no'", ""},
          {"x = { import: './no', from: './no' }", ""},
          {"require(name); import(name)", ""},
      },
      Dialect::script);
}

TEST(ModuleScan, a_slash_is_a_division_or_a_regular_expression) {
  expect_all(
      {
          {"a = b / c; import('./x') / 2", "dynamic:./x"},
          {"a = /['\"`]/; import './x'", "from:./x"},
          {"a = /[/'\"]/g.test(b); import './x'", "from:./x"},
          {"if (a) /'/.test(b); import './x'", "from:./x"},
          {"while (a) /'/.exec(b)\nimport './x'", "from:./x"},
          {"a = (b) / 2 + '/'; import './x'", "from:./x"},
          {"return /'/; import './x'", "from:./x"},
          {"a[1] / 2 / c; import './x'", "from:./x"},
          {"i++ / 2; j = '/'; import './x'", "from:./x"},
          {"function f() {} /'/.test(b); import './x'", "from:./x"},
          {"x = {} / 1 + '/'; import './x'", "from:./x"},
          {"x = typeof /'/; import './x'", "from:./x"},
          {"x = a.return / 2 + '/'; import './x'", "from:./x"},
          {"x = 1 << a; y = b < c; import './x'", "from:./x"},
          {"x = 0x1e+'/'; import './x'", "from:./x"},
          {"x = 1e-5 / 2 + '/'; import './x'", "from:./x"},
          {"x = a! / 2 + '/'; import './x'", "from:./x"},
          {"x = <T,>(y: T) => y; import './x'", "from:./x"},
      },
      Dialect::typed_jsx);
}

TEST(ModuleScan, templates_hold_expressions_that_hold_templates) {
  EXPECT_EQ(dump("x = `a ${b ? `'${require('./in')}'` : \"`\"} c`; import './x'"), "require:./in from:./x");
  EXPECT_EQ(dump("x = `\\`${'}'}\\${`; import './x'"), "from:./x");
  EXPECT_EQ(dump("x = `import './no'`"), "");
}

TEST(ModuleScan, text_of_elements_is_no_code) {
  expect_all(
      {
          {"x = <p>it's \"here\" // {import('./in')} and `there</p>; import './x'", "dynamic:./in from:./x"},
          {"x = <a b=\"it's\" c={require('./in')} {...d}>'</a>; import './x'", "require:./in from:./x"},
          {"x = <><b/>'</>; import './x'", "from:./x"},
          {"x = <a b={<i>'</i>}><c d={1}/>'</a>; import './x'", "from:./x"},
          {"x = a ? <b>'</b> : <c>'</c>; import './x'", "from:./x"},
          {"x = <List<Level> of={y}>'</List>; import './x'", "from:./x"},
          {"x = <A.B c-d='1'>don't</A.B>; import './x'", "from:./x"},
          {"type F = <T>(x: T) => void; import './x'", "from:./x"},
          {"x = useState<Level>('a'); import './x'", "from:./x"},
          {"const f = async <T extends Level>(x: T) => x; import './x'", "from:./x"},
      },
      Dialect::typed_jsx);
  EXPECT_EQ(dump("x = <Level>y; z = \"it's\"; import './x'", Dialect::typed), "from:./x");
}

TEST(ModuleScan, what_is_put_together_is_told_with_its_known_parts) {
  std::string bytes = "import(`./charts/${name}.js`); require('./x/' + name); import(name)";
  ModuleFacts facts = scan_module(bytes, Dialect::script);
  ASSERT_EQ(facts.computed.size(), 2U);
  auto cut = [&](Span span) { return bytes.substr(span.begin, span.size()); };
  EXPECT_EQ(cut(facts.computed[0].head), "./charts/");
  EXPECT_EQ(cut(facts.computed[0].tail), ".js");
  EXPECT_EQ(cut(facts.computed[1].head), "./x/");
}

TEST(ModuleScan, joined_paths_have_their_parts_and_their_key) {
  std::string bytes =
      "x = { '@': path.resolve(__dirname, '..', 'src'), icons: fileURLToPath(new URL('./icons', "
      "import.meta.url)) }";
  ModuleFacts facts = scan_module(bytes, Dialect::script);
  ASSERT_EQ(facts.joined.size(), 2U);
  EXPECT_EQ(facts.joined[0].key, "@");
  EXPECT_EQ(facts.joined[0].parts.size(), 2U);
  EXPECT_EQ(facts.joined[1].key, "icons");
}

TEST(ModuleScan, scripts_in_pages_and_components_keep_their_places) {
  std::string page =
      "<p>import './no'</p>\n<SCRIPT type=module>import './a'; // it's\n</SCRIPT>\n"
      "<script type=\"importmap\">{\"imports\": {\"x\": \"./no.js\"}}</script>\n"
      "<script lang=\"ts\">import b from './b'</script>";
  EXPECT_EQ(dump(scan_embedded(page), page), "from:./a from:./b");
}

TEST(ModuleScan, broken_text_ends_without_a_crash) {
  const std::string whole =
      "import a from './a'; x = <p a={`${b}`}>it's {c /* d */}</p>; /[/]'/; require(`./${d}`); "
      "jest.mock('e')";
  for (std::size_t size = 0; size <= whole.size(); ++size) {
    for (Dialect dialect : {Dialect::script, Dialect::typed, Dialect::typed_jsx})
      for (const Specifier& each : scan_module(whole.substr(0, size), dialect).specifiers)
        EXPECT_LE(each.span.end, size);
  }
  EXPECT_EQ(dump(std::string("import './a'\0", 13)), "");
  EXPECT_EQ(dump(std::string(100000, '(') + "import './a'"), "from:./a");
}

}  // namespace
}  // namespace yc::modules
