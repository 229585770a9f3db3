// What a newcomer to a tree asks first: on what much hangs, what nothing names, what is not understood.
#pragma once

#include <utility>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

struct Overview {
  std::vector<std::pair<RelPath, std::size_t>> hubs;  // the most named files, with how many files name each
  std::vector<RelPath> unnamed;  // sources and data that nothing here names; programs and tests may be so
  struct Managed {
    RelPath file;
    std::size_t same = 0, elsewhere = 0, unlisted = 0, missing = 0;  // see ManagedRow
  };
  std::vector<Managed> managed;  // of each tree that a project shows beside the one on disk
  std::vector<std::pair<RelPath, Unread>> not_understood;
};
Overview overview(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
