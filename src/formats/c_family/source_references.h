// From resolved includes, path literals and macros of sources to references.
#pragma once

#include "formats/c_family/include_resolver.h"

namespace yc::c_family {

inline constexpr WritingStyle kQuoted = 0, kAngled = 1;

// Marks references by which installed sources find each other where they are installed.
inline constexpr const char* kInstalledPart = "installed";

// Adds what the sources refer to, as far as the builder wants it.
void emit_references(const IncludeResolver& resolver, const Reading& in);

}  // namespace yc::c_family
