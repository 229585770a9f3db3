// The trees that projects show, beside those on disk.
#pragma once

#include "inspect/managed_trees.h"
#include "report/text.h"

namespace yc::report {

// A table for each project, with a mark at each difference: "!" for a file that is shown in another folder
// than the one it lies in, "+" for one that is not listed, "-" for one that is not there.
std::string managed_text(const std::map<RelPath, std::vector<ManagedRow>>& trees, const TextStyle& style);
std::string managed_json(const std::map<RelPath, std::vector<ManagedRow>>& trees);

}  // namespace yc::report
