#include "formats/climbing_calls.h"

namespace yc {

namespace {

constexpr std::string_view kCall = "dirname(";

// What "os.path.dirname(…)" calls, where that call is all of an expression. By another name it is known where
// it is called with what it gives: folder_of(folder_of(…)).
std::string_view called(std::string_view expression) {
  std::size_t open = expression.find('(');
  if (open == std::string_view::npos) return {};
  std::string_view call = expression.substr(0, open + 1);
  if (!call.ends_with(kCall) && !expression.substr(open + 1).starts_with(call)) return {};
  std::size_t nest = 0;
  for (std::size_t i = open; i < expression.size(); ++i) {
    if (expression[i] == '(') ++nest;
    if (expression[i] == ')' && --nest == 0 && i + 1 < expression.size()) return {};
  }
  return nest == 0 ? call : std::string_view();
}

}  // namespace

std::optional<std::string> climbing_calls(std::string_view expression, int more) {
  std::string call(called(expression)), out(expression);
  if (call.empty()) return std::nullopt;
  for (; more > 0; --more) out = call + out + ")";
  for (; more < 0; ++more) {
    if (!out.starts_with(call)) return std::nullopt;
    out = out.substr(call.size(), out.size() - call.size() - 1);
  }
  return out;
}

}  // namespace yc
