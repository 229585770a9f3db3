// From the specifiers of modules to references.
#pragma once

#include <set>

#include "formats/format.h"
#include "formats/modules/module_resolver.h"
#include "formats/modules/module_scan.h"

namespace yc::modules {

// How a literal stands: within its quotes, of which none may be in a path.
inline constexpr WritingStyle kQuoted = 0;
// Of a folder that an expression gives.
inline constexpr WritingStyle kExpression = 1;

// Adds what one source names, as far as the builder wants it. `taken`: offsets of strings that are read
// already.
void emit_module(const ModuleResolver& resolver, const TreeReader& tree, const RelPath& path,
                 const ModuleFacts& facts, const std::set<std::uint32_t>& taken, std::uint8_t format,
                 GraphBuilder& out);

// Spellings of a specifier that leads to `need.wanted`, in the manner of the old one.
std::vector<Proposal> module_ways(const RewriteRequest& need);
// See Specifiers: a typed source is named without its ending, or by that of what is made of it where others
// in the file are.
std::string as_specified(const ReferenceGraph& graph, FileIndex file, std::string path);

// The part of a specifier that is a path: without a loader before it ("raw!./x") and a query behind it.
Span path_part(std::string_view specifier);

}  // namespace yc::modules
