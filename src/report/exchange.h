// Findings in formats that other programs take in.
#pragma once

#include <string>
#include <vector>

#include "inspect/inspect.h"

namespace yc::report {

// SARIF 2.1.0 (OASIS, "Static Analysis Results Interchange Format"): a result for each finding, notes as
// such. `root` (absolute) is what the paths are relative to; `version` is this program's.
std::string findings_sarif(const std::vector<Finding>& findings, const TreeReader& tree,
                           const std::string& root, const std::string& version);
// JUnit XML, as build servers read it: a suite for each id, a failed case for each finding. Notes are skipped
// cases. Without findings one case that passed.
std::string findings_junit(const std::vector<Finding>& findings, const TreeReader& tree);

}  // namespace yc::report
