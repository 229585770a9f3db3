#include "formats/python/path_climbs.h"

#include <charconv>

#include "formats/climbing_calls.h"

namespace yc::python {

namespace {

constexpr std::string_view kParents = ".parents[", kParent = ".parent";

// "….parents[1]"
std::optional<std::string> by_number(std::string_view expression, int more) {
  std::size_t at = expression.rfind(kParents);
  if (at == std::string_view::npos || !expression.ends_with(']')) return std::nullopt;
  at += kParents.size();
  const char* end = expression.data() + expression.size() - 1;
  int number = 0;
  auto [stop, error] = std::from_chars(expression.data() + at, end, number);
  if (error != std::errc() || stop != end || number + more < 0) return std::nullopt;
  return std::string(expression.substr(0, at)) + std::to_string(number + more) + "]";
}

// "….parent.parent"
std::optional<std::string> by_members(std::string_view expression, int more) {
  std::string out(expression);
  if (!out.ends_with(kParent)) return std::nullopt;
  for (; more > 0; --more) out += kParent;
  for (; more < 0; ++more) {
    if (!out.ends_with(kParent)) return std::nullopt;
    out.resize(out.size() - kParent.size());
  }
  return out;
}

}  // namespace

std::optional<std::string> climbing(std::string_view expression, int more) {
  if (auto out = by_number(expression, more)) return out;
  if (auto out = by_members(expression, more)) return out;
  return climbing_calls(expression, more);
}

}  // namespace yc::python
