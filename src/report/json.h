// Results as JSON; docs/json.md says what each field means.
#pragma once

#include <string>

#include "carry/journal.h"
#include "inspect/inspect.h"
#include "plan/explained.h"
#include "plan/plan.h"
#include "rehearse/evidence.h"

namespace yc::report {

enum class Outcome : std::uint8_t { previewed, carried_out, in_part, unsettled };

// `evidence` is null if nothing was built.
std::string plan_json(const Plan& plan, const TreeReader& tree, Outcome outcome, int journal,
                      const Evidence* evidence = nullptr);
std::string neighbours_json(const std::vector<Neighbours>& found, const TreeReader& tree);
std::string findings_json(const std::vector<Finding>& findings, const TreeReader& tree);
std::string survey_json(const Survey& survey, const std::optional<Explained>& observed,
                        const std::string& root,
                        const std::vector<std::pair<std::string, std::string>>& settings);
std::string error_json(const Error& error);

}  // namespace yc::report
