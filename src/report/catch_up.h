// What went where, and what was mended, as text and as JSON (docs/json.md).
#pragma once

#include <string>
#include <vector>

#include "plan/catch_up.h"
#include "plan/whereabouts.h"
#include "report/json.h"
#include "report/text.h"

namespace yc::report {

// `folders`: the moves with those of whole folders put together.
std::string whereabouts_text(const Whereabouts& found, const std::vector<Move>& folders,
                             const TreeReader& before, const TextStyle& style);
std::string caught_up_text(const CaughtUp& caught, bool is_written);
std::string catch_up_json(const Whereabouts& found, const std::vector<Move>& folders, const CaughtUp& caught,
                          const TreeReader& tree, Outcome outcome, int journal);

}  // namespace yc::report
