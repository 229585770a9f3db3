#include "formats/mirrored_folders.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>

#include "base/hash.h"

namespace yc {

std::vector<std::string_view> folder_parts(std::string_view text) {
  std::vector<std::string_view> out;
  for (std::size_t at = 0; at <= text.size() && !text.empty();) {
    std::size_t end = std::min(text.find_first_of("\\/", at), text.size());
    if (end > at) out.push_back(text.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

bool same_name(std::string_view a, std::string_view b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](unsigned char x, unsigned char y) { return std::tolower(x) == std::tolower(y); });
}

// An identifier that depends on the name alone, so that the same move makes the same file.
std::string identifier_of(const std::string& name) {
  std::string digits = content_hash(name);
  return fmt::format("{{{}-{}-4{}-a{}-{}}}", digits.substr(0, 8), digits.substr(8, 4), digits.substr(13, 3),
                     digits.substr(17, 3), digits.substr(20, 12));
}

std::string mirrored(const std::string& shown, const RelPath& old_path, const RelPath& new_path) {
  RelPath old_folder = old_path.parent(), new_folder = new_path.parent();
  if (old_folder == new_folder) return shown;
  std::vector<std::string_view> virtual_parts = folder_parts(shown), disk = old_folder.components();
  std::size_t same = 0;
  while (same < virtual_parts.size() && same < disk.size() &&
         same_name(virtual_parts[virtual_parts.size() - 1 - same], disk[disk.size() - 1 - same]))
    ++same;
  if (same == 0) return shown;
  RelPath root = old_folder;
  for (std::size_t i = 0; i < same; ++i) root = root.parent();
  if (!new_folder.is_within(root)) return shown;
  std::string below(new_folder.below(root));
  std::string out;
  for (std::size_t i = 0; i + same < virtual_parts.size(); ++i)
    out += (out.empty() ? "" : "\\") + std::string(virtual_parts[i]);
  for (std::string_view part : folder_parts(below)) out += (out.empty() ? "" : "\\") + std::string(part);
  return out.empty() ? shown : out;
}

}  // namespace yc
