// A small header left at the place from which another one went, for those who still include it from there.
#pragma once

#include <optional>
#include <string>

#include "base/path.h"

namespace yc::c_family {

bool is_header(const RelPath& path);
// Nothing if the path is no header's. `bytes` are those of the header that moves; its line ends are kept.
std::optional<std::string> forwarding_header(const RelPath& old_path, const RelPath& new_path,
                                             std::string_view bytes);
// Where a header leads that holds our words, one include of a header by a relative path, and nothing else.
std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes);

}  // namespace yc::c_family
