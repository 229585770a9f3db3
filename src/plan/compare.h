// The promise, checked: is the graph of the planned tree the image of the old graph under the move?
#pragma once

#include <vector>

#include "plan/image.h"

namespace yc {

// One way in which the planned graph differs from the image of the old one.
struct Mismatch {
  enum class Kind : std::uint8_t {
    lost,            // a reference no longer leads to the image of `target`
    gained,          // a construct also leads to `now`, which it did not name before
    doubled,         // a word that the plan put into a list names what another one in it names already
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

// Whether a reference is "*", or "folder/*", given to a command that takes whatever is there, folders too:
// its reader says so by the filter "*".
bool takes_all_there_is(const Reference& reference);

// Whether every unit still looks in the images of the folders that it looked in, in the same order. Folders
// that are gone do not count: nothing is found in them.
bool same_search_roots(const TreeReader& old_tree, const TreeReader& planned, const ReferenceGraph& old_graph,
                       const ReferenceGraph& new_graph, const MoveSet& moves, const EditMap& edits);

// With `moved_already`, text that leads to a file's new place is right wherever it stands: somebody mended it
// after moving the file, and to where the file was it led nowhere.
std::vector<Mismatch> compare_graphs(const TreeReader& old_tree, const ReferenceGraph& old_graph,
                                     const ReferenceGraph& new_graph, const MoveSet& moves,
                                     const EditMap& edits, bool moved_already = false);

}  // namespace yc
