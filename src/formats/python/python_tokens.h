// The tokens of a Python source (The Python Language Reference, chapter 2), for versions 2 and 3. Blanks and
// comments are passed over; f-strings are opened, and what stands in their braces is made tokens too.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::python {

struct Token {
  enum class Kind : std::uint8_t {
    name,
    number,
    string,   // with prefix and quotes
    op,       // "..." and "->" are one, as are "**", "//", ":=" and the like
    newline,  // ends a logical line
    field,    // "{" of an f-string: what follows up to `field_end` stands in its braces
    field_end,
  };
  Kind kind = Kind::op;
  Span span;
};

struct StringShape {
  Span body;  // between the quotes
  bool raw = false, bytes = false, formatted = false, triple = false;
  char quote = '"';
};
// Of a string token.
StringShape shape_of(std::string_view bytes, const Token& token);

// An f-string is followed by the tokens of its braces, each between `field` and `field_end`. A string that is
// not closed ends with its line, or with the text.
std::vector<Token> tokenize(std::string_view bytes);

}  // namespace yc::python
