#include "formats/code_paths/calls.h"

#include <algorithm>
#include <cctype>

namespace yc::code_paths {

namespace {

// Whether code ends with the name of such a call.
bool ends_with_call(std::string_view code, const WordList& calls) {
  return std::any_of(calls.begin(), calls.end(), [&](std::string_view call) {
    bool fits = code.ends_with(call);
    char sign = fits && code.size() > call.size() ? code[code.size() - call.size() - 1] : '.';
    return fits && std::isalnum(static_cast<unsigned char>(sign)) == 0 && sign != '_';
  });
}

bool are_names(std::string_view code) {
  return std::all_of(code.begin(), code.end(), [](unsigned char c) {
    return std::isalnum(c) || c == '_' || c == '.' || c == ',' || c == '&' || c == '*';
  });
}

}  // namespace

bool is_first_in(const CodeString& string, const WordList& calls) {
  std::string_view before = string.before;
  return before.ends_with('(') && ends_with_call(before.substr(0, before.size() - 1), calls);
}

bool is_given_to(const std::vector<CodeString>& strings, std::size_t index, const WordList& calls) {
  for (std::size_t i = index + 1; i-- > 0;) {
    std::string_view before = strings[i].before;
    bool is_there = before.ends_with('(') || before.ends_with(',');
    std::size_t open = before.rfind('(');
    if (!is_there) return false;
    if (open != std::string_view::npos)
      return are_names(before.substr(open + 1)) && ends_with_call(before.substr(0, open), calls);
    if (!are_names(before)) return false;
  }
  return false;
}

}  // namespace yc::code_paths
