// The strings of a source in a language with braces, and what stands before each.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::code_paths {

enum class Language : std::uint8_t { c, csharp, rust, go, java };

struct CodeString {
  Span span;          // between the quotes
  bool plain = true;  // nothing in it is an escape or stands for a value
  // The code between the string before and this one, without blanks and comments; of the first, from the
  // beginning. At most the last hundred bytes.
  std::string before;
  std::string after;  // the code behind it up to the next string, likewise; the first twenty bytes
};

// Strings in the order of the text. Names of included files are strings too, those between <> are not.
std::vector<CodeString> scan_strings(std::string_view bytes, Language language);

}  // namespace yc::code_paths
