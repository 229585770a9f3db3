#include "formats/modules/module_climbs.h"

#include <algorithm>

#include "base/char_class.h"
#include "formats/climbing_calls.h"

namespace yc::modules {

namespace {

constexpr CharClass kCharsOfNames = CharClass::alphanumeric_and("._$");

}  // namespace

std::optional<std::string> climbing(std::string_view expression, int more) {
  if (auto by_calls = climbing_calls(expression, more)) return by_calls;
  // A name that stands for a folder.
  bool is_name =
      std::all_of(expression.begin(), expression.end(), [](char c) { return kCharsOfNames.holds(c); });
  if (!is_name || expression.empty() || more < 1) return std::nullopt;
  std::string out = std::string(expression) + " + \"";
  for (int i = 0; i < more; ++i) out += "/..";
  return out + "\"";
}

}  // namespace yc::modules
