// Relative paths that climb out of the tree, as to another project that is checked out beside it.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/path.h"

namespace yc {

// What names from `new_base` the place outside of the tree that `text` names from `old_base`, with separators
// as in the old text. Nothing if that stays within, is no relative path, or needs no change.
std::optional<std::string> outside_path(const RelPath& old_base, const RelPath& new_base,
                                        std::string_view text);

}  // namespace yc
