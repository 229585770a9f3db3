// What words consist of in the languages whose glued paths are read, and the position that is none.
#pragma once

#include <cstddef>
#include <string_view>

#include "base/char_class.h"

namespace yc::glued_paths {

inline constexpr CharClass kWordChars = CharClass::alphanumeric_and("_$");
inline constexpr std::size_t kNone = std::string_view::npos;

}  // namespace yc::glued_paths
