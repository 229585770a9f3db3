// What `check` finds, as diagnostics, and what can be done about it, as code actions.
#pragma once

#include "inspect/inspect.h"
#include "serve/asked.h"

namespace yc::serve {

std::vector<Finding> find(Workspace& workspace);
// By the paths of the files that they stand in.
std::map<RelPath, json> diagnostics(const Asked& asked, const std::vector<Finding>& findings);
// For a range of a file: to mend a finding, and to spell a reference otherwise.
json code_actions(const Asked& asked, const std::vector<Finding>& findings, const RelPath& file,
                  const json& range);
// What the commands of code actions do: a plan of edits alone.
Result<Plan> plan_to_mend(Workspace& workspace, const std::string& kind, const std::optional<RelPath>& only);
Result<Plan> plan_to_lead(const Asked& asked, const std::vector<Finding>& findings, const RelPath& file,
                          const json& position);
Result<Plan> plan_to_respell(const Asked& asked, const RelPath& file, const json& position, bool is_to_alias);

}  // namespace yc::serve
