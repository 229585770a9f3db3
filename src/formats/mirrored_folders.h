// Folders that a project file shows and the disk need not have: filters, solution folders, groups.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"

namespace yc {

// The parts of a text between slashes of either kind.
std::vector<std::string_view> folder_parts(std::string_view text);
// Whether two names are one where the case of letters does not count.
bool same_name(std::string_view a, std::string_view b);

// The virtual folder, parts between backslashes, that mirrors the disk as the old one did: where the last
// folders of what it holds were the last parts of it, the new folders take their place. The old one if it
// mirrored nothing, or what it holds went where no virtual folder of that kind leads.
std::string mirrored(const std::string& shown, const RelPath& old_path, const RelPath& new_path);

// An identifier in the form {8-4-4-4-12} that depends on the name alone, so that the same move makes the same
// file.
std::string identifier_of(const std::string& name);

}  // namespace yc
