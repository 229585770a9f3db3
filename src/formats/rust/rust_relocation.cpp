#include "formats/rust/rust_relocation.h"

#include <algorithm>

#include "formats/rust/rust_tokens.h"
#include "words/rust.h"

namespace yc::rust {

namespace {

std::string stem_of(const RelPath& path) {
  return std::string(path.name().substr(0, path.name().size() - path.extension().size()));
}

// "tide/mod.rs" is called like its folder.
bool is_index(const RelPath& path) {
  return path.name() == "mod.rs";
}
std::string name_of_module(const RelPath& path) {
  if (!is_index(path)) return stem_of(path);
  RelPath folder = path.parent();
  return std::string(folder.name());
}
RelPath looked_for_in(const RelPath& path) {
  return is_index(path) ? path.parent().parent() : path.parent();
}

}  // namespace

bool is_module_name(std::string_view name) {
  return !name.empty() && std::all_of(name.begin(), name.end(), is_name_byte) &&
         !(name.front() >= '0' && name.front() <= '9') && name != "_" &&
         !words::rust::keywords().contains(name);
}

bool begins_with(const ModulePath& path, const ModulePath& head) {
  return head.size() <= path.size() && std::equal(head.begin(), head.end(), path.begin());
}

Relocation::Relocation(const TreeReader& tree, const MoveSet& moves, const Crates& crates)
    : tree_(tree), moves_(moves), crates_(crates) {}

RelPath Relocation::image_of(int module) const {
  return moves_.map_file(crates_.path_of(module));
}

bool Relocation::stays_in_crate(int module) const {
  const Crate& crate = crates_.crates()[static_cast<std::size_t>(crates_.module(module).crate)];
  RelPath settings = moves_.map_file(crate.settings);
  for (RelPath up = image_of(module).parent();; up = up.parent()) {
    RelPath here = up / settings.name();
    if (here == settings) return true;
    RelPath was = moves_.unmap_file(here);
    if (tree_.is_file(was) && moves_.map_file(was) == here) return false;
    if (up.is_root()) return false;
  }
}

std::optional<RelPath> Relocation::folder_of(int module) const {
  auto [known, fresh] = folders_.try_emplace(module);
  if (!fresh) return known->second;
  std::optional<RelPath> out;
  if (crates_.is_file(module)) {
    RelPath now = image_of(module);
    bool beside = crates_.module(module).parent < 0 || crates_.module(module).is_by_path || is_index(now);
    if (!beside) {
      auto place = place_of(module);
      beside = place && place->is_by_path;
    }
    out = beside ? now.parent() : now.parent() / stem_of(now);
  } else {
    // An inline module may say which folder its own lie in.
    const Source& source = crates_.source_of(module);
    Span text = source.facts->scopes[static_cast<std::size_t>(crates_.module(module).scope)].folder;
    int parent = crates_.module(module).parent;
    auto above = text.size() > 0 && crates_.is_file(parent) ? std::optional(image_of(parent).parent())
                                                            : folder_of(parent);
    if (above && text.size() > 0) out = RelPath::resolve(*above, source.text(text));
    if (above && text.size() == 0) out = *above / crates_.module(module).name;
  }
  folders_[module] = out;
  return out;
}

bool Relocation::will_hold_something(const RelPath& folder) const {
  auto lies_there = [&](const RelPath& path) { return moves_.map_file(path).is_within(folder); };
  // What lies there is asked first: most often that is enough.
  std::vector<RelPath> open = {folder};
  while (!open.empty()) {
    RelPath at = open.back();
    open.pop_back();
    for (const std::string& name : tree_.children(at)) {
      RelPath path = at / name;
      if (tree_.is_folder(path)) {
        open.push_back(path);
      } else if (lies_there(path)) {
        return true;
      }
    }
  }
  return std::any_of(moves_.files().begin(), moves_.files().end(),
                     [&](const Move& move) { return move.to.is_within(folder); });
}

bool Relocation::is_found(int parent, std::string_view name, const RelPath& file) const {
  auto folder = folder_of(parent);
  return folder && (file == *folder / (std::string(name) + ".rs") || file == *folder / name / "mod.rs");
}

// The module that looks in a folder for those that it declares; -1 for none.
int Relocation::parent_for(int module, const RelPath& folder) const {
  int found = -1;
  // One source may be declared twice, for two systems.
  int own = crates_.module(module).parent;
  if (crates_.is_file(own) && folder_of(own) == folder) return own;
  for (int i = 0; i < static_cast<int>(crates_.modules().size()); ++i) {
    const Module& one = crates_.module(i);
    if (one.crate != crates_.module(module).crate || crates_.is_within(i, module)) continue;
    if (found >= 0 || !crates_.is_file(i) || folder_of(i) != folder) continue;
    // What is named by its path is a guest in the folder that it lies in.
    auto place = one.parent < 0 ? std::nullopt : place_of(i);
    if (one.is_by_path || (place && place->is_by_path)) continue;
    found = i;
  }
  return found;
}

// Whether another module has the same name and parent, for other conditions: paths mean both.
bool Relocation::has_twin(int module) const {
  const Module& one = crates_.module(module);
  const std::vector<int>& beside = crates_.module(one.parent).children;
  return std::any_of(beside.begin(), beside.end(), [&](int other) {
    return crates_.module(other).name == one.name && crates_.module(other).line != one.line;
  });
}

bool Relocation::means_something(int parent, std::string_view name, int but) const {
  const Source& source = crates_.source_of(parent);
  std::int32_t scope = crates_.module(parent).scope;
  auto is = [&](Span span) { return span.size() > 0 && source.text(span) == name; };
  const std::vector<int>& children = crates_.module(parent).children;
  bool is_module = std::any_of(children.begin(), children.end(), [&](int child) {
    // One that moves away leaves its name, as in a swap.
    return child != but && crates_.module(child).name == name && !moves_.moves(crates_.path_of(child));
  });
  const SourceFacts& facts = *source.facts;
  bool is_item = std::any_of(facts.items.begin(), facts.items.end(),
                             [&](const Item& item) { return item.scope == scope && is(item.name); });
  bool is_crate = std::any_of(facts.externs.begin(), facts.externs.end(),
                              [&](const ExternCrate& other) { return is(other.bound); });
  bool is_bound = false, is_begun = false;
  for (const Import& import : facts.imports) {
    is_bound = is_bound || (import.scope == scope && is(import.bound) && !is_of_module(parent, import, but));
    is_begun =
        is_begun || is_outside(parent, import.segments.empty() ? Span{} : import.segments.front().span, name);
  }
  for (const Path& path : facts.paths) is_begun = is_begun || is_outside(parent, path.segments.front(), name);
  return is_module || is_item || is_crate || is_bound || is_begun;
}

// An import of the module itself goes on binding its name.
bool Relocation::is_of_module(int parent, const Import& import, int module) const {
  const Source& source = crates_.source_of(parent);
  return !import.segments.empty() && source.text(import.segments.back().span) == crates_.module(module).name;
}

// Whether a path begins with a name that nothing of this crate has: then it is another crate's.
bool Relocation::is_outside(int parent, Span first, std::string_view name) const {
  if (first.size() == 0 || crates_.source_of(parent).text(first) != name) return false;
  return crates_.resolve({parent, crates_.module(parent).scope, {name}, false, false, false}).modules.empty();
}

// A line that a macro is given cannot go where the macro is not.
bool Relocation::is_in_macro(int module) const {
  const Module& one = crates_.module(module);
  return crates_.source_of(one.parent).facts->modules[static_cast<std::size_t>(one.line)].in_macro;
}

std::optional<Relocation::Place> Relocation::place_of(int module) const {
  auto [known, fresh] = places_.try_emplace(module);
  if (!fresh) return known->second;
  const Module& one = crates_.module(module);
  std::string name(one.name);
  std::optional<Place> out = Place{one.parent, name, false};
  bool is_declared_by_place = one.parent >= 0 && crates_.is_file(module) && !one.is_by_path;
  if (is_declared_by_place && moves_.moves(crates_.path_of(module))) {
    RelPath now = image_of(module);
    if (!is_found(one.parent, name, now)) {
      int parent = parent_for(module, looked_for_in(now));
      std::string new_name = name_of_module(now);
      if (!stays_in_crate(module)) {
        out.reset();
      } else if (parent >= 0 && is_module_name(new_name) && !has_twin(module) &&
                 !means_something(parent, new_name, module) &&
                 (parent == one.parent || !is_in_macro(module))) {
        out = Place{parent, new_name, false};
      } else {
        out->is_by_path = true;
      }
    }
  } else if (is_declared_by_place && !is_found(one.parent, name, image_of(module))) {
    // Its parent goes and leaves it behind.
    out->is_by_path = true;
  }
  places_[module] = out;
  return out;
}

std::optional<ModulePath> Relocation::path_to(int module) const {
  ModulePath out;
  std::size_t steps = 0;
  for (; crates_.module(module).parent >= 0;) {
    if (++steps > crates_.modules().size()) return std::nullopt;
    auto place = place_of(module);
    if (!place) return std::nullopt;
    out.push_back(place->name);
    module = place->parent;
  }
  std::reverse(out.begin(), out.end());
  return out;
}

}  // namespace yc::rust
