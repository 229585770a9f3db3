// A tree that is being edited: another tree with the texts on top that an editor holds and has not saved.
#pragma once

#include <memory>
#include <unordered_map>

#include "tree/text_signatures.h"
#include "tree/tree_reader.h"

namespace yc {

class BufferTree : public TreeReader, public KnownTexts {
 public:
  // `known` is of the saved texts, and outlives the tree; it may be null.
  explicit BufferTree(std::shared_ptr<const TreeReader> saved, const KnownTexts* known = nullptr)
      : saved_(std::move(saved)), known_(known) {}
  const TreeReader& saved() const { return *saved_; }

  // What a file is taken to hold from now on. A path where there is no file is left as it is: an editor may
  // never save it.
  void set(const RelPath& path, Bytes bytes);
  const std::unordered_map<RelPath, Bytes>& texts() const { return texts_; }

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override { return saved_->children(folder); }
  const FileList& listing() const override { return saved_->listing(); }
  std::vector<RelPath> files_below(const RelPath& folder, const std::string& name_pattern) const override {
    return saved_->files_below(folder, name_pattern);
  }
  bool has_folder_called(const std::string& name) const override { return saved_->has_folder_called(name); }
  Result<Bytes> read(const RelPath& path) const override;
  std::optional<std::string_view> peek(const RelPath& path, std::string& buffer) const override;
  std::vector<RelPath> unreadable() const override { return saved_->unreadable(); }
  bool may_lack_files() const override { return saved_->may_lack_files(); }
  bool may_hold(const RelPath& path, const NameSearch& names) const override;
  std::vector<char> ruled_out(const std::vector<RelPath>& files, const NameSearch& names) const override;

 private:
  std::shared_ptr<const TreeReader> saved_;
  const KnownTexts* known_;
  std::unordered_map<RelPath, Bytes> texts_;
  std::unordered_map<RelPath, Entry> entries_;  // of the same files, with the size of the text
};

}  // namespace yc
