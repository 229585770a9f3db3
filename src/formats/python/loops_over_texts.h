// Loops over texts that stand in the source: for name in ["low", "high"]: …, [HERE / name for name in ("a",
// "b")] (The Python Language Reference, "The for statement" and "Displays for lists").
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "formats/python/python_tokens.h"

namespace yc::python {

struct TextLoop {
  std::string name;                // the variable
  std::vector<std::size_t> texts;  // tokens
  std::size_t begin = 0, end = 0;  // the tokens that are gone through for each of them
};

// Of loops in the text itself, and over constants that are such a list.
std::vector<TextLoop> loops_over_texts(std::string_view bytes, const std::vector<Token>& tokens);

}  // namespace yc::python
