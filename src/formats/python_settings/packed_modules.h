// Which modules a Python project packs: by the lists of its settings, or by what its build backend finds
// itself (setuptools, "Package Discovery and Namespace Packages"; the manuals of hatchling, poetry-core and
// flit).
#pragma once

#include <optional>
#include <set>
#include <string>
#include <vector>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"

namespace yc::python_settings {

struct Distribution {
  RelPath settings;  // the file that says most
  RelPath folder;
  std::vector<RelPath> roots;    // where packages and modules are found
  bool finds_all = false;        // every package below the roots
  bool takes_folders = false;    // also those without __init__.py
  bool takes_modules = false;    // also modules that stand in a root themselves
  bool takes_data = false;       // and other files in the folders of packages
  std::set<std::string> listed;  // dotted names of packages, without what is below them
  std::set<std::string> whole;   // names in the roots, with all that is below them
  std::set<std::string> modules;
  std::vector<std::string> included, excluded;  // patterns of dotted names

  // Whether the module at a path is packed, or would be if it were there.
  bool packs(const TreeReader& tree, const RelPath& module) const;
  // The same of a file that is none.
  bool packs_data(const TreeReader& tree, const RelPath& path) const;
};

// Folders that are packages already, and that modules go to which are packed where they are.
std::vector<RelPath> packages_that_are_joined(const ClaimedTree& before, const MoveSet& moves);

// What is packed, and would not be any more: told once for each project.
std::vector<Blocker> unpacked_files(const TreeView& before, const TreeView& planned, const MoveSet& moves);

}  // namespace yc::python_settings
