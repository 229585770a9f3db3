// Where every include of a tree leads, in every context that its file is compiled in.
#pragma once

#include <map>
#include <memory>
#include <set>
#include <string>
#include <unordered_map>
#include <vector>

#include "formats/c_family/include_scan.h"
#include "formats/format.h"

namespace yc::c_family {

// Whether a file's name says that it is C, C++ or kin.
bool is_source(const RelPath& path);

// Can be asked again after the contents of some files have changed: what they did not touch is kept.
class IncludeResolver {
 public:
  struct Hit {
    bool found = false;
    RelPath path;
    bool is_made = false;    // path is one of the build tree
    std::uint8_t doubt = 0;  // see InContext
  };
  struct Source {
    RelPath path;
    std::shared_ptr<const IncludeFacts> facts;
    std::map<ContextIndex, std::vector<Hit>> resolved;  // for each include of the facts
    std::map<ContextIndex, std::vector<Hit>> earlier;   // what it was at the last turn
    unsigned turn = 0;
  };

  // `files` are the sources of `tree`, which must hold the same paths each time, and `scopes` the contexts
  // and compilations that build scripts gave; both must outlive the questions below.
  void resolve(const TreeReader& tree, const std::vector<RelPath>& files, FactsCache& cache,
               std::uint8_t format, const Scopes& scopes, const IsSame& same);

  std::vector<const Source*> sources() const;  // sorted by path
  // The one file of the tree whose path ends in `text`.
  Hit by_suffix(const std::string& text) const;
  // The files that a text leads to in the search roots of the tree, each with the first root that finds it.
  std::map<RelPath, RelPath> in_roots(const std::string& text) const;
  // The macro that an include of its name means: of the same file, else the only one. Null if none is known.
  const std::pair<RelPath, Include>* macro_body(const RelPath& user, const std::string& name) const;
  // A macro that the build script of a context defines.
  const PathMacro* script_macro(ContextIndex context, const std::string& name) const;
  bool is_included_macro(const std::string& name) const { return included_macros_.contains(name); }

 private:
  struct Roots {  // of one context: the folders searched for each form
    std::vector<Place> quoted, angled;
    std::vector<Place> as_built;  // folders of the tree that are searched only where it is built in place
    std::vector<SearchRoot> declared;
    Place start;
    BuildTool tool = BuildTool();
    bool same = false;  // as at the last turn
  };

  void take_contexts();
  Source* load(const RelPath& path);
  void visit(const RelPath& path, ContextIndex context);
  void drain();
  std::vector<Hit> hits_of(const Source& source, ContextIndex context);
  Hit look(const Place& folder, const std::string& text, BuildTool tool = BuildTool()) const;
  bool makes(const RelPath& path, BuildTool tool) const;
  Hit resolve_in(const RelPath& user, const Include& include, bool next, ContextIndex context) const;
  Hit guess_made(const Include& include, const std::vector<Place>& folders) const;
  Hit resolve_freely(const RelPath& user, const Include& include) const;

  const TreeReader* tree_ = nullptr;
  const Scopes* scopes_ = nullptr;
  FactsCache* cache_ = nullptr;
  const IsSame* same_ = nullptr;
  std::uint8_t format_ = 0;
  unsigned turn_ = 0;
  std::vector<RelPath> files_;  // of the tree that are sources
  std::unordered_map<RelPath, Source> sources_;
  std::unordered_map<std::string, std::vector<std::pair<RelPath, Include>>> macros_;
  // Files of the tree by the last part of their path; null where there is none.
  const std::vector<RelPath>* files_called(const std::string& name) const;
  mutable std::unordered_map<std::string, std::vector<RelPath>> by_name_;  // filled when first asked
  std::set<std::string> included_macros_;
  std::vector<Roots> contexts_;
  std::set<RelPath> all_roots_;
  std::map<RelPath, std::set<BuildTool>> made_;  // what the build made at the last turn
  std::map<RelPath, RelPath> templates_;         // and what it filled in for that
  std::map<RelPath, RelPath> template_of_;
  bool same_roots_ = false;
  std::vector<std::pair<Source*, ContextIndex>> queue_;
};

}  // namespace yc::c_family
