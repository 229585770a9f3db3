// Files that an editor renames: what must be edited with it, and the record of it once it is done.
#pragma once

#include <functional>
#include <string>
#include <variant>
#include <vector>

#include "carry/record.h"
#include "serve/asked.h"

namespace yc::serve {

struct PlannedRename {
  json edit;        // null if nothing names what moves
  MadeMove record;  // what the disk holds once the editor has done it and saved
  std::size_t edits = 0, files = 0;
};

// Why there are no edits: in a line, and whole.
struct Refusal {
  std::string line, whole;
};

// A plan for moves of one tree. `is_unwanted` is asked now and then whether it is still wanted.
std::variant<PlannedRename, Refusal> plan_rename(const Asked& asked, const std::vector<Move>& moves,
                                                 const std::function<bool()>& is_unwanted);
// What was moved already is mended. The record is of the edits alone.
std::variant<PlannedRename, Refusal> plan_catch_up(const Asked& asked, const std::vector<Move>& moves);
// The same for any plan that moves nothing.
std::variant<PlannedRename, Refusal> planned_edits(const Asked& asked, const Plan& plan,
                                                   const std::string& command);

}  // namespace yc::serve
