// A library that is copied into the tree and installed as a package: which of the two is used.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"

namespace yc {

enum class LibraryUse : std::uint8_t { installed, copied };

// Leads every use of the library to the installed package of that name (the nearest node_modules upwards of
// each user), or to the copy in `folder`. Only where both have the very same file; the other uses are left,
// with a notice each. The plan is verified: nothing but these uses leads elsewhere.
Result<Plan> use_library(const TreeReader& tree, const RelPath& folder, const std::string& package,
                         LibraryUse use);

// Copies in the tree of packages that are installed as well, and the files in which the two differ, from the
// folder of either.
struct CopiedPackage {
  RelPath manifest;  // of the copy
  RelPath installed;
  std::vector<std::string> different;
};
std::vector<CopiedPackage> copied_packages(const TreeReader& tree);

}  // namespace yc
