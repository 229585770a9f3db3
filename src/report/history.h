// Moves that were made, taken back or finished later, as text and as JSON (docs/json.md).
#pragma once

#include <string>
#include <vector>

#include "carry/recovery.h"

namespace yc::report {

std::string recovered_text(const Recovered& recovered, bool is_undo);
std::string recovered_json(const Recovered& recovered, bool is_undo);
// Latest first; `whole` lists every file.
std::string history_text(const std::vector<StoredJournal>& journals, bool whole);
std::string history_json(const std::vector<StoredJournal>& journals);

}  // namespace yc::report
