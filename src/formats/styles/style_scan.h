// Finds what a stylesheet names. Languages: CSS (CSS Syntax Module Level 3), SCSS and the indented syntax of
// Sass (sass-lang.com, "Syntax"), Less. One pass over the tokens, no rules are built.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::styles {

enum class Dialect : std::uint8_t { css, scss, sass, less };

struct StyleName {
  enum class Kind : std::uint8_t {
    module,  // @use, @forward, meta.load-css(), and @import as Sass and Less understand it
    css,     // @import of a stylesheet that the browser loads; composes … from; @value … from
    url,     // url(…), image-set(…), src(…)
    map,     // the source map named in a comment
  };
  // A text is one piece, or literal pieces between variables: "#{$images}/tide.png", $images + "/tide.png".
  struct Part {
    Span span;
    std::string variable;  // without its sign; empty for a literal; "?" for what cannot be known
  };
  Kind kind = Kind::url;
  std::vector<Part> parts;
  std::uint32_t statement = 0;
  std::string role{};  // of the folder that a helper looks it up in: "images"; empty for a URL
};

// A variable whose value is one string: $images: "../images";
struct StyleVariable {
  std::string name;
  Span value;
};

struct StyleFacts {
  std::vector<StyleName> names;
  std::vector<StyleVariable> variables;
};

StyleFacts scan_style(std::string_view bytes, Dialect dialect);

}  // namespace yc::styles
