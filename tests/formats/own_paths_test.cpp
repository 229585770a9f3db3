#include "formats/modules/own_paths.h"

#include <gtest/gtest.h>

#include "formats/modules/script_tokens.h"

namespace yc::modules {
namespace {

// Each path as its parts: "+" before one that follows without a separator, "/" with one, "^" for a folder
// gone back from, "?" at the end of one that goes on.
std::vector<std::string> paths(const std::string& code) {
  std::vector<std::string> out;
  for (const OwnPath& path : scan_own_paths(code)) {
    std::string text;
    for (const OwnPart& part : path.parts) {
      text +=
          part.is_up ? "^" : (part.separated ? "/" : "+") + code.substr(part.span.begin, part.span.size());
    }
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
  EXPECT_EQ(paths("const A = A + __dirname + '/x';"), Paths()) << "a constant of its own";
}

TEST(OwnPaths, are_open_where_only_the_program_knows) {
  EXPECT_EQ(paths("open(`${__dirname}/tides/${name}.csv`)"), Paths{"+/tides/?"});
  EXPECT_EQ(paths("open(path.join(__dirname, 'tides', name, 'low.csv'))"), Paths{"/tides?"});
  EXPECT_EQ(paths("open(path.join(name, 'tides'))"), Paths());
}

TEST(OwnPaths, are_found_among_other_code) {
  EXPECT_EQ(paths("// __dirname + '/no'\nconst r = /[/'\"]/, s = \"it's\";\nuse(a ? __dirname + '/x' : 1)"),
            Paths{"+/x"});
  EXPECT_EQ(paths("f({ a: [1, g(__dirname + '/x')], b: `${`${__dirname}/y`}` })"), (Paths{"+/x", "+/y"}));
  EXPECT_EQ(paths("__dirname + '/a\\n'"), Paths{"?"}) << "escapes are not read";
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
