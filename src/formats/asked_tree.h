// What reading a part of a tree rests on: all that it asked the tree, and what it was told.
#pragma once

#include <mutex>
#include <optional>
#include <set>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/hash.h"
#include "tree/tree_reader.h"

namespace yc {

// Answers of a tree by their hashes. Where another tree gives the same ones, reading comes to the same.
class Answers {
 public:
  enum class Question : std::uint8_t {
    entry,  // what is at a path
    names,  // what is in a folder
    bytes,  // what is in a file
    below,  // what is below a folder at any depth, with a name that matches
    known,  // whether there is a folder of that name anywhere
  };
  struct Answer {
    Question question = Question::entry;
    RelPath path;
    std::string name = {};  // the pattern of names, or the name
    Hash128 hash = {};
  };
  // The hash of what a tree says; `seed` is that of the hashes.
  static Hash128 ask(const TreeReader& tree, const Answer& about, std::uint64_t seed);
  bool are_given_by(const TreeReader& tree, std::uint64_t seed) const;

  std::vector<Answer> all;
};

// Passes all questions on to a tree, and notes the answers. Safe to share by threads.
class AskedTree : public TreeReader {
 public:
  AskedTree(const TreeReader& tree, std::uint64_t seed) : tree_(tree), seed_(seed) {}
  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  const FileList& listing() const override;
  std::vector<RelPath> files_below(const RelPath& folder, const std::string& name_pattern) const override;
  bool has_folder_called(const std::string& name) const override;
  Result<Bytes> read(const RelPath& path) const override;
  std::vector<RelPath> unreadable() const override;

  // Nothing if something was asked whose answer is that of the whole tree.
  std::optional<Answers> answers() const;

 private:
  bool is_new(Answers::Question question, const RelPath& path, const std::string& name = {}) const;
  void note(Answers::Answer answer) const;

  const TreeReader& tree_;
  std::uint64_t seed_;
  mutable std::mutex mutex_;
  mutable std::unordered_map<RelPath, std::uint8_t> asked_;  // a bit for each question
  mutable std::set<std::pair<RelPath, std::string>> asked_by_name_;
  mutable Answers answers_;
  mutable bool asked_for_all_ = false;
};

}  // namespace yc
