#include "formats/glued_paths/glue_scan.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace yc::test {
namespace {

using glued_paths::GlueFacts;
using glued_paths::GluePart;
using glued_paths::Language;
using ::testing::ElementsAre;
using ::testing::IsEmpty;

// The strings of a text without escapes: what stands between two quotes.
std::vector<Span> strings_of(const std::string& text) {
  std::vector<Span> out;
  for (std::size_t at = text.find('"'); at != std::string::npos; at = text.find('"', at + 1)) {
    std::size_t end = text.find('"', at + 1);
    if (end == std::string::npos) break;
    out.push_back({static_cast<std::uint32_t>(at + 1), static_cast<std::uint32_t>(end)});
    at = end;
  }
  return out;
}

std::string shown(const std::string& text, const std::vector<GluePart>& parts) {
  std::string out;
  for (const GluePart& part : parts) {
    if (part.separated) out += "/";
    out += part.is_name ? "<" + part.name + ">" : text.substr(part.span.begin, part.span.size());
  }
  return out;
}

// "<NAME>text" for each glued text, with "…" behind one that goes on.
std::vector<std::string> glued(const std::string& text, Language language) {
  GlueFacts facts = scan_glue(text, strings_of(text), language);
  std::vector<std::string> out;
  for (const auto& glue : facts.texts) out.push_back(shown(text, glue.parts) + (glue.is_open ? "…" : ""));
  return out;
}

// "NAME = value" for each constant, with "/" behind one that is glued to as a folder.
std::vector<std::string> constants(const std::string& text, Language language) {
  GlueFacts facts = scan_glue(text, strings_of(text), language);
  std::vector<std::string> out;
  for (const auto& constant : facts.constants)
    out.push_back(constant.name + " = " + shown(text, constant.value) + (constant.is_glued_to ? " /" : ""));
  return out;
}

TEST(GlueScan, c) {
  EXPECT_THAT(glued("f(ROOT \"a.png\"); g(ROOT\n  \"b\" \"c\");", Language::c),
              ElementsAre("<ROOT>a.png", "<ROOT>bc"));
  EXPECT_THAT(
      glued("f(L\"a\"); return \"b\"; f(x->root + \"/c\"); f(std::string(ns::kRoot) + \"d\");", Language::c),
      ElementsAre("<return>b", "<root>/c", "<kRoot>d"))
      << "that a word is no constant shows when it is looked for";
  EXPECT_THAT(glued("f(root / \"a\" / \"b\"); f(ROOT \"a/%s.png\", x);", Language::c),
              ElementsAre("<root>/a/b", "<ROOT>a/…"));
  EXPECT_THAT(
      constants("#define ROOT \"a/\"\n#define DIR (\"b\")\nchar kC[] = \"c\";\nconst fs::path kD{\"d\"};\n"
                "std::string kE(\"e\");\nfoo(\"f\");\nx == \"g\";\n",
                Language::c),
      ElementsAre("ROOT = a/", "DIR = b", "kC = c", "kD = d", "kE = e"));
  EXPECT_THAT(constants("#define ROOT \"a\"\n#define ICONS ROOT \"/icons\"\nf(ICONS \"/b\");\n", Language::c),
              ElementsAre("ROOT = a /", "ICONS = <ROOT>/icons /"));
}

TEST(GlueScan, script) {
  EXPECT_THAT(
      glued("f(root + \"a\"); f(x + root + \"b\"); f(path.join(root, \"c\", \"d\"));", Language::script),
      ElementsAre("<root>a", "<root>/c/d"));
  EXPECT_THAT(
      glued("f(`${root}/a.png`); f(`${root}/${b}`); f(`${f(x)}/c`); f(root + \"d/\" + e);", Language::script),
      ElementsAre("<root>d/…", "<root>/a.png", "<root>/…"));
  EXPECT_THAT(
      constants("const a = \"x\";\nexport const b: string = \"y\"\nlet c = \"z\" + d;\nf({ e: \"w\" });\n"
                "this.g = \"v\";\n",
                Language::script),
      ElementsAre("a = x", "b = y", "g = v"));
}

TEST(GlueScan, csharp) {
  EXPECT_THAT(
      glued("f(Path.Combine(Root, \"a\", \"b\")); f($\"{Root}/c\"); f($\"{Paths.Root}/d/{e}\"); f(@\"g\");",
            Language::csharp),
      ElementsAre("<Root>/a/b", "<Root>/c", "<Root>/d/…"));
  EXPECT_THAT(glued("f($\"a/{b}\"); f(\"a/{0}.b\"); f(\"a/{n}\");", Language::csharp),
              ElementsAre("a/…", "a/…"));
  EXPECT_THAT(constants("const string Root = @\"a\";\nstatic string B => \"b\";\n", Language::csharp),
              ElementsAre("Root = a"));
}

TEST(GlueScan, rust) {
  EXPECT_THAT(
      glued("f(Path::new(ROOT).join(\"a\").join(\"b\")); f(format!(\"{ROOT}/c\")); f(format!(\"{}/d\", "
            "ROOT)); f(assets!(\"e\"));",
            Language::rust),
      ElementsAre("<ROOT>/a/b", "<ROOT>/c", "<ROOT>/d", "<assets>e"));
  EXPECT_THAT(
      constants("const ROOT: &str = \"a\";\nstatic B: &'static str = \"b\";\nmacro_rules! assets {\n  "
                "($p:literal) => { concat!(\"c/\", $p) };\n}\n",
                Language::rust),
      ElementsAre("ROOT = a", "B = b", "assets = c/"));
}

TEST(GlueScan, others) {
  EXPECT_THAT(
      glued("load(dir + \"/a\"); load(filepath.Join(dir, \"b\")); fmt.Sprintf(\"c/%s\", x)", Language::go),
      ElementsAre("<dir>/a", "<dir>/b", "c/…"));
  EXPECT_THAT(constants("const dir = \"a\"\nroot := \"b\"\nvar c string = \"c\"\n", Language::go),
              ElementsAre("dir = a", "root = b", "c = c"));
  EXPECT_THAT(glued("new File(ROOT, \"a\"); x = \"$root/b\"; y = \"${a.root}/c\"; z = \"\\(root)/d\"",
                    Language::java),
              ElementsAre("<ROOT>/a", "<root>/b", "<root>/c", "<root>/d"));
}

TEST(GlueScan, takes_what_is_cut_off) {
  for (Language language :
       {Language::c, Language::csharp, Language::rust, Language::go, Language::java, Language::script}) {
    const std::string text =
        "#define A \"a/\"\nconst b = A + \"b\" + \"c\"; f(`${b}/x`); g($\"{A}/y\"); h(b, \"z\")";
    for (std::size_t size = 0; size <= text.size(); ++size) {
      std::string cut = text.substr(0, size);
      std::vector<Span> strings = strings_of(cut);
      // One that nothing closes.
      if (std::count(cut.begin(), cut.end(), '"') % 2 == 1) {
        auto begin = static_cast<std::uint32_t>(cut.rfind('"') + 1);
        strings.push_back({begin, static_cast<std::uint32_t>(cut.size())});
      }
      scan_glue(cut, strings, language);
    }
  }
  EXPECT_THAT(glued("", Language::c), IsEmpty());
}

}  // namespace
}  // namespace yc::test
