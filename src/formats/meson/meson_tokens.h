// The tokens of a Meson build script.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::meson {

struct Token {
  enum class Kind : unsigned char { word, number, string, sign, newline, end, garbage };
  Kind kind = Kind::end;
  Span span;
  Span content;  // of a string, between its quotes
  bool multiline = false;
  bool formatted = false;
};

// Line ends inside brackets are none. The last token is of kind `end`.
std::vector<Token> tokens_of(std::string_view bytes);

}  // namespace yc::meson
