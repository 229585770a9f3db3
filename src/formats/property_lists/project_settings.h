// Settings of a project's configurations that name files and folders, and what the variables in them mean.
#pragma once

#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/traced_text.h"

namespace yc::plist {

enum class SettingKind { other, no_path, path, header_roots, roots };
SettingKind setting_kind(std::string_view name);

// `text` with the folder of the project in place of $(SRCROOT) and its kin; other variables become holes.
// `script` is the project's own file, `folder` its folder.
TracedText with_variables(const TracedText& text, FileIndex script, const RelPath& folder);
// The words of a setting that is one string: between blanks that no quotes hold.
std::vector<TracedText> setting_words(const TracedText& text);

}  // namespace yc::plist
