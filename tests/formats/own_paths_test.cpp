#include "formats/modules/own_paths.h"

#include <gtest/gtest.h>

#include "formats/modules/script_tokens.h"

namespace yc::modules {
namespace {

// Each path as its parts: "^" for a folder that is climbed, "+" before a part that follows without a
// separator,
// "/" with one, "?" at the end of one that goes on.
std::vector<std::string> paths(const std::string& code) {
  std::vector<std::string> out;
  for (const OwnPath& path : scan_own_paths(code)) {
    std::string text(path.ups, '^');
    for (const OwnPart& part : path.parts)
      text += (part.separated ? "/" : "+") + code.substr(part.span.begin, part.span.size());
    out.push_back(text + (path.is_open ? "?" : ""));
  }
  return out;
}
using Paths = std::vector<std::string>;

TEST(OwnPaths, begin_at_the_modules_own_place) {
  EXPECT_EQ(paths("open(__dirname + '/tide.csv')"), Paths{"+/tide.csv"});
  EXPECT_EQ(paths("open(`${__dirname}/tide.csv`)"), Paths{"+/tide.csv"});
  EXPECT_EQ(paths("open(path.join(__dirname, 'tides', 'low.csv'))"), Paths{"/tides/low.csv"});
  EXPECT_EQ(paths("require('path').resolve(__dirname, '..', 'tides')"), (Paths{"/../tides"}));
  EXPECT_EQ(paths("join(dirname(fileURLToPath(import.meta.url)), 'low.csv')"), Paths{"/low.csv"});
  EXPECT_EQ(paths("join(dirname(__dirname), 'low.csv')"), Paths{"^/low.csv"});
  EXPECT_EQ(paths("fs.read(new URL('low.csv', import.meta.url).pathname)"), Paths{"/low.csv"});
}

TEST(OwnPaths, go_on_from_constants_that_have_one_value) {
  EXPECT_EQ(paths("const A = path.join(__dirname, 'a');\nconst B = `${A}/b`;\nopen(B + '/c')"),
            (Paths{"/a", "/a+/b", "/a+/b+/c"}));
  EXPECT_EQ(paths("let A = __dirname;\nA = other;\nopen(A + '/c')"), Paths());
  EXPECT_EQ(paths("const A: string = __dirname;\nopen(A + '/c')"), Paths{"+/c"});
  EXPECT_EQ(paths("exports.root = dirname(dirname(__dirname));\nopen(join(exports.root, 'a'))"),
            (Paths{"^^", "^^/a"}));
  EXPECT_EQ(paths("const A = __dirname;\nexports.a = A;\nexports.a = x;\nopen(exports.a + '/a')"), Paths{""});
  EXPECT_EQ(paths("const A = A + __dirname + '/x';"), Paths{""}) << "a constant of its own";
}

TEST(OwnPaths, are_open_where_only_the_program_knows) {
  EXPECT_EQ(paths("open(`${__dirname}/tides/${name}.csv`)"), Paths{"+/tides/?"});
  EXPECT_EQ(paths("open(path.join(__dirname, 'tides', name, 'low.csv'))"), Paths{"/tides?"});
  EXPECT_EQ(paths("open(path.join(name, 'tides'))"), Paths());
}

TEST(OwnPaths, go_through_functions_that_are_called_with_texts) {
  EXPECT_EQ(paths("const file = (name) => path.join(__dirname, 'tides', "
                  "name);\nopen(file('low.csv'));\nopen(file('a'))"),
            (Paths{"/tides/low.csv", "/tides/a"}));
  EXPECT_EQ(
      paths("function load(name) {\n  return fs.read(join(__dirname, 'tides', name));\n}\nload('low.csv')"),
      Paths{"/tides/low.csv"});
  EXPECT_EQ(paths("const web = (...p) => join(__dirname, 'web', ...p);\nopen(web('css', 'a.css'))"),
            Paths{"/web/css/a.css"});
  EXPECT_EQ(paths("function load(n) {\n  const p = join(__dirname, n);\n  return read(p + "
                  "'.csv');\n}\nload('a'); load('b')"),
            (Paths{"/a", "/a+.csv", "/b", "/b+.csv"}));
  EXPECT_EQ(paths("export const file = (name) => join(__dirname, 'a', name);\nfile('b')"),
            (Paths{"/a?", "/a/b"}))
      << "others may call it";
  EXPECT_EQ(paths("const file = (name) => join(__dirname, 'a', name);\nfile('b'); file(x)"),
            (Paths{"/a?", "/a/b", "/a?"}));
  EXPECT_EQ(paths("const f = (n) => f(n) + join(__dirname, n);\nf('a')"), (Paths{"/a", "/a", "/a"}))
      << "one that calls itself comes to an end";
}

TEST(OwnPaths, go_through_loops_over_texts) {
  EXPECT_EQ(paths("for (const f of ['low', 'high']) open(join(__dirname, 'tides', f, 'a.csv'));"),
            (Paths{"/tides/low/a.csv", "/tides/high/a.csv"}));
  EXPECT_EQ(paths("const ALL = ['a', 'b'];\nfor (const f of ALL) { open(join(__dirname, f)); }"),
            (Paths{"/a", "/b"}));
  EXPECT_EQ(paths("['a', 'b'].forEach((f) => open(join(__dirname, f)))"), (Paths{"/a", "/b"}));
  EXPECT_EQ(paths("for (const f of ALL) open(join(__dirname, 'tides', f));"), Paths{"/tides?"});
}

TEST(OwnPaths, may_be_the_modules_own_folder) {
  EXPECT_EQ(paths("serve({ root: __dirname })"), Paths{""});
  EXPECT_EQ(paths("const HERE = __dirname;"), Paths()) << "it is not used yet";
  EXPECT_EQ(paths("const HERE = __dirname;\nserve(HERE)"), Paths{""});
  EXPECT_EQ(paths("const UP = dirname(__dirname);\nserve(UP)"), Paths{"^"});
  EXPECT_EQ(paths("export const UP = dirname(__dirname);"), Paths{"^"});
  EXPECT_EQ(paths("module.exports.up = __dirname;"), Paths{""});
  EXPECT_EQ(paths("open(join(__dirname, name))"), Paths());
  EXPECT_EQ(paths("fs.readdirSync(__dirname)"), Paths{"?"});
}

TEST(OwnPaths, are_found_among_other_code) {
  EXPECT_EQ(paths("// __dirname + '/no'\nconst r = /[/'\"]/, s = \"it's\";\nuse(a ? __dirname + '/x' : 1)"),
            Paths{"+/x"});
  EXPECT_EQ(paths("f({ a: [1, g(__dirname + '/x')], b: `${`${__dirname}/y`}` })"), (Paths{"+/x", "+/y"}));
  EXPECT_EQ(paths("__dirname + '/a' + '/b\\n'"), Paths{"+/a?"}) << "escapes are not read";
}

TEST(OwnPaths, of_garbage_come_to_an_end) {
  std::string open(20'000, '('), holes, calls;
  for (int i = 0; i < 5'000; ++i) holes += "`${", calls += "join(__dirname, ";
  for (const std::string& code : {open + "__dirname", holes + "__dirname", calls, "__dirname" + open + "'",
                                  std::string("__dirname + `${"), std::string("__dirname['")})
    EXPECT_LE(paths(code).size(), 5'001U);
  std::string chain = "const A0 = __dirname + '/x';\n";
  for (int i = 1; i < 20'000; ++i)
    chain += "const A" + std::to_string(i) + " = A" + std::to_string(i - 1) + " + '/x';\n";
  EXPECT_LT(paths(chain).size(), 100U) << "names are followed a few steps";
  EXPECT_EQ(script_tokens("`a${b}c").size(), 6U);
}

}  // namespace
}  // namespace yc::modules
