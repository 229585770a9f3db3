// Languages that no format reads. What a file in one of them names is not known, so a move that it could name
// is not proved.
#pragma once

#include <optional>
#include <string_view>

#include "base/path.h"

namespace yc {

// The language of a source whose imports follow from where files are, or spell that, and are not read: moving
// such a file may break what imports it, and what it imports itself.
std::optional<std::string_view> unread_source_language(const RelPath& path);
// Whether a file is source code of a programming language, read or not, by its name.
bool is_source_code(const RelPath& path);
// The tool that reads a build script or a project file whose references are not read.
std::optional<std::string_view> unread_build_tool(const RelPath& path);

}  // namespace yc
