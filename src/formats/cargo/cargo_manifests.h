// The manifests of one tree, each read once.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "formats/cargo/cargo_manifest.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc::cargo {

class Manifests {
 public:
  explicit Manifests(const TreeReader& tree) : tree_(tree) {}

  struct Read {
    std::string text;
    std::vector<values::Value> values;
    std::vector<values::Switch> switches;
    Manifest said;
  };
  // Null where there is none.
  const Read* at(const RelPath& manifest) const;
  // The manifest of the crate that a source belongs to: the nearest above that names a package; nothing if
  // there is none.
  std::optional<RelPath> of(const RelPath& source) const;
  // The same for a path of the tree as it is once files have moved.
  std::optional<RelPath> after(const MoveSet& moves, const RelPath& path) const;
  const TreeReader& tree() const { return tree_; }

 private:
  const TreeReader& tree_;
  mutable std::map<RelPath, std::optional<Read>> read_;
  mutable std::map<RelPath, std::optional<RelPath>> of_folder_;
};

}  // namespace yc::cargo
