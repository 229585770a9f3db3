// Stylesheets left where another one was, which hand on all that it holds.
#pragma once

#include <optional>
#include <string>

#include "base/path.h"

namespace yc::styles {

// "_tide.scss" to "tide/_tide.scss" leaves "tide/_index.scss"; else the old place is kept.
RelPath forwarding_place(const RelPath& old_path, const RelPath& new_path);
std::optional<std::string> forwarding_style(const RelPath& old_path, const RelPath& new_path,
                                            std::string_view bytes);
std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes);

}  // namespace yc::styles
