// What a move makes of the things of a tree: paths, folders, places in files, targets.
#pragma once

#include <optional>
#include <string>
#include <unordered_map>

#include "base/edit.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

using EditMap = std::unordered_map<RelPath, FileEdits>;  // keyed by path before the move

// Maps things of the old tree to where they are after the move.
class Image {
 public:
  Image(const TreeReader& old_tree, const ReferenceGraph& old_graph, const MoveSet& moves,
        const EditMap& edits)
      : tree_(old_tree), graph_(old_graph), moves_(moves), edits_(edits) {}

  // Nothing for a folder whose files scattered.
  std::optional<RelPath> of(const RelPath& old_path) const;
  RelPath of_build(const RelPath& old_path) const;
  // The folder that a base is after the move.
  std::optional<RelPath> of_base(const Base& base) const;
  std::string site(const Site& site) const;
  std::string key(const Reference& reference) const;
  std::optional<std::string> target(const Target& target) const;

 private:
  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  const MoveSet& moves_;
  const EditMap& edits_;
  std::optional<RelPath> of_copy(const RelPath& old_path) const;
  // The script whose folder's twin in the build tree a folder is; made when first asked for.
  const std::unordered_map<RelPath, RelPath>& build_scripts() const;
  // What rules for many make beside a source, called after it, and that source.
  const std::unordered_map<RelPath, RelPath>& made_beside() const;

  mutable std::optional<std::unordered_map<RelPath, RelPath>> build_scripts_, made_beside_;
  // References of one construct follow each other: its text is made once.
  mutable SiteChain last_chain_;
  mutable std::string last_text_;
};

}  // namespace yc
