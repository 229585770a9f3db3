// Where the specifiers of modules lead: ECMA-262 leaves that to the host; this follows what compilers,
// bundlers and the Node.js documentation ("Modules: Packages") agree on.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::modules {

struct Resolution {
  std::vector<RelPath>
      targets;  // files that the text means at once, as code and its declarations; empty if none
  std::optional<Base> search;     // the folder that the text is looked up in, if not the file's own
  std::string lead;               // what stands in the text for that folder
  bool outside = false;           // an installed package, or a module that comes with the tool
  std::optional<RelPath> wanted;  // where an alias of the tree leads, though nothing is there
};

// A file of types only: "gauge.d.ts".
bool is_declaration(const RelPath& path);
// Endings that a specifier may leave out, the preferred one first.
bool may_be_left_out(std::string_view ending);
std::vector<std::string_view> left_out_endings();
// The ending that a specifier writes for a source: ".js" for ".ts"; empty if it has no other.
std::string written_for(std::string_view source_ending);

class ModuleResolver {
 public:
  // Both must outlive this.
  ModuleResolver(const TreeReader& tree, const Scopes& scopes);
  // Whether settings say what a whole specifier stands for. It may be a folder, and lead to its index.
  bool is_alias(std::string_view specifier) const;

  // `text` is a specifier, without a query. A `plain` one needs no "./" to be relative, and leaves nothing
  // out.
  Resolution resolve(const RelPath& user, const std::string& text, bool plain = false) const;
  // What is meant by a path without its ending, or by a folder. `typed` says that a declaration or a typed
  // source counts before code of the same name.
  std::vector<RelPath> files_at(const RelPath& path, bool typed) const;
  // The source of an output that is not there, by the folders of compilers.
  std::vector<RelPath> sources_of(const RelPath& output) const;
  std::vector<RelPath> sources_if_made(const RelPath& place, std::vector<RelPath> found) const;

 private:
  Resolution find(const RelPath& user, const std::string& text, bool plain) const;
  bool is_module(const RelPath& path) const;
  std::vector<RelPath> by_merged_folders(const RelPath& user, const std::string& text, bool typed,
                                         Resolution& out) const;
  std::vector<RelPath> by_aliases(const RelPath& user, const std::string& text, bool typed,
                                  Resolution& out) const;
  std::vector<RelPath> at_place(const RelPath& path, bool typed) const;

  const TreeReader& tree_;
  const Scopes& scopes_;
  std::vector<const Alias*> aliases_;  // the longest heads first
};

}  // namespace yc::modules
