#include "formats/climbing_calls.h"

namespace yc {

namespace {

constexpr std::string_view kCall = "dirname(";

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

}  // namespace

std::optional<std::string> climbing_calls(std::string_view expression, int more) {
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

}  // namespace yc
