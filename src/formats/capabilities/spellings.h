// Ways that only one language has to make a reference lead where it should.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/proposals.h"

namespace yc {

class Spellings {
 public:
  virtual ~Spellings() = default;
  // All ways for a reference of its own spelling (see OwnSpelling), best first.
  virtual std::vector<Proposal> own_proposals(const RewriteRequest&) const { return {}; }
  // Ways that are tried before the general ones, and after them.
  virtual std::vector<Proposal> early_proposals(const RewriteRequest&) const { return {}; }
  virtual std::vector<Proposal> late_proposals(const RewriteRequest&) const { return {}; }
  // What is written behind `expression`, which gives the absolute path of a script's folder, for the absolute
  // path of `relative` from there: "${CMAKE_CURRENT_SOURCE_DIR}" and "/../tests". Nothing if it cannot be.
  virtual std::optional<std::string> behind_folder(std::string_view /*expression*/,
                                                   const std::string& /*relative*/) const {
    return std::nullopt;
  }
  // The same expression, which climbs from a file of the language to a folder above it, climbing `more`
  // folders further, or fewer; nothing if it is no such expression, or cannot.
  virtual std::optional<std::string> climbing(std::string_view /*expression*/, int /*more*/) const {
    return std::nullopt;
  }
  // Why a reference cannot lead to `target`, and what would help, if there is a reason of the language's own.
  struct Reason {
    std::string why, next;
  };
  virtual std::optional<Reason> why_not(const ReferenceGraph&, const Reference&, const RelPath& /*new_base*/,
                                        const RelPath& /*target*/) const {
    return std::nullopt;
  }
  // Whether nobody needs a reference any more that the planned tree has not: who used it is gone.
  virtual bool is_moot(const ReferenceGraph& /*old*/, const ReferenceGraph& /*planned*/, const MoveSet&,
                       const Reference&) const {
    return false;
  }
};

class SearchRoots {
 public:
  virtual ~SearchRoots() = default;
  // Ways to give a unit one more search root.
  virtual std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit,
                                                const RelPath& root, const TreeReader& tree) const = 0;
};

class PatternLists {
 public:
  virtual ~PatternLists() = default;
  // A way to keep a path, spelled from the pattern's base, out of the list that a pattern fills.
  virtual std::optional<Proposal> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                          const std::string& path, const TreeReader& tree) const = 0;
  // A way to list files by name, spelled from the pattern's new base, that a pattern without a spelling of
  // its own, such as a default of a tool, no longer takes in.
  virtual std::optional<Proposal> list_by_name(const ReferenceGraph&, const Reference& /*pattern*/,
                                               const std::vector<std::string>& /*paths*/,
                                               const TreeReader&) const {
    return std::nullopt;
  }
};

class ProductFolders {
 public:
  virtual ~ProductFolders() = default;
  // Ways to have the folders made that products of a script need. Products are of the planned tree.
  virtual std::vector<Proposal> provide_folders(const RelPath& script, const std::string& bytes,
                                                const std::vector<const Reference*>& products) const = 0;
};

class Constants {
 public:
  virtual ~Constants() = default;
  // Edits of one file that give a folder a name in its program, and put that in the place of the folder in
  // all of `references`, which stand in the file and lead into the folder; none if the language cannot.
  virtual std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                             const std::vector<const Reference*>& references,
                                             const std::string& name, const RelPath& folder) const = 0;
  // The same where the references are texts in calls of one function, which opens what it is given: the
  // constant stands in that function, and all its callers leave the folder out. No edits of those for which
  // that cannot be said.
  virtual std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                                      const std::vector<const Reference*>& references,
                                      const std::string& name, const RelPath& folder) const = 0;
};

// Settings that keep tables of names for folders.
class AliasTables {
 public:
  virtual ~AliasTables() = default;
  struct Written {
    std::vector<Edit> edits;
    std::vector<Notice> notices;  // of settings that have no table yet
  };
  // Has `name` stand for a folder wherever files of the format keep such names.
  virtual Written name_folder(const ClaimedTree& before, const std::string& name,
                              const RelPath& folder) const = 0;
};

// The same of the reference's format; nothing if that has none.
std::vector<Proposal> own_proposals(const RewriteRequest& need);
std::vector<Proposal> early_proposals(const RewriteRequest& need);
std::vector<Proposal> late_proposals(const RewriteRequest& need);
std::optional<Spellings::Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                         const RelPath& new_base, const RelPath& target);
std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                      const TreeReader& tree);

}  // namespace yc
