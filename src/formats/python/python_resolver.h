// Where dotted names of Python modules lead (The Python Language Reference, chapter 5, "The import system").
// Which folders are searched is known only when a program runs; this takes what settings say, what a start of
// the program from where it can be started gives, and last the folders above the file.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "formats/python/python_scan.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::python {

struct Found {
  std::vector<RelPath> files;  // the module, with its stub; a package's "__init__"; of a namespace the folder
  RelPath root;                // the folder that the name was looked up in
  bool outer = false;          // found in none of the folders that a start of the file itself searches
  bool is_package = false;
};

class PythonResolver {
 public:
  // Both must outlive this.
  PythonResolver(const TreeReader& tree, const Scopes& scopes);

  // An absolute name, used in a file.
  std::optional<Found> absolute(const RelPath& user, const std::string& name) const;
  // A name with `level` dots before it, which may be empty.
  std::optional<Found> relative(const RelPath& user, std::size_t level, const std::string& name) const;
  // The folder of a package that holds data, if no module: what importlib.resources is given.
  std::optional<Found> data_package(const RelPath& user, const std::string& name) const;
  // What lies at a place without its ending: a package, a module, or a folder that holds some.
  std::optional<Found> at(const RelPath& place) const;
  // The folders that absolute names are looked up in from a file, in order.
  struct Root {
    RelPath folder;
    bool outer = false;
    bool first = false;  // comes before what is installed with Python
  };
  std::vector<Root> roots(const RelPath& user) const;
  // The folder above the outermost package that a file is in.
  RelPath above_packages(const RelPath& file) const;
  bool is_package(const RelPath& folder) const;

 private:
  bool is_project(const RelPath& folder) const;
  bool holds_modules(const RelPath& folder, std::size_t depth = 0) const;

  const TreeReader& tree_;
  const Scopes& scopes_;
  std::set<RelPath> starts_;  // folders of scripts that are in no package
  mutable std::map<std::pair<RelPath, bool>, std::vector<Root>> roots_;  // by folder, and whether a script
};

// Whether a part of a dotted name is called like something that is asked for; of no focus all is.
bool may_name(const Focus* focus, const std::string& dotted);
// Whether a file is started by a tool that looks for such names.
bool is_started_by_name(const RelPath& path);
// The dotted name of a module below a root; nothing if a part of its path can be no name.
std::optional<std::string> dotted_name(const RelPath& file, const RelPath& root);
// Modules that come with Python 3 (sys.stdlib_module_names).
bool is_standard_module(const std::string& name);

}  // namespace yc::python
