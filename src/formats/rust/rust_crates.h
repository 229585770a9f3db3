// The crates of a tree with their modules, and what paths in their sources mean (the Rust Reference,
// "Modules", "Paths", "Preludes", "Visibility and Privacy").
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "formats/rust/rust_scan.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::rust {

struct Source {
  RelPath path;
  Bytes bytes;
  std::shared_ptr<const SourceFacts> facts;
  std::unordered_map<std::string_view, std::vector<std::size_t>> imports;  // by the names that they bind
  std::vector<std::size_t> globs;
  std::unordered_map<std::string_view, std::vector<std::size_t>> items;
  std::string_view text(Span span) const;
};

// A source, or an inline module, as a module of one crate. Numbers are those of Crates.
struct Module {
  int crate = 0;
  int source = 0;
  std::int32_t scope = 0;  // of the source
  int parent = -1;
  std::string_view name;
  int line = -1;                   // among the module lines of the parent's source
  bool has_folder_of_own = false;  // what it declares lies beside it, not in a folder called like it
  bool is_by_path = false;         // found by a path attribute
  Span path;                       // the text of that
  std::vector<int> children;
};

struct Names;

class Crates : public Findings {
 public:
  // `facts` gives what a source says; nothing for one that cannot be read.
  using Load = std::function<std::optional<Source>(const RelPath&)>;
  Crates(const TreeReader& tree, const std::vector<Crate>& crates, const Load& load);

  const std::vector<Crate>& crates() const { return crates_; }
  const std::vector<Module>& modules() const { return modules_; }
  const Module& module(int index) const { return modules_[static_cast<std::size_t>(index)]; }
  const Source& source(int index) const { return sources_[static_cast<std::size_t>(index)]; }
  const std::vector<Source>& sources() const { return sources_; }
  const Source& source_of(int module) const { return source(this->module(module).source); }
  const RelPath& path_of(int module) const { return source_of(module).path; }
  // Whether a module is a whole source.
  bool is_file(int index) const { return module(index).scope == 0; }
  int root_of(int crate) const { return roots_[static_cast<std::size_t>(crate)]; }
  // The modules that a source is, in all crates.
  const std::vector<int>& modules_of(const RelPath& source) const;
  // The module that holds a scope of the source of a module.
  int module_at(int file_module, std::int32_t scope) const;
  // The module itself, if it is a source, or the one that it stands in.
  int file_module(int module) const;
  bool is_within(int module, int outer) const;
  // From the root of the crate down.
  std::vector<std::string> path_to(int module) const;
  // Whether other crates can name a module by its path, or by an import that brings it out.
  bool is_exported(int module) const;
  // Where a module looks for those that it declares.
  RelPath folder_of(int module) const;
  // Lines that declare modules of which there is no file.
  struct Missing {
    int module;
    std::size_t line;
  };
  const std::vector<Missing>& missing() const { return missing_; }

  // An import that a path was resolved through, and how many of its segments lead up to it and the name.
  struct Step {
    int module = -1;  // that holds it
    std::size_t import = 0;
    std::size_t taken = 0;
  };
  struct Found {
    std::vector<int> modules;  // the deepest modules that the path names; empty for none
    std::size_t taken = 0;     // by how many segments
    bool is_denied = false;    // what it names cannot be seen from there
    std::vector<Step> through;
  };
  struct Question {
    int module = 0;  // that the path stands in
    std::int32_t scope = 0;
    std::vector<std::string_view> segments;
    bool is_global = false, is_import = false, is_documentation = false;
    std::size_t skipped = static_cast<std::size_t>(-1);  // the import itself
    std::size_t most = static_cast<std::size_t>(-1);     // segments that may name modules
  };
  Found resolve(const Question& question) const;
  // Of an import or a path of the source of a module.
  Found resolve_import(int module, std::size_t import) const;
  Found resolve_path(int file_module, const Path& path) const;

  // Whether a path led through so many imports of all names that it was given up.
  bool gave_up() const { return gave_up_; }

  // Whether something declared in `where` can be seen from a module.
  bool can_see(int from, int where, const Visibility& visibility) const;
  // The module up to which something is seen that is declared in `where`; nothing for everywhere.
  std::optional<int> reach_of(int where, const Visibility& visibility) const;

 private:
  // What a name may mean in a module.
  struct Hit {
    int module = -1;
    int where = -1;
    const Visibility* visibility = nullptr;
    std::vector<Step> through;
  };
  using Hits = std::vector<Hit>;

  int add_module(Module module, bool is_mod_file);
  void add_children(int index, std::vector<int>& above);
  std::vector<std::pair<RelPath, Span>> files_for(int index, const ModuleLine& line) const;
  int source_at(const RelPath& path);
  Hits hits(int module, std::string_view name) const;
  using Targets = std::vector<std::pair<std::size_t, Found>>;
  Targets glob_targets(int module) const;
  void add_bound(int module, std::int32_t scope, std::string_view name, std::size_t skipped, Hits& out) const;
  void add_first(const Question& question, Hits& first) const;
  bool is_brought_out(int module) const;
  bool hides(int from, const std::vector<int>& modules, std::string_view name) const;

  const TreeReader* tree_;  // while it is made
  const Load* load_;
  std::vector<Crate> crates_;
  std::vector<int> roots_;
  std::map<RelPath, int> by_root_;
  std::vector<Module> modules_;
  std::vector<Source> sources_;
  std::unordered_map<RelPath, int> known_sources_;
  std::unordered_map<RelPath, std::vector<int>> modules_of_;
  std::map<std::pair<int, std::int32_t>, int> inline_;
  std::vector<Missing> missing_;
  static inline const Visibility kOwn{};
  mutable std::map<int, std::map<std::string, Hits, std::less<>>> hits_;  // by module and name
  mutable std::set<std::pair<int, std::string_view>> asked_;
  mutable std::map<int, Targets> targets_;
  mutable std::size_t open_targets_ = 0, steps_ = 0;
  mutable bool gave_up_ = false;
  mutable bool is_cut_ = false;  // an answer was left out because it was being looked for
};

}  // namespace yc::rust
