// The record of a move, from which it is taken back. One folder a move, in the state folder:
//   journal    first line "yellow-compass journal 1 HASH", then JSON; HASH is the content hash of the JSON
//   original-N the bytes of the N-th edited file before the move
//   done       written when the move stands; undone: written when it was taken back
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "carry/change.h"

namespace yc {

struct JournalEdit {
  RelPath from;  // path before the move
  RelPath to;    // path after it
  unsigned mode = 0644;
  std::string hash_before;  // content hashes
  std::string hash_after;
};

struct JournalMove {
  Move move;
  std::string hash;  // of a file that only moves
};

struct Journal {
  std::string command;    // as typed
  std::int64_t time = 0;  // seconds since 1970
  std::vector<JournalMove> moves;
  std::vector<JournalEdit> edits;
  std::vector<RelPath> made;     // folders, parents first
  std::vector<RelPath> removed;  // folders, children first
};

struct StoredJournal {
  int number = 0;
  std::string folder;  // absolute
  bool done = false;
  bool undone = false;
  Journal journal;
};

// Writes the journal and the originals into a new numbered folder below `state` and syncs them.
Result<StoredJournal> write_journal(FileSystem& disk, const std::string& state, const Journal& journal,
                                    const std::vector<std::string>& originals);
// The journals of a tree, oldest first. A damaged one is an error that names it.
Result<std::vector<StoredJournal>> read_journals(FileSystem& disk, const std::string& state);
Status mark(FileSystem& disk, const StoredJournal& journal, const std::string& name);
// Removes a journal whose move did not happen.
void discard(const StoredJournal& journal);

}  // namespace yc
