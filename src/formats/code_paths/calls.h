// Which call a string is an argument of, by the code before it.
#pragma once

#include <vector>

#include "base/word_list.h"
#include "formats/code_paths/string_scan.h"

namespace yc::code_paths {

// Whether a string is the first argument of one of `calls`, which are told by the ends of their names.
bool is_first_in(const CodeString& string, const WordList& calls);
// Whether the string at `index` is any argument of one of them, behind names and strings alone.
bool is_given_to(const std::vector<CodeString>& strings, std::size_t index, const WordList& calls);

}  // namespace yc::code_paths
