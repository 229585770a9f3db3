// Functions that take a path from some folder on: load(name) reads ASSETS + name, so that load("tides.csv")
// names assets/tides.csv. For languages with curly braces. Not a parser: what does not look so is passed
// over.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"
#include "formats/glued_paths/glue_scan.h"

namespace yc::glued_paths {

// A function whose first parameter is used in an expression.
struct Function {
  std::string name, parameter;
  std::size_t head = 0;   // where the name is declared
  std::size_t body = 0;   // where it begins
  bool is_block = false;  // it ends with a brace, else with its statement
};
// The function around a place, by its first parameter, if that is the name that stands there.
std::optional<Function> function_with(std::string_view bytes, std::size_t at, std::string_view parameter);

// From where the body of such a function begins to its end; `at` is the place in it.
Span body_of(std::string_view bytes, const Function& function, std::size_t at);

// The function that a literal, of which `open` is the first quote, is the first argument of: "load".
std::string callee_of(std::string_view bytes, std::size_t open);

// What a file says of such functions: those that glue their first parameter to a constant, and the calls of
// any with a text that could be a path. `strings` are as in scan_glue().
void scan_loaders(std::string_view bytes, const std::vector<Span>& strings, Language language,
                  GlueFacts& out);

// Whether a function of that name may be declared in a text, rather than called.
bool may_define(std::string_view bytes, std::string_view function);

// Where a word stands by itself.
std::vector<std::size_t> places_of_word(std::string_view bytes, std::string_view word);

}  // namespace yc::glued_paths
