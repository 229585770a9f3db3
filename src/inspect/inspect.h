// Looking at a graph without changing it.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "formats/format.h"
#include "inspect/overview.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// A reference as a person reads it.
struct Seen {
  RelPath file;  // it stands here
  Span span;
  bool has_place = false;
  std::string text;
  Role role = Role::source;
  bool likely = false;
  std::vector<RelPath> targets;
  // Where it leads in which build units, if that is not the same in all of them. The path is empty for
  // nowhere.
  std::vector<std::pair<RelPath, std::vector<std::string>>> by_unit;
};

// What refers to `path` (or to something in that folder), and what it refers to.
struct Neighbours {
  RelPath path;
  std::vector<Seen> incoming;
  std::vector<Seen> outgoing;
  std::vector<std::string> units;  // that compile it, or a source that includes it, sorted
};
Neighbours neighbours(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& path);

struct Finding {
  std::string id;  // stable, see docs/checks.md
  RelPath file;
  Span span;
  bool has_place = false;
  std::string message;
  std::string suggestion;  // the likeliest file that was meant, as it would be written; may be empty
  bool is_note = false;    // worth knowing, and nothing to mend
  std::string unit = {}, lacks = {};  // the unit that lacks a reference to another one, if that is it
  RelPath wanted = {};   // where the file would be that is missing; the root if that is not known
  bool is_only = false;  // no other file has the name of the one that was most likely meant
};
// What leads nowhere, what one spelling could mean besides, objects that clash, forwarders, and specifiers
// that are spelled against the rule for modules, if there is one. `is_ignored` says of a path where nothing
// is whether version control would ignore a file there, so that it is one that a build makes.
using IsIgnored = std::function<bool(const RelPath&)>;
std::vector<Finding> check(const TreeReader& tree, const ReferenceGraph& graph,
                           std::size_t alias_from = kNoRule, const IsIgnored& is_ignored = {});

struct Survey {
  std::size_t files = 0;
  std::size_t absent = 0;       // of these, that a sparse checkout leaves out
  bool may_lack_files = false;  // that nobody knows of (see TreeReader)
  std::map<std::string, std::size_t> files_by_format;
  struct UnitLine {
    std::string name;
    std::string kind;
    std::size_t sources = 0;
    std::vector<RelPath> roots;
  };
  std::map<std::string, std::size_t> unread;  // files of languages and tools that nobody reads here
  std::vector<UnitLine> units;
  std::map<RelPath, std::size_t> search_roots;  // with the number of units that use each
  std::map<std::string, std::size_t> patterns;  // text -> files matched
  std::vector<Alias> aliases;                   // of modules and stylesheets, by name
  std::map<std::string, std::size_t> by_role;
  std::size_t likely = 0;
  std::size_t dangling = 0;
  std::size_t unseen = 0;
  Overview seen;
};
Survey survey(const TreeReader& tree, const ReferenceGraph& graph);

Seen as_seen(const ReferenceGraph& graph, const Reference& reference);
// At the place of a reference, without a message yet.
Finding finding_at(const ReferenceGraph& graph, const Reference& reference, std::string id);

}  // namespace yc
