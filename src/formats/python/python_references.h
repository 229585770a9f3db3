// From what a Python source imports and names to references.
#pragma once

#include <memory>
#include <string>

#include "formats/format.h"
#include "formats/python/path_values.h"
#include "formats/python/python_resolver.h"

namespace yc::python {

// Begins the instance of a reference by a dotted name in a string; how that is found follows.
inline constexpr std::string_view kInString = "string";

// Begins the instance of a reference to a module that code within a string takes from a package; the name
// that it gets there follows.
inline constexpr std::string_view kTakenInString = "taken in a string as ";

// The instance of a reference to the folder of a package that what is imported is built or made into.
inline constexpr const char* kWithinPackage = "within";

// A source while it is read.
struct Source {
  const TreeReader& tree;
  FactsCache& cache;
  std::uint8_t format;
  const PythonResolver& resolver;
  RelPath path;
  Bytes bytes;
  std::shared_ptr<const PythonFacts> facts;
};

// Constants of modules that were evaluated, kept for all sources of one reading; one that is being evaluated
// is unknown.
using Constants = std::map<std::pair<RelPath, std::string>, Value>;

// The facts of another source; null if it cannot be read.
std::shared_ptr<const PythonFacts> facts_of(const TreeReader& tree, FactsCache& cache, std::uint8_t format,
                                            const RelPath& path);

// Imports, names that lead through packages to modules, and strings that hold dotted names.
void emit_imports(const Source& source, GraphBuilder& out);
// What interactive sessions in a document import and name: "source.facts" is not asked.
void emit_sessions(const Source& source, GraphBuilder& out);
// Folders that a program adds to those that modules are looked up in: sys.path.insert(0, …), where they are
// known.
std::vector<RelPath> added_roots(const Source& source, Constants& constants, GraphBuilder& out);
// Strings and expressions that are paths.
void emit_paths(const Source& source, Constants& constants, GraphBuilder& out);

// Whether a package, by its "__init__" in `folder`, says itself what `name` means in it, so that no module of
// that name is meant.
bool hides(const PythonFacts& package, const RelPath& folder, const std::string& name);
// Whether the package above a module that `dotted` was found to be hides it, so that another thing is meant.
bool is_hidden(const TreeReader& tree, FactsCache& cache, std::uint8_t format, const std::string& dotted,
               const Found& module);

// What an import statement imports, name by name.
struct Imported {
  std::optional<Found> module;              // that a from-import looks into
  std::vector<std::optional<Found>> names;  // the module that each name is; nothing if it is none
};
Imported resolve_import(const PythonResolver& resolver, const RelPath& user, const Import& statement,
                        const std::function<std::shared_ptr<const PythonFacts>(const RelPath&)>& facts);

// For a path whose folders and name are strings of their own: each gets its part of the new path.
std::vector<Proposal> joined_ways(const RewriteRequest& need);

// Spellings of a module's name that lead to `need.wanted`, in the manner of the old one.
std::vector<Proposal> python_ways(const RewriteRequest& need);

}  // namespace yc::python
