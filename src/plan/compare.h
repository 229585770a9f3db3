// The promise, checked: is the graph of the planned tree the image of the old graph under the move?
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "base/edit.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

using EditMap = std::unordered_map<RelPath, FileEdits>;  // keyed by path before the move

// One way in which the planned graph differs from the image of the old one.
struct Mismatch {
  enum class Kind : std::uint8_t {
    lost,            // a reference no longer leads to the image of `target`
    gained,          // a construct also leads to `now`, which it did not name before
    folder_missing,  // a product would be made in a folder that nobody makes
    compiled,        // a source is compiled by more or fewer units than before
    unreached,       // an include of a source that is not compiled any more in that context
    captured,        // an include that led outside now finds a file of the tree
  };
  Kind kind = Kind::lost;
  std::int32_t reference = -1;      // in the old graph; -1 if none bears it
  std::int32_t new_reference = -1;  // in the new graph
  Target target;                    // old target
  RelPath now;                      // where it leads in the planned tree
};

// Maps things of the old tree to where they are after the move.
class Image {
 public:
  Image(const TreeReader& old_tree, const ReferenceGraph& old_graph, const MoveSet& moves, const EditMap& edits)
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
};

std::vector<Mismatch> compare_graphs(const TreeReader& old_tree, const ReferenceGraph& old_graph,
                                     const ReferenceGraph& new_graph, const MoveSet& moves, const EditMap& edits);

}  // namespace yc
