// Values of data files: found at their places, and edited there and nowhere else.
#include "formats/values/values.h"

#include <gmock/gmock.h>

#include "base/edit.h"

namespace yc::values {
namespace {

using ::testing::ElementsAre;

std::vector<std::string> found(std::string_view text, Language language) {
  std::vector<std::string> out;
  for (const Value& value : read(text, language)) {
    std::string key;
    for (const std::string& part : value.path) key += (key.empty() ? "" : ".") + part;
    out.push_back(key + "=" + value.text);
  }
  return out;
}

// The text after each value that is `old` was written anew as `fresh`.
std::string edited(const std::string& text, Language language, const std::string& old,
                   const std::string& fresh) {
  FileEdits edits;
  for (const Value& value : read(text, language)) {
    if (value.text != old) continue;
    auto bytes = written(fresh, value.style);
    EXPECT_TRUE(bytes) << text;
    if (bytes) edits.add(value.span, *bytes);
  }
  return edits.apply(text);
}

TEST(Values, toml_in_all_its_quotings) {
  EXPECT_THAT(
      found("a = \"x/ü.png\" # note\n[t.u]\nb = 'c:\\d'\nl = [ \"p\", 'q', { k = \"v\" } ]\n[[n]]\nm = "
            "\"\"\"w\"\"\"\n\"odd key\" = \"\\u0041\"\n",
            Language::toml),
      ElementsAre("a=x/ü.png", "t.u.b=c:\\d", "t.u.l.0=p", "t.u.l.1=q", "t.u.l.2.k=v", "n.0.m=w",
                  "n.0.odd key=A"));
  EXPECT_EQ(edited("# Icons\r\na = 'i/p.png'  # keep\r\nb = [\"i/p.png\",]\r\n", Language::toml, "i/p.png",
                   "n/p.png"),
            "# Icons\r\na = 'n/p.png'  # keep\r\nb = [\"n/p.png\",]\r\n");
}

TEST(Values, yaml_in_block_and_flow) {
  EXPECT_THAT(found("a: x/y.png  # note\nb: 'it''s'\nc: \"t\\tab\"\nl:\n  - p.png\n  - {k: q.png, m: [r, "
                    "s.png]}\nü: &n "
                    "\"z\"\nd: *n\nblock: |\n  one.png\n  two.png\n",
                    Language::yaml),
              ElementsAre("a=x/y.png", "b=it's", "c=t\tab", "l.0=p.png", "l.1.k=q.png", "l.1.m.0=r",
                          "l.1.m.1=s.png", "ü=z", "block=one.png", "block=two.png"));
  const std::string text =
      "%YAML 1.1\n---\n# é\nicon:   i/p.png   # é\nall: [ 'i/p.png', \"i/p.png\" ]\nlist: |\n    i/p.png\n";
  EXPECT_EQ(
      edited(text, Language::yaml, "i/p.png", "n/q.png"),
      "%YAML 1.1\n---\n# é\nicon:   n/q.png   # é\nall: [ 'n/q.png', \"n/q.png\" ]\nlist: |\n    n/q.png\n");
}

TEST(Values, what_a_style_cannot_say_is_not_written) {
  EXPECT_FALSE(written("a: b", kYamlPlain));
  EXPECT_FALSE(written("- a", kYamlPlain));
  EXPECT_FALSE(written("it's", kTomlLiteral));
  EXPECT_FALSE(written("a,b", kCsvBare));
  EXPECT_FALSE(written("a#b", kBareLine));
  EXPECT_EQ(written("it's", kYamlSingle), "it''s");
  EXPECT_EQ(written("a\"b", kCsvQuoted), "a\"\"b");
  EXPECT_EQ(written("a\"b", kJson), "a\\\"b");
  EXPECT_EQ(written("a&b", kXml), "a&amp;b");
}

TEST(Values, ini_with_lines_that_go_on) {
  EXPECT_THAT(
      found("; note\n[icons]\npole = i/p.png ; note\nlist =\n    a.png\n    b.png\n\n[other]\nquoted: \"c "
            "d.png\"\n",
            Language::ini),
      ElementsAre("icons.pole=i/p.png", "icons.list=a.png", "icons.list=b.png", "other.quoted=c d.png"));
}

TEST(Values, csv_with_quotes_and_other_separators) {
  EXPECT_THAT(found("name,icon\npole,\"i/a, \"\"b\"\".png\"\n,x.png\r\n", Language::csv),
              ElementsAre("0.0=name", "0.1=icon", "1.0=pole", "1.1=i/a, \"b\".png", "2.1=x.png"));
  EXPECT_EQ(edited("a;i/p.png;\"i/p.png\"\r\n", Language::csv, "i/p.png", "n.png"), "a;n.png;\"n.png\"\r\n");
}

TEST(Values, xml_attributes_and_texts) {
  EXPECT_EQ(
      edited("<?xml version='1.0'?>\n<m><!-- i/p.png --><t src='i/p.png'  a=\"1\"/> <k> i/p.png </k></m>\n",
             Language::xml, "i/p.png", "n.png"),
      "<?xml version='1.0'?>\n<m><!-- i/p.png --><t src='n.png'  a=\"1\"/> <k> n.png </k></m>\n");
}

TEST(Values, materials_and_lists) {
  EXPECT_THAT(found("# note\nnewmtl hull\nmap_Kd -o 1 textures/hull.png\n", Language::lines),
              testing::Contains("map_Kd=textures/hull.png"));
}

TEST(Values, garbled_files_have_none_or_what_came_before) {
  for (Language language : {Language::json, Language::toml, Language::yaml, Language::xml, Language::ini,
                            Language::csv, Language::lines}) {
    for (const char* text :
         {"", "{", "[[[[", "a = \"", "<a><b", "\"", "a: [b, {", "\xff\xfe\xfd", "- - - : :"}) {
      for (const Value& value : read(text, language))
        EXPECT_LE(value.span.end, std::string_view(text).size());
    }
  }
}

}  // namespace
}  // namespace yc::values
