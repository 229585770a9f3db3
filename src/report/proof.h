// What a plan stands on: proof by reading, builds that were observed, or what the user took on himself.
#pragma once

#include <string>

#include "plan/plan.h"
#include "rehearse/evidence.h"
#include "report/text.h"

namespace yc::report {

// The beginning of a command's last line. `evidence` is null if nothing was built.
std::string outcome_text(const Plan& plan, bool is_written, const Evidence* evidence);
// One word for it, as in docs/json.md.
const char* proof_word(const Plan& plan, const Evidence* evidence);
// The doubts that the builds settled, and those that they did not exercise.
std::string doubts_text(const Evidence& evidence, const TreeReader& tree, const TextStyle& style);

}  // namespace yc::report
