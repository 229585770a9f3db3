// Headers that come with a compiler or an operating system, so that a namesake in the tree is not taken for
// them.
#pragma once

#include <string_view>

namespace yc::c_family {

bool is_standard_header(std::string_view name);

}  // namespace yc::c_family
