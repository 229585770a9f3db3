// Ways to keep a path that only CMake's language has.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "formats/format.h"

namespace yc::cmake {

// The line break and the blanks before a word that is the first of its line, else nothing.
std::optional<std::string> indent_of(std::string_view bytes, std::uint32_t at);

// For a module that is looked for by its name and leaves the folders that are looked in: its path, or one
// more folder.
std::vector<Proposal> find_module(const Format& format, const RewriteRequest& need);
// A command that a loop or a function runs for many gets a branch of its own for the one whose file moved.
std::vector<Proposal> single_out(const Format& format, const RewriteRequest& need);
std::optional<Proposal> exclude(const Format& format, const ReferenceGraph& graph, const Reference& pattern,
                                const std::string& path, const TreeReader& tree);
std::vector<Proposal> add_search_root(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                      const RelPath& root, const TreeReader& tree);

}  // namespace yc::cmake
