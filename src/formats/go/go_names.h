// Packages that are called like their folders, and what follows when such a folder is renamed: their clauses,
// and what importers write before the names that they take from them.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "formats/capabilities/companions.h"

namespace yc::go {

// What a package that goes from one folder to another is called there, if it is called like its folder and
// that gets another name which a package can have.
std::optional<std::string> following_name(const std::string& package, const RelPath& from, const RelPath& to);

// Where a source writes `package` before a dot, to name something of it. Nothing where that word means
// something else in it, too.
std::optional<std::vector<Span>> qualifiers_in(std::string_view text, std::string_view package);

// The same for the source `user` of a tree; nothing also where the new name means something already, in it or
// in its package.
std::optional<std::vector<Span>> qualifiers(const TreeReader& tree, const RelPath& user,
                                            const std::string& package, const std::string& new_name);

// For each package whose name follows one proposal, with all its clauses and qualifiers.
std::vector<Proposal> renamed_packages(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::go
