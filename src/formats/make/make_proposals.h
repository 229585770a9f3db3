// Ways to keep a makefile right that only make has.
#pragma once

#include "formats/format.h"

namespace yc::make {

// The place in a derivation of a source that the rule names by itself rather than by the stem.
inline constexpr std::size_t kNoPlace = static_cast<std::size_t>(-1);

// For a makefile that a call of make looks for by its name: "-f" behind the call.
std::vector<Proposal> name_makefile(const RewriteRequest& need);
// For a file that left the reach of a pattern rule: an explicit rule beside the pattern, with the same
// recipe. For an object whose folder would not exist: a rule that makes the folder.
std::vector<Proposal> late_proposals(const RewriteRequest& need);

// Puts $(filter-out …) round the call that a pattern stands in.
std::optional<Proposal> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                const std::string& path, const TreeReader& tree);
// Rules at the end of the makefile that make folders before the objects in them.
std::vector<Proposal> provide_folders(const RelPath& script, const std::string& bytes,
                                      const std::vector<const Reference*>& products);

// One more -I for everything a makefile compiles: beside one that is there, else in CPPFLAGS or CFLAGS.
std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                      const TreeReader& tree);

}  // namespace yc::make
