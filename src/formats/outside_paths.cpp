#include "formats/outside_paths.h"

#include <algorithm>

namespace yc {

std::optional<std::string> outside_path(const RelPath& old_base, const RelPath& new_base,
                                        std::string_view text) {
  bool backslashes = text.find('\\') != std::string_view::npos;
  std::string slashed(text);
  if (backslashes) std::replace(slashed.begin(), slashed.end(), '\\', '/');
  if (!slashed.starts_with("../") && slashed != "..") return std::nullopt;
  // Only what climbs first and then goes down is respelled.
  std::size_t climbs = 0, at = 0;
  while (slashed.compare(at, 2, "..") == 0 && (at + 2 == slashed.size() || slashed[at + 2] == '/')) {
    ++climbs;
    at = std::min(at + 3, slashed.size());
  }
  std::string rest = slashed.substr(at);
  if (("/" + rest + "/").find("/../") != std::string::npos) return std::nullopt;
  std::size_t old_depth = old_base.components().size(), new_depth = new_base.components().size();
  if (climbs <= old_depth || old_depth == new_depth) return std::nullopt;
  std::string out;
  for (std::size_t i = 0; i < climbs - old_depth + new_depth; ++i) out += i ? "/.." : "..";
  if (!rest.empty()) out += "/" + rest;
  if (slashed.ends_with("/") && !out.ends_with("/")) out += "/";
  if (backslashes) std::replace(out.begin(), out.end(), '/', '\\');
  return out;
}

}  // namespace yc
