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

  // `is_fresh` says that nothing was carried out yet, so that every file is where it was. Otherwise foreign
  // files in the way are put beside.
  Status forward(bool is_fresh);
  Status back();
  // Whether every file stands where it should after forward(), with the content it should have.
  Status verify() const;

  const std::vector<Kept>& kept() const { return kept_; }

 private:
  enum class Spot { from, aside, to, nowhere };
  enum class Content { before, after, other };

  std::string at(const RelPath& path) const { return root_ + "/" + path.str(); }
  Spot locate(std::size_t item) const;
  Content content(std::size_t item, const std::string& path) const;
  bool is_at(std::size_t item, const std::string& path) const;
  bool belongs_to_other(std::size_t item, const RelPath& path) const;
  Status publish(std::size_t item, bool is_fresh);
  Status take_back_content(std::size_t item);
  Status rename_all(bool is_forward, bool is_fresh);
  Status put_in_place(const std::string& from, const RelPath& to, bool is_fresh);
  Status put_beside(const RelPath& path);
  Status bring(const JournalChange& change, const std::string& kept, bool is_fresh);
  Status take_away(const JournalChange& change, const std::string& kept);
  Status make_folders(const std::vector<JournalFolder>& folders, bool parents_first);
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
