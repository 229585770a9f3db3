#include "formats/rust/rust_crates.h"

#include <algorithm>

#include "base/text.h"

namespace yc::rust {

namespace {

using Reach = Visibility::Reach;

std::string_view stem_of_crate(const RelPath& path) {
  return path.name().substr(0, path.name().size() - path.extension().size());
}

}  // namespace

std::string_view Source::text(Span span) const {
  return cut(*bytes, span);
}

Crates::Crates(const TreeReader& tree, const std::vector<Crate>& crates, const Load& load)
    : tree_(&tree), load_(&load), crates_(crates) {
  for (std::size_t i = 0; i < crates_.size(); ++i) {
    int source = source_at(crates_[i].root);
    if (source < 0) {
      roots_.push_back(-1);
      continue;
    }
    Module root;
    root.crate = static_cast<int>(i);
    root.source = source;
    root.has_folder_of_own = true;
    roots_.push_back(add_module(root, true));
    by_root_.emplace(crates_[i].root, roots_.back());
    std::vector<int> above = {source};
    add_children(roots_.back(), above);
  }
  tree_ = nullptr;
  load_ = nullptr;
}

int Crates::source_at(const RelPath& path) {
  auto [known, fresh] = known_sources_.try_emplace(path, -1);
  if (!fresh) return known->second;
  auto loaded = (*load_)(path);
  if (!loaded) return -1;
  Source& source = sources_.emplace_back(std::move(*loaded));
  for (std::size_t i = 0; i < source.facts->imports.size(); ++i) {
    const Import& import = source.facts->imports[i];
    if (import.is_documentation) continue;
    if (import.takes_all) source.globs.push_back(i);
    if (import.bound.size() > 0) source.imports[source.text(import.bound)].push_back(i);
  }
  for (std::size_t i = 0; i < source.facts->items.size(); ++i)
    source.items[source.text(source.facts->items[i].name)].push_back(i);
  return known->second = static_cast<int>(sources_.size() - 1);
}

int Crates::add_module(Module module, bool is_file) {
  int index = static_cast<int>(modules_.size());
  if (is_file) modules_of_[source(module.source).path].push_back(index);
  modules_.push_back(std::move(module));
  return index;
}

RelPath Crates::folder_of(int index) const {
  const Module& one = module(index);
  const RelPath& path = path_of(index);
  if (is_file(index)) return one.has_folder_of_own ? path.parent() : path.parent() / stem_of_crate(path);
  Span folder = source_of(index).facts->scopes[static_cast<std::size_t>(one.scope)].folder;
  if (folder.size() == 0) return folder_of(one.parent) / one.name;
  RelPath base = is_file(one.parent) ? path.parent() : folder_of(one.parent);
  return RelPath::resolve(base, source_of(index).text(folder)).value_or(base);
}

// The files that a line may mean, with the text of the path attribute that says so.
std::vector<std::pair<RelPath, Span>> Crates::files_for(int index, const ModuleLine& line) const {
  std::vector<std::pair<RelPath, Span>> out;
  const Source& source = source_of(index);
  RelPath base = is_file(index) ? source.path.parent() : folder_of(index);
  auto add = [&](const std::optional<RelPath>& path, Span text) {
    if (path && tree_->is_file(*path)) out.emplace_back(*path, text);
  };
  for (const Span& text : line.paths) add(RelPath::resolve(base, source.text(text)), text);
  if (line.is_always_there) return out;
  RelPath folder = folder_of(index);
  std::string name(source.text(line.name));
  add(folder / (name + ".rs"), {});
  add(folder / name / "mod.rs", {});
  return out;
}

void Crates::add_children(int index, std::vector<int>& above) {
  int in = module(index).source;
  std::int32_t scope = module(index).scope;
  for (std::size_t i = 0; i < source(in).facts->modules.size(); ++i) {
    const ModuleLine line = source(in).facts->modules[i];
    // A module in a block cannot be named from elsewhere; its lines are looked at all the same.
    std::int32_t holder = line.scope;
    while (!source(in).facts->scopes[static_cast<std::size_t>(holder)].is_module)
      holder = source(in).facts->scopes[static_cast<std::size_t>(holder)].parent;
    if (holder != scope) continue;
    Module child;
    child.crate = module(index).crate;
    child.source = in;
    child.parent = index;
    child.name = source(in).text(line.name);
    child.line = static_cast<int>(i);
    if (line.inner >= 0) {
      child.scope = line.inner;
      int added = add_module(child, false);
      modules_[static_cast<std::size_t>(index)].children.push_back(added);
      inline_[{file_module(index), line.inner}] = added;
      add_children(added, above);
      continue;
    }
    auto files = files_for(index, line);
    if (files.empty()) missing_.push_back({index, i});
    for (const auto& [path, text] : files) {
      int taken = source_at(path);
      // A source that takes itself in is an error.
      if (taken < 0 || std::find(above.begin(), above.end(), taken) != above.end()) continue;
      child.source = taken;
      child.is_by_path = text.size() > 0;
      child.path = text;
      child.has_folder_of_own = child.is_by_path || path.name() == "mod.rs";
      int added = add_module(child, true);
      modules_[static_cast<std::size_t>(index)].children.push_back(added);
      above.push_back(taken);
      add_children(added, above);
      above.pop_back();
    }
  }
}

const std::vector<int>& Crates::modules_of(const RelPath& source) const {
  static const std::vector<int> none;
  auto at = modules_of_.find(source);
  return at == modules_of_.end() ? none : at->second;
}

int Crates::file_module(int module) const {
  while (!is_file(module)) module = this->module(module).parent;
  return module;
}

int Crates::module_at(int file_module, std::int32_t scope) const {
  const std::vector<Scope>& scopes = source_of(file_module).facts->scopes;
  while (scope > 0 && !scopes[static_cast<std::size_t>(scope)].is_module)
    scope = scopes[static_cast<std::size_t>(scope)].parent;
  if (scope <= 0) return file_module;
  auto at = inline_.find({file_module, scope});
  return at == inline_.end() ? file_module : at->second;
}

bool Crates::is_within(int module, int outer) const {
  for (; module >= 0; module = this->module(module).parent) {
    if (module == outer) return true;
  }
  return false;
}

std::vector<std::string> Crates::path_to(int index) const {
  std::vector<std::string> out;
  for (; module(index).parent >= 0; index = module(index).parent) out.emplace_back(module(index).name);
  std::reverse(out.begin(), out.end());
  return out;
}

bool Crates::is_exported(int index) const {
  for (int at = index; module(at).parent >= 0; at = module(at).parent) {
    const Module& one = module(at);
    const ModuleLine& line = source_of(one.parent).facts->modules[static_cast<std::size_t>(one.line)];
    if (line.visibility.reach != Reach::everywhere) return is_brought_out(index);
  }
  return true;
}

// "pub use tide::level;", "pub use tide::*;"
bool Crates::is_brought_out(int index) const {
  for (int i = 0; i < static_cast<int>(modules_.size()); ++i) {
    if (!is_file(i) || module(i).crate != module(index).crate) continue;
    const std::vector<Import>& imports = source_of(i).facts->imports;
    for (std::size_t n = 0; n < imports.size(); ++n) {
      if (imports[n].visibility.reach != Reach::everywhere) continue;
      Found found = resolve_import(module_at(i, imports[n].scope), n);
      bool is_whole = found.taken + 1 >= imports[n].segments.size();
      int named = imports[n].takes_all ? module(index).parent : index;
      if (is_whole && std::find(found.modules.begin(), found.modules.end(), named) != found.modules.end() &&
          (found.taken == imports[n].segments.size() ||
           source_of(i).text(imports[n].segments.back().span) == "self"))
        return true;
    }
  }
  return false;
}

std::optional<int> Crates::reach_of(int where, const Visibility& visibility) const {
  switch (visibility.reach) {
    case Reach::everywhere:
      return std::nullopt;
    case Reach::crate:
      return root_of(module(where).crate);
    case Reach::parent:
      return module(where).parent >= 0 ? module(where).parent : where;
    case Reach::own:
      return where;
    case Reach::path:
      break;
  }
  // It names a module above.
  const Source& source = source_of(where);
  int at = -1;
  for (const Span& segment : visibility.path) {
    std::string_view name = source.text(segment);
    if (name == "crate" || (at < 0 && crates_[static_cast<std::size_t>(module(where).crate)].names_from_root))
      at = root_of(module(where).crate);
    if (name == "self") at = where;
    if (name == "super") at = at < 0 ? module(where).parent : module(at).parent;
    if (at < 0) return where;
    if (name == "crate" || name == "self" || name == "super") continue;
    const std::vector<int>& children = module(at).children;
    auto next = std::find_if(children.begin(), children.end(), [&](int child) {
      return module(child).name == name && is_within(where, child);
    });
    if (next == children.end()) return where;
    at = *next;
  }
  return at < 0 ? where : at;
}

bool Crates::can_see(int from, int where, const Visibility& visibility) const {
  auto reach = reach_of(where, visibility);
  return !reach || is_within(from, *reach);
}

// What imports in a scope of a module bind to a name.
void Crates::add_bound(int index, std::int32_t scope, std::string_view name, std::size_t skipped,
                       Hits& out) const {
  const Source& source = source_of(index);
  auto named = source.imports.find(name);
  if (named == source.imports.end()) return;
  for (std::size_t i : named->second) {
    const Import& import = source.facts->imports[i];
    if (import.scope != scope || i == skipped) continue;
    Found found = resolve_import(index, i);
    std::size_t size = import.segments.size();
    if (size > 1 && source.text(import.segments.back().span) == "self") --size;
    if (found.modules.empty() || found.taken != size) continue;
    for (int module : found.modules) {
      Hit hit{module, index, &import.visibility, {{index, i, 0}}};
      hit.through.insert(hit.through.end(), found.through.begin(), found.through.end());
      out.push_back(std::move(hit));
    }
  }
}

// The modules of which a module brings all names. One import may be found through another: rounds are made as
// long as that finds more; who asks meanwhile gets what is known by then.
Crates::Targets Crates::glob_targets(int index) const {
  if (auto known = targets_.find(index); known != targets_.end()) return known->second;
  targets_[index];
  ++open_targets_;
  const Source& source = source_of(index);
  std::vector<std::size_t> open;
  for (std::size_t i : source.globs) {
    if (source.facts->imports[i].scope == module(index).scope) open.push_back(i);
  }
  for (bool finds_more = true; finds_more && !open.empty();) {
    finds_more = false;
    std::vector<std::size_t> left;
    for (std::size_t i : open) {
      Found found = resolve_import(index, i);
      bool is_found = !found.modules.empty() && found.taken == source.facts->imports[i].segments.size();
      if (is_found) targets_[index].emplace_back(i, std::move(found));
      if (!is_found) left.push_back(i);
      finds_more = finds_more || is_found;
    }
    open = std::move(left);
  }
  --open_targets_;
  return targets_[index];
}

Crates::Hits Crates::hits(int index, std::string_view name) const {
  constexpr std::size_t kMostSteps = 50'000;  // for one path
  if (asked_.empty() && open_targets_ == 0) steps_ = 0;
  if (++steps_ > kMostSteps) {
    gave_up_ = true;
    is_cut_ = true;
    return {};
  }
  auto& all = hits_[index];
  if (auto known = all.find(name); known != all.end()) return known->second;
  auto key = std::pair(index, name);
  // An import that is looked up by itself brings nothing.
  if (!asked_.insert(key).second) {
    is_cut_ = true;
    return {};
  }
  Hits out;
  const Source& source = source_of(index);
  for (int child : module(index).children) {
    const ModuleLine& line = source.facts->modules[static_cast<std::size_t>(module(child).line)];
    bool is_in_block = !source.facts->scopes[static_cast<std::size_t>(line.scope)].is_module;
    if (module(child).name == name && !is_in_block) out.push_back({child, index, &line.visibility, {}});
  }
  add_bound(index, module(index).scope, name, static_cast<std::size_t>(-1), out);
  for (const ExternCrate& other : source.facts->externs) {
    const auto& uses = crates_[static_cast<std::size_t>(module(index).crate)].uses;
    if (other.scope != module(index).scope || source.text(other.bound) != name) continue;
    if (source.text(other.name) == "self") out.push_back({root_of(module(index).crate), index, &kOwn, {}});
    auto used = uses.find(std::string(source.text(other.name)));
    auto root = used == uses.end() ? by_root_.end() : by_root_.find(used->second);
    if (root != by_root_.end()) out.push_back({root->second, index, &kOwn, {}});
  }
  for (const auto& [i, found] : out.empty() ? glob_targets(index) : Targets()) {
    const Import& import = source.facts->imports[i];
    for (int of : found.modules) {
      for (const Hit& hit : hits(of, name)) {
        if (!can_see(index, hit.where, *hit.visibility)) continue;
        Hit through{hit.module, index, &import.visibility, {{index, i, 0}}};
        through.through.insert(through.through.end(), found.through.begin(), found.through.end());
        through.through.insert(through.through.end(), hit.through.begin(), hit.through.end());
        out.push_back(std::move(through));
      }
    }
  }
  asked_.erase(key);
  // What was found while another answer was missing may be found to be more later.
  bool is_whole = !is_cut_ && open_targets_ == 0;
  if (asked_.empty() && open_targets_ == 0) {
    is_whole = is_whole || steps_ <= kMostSteps;
    is_cut_ = false;
  }
  if (is_whole) all.emplace(name, out);
  return out;
}

// The first segment of a path, which names a module in the scope that it stands in.
void Crates::add_first(const Question& question, Hits& first) const {
  const Crate& crate = crates_[static_cast<std::size_t>(module(question.module).crate)];
  std::string name(question.segments.front());
  int own_root = root_of(module(question.module).crate);
  auto outside = [&] {
    // What the root calls other crates, all modules may.
    const Source& root_source = source_of(own_root);
    for (const ExternCrate& other : root_source.facts->externs) {
      if (root_source.text(other.bound) == name && question.module != own_root) first = hits(own_root, name);
    }
    if (!first.empty()) return;
    auto used = crate.uses.find(name);
    auto root = used == crate.uses.end() ? by_root_.end() : by_root_.find(used->second);
    if (root != by_root_.end()) first.push_back({root->second, root->second, nullptr, {}});
    bool is_own = question.is_documentation && crate.is_library && name == crate.name;
    if (is_own) first.push_back({root_of(module(question.module).crate), question.module, nullptr, {}});
  };
  // "::tide" begins at the root where imports do.
  if (question.is_global && crate.names_from_root) {
    first = hits(own_root, question.segments.front());
    if (first.empty()) outside();
    return;
  }
  if (question.is_documentation || question.is_global) return outside();
  if (question.is_import && crate.names_from_root) {
    first = hits(root_of(module(question.module).crate), question.segments.front());
    if (first.empty()) outside();
    return;
  }
  const std::vector<Scope>& scopes = source_of(question.module).facts->scopes;
  std::int32_t scope = question.scope;
  for (; scope > 0 && !scopes[static_cast<std::size_t>(scope)].is_module;
       scope = scopes[static_cast<std::size_t>(scope)].parent) {
    add_bound(question.module, scope, question.segments.front(), question.skipped, first);
    if (!first.empty()) return;
  }
  first = hits(question.module, question.segments.front());
  std::erase_if(first, [&](const Hit& hit) {
    return !hit.through.empty() && hit.through.front().import == question.skipped &&
           hit.through.front().module == question.module;
  });
  if (first.empty()) outside();
}

// Whether all items of a name are hidden from a module, in the modules that a path led to.
bool Crates::hides(int from, const std::vector<int>& modules, std::string_view name) const {
  bool any = false;
  for (int index : modules) {
    const Source& source = source_of(index);
    auto items = source.items.find(name);
    for (std::size_t i : items == source.items.end() ? std::vector<std::size_t>() : items->second) {
      const Item& item = source.facts->items[i];
      if (item.scope != module(index).scope) continue;
      if (can_see(from, index, item.visibility)) return false;
      any = true;
    }
    auto imports = source.imports.find(name);
    for (std::size_t i : imports == source.imports.end() ? std::vector<std::size_t>() : imports->second) {
      const Import& import = source.facts->imports[i];
      if (import.scope == module(index).scope && can_see(from, index, import.visibility)) return false;
    }
  }
  return any;
}

Crates::Found Crates::resolve(const Question& question) const {
  Found out;
  int from = question.module;
  const std::vector<std::string_view>& names = question.segments;
  if (names.empty()) return out;
  std::size_t at = 0;
  if (names[0] == "crate" && !question.is_global) {
    out.modules = {root_of(module(from).crate)};
    at = 1;
  } else if ((names[0] == "super" || names[0] == "self") && !question.is_global) {
    int up = from;
    for (; at < names.size() && (names[at] == "super" || (names[at] == "self" && at == 0)); ++at) {
      if (names[at] == "super") up = module(up).parent;
      if (up < 0) return {};
    }
    out.modules = {up};
  } else {
    Hits first;
    add_first(question, first);
    for (const Hit& hit : first) {
      if (std::find(out.modules.begin(), out.modules.end(), hit.module) != out.modules.end()) continue;
      out.modules.push_back(hit.module);
      for (Step step : hit.through) {
        step.taken = 1;
        out.through.push_back(step);
      }
    }
    if (out.modules.empty()) return out;
    at = 1;
  }
  for (; at < std::min(names.size(), question.most); ++at) {
    if (names[at] == "self") break;
    std::vector<int> next;
    bool any = false;
    for (int index : out.modules) {
      for (const Hit& hit : hits(index, names[at])) {
        any = true;
        if (!can_see(from, hit.where, *hit.visibility)) continue;
        if (std::find(next.begin(), next.end(), hit.module) == next.end()) next.push_back(hit.module);
        for (Step step : hit.through) {
          step.taken = at + 1;
          out.through.push_back(step);
        }
      }
    }
    if (next.empty()) {
      out.is_denied = any;
      break;
    }
    out.modules = std::move(next);
  }
  out.taken = at;
  if (!out.is_denied && at < names.size() && names[at] != "self")
    out.is_denied = hides(from, out.modules, names[at]);
  if (out.is_denied) out.modules.clear();
  return out;
}

Crates::Found Crates::resolve_import(int index, std::size_t number) const {
  const Source& source = source_of(index);
  const Import& import = source.facts->imports[number];
  Question question{index, import.scope, {}, import.is_global, true, false, number};
  for (const Segment& segment : import.segments) question.segments.push_back(source.text(segment.span));
  if (question.segments.empty()) return {};
  std::string_view first = question.segments.front();
  question.is_documentation =
      import.is_documentation && first != "crate" && first != "super" && first != "self";
  return resolve(question);
}

Crates::Found Crates::resolve_path(int file_module, const Path& path) const {
  const Source& source = source_of(file_module);
  Question question{module_at(file_module, path.scope), path.scope, {}, path.is_global, false, false};
  for (const Span& segment : path.segments) question.segments.push_back(source.text(segment));
  std::string_view first = question.segments.front();
  bool is_keyword = first == "crate" || first == "self" || first == "super";
  // In documentation only what says where it begins. A rule's own words mean something where it is used, most
  // often where it stands; "super" and "self" do not.
  if (path.in_rules && (first == "super" || first == "self")) return {};
  question.is_documentation = path.kind == Path::Kind::documentation && !is_keyword;
  // What code names by the last segment is no module.
  bool ends_in_other = path.kind == Path::Kind::code && !path.is_head && !path.is_cut;
  if (ends_in_other) question.most = question.segments.size() - 1;
  return resolve(question);
}

}  // namespace yc::rust
