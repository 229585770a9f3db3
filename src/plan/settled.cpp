#include "plan/settled.h"

#include <toml++/toml.h>

#include <algorithm>
#include <charconv>
#include <sstream>

namespace yc {

bool is_settled(const Blocker& doubt, const std::vector<SettledDoubt>& settled) {
  return std::any_of(settled.begin(), settled.end(), [&](const SettledDoubt& known) {
    return known.file == doubt.file && known.text == doubt.text;
  });
}

std::string settled_table(const SettledDoubt& settled) {
  std::ostringstream out;
  // Only ever basic strings, for these can hold any text.
  auto line = [&](const char* key, const std::string& text) {
    toml::table one;
    one.insert(key, text);
    out << toml::toml_formatter(one, toml::format_flags::none) << "\n";
  };
  out << "\n[[settled]]\n";
  line("file", settled.file.str());
  line("text", settled.text);
  line("reason", settled.reason);
  return out.str();
}

Result<DoubtPlace> parse_doubt_place(const std::string& typed) {
  DoubtPlace out;
  std::string path = typed;
  std::size_t colon = typed.rfind(':');
  if (colon != std::string::npos && colon + 1 < typed.size()) {
    const char* end = typed.data() + typed.size();
    auto [at, error] = std::from_chars(typed.data() + colon + 1, end, out.line);
    if (error == std::errc{} && at == end) {
      path = typed.substr(0, colon);
    } else {
      out.line = 0;
    }
  }
  auto file = RelPath::resolve({}, path);
  if (!file || file->is_root())
    return Error{Failure::usage, "--settle", "\"" + typed + "\" is no place in the tree",
                 "give it as the message does: path:line, from the root"};
  out.file = *file;
  return out;
}

}  // namespace yc
