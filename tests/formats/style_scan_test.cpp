// What the scanner of stylesheets takes for a name, and what must not confuse it.
#include "formats/styles/style_scan.h"

#include <gtest/gtest.h>

namespace yc::styles {
namespace {

// "kind:text", variables as "$name", what cannot be known as "?".
std::string dump(const std::string& bytes, Dialect dialect) {
  static const char* const kKinds[] = {"module", "css", "url", "map"};
  std::string out;
  for (const StyleName& name : scan_style(bytes, dialect).names) {
    if (!out.empty()) out += ' ';
    out += std::string(kKinds[static_cast<int>(name.kind)]) + ":";
    for (const StyleName::Part& part : name.parts)
      out += part.variable.empty()  ? bytes.substr(part.span.begin, part.span.size())
             : part.variable == "?" ? "?"
                                    : "$" + part.variable;
  }
  return out;
}

void expect_all(const std::vector<std::pair<std::string, std::string>>& cases, Dialect dialect) {
  for (const auto& [bytes, wanted] : cases) EXPECT_EQ(dump(bytes, dialect), wanted) << bytes;
}

TEST(StyleScan, css) {
  expect_all({{"@import 'a.css';", "css:a.css"},
              {"@import url(a.css) screen;", "css:a.css"},
              {"@import url(\"a.css\") layer(x) supports(display: grid);", "css:a.css"},
              {"@IMPORT \"a.css\";", "css:a.css"},
              {"/* @import 'no'; */ a { b: url( ./x.png ) }", "url:./x.png"},
              {"a { b: url('x.png?v=1#y'), url(\"y.png\") }", "url:x.png?v=1#y url:y.png"},
              {"@font-face { src: url(a.woff2) format('woff2'), local('B') }", "url:a.woff2"},
              {"a { b: image-set('a.png' 1x, url(b.png) 2x) }", "url:a.png url:b.png"},
              {"a { content: \"url(no.png)\" }", ""},
              {"a { composes: b c from './d.css'; }", "css:./d.css"},
              {"@value a, b from \"./c.css\";", "css:./c.css"},
              {"a { composes: b }", ""},
              {"a { b: 'it\\'s' } c { d: url(e.png) }", "url:e.png"},
              {"/*# sourceMappingURL=a.css.map */", "map:a.css.map"},
              {"a { b: url(data:image/png;base64,AA//) }", "url:data:image/png;base64,AA//"},
              {"// @import 'x';\n@import 'y';", "css:x css:y"}},
             Dialect::css);
}

TEST(StyleScan, scss) {
  expect_all({{"@use 'a';", "module:a"},
              {"@use \"a\" as b with ($c: 'no');", "module:a"},
              {"@forward 'a' show b;", "module:a"},
              {"@import 'a', \"b\";", "module:a module:b"},
              {"@import 'a.css'; @import 'b' screen; @import url(c);", "css:a.css css:b css:c"},
              {"// @use 'no'\n/* @use 'no' */ @use 'yes';", "module:yes"},
              {"@include meta.load-css('a', $with: ('b': 'c'));", "module:a"},
              {"a { b: url(\"#{$images}/x.png\") }", "url:$images/x.png"},
              {"a { b: url($images + '/x.png') }", "url:$images/x.png"},
              {"a { b: url(#{f($x)}/x.png) }", "url:?/x.png"},
              {"a { b: url($x) }", "url:$x"}},
             Dialect::scss);
  StyleFacts facts =
      scan_style("$images: '../images'; $b: 'x' + 'y'; $c: 4px;\n$d: \"e\" !default;", Dialect::scss);
  ASSERT_EQ(facts.variables.size(), 2U);
  EXPECT_EQ(facts.variables[0].name, "images");
  EXPECT_EQ(facts.variables[1].name, "d");
}

TEST(StyleScan, sass_and_less) {
  expect_all({{"@use 'a'\n@import b, c/d\n.e\n  f: url(g.png)\n", "module:a module:b module:c/d url:g.png"}},
             Dialect::sass);
  expect_all({{"@import (reference) 'a'; @import 'b.less';", "module:a module:b.less"},
              {"@images: '../images'; a { b: url('@{images}/x.png') }", "url:$images/x.png"},
              {"a { b: data-uri('x.svg') }", "url:x.svg"},
              {"@media screen { a { b: url(c.png) } }", "url:c.png"}},
             Dialect::less);
}

TEST(StyleScan, broken_text_ends_without_a_crash) {
  const std::string whole = "@use 'a'; b { c: url(\"#{$d}/e.png\") /* f */; } @import url(g), 'h'; $i: 'j';";
  for (std::size_t size = 0; size <= whole.size(); ++size) {
    for (Dialect dialect : {Dialect::css, Dialect::scss, Dialect::sass, Dialect::less}) {
      for (const StyleName& name : scan_style(whole.substr(0, size), dialect).names)
        for (const StyleName::Part& part : name.parts) EXPECT_LE(part.span.end, size);
    }
  }
}

}  // namespace
}  // namespace yc::styles
