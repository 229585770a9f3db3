// The tokens of JavaScript and TypeScript, as far as expressions of paths go: ECMA-262, "Lexical Grammar".
// Comments and regular expressions are left out.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::modules {

struct ScriptToken {
  enum class Kind : std::uint8_t {
    name,            // also a keyword
    string,          // the span between its quotes
    other,           // a number, or a string with escapes
    sign,            // one character
    template_begin,  // a back quote
    chunk,           // text of a template without escapes; may be empty
    hole_begin,      // "${"
    hole_end,
    template_end,
  };
  Kind kind = Kind::sign;
  Span span;
  bool on_new_line = false;
};

std::vector<ScriptToken> script_tokens(std::string_view bytes);

}  // namespace yc::modules
