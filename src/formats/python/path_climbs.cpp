#include "formats/python/path_climbs.h"

#include <charconv>

namespace yc::python {

namespace {

constexpr std::string_view kParents = ".parents[", kParent = ".parent", kCall = "dirname(";

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

// What "os.path.dirname(…)" calls, where that call is all of an expression.
std::string_view called(std::string_view expression) {
  std::size_t open = expression.find('(');
  if (open == std::string_view::npos || !expression.substr(0, open + 1).ends_with(kCall)) return {};
  std::size_t nest = 0;
  for (std::size_t i = open; i < expression.size(); ++i) {
    if (expression[i] == '(') ++nest;
    if (expression[i] == ')' && --nest == 0 && i + 1 < expression.size()) return {};
  }
  return nest == 0 ? expression.substr(0, open + 1) : std::string_view();
}

std::optional<std::string> by_calls(std::string_view expression, int more) {
  std::string call(called(expression)), out(expression);
  if (call.empty()) return std::nullopt;
  for (; more > 0; --more) out = call + out + ")";
  for (; more < 0; ++more) {
    std::size_t head = called(out).size();
    if (head == 0) return std::nullopt;
    out = out.substr(head, out.size() - head - 1);
  }
  return out;
}

}  // namespace

std::optional<std::string> climbing(std::string_view expression, int more) {
  if (auto out = by_number(expression, more)) return out;
  if (auto out = by_members(expression, more)) return out;
  return by_calls(expression, more);
}

}  // namespace yc::python
