// The record of a move that another program made, as an editor does: so that `history` tells of it and `undo`
// takes it back like one of ours.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "carry/journal.h"

namespace yc {

// What a file held before its edits, and what it holds after them.
struct RecordedEdit {
  std::string before, after;
};

struct MadeMove {
  std::vector<Move> requested;
  std::vector<Move> files;                // every file that changed its path
  std::map<RelPath, RecordedEdit> edits;  // by the path before the move
  std::vector<JournalFolder> made;        // parents first
  std::vector<JournalFolder> removed;     // children first
  std::string command;                    // who made it
  std::string patch;                      // the same as a diff; may be empty
};

// Which files are not as the move leaves them, by their new paths: not there, or not saved yet.
std::vector<RelPath> not_as_moved(FileSystem& disk, const std::string& root, const MadeMove& move);

// Writes the journal of a move that stands. Failure::unsettled if a file is not as the move leaves it.
Result<StoredJournal> record_move(FileSystem& disk, const StatePlace& place, const MadeMove& move);

}  // namespace yc
