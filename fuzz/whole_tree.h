// Generated projects and random moves, chosen by bytes, with the promise of a plan as the judge.
#pragma once

#include <string>

namespace yc::fuzz {

// Aborts, with what it did, where a plan that verifies does not keep what leads to what.
void move_in_generated_tree(const std::string& bytes);

}  // namespace yc::fuzz
