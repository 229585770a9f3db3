// Taking moves back, and going on from where a crash left one.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "carry/carrier.h"
#include "carry/journal.h"

namespace yc {

// The move that was neither finished nor taken back; at most one can be.
Result<std::optional<StoredJournal>> unfinished(FileSystem& disk, const State& state);
// Tells of it and of the two ways on.
Error unfinished_error(const StoredJournal& stored);

struct Recovered {
  StoredJournal journal;
  std::vector<Kept> kept;  // foreign files that were in the way
  bool was_unfinished = false;
};

// Takes back the move that a crash left unfinished, else the latest one that stands. Of a move that stands
// nothing is taken back if that would destroy later work; the error names every such file. Nothing is touched
// either if an old content is not what the journal says it was.
Result<Recovered> undo(FileSystem& disk, const StatePlace& place);
// Finishes the move that a crash left unfinished.
Result<Recovered> resume(FileSystem& disk, const StatePlace& place);

}  // namespace yc
