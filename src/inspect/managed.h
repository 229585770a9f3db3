// Projects that keep a tree of their own: where it differs from the one on disk.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "inspect/inspect.h"

namespace yc {

// A difference, and what it takes to mend it.
struct ManagedFinding {
  Finding finding;
  RelPath path;                 // the file on disk that it is about, if there is one
  std::int32_t reference = -1;  // that is wrong, or for a file that is not listed, the one of its sibling
};

// As if the file at `path` were found unlisted by each project that lists one beside it of its kind, and not
// it.
std::vector<ManagedFinding> as_unlisted(const TreeReader& tree, const ReferenceGraph& graph,
                                        const RelPath& path);
// The folders of nested repositories that are not checked out.
std::vector<RelPath> missing_repositories(const TreeReader& tree);

// Ids: unlisted (on disk, not listed), dangling (listed, not on disk), listed-twice, wrong-case, unmirrored
// (a virtual folder that no longer mirrors the disk), missing-submodule.
std::vector<ManagedFinding> check_managed(const TreeReader& tree, const ReferenceGraph& graph);

}  // namespace yc
