#pragma once
#include <optional>
#include <string>
#include <vector>

#include "base/edit.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::glued_paths {

// What references to files below one folder have in common.
struct TextsBelow {
  std::string prefix;      // the way to the folder with its "/", which all of them begin with
  std::vector<Edit> cuts;  // in the order of the references: each takes the prefix off one of them
};

// Nothing unless each reference is one text, as it stands in its file, that begins with the same way to the
// folder.
std::optional<TextsBelow> texts_below(const TreeReader& tree, const ReferenceGraph& graph,
                                      const std::vector<const Reference*>& references, const RelPath& folder);

}  // namespace yc::glued_paths
