// Where the modules of a crate are once their sources have moved.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "formats/rust/rust_crates.h"
#include "tree/moves.h"

namespace yc::rust {

using ModulePath = std::vector<std::string>;

class Relocation {
 public:
  Relocation(const TreeReader& tree, const MoveSet& moves, const Crates& crates);

  // How a module is moved, as seen from the crate that it is in.
  struct Place {
    int parent = -1;  // the module that declares it then
    std::string name;
    bool is_by_path = false;  // no module looks there, so its line must name the file
  };
  // Nothing where its source goes to another crate.
  std::optional<Place> place_of(int module) const;
  // From the root of the crate down; nothing where that is not known.
  std::optional<ModulePath> path_to(int module) const;
  RelPath image_of(int module) const;
  // Where a module will look for those that it declares.
  std::optional<RelPath> folder_of(int module) const;
  // Whether a name is taken in a module, or means another crate there; but for the module `but`.
  bool means_something(int module, std::string_view name, int but) const;
  // Whether a folder will have a file in it, or below.
  bool will_hold_something(const RelPath& folder) const;

 private:
  bool stays_in_crate(int module) const;
  bool is_found(int parent, std::string_view name, const RelPath& file) const;
  bool has_twin(int module) const;
  bool is_of_module(int parent, const Import& import, int module) const;
  bool is_outside(int parent, Span first, std::string_view name) const;
  bool is_in_macro(int module) const;
  int parent_for(int module, const RelPath& folder) const;

  const TreeReader& tree_;
  const MoveSet& moves_;
  const Crates& crates_;
  mutable std::map<int, std::optional<Place>> places_;
  mutable std::map<int, std::optional<RelPath>> folders_;
};

bool is_module_name(std::string_view name);
bool begins_with(const ModulePath& path, const ModulePath& head);

}  // namespace yc::rust
