// Takes a tree to the new state or back to the old one, from wherever a journal's move was left. Every step
// can be done again after a crash: where each file is and what it holds is looked up, not remembered.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <vector>

#include "carry/journal.h"

namespace yc {

// A file that somebody else changed or made where the move's own file must stand: it was put beside.
struct Kept {
  RelPath path;    // where it was
  RelPath beside;  // where it is now
};

class Carrier {
 public:
  // All must outlive the carrier. The journal is written, its originals and staged files are on the disk.
  Carrier(FileSystem& disk, const std::string& root, const StoredJournal& stored);

  // `is_fresh` says that nothing was carried out yet, so that every file is where it was; a file that is not
  // as it was stays, and the error names it. Otherwise foreign files in the way are put beside.
  Status forward(bool is_fresh);
  // A file that somebody changed meanwhile is put beside, or left in place if `leaves_foreign` says so.
  Status back(bool leaves_foreign = false);
  // Whether the old content of every edited file is still at hand, as back() needs it. Changes nothing.
  Status prove_originals() const;
  // Whether every file stands where it should after forward(), with the content it should have; and after
  // back().
  Status verify() const;
  Status verify_back() const;

  const std::vector<Kept>& kept() const { return kept_; }

 private:
  enum class Spot { from, aside, to, nowhere };

  std::string at(const RelPath& path) const { return root_ + "/" + path.str(); }
  Spot locate(std::size_t item) const;
  bool holds(const std::string& path, const std::string& identity) const;
  bool is_at(std::size_t item, const std::string& path) const;
  bool belongs_to_other(std::size_t item, const RelPath& path) const;
  // One content of an edited file and the other, and where each is kept while it does not stand in the tree.
  struct Swap {
    std::string path;            // where the file is
    RelPath name;                // for a foreign file there
    std::string in, wanted;      // the file to come, and its identity
    std::string out, displaced;  // where the other one goes, and its identity
    bool is_fresh = false;
  };
  Status swap(const Swap& swap);
  Status let_out(const Swap& swap);
  Status publish(std::size_t item, bool is_fresh);
  Status take_back_content(std::size_t item, bool leaves_foreign);
  Status rename_all(bool is_forward, bool is_fresh);
  Status put_in_place(const std::string& from, const RelPath& to, bool is_fresh);
  Status put_beside(const RelPath& path);
  Status put_beside(const std::string& file, const RelPath& path);
  Status bring(const JournalChange& change, const std::string& kept, bool is_fresh);
  Status take_away(const JournalChange& change, const std::string& kept, bool is_fresh);
  Status make_folders(const std::vector<JournalFolder>& folders, bool parents_first, bool is_fresh);
  Status remove_folders(const std::vector<JournalFolder>& folders, bool children_first);
  Status sync();

  FileSystem& disk_;
  const std::string& root_;
  const StoredJournal& stored_;
  const Journal& journal_;
  std::set<RelPath> sources_, targets_;  // of the files that move
  std::vector<Kept> kept_;
};

}  // namespace yc
