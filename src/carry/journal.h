// The record of a move: what is to happen, written before anything does, and what it takes to go either way
// from any point. One folder a move; the format is described in docs/journal.md.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "carry/state.h"
#include "tree/moves.h"

namespace yc {

// A file that moves, is edited, or both.
struct JournalItem {
  RelPath from;  // path before the move
  RelPath to;    // path after it, the same if it is only edited
  EntryKind kind = EntryKind::file;
  std::uint64_t inode = 0;           // before the move; tells where the file is when another has its name
  std::uint64_t staged_inode = 0;    // of the edited file
  std::uint64_t original_inode = 0;  // of the copy of the file as it was, if it is edited
  std::string before;                // what identity() gives
  std::string after;                 // the same if it is not edited
  std::string blob;                  // in version control's index, if it is tracked and that follows
  bool unlisted = false;             // it leaves that index, since it goes into a repository of its own

  bool moves() const { return from != to; }
  bool is_edited() const { return before != after; }
};

// A nested repository whose folder moves whole.
struct JournalNested {
  Move move;
  std::string git_dir;  // where it keeps its own data, absolute
  std::string blob;     // the commit that the index has for it, if it is a submodule
};

struct JournalFolder {
  RelPath path;
  unsigned mode = 0;  // permission bits, of folders that go
};

// A file that is made whole, or one that is taken away. Its bytes, while it is not in the tree, are kept.
struct JournalChange {
  RelPath path;
  std::string hash;  // digest of its content
  bool is_output =
      false;  // made by a build, so that what stands there later is one that a build can make anew
};

struct Journal {
  std::string command;    // as typed
  std::int64_t time = 0;  // seconds since 1970
  std::vector<Move> requested;
  std::vector<JournalItem> items;
  std::vector<JournalNested> nested;
  std::vector<JournalFolder> made;     // parents first
  std::vector<JournalFolder> removed;  // children first
  std::vector<JournalChange> made_files;
  std::vector<JournalChange> dropped_files;
};

struct StoredJournal {
  int number = 0;
  std::string folder;    // absolute
  bool done = false;     // the move stood at some time
  bool undoing = false;  // it was begun to be taken back
  bool undone = false;   // it was taken back
  Journal journal;

  bool is_unfinished() const { return !undone && (undoing || !done); }
  bool stands() const { return done && !undoing && !undone; }
  std::string original(std::size_t item) const;        // a copy of the edited file before
  std::string staged(std::size_t item) const;          // and after, wherever it does not stand in the tree
  std::string aside(std::size_t item) const;           // a file between its old place and its new one
  std::string made_file(std::size_t change) const;     // one that is made, wherever it is not in the tree
  std::string dropped_file(std::size_t change) const;  // one that is taken away, the same
};

// What tells one content from another: its digest, or for a file that only moves and is larger than is worth
// reading, "stat:" with its size and the time of its last change.
Result<std::string> identity(FileSystem& disk, const std::string& path, bool is_edited);
// The same for a file whose identity was `known`: of the same kind.
Result<std::string> identity_like(FileSystem& disk, const std::string& path, std::string_view known);

// The record in a journal's text behind its first line, which holds the signature (docs/journal.md). The
// message of an error says what is wrong with it.
Result<Journal> journal_from_text(const std::string& body);

// Makes the numbered folder for one more journal, without the journal itself: until that is written (see
// write_journal), the folder counts for nothing.
Result<StoredJournal> begin_journal(FileSystem& disk, const State& state);
// Signs, writes and syncs the journal. From then on the move is under way.
Status write_journal(FileSystem& disk, const State& state, const StoredJournal& stored);
// The journals of a tree, oldest first. One that is damaged, or not signed by this user, is an error that
// names it.
Result<std::vector<StoredJournal>> read_journals(FileSystem& disk, const State& state);
// Marks are empty files: "done", "undoing", "undone".
Status mark(FileSystem& disk, const StoredJournal& stored, const std::string& name);
Status unmark(FileSystem& disk, const StoredJournal& stored, const std::string& name);
// Removes a journal whose move did not happen, the journal file first. What no journal's folder holds stays.
void discard(FileSystem& disk, const StoredJournal& stored);
// Removes folders that never got a journal.
void sweep(FileSystem& disk, const State& state);

}  // namespace yc
