#include "model/graph.h"

#include <algorithm>
#include <set>
#include <tuple>
#include <unordered_set>

namespace yc {

FileIndex FileTable::index(const RelPath& path) {
  if (settled_) {
    if (auto at = settled_->indices.find(path); at != settled_->indices.end()) return at->second;
  }
  auto [at, fresh] = fresh_.indices.emplace(path, static_cast<FileIndex>(size()));
  if (fresh) fresh_.paths.push_back(path);
  return at->second;
}

FileIndex FileTable::find(const RelPath& path) const {
  if (settled_) {
    if (auto at = settled_->indices.find(path); at != settled_->indices.end()) return at->second;
  }
  auto at = fresh_.indices.find(path);
  return at == fresh_.indices.end() ? kNoFile : at->second;
}

void FileTable::settle() {
  // What is few is copied faster than all that others share.
  constexpr std::size_t kFew = 256;
  bool is_shared = settled_ && settled_.use_count() > 1;
  if (fresh_.paths.size() < (is_shared ? kFew + settled() / 8 : 1)) return;
  auto all = is_shared ? std::make_shared<Numbers>(*settled_) : std::move(settled_);
  if (!all) all = std::make_shared<Numbers>();
  all->paths.insert(all->paths.end(), fresh_.paths.begin(), fresh_.paths.end());
  all->indices.merge(fresh_.indices);
  settled_ = std::move(all);
  fresh_ = {};
}

bool GraphBuilder::wants_name(std::string_view path) const {
  if (!focus_) return true;
  while (!path.empty() && path.back() == '/') path.remove_suffix(1);
  std::size_t cut = path.rfind('/');
  std::string name(cut == std::string_view::npos ? path : path.substr(cut + 1));
  return focus_->names.contains(name) || made_names_.contains(name);
}

bool GraphBuilder::wants_stem(std::string_view path) const {
  if (!focus_) return true;
  while (!path.empty() && path.back() == '/') path.remove_suffix(1);
  std::size_t cut = path.rfind('/');
  std::string name(cut == std::string_view::npos ? path : path.substr(cut + 1));
  if (name.empty() || name == "." || name == "..") return true;
  while (!focus_->stems.contains(name)) {
    std::size_t dot = name.rfind('.');
    if (dot == std::string::npos || dot == 0) return false;
    name.resize(dot);
  }
  return true;
}

bool GraphBuilder::wants_any_name(std::string_view path) const {
  while (true) {
    if (wants_name(path)) return true;
    std::size_t cut = path.rfind('/');
    if (cut == std::string_view::npos) return false;
    path = path.substr(0, cut);
  }
}

ContextKey key_of(const Context& context) {
  std::string macros;
  for (const PathMacro& macro : context.macros)
    macros += macro.name + (macro.angled ? "<" : "=") + macro.value.text() + "\n";
  std::string start =
      context.start.space == Space::outside ? "" : marked(context.start.space, context.start.path);
  return {context.roots, context.forced, macros, context.open, start, context.tool};
}

ContextIndex GraphBuilder::context(Context context) {
  auto [at, fresh] = contexts_.emplace(key_of(context), static_cast<ContextIndex>(graph_.contexts.size()));
  if (fresh) graph_.contexts.push_back(std::move(context));
  return at->second;
}

void GraphBuilder::compile(const RelPath& source, ContextIndex context, std::int32_t unit) {
  graph_.compilations.push_back({source, context, unit});
}

void GraphBuilder::make(const RelPath& path, BuildTool tool, const std::optional<RelPath>& filled_in) {
  if (filled_in) graph_.templates.emplace(*filled_in, path);
  made_names_.insert(std::string(path.name()));
  graph_.made[path].insert(tool);
}

namespace {

void add_place(std::set<RelPath>& places, const TracedText& folder, std::string_view name) {
  std::string text = folder.text();
  auto place = RelPath::resolve({}, text.substr(std::min(text.find_first_not_of('/'), text.size())));
  if (place) places.insert(name.empty() ? *place : *place / name);
}

}  // namespace

void GraphBuilder::install(const RelPath& path, const TracedText& folder, std::string_view name) {
  add_place(graph_.installed[path], folder, name);
}

void GraphBuilder::install_made(const RelPath& made, const TracedText& folder, std::string_view name) {
  add_place(graph_.installed_made[made], folder, name);
}

void GraphBuilder::look_up(const RelPath& file, const std::vector<Base>& folders) {
  std::vector<Base>& known = graph_.lookups[file];
  for (const Base& folder : folders) {
    bool fresh = std::none_of(known.begin(), known.end(), [&](const Base& other) {
      return other.folder == folder.folder && other.space == folder.space;
    });
    if (fresh) known.push_back(folder);
  }
}

void GraphBuilder::notice(std::string id, const RelPath& file, std::optional<Span> span,
                          std::string message) {
  for (const Notice& known : graph_.notices) {
    if (known.id == id && known.file == file && known.message == message) return;
  }
  graph_.notices.push_back(
      {std::move(id), file, span.value_or(Span{}), span.has_value(), std::move(message)});
}

void GraphBuilder::admit(const RelPath& script, std::size_t bytes) {
  if (admitted_.insert(script).second) budget_.grant(bytes);
  budget_.spend(bytes);
}

void GraphBuilder::incomplete(Unread why, std::string id, const RelPath& file, std::optional<Span> span,
                              std::string message) {
  Unread& known = graph_.unread.emplace(file, why).first->second;
  known = std::max(known, why);
  notice(std::move(id), file, span, std::move(message));
}

namespace {

bool are_same_pieces(const TracedText& a, const TracedText& b) {
  const std::vector<Piece>&p = a.pieces(), &q = b.pieces();
  return std::equal(p.begin(), p.end(), q.begin(), q.end(), [](const Piece& x, const Piece& y) {
    return x.file == y.file && x.span.begin == y.span.begin && x.text == y.text && x.via == y.via;
  });
}

// Two references are one if the same construct gives the same bytes the same meaning.
bool is_same(const Reference& a, const Reference& b) {
  if (a.role != b.role || a.construct != b.construct || a.construct_part != b.construct_part ||
      a.targets != b.targets)
    return false;
  bool same_contexts = std::equal(a.contexts.begin(), a.contexts.end(), b.contexts.begin(), b.contexts.end(),
                                  [](const InContext& x, const InContext& y) {
                                    return x.context == y.context && x.found == y.found &&
                                           (!x.found || (x.target == y.target && x.is_made == y.is_made));
                                  });
  return same_contexts && are_same_pieces(a.text, b.text);
}

// Equal for references that are the same; different for most others.
std::size_t hash_of_parts(const Reference& reference) {
  std::size_t out = static_cast<std::size_t>(reference.role);
  auto mix = [&](std::size_t value) { out = (out ^ value) * 0x9E3779B97F4A7C15U; };
  for (const Site& step : reference.construct) mix((static_cast<std::size_t>(step.file) << 32) | step.offset);
  if (reference.construct_part.path) mix(std::hash<RelPath>{}(*reference.construct_part.path));
  mix(std::hash<std::string>{}(reference.construct_part.tag));
  for (const Piece& piece : reference.text.pieces()) {
    mix((static_cast<std::size_t>(piece.file) << 32) | piece.span.begin);
    if (!piece.has_origin()) mix(std::hash<std::string>{}(piece.text));
  }
  // Of the thousands of files that a pattern takes, the first tell it from others well enough.
  constexpr std::size_t kMost = 32;
  mix(reference.targets.size());
  for (std::size_t i = 0; i < std::min(reference.targets.size(), kMost); ++i)
    mix(std::hash<RelPath>{}(reference.targets[i].path));
  return out;
}

}  // namespace

void GraphBuilder::add(Reference reference) {
  if (!std::is_sorted(reference.targets.begin(), reference.targets.end()))
    std::sort(reference.targets.begin(), reference.targets.end());
  reference.targets.erase(std::unique(reference.targets.begin(), reference.targets.end()),
                          reference.targets.end());
  // Scripts are run many times, and find most things each time.
  std::size_t hash = hash_of_parts(reference);
  auto [first, last] = known_.equal_range(hash);
  auto known = std::find_if(
      first, last, [&](const auto& item) { return is_same(graph_.references[item.second], reference); });
  added_.push_back(known == last ? graph_.references.size() : known->second);
  if (known != last) return;
  known_.emplace(hash, graph_.references.size());
  graph_.references.push_back(std::move(reference));
}

void GraphBuilder::hole(const TracedText& text, const Base& base, std::uint8_t format) {
  std::size_t hash = std::hash<std::string>{}(text.text()) ^ std::hash<RelPath>{}(base.folder);
  auto [first, last] = known_holes_.equal_range(hash);
  bool is_known = std::any_of(first, last, [&](const auto& item) {
    const Hole& known = graph_.holes[item.second];
    return known.format == format && known.base.folder == base.folder && known.base.anchor == base.anchor &&
           known.base.space == base.space && known.base.levels == base.levels &&
           are_same_pieces(known.text, text);
  });
  if (is_known) return;
  known_holes_.emplace(hash, graph_.holes.size());
  graph_.holes.push_back({text, base, format});
}

void add_scopes(Scopes& to, const Scopes& more, ScopeSet which) {
  auto append = [](auto& list, const auto& items) { list.insert(list.end(), items.begin(), items.end()); };
  if (which.has(Scope::search_roots)) {
    std::map<ContextKey, ContextIndex> known;
    for (std::size_t i = 0; i < to.contexts.size(); ++i)
      known.emplace(key_of(to.contexts[i]), static_cast<ContextIndex>(i));
    std::vector<ContextIndex> numbers;
    for (const Context& one : more.contexts) {
      auto [at, fresh] = known.emplace(key_of(one), static_cast<ContextIndex>(to.contexts.size()));
      if (fresh) to.contexts.push_back(one);
      numbers.push_back(at->second);
    }
    for (Compilation item : more.compilations) {
      if (item.context != kNoContext) item.context = numbers[static_cast<std::size_t>(item.context)];
      to.compilations.push_back(std::move(item));
    }
  }
  if (which.has(Scope::products)) {
    for (const auto& [path, tools] : more.made) to.made[path].insert(tools.begin(), tools.end());
    to.templates.insert(more.templates.begin(), more.templates.end());
  }
  if (which.has(Scope::copies)) {
    for (const auto& [place, copy] : more.copies) to.copies.insert_or_assign(place, copy);
  }
  if (which.has(Scope::lookups)) {
    for (const auto& [file, folders] : more.lookups) {
      std::vector<Base>& known = to.lookups[file];
      for (const Base& folder : folders) {
        bool fresh = std::none_of(known.begin(), known.end(), [&](const Base& other) {
          return other.folder == folder.folder && other.space == folder.space;
        });
        if (fresh) known.push_back(folder);
      }
    }
  }
  if (which.has(Scope::solutions)) {
    for (const auto& [project, solutions] : more.solutions)
      to.solutions[project].insert(solutions.begin(), solutions.end());
  }
  if (!(which & kAllNames).empty()) {
    append(to.aliases, more.aliases);
    append(to.merged_folders, more.merged_folders);
    to.entries.insert(more.entries.begin(), more.entries.end());
  }
  if (which.has(Scope::outputs)) append(to.outputs, more.outputs);
  if (which.has(Scope::roles)) append(to.roles, more.roles);
  if (which.has(Scope::module_roots)) append(to.module_roots, more.module_roots);
  if (which.has(Scope::installed)) {
    for (const auto& [file, places] : more.installed) to.installed[file].insert(places.begin(), places.end());
    for (const auto& [file, places] : more.installed_made)
      to.installed_made[file].insert(places.begin(), places.end());
  }
  if (which.has(Scope::crates)) append(to.crates, more.crates);
  if (which.has(Scope::programs)) to.started.insert(more.started.begin(), more.started.end());
  if (which.has(Scope::starts)) {
    for (const auto& [script, folders] : more.starts)
      to.starts[script].insert(folders.begin(), folders.end());
  }
}

ScopeSet held_by(const Scopes& scopes) {
  ScopeSet out;
  auto note = [&](bool any, ScopeSet which) {
    if (any) out = out | which;
  };
  note(!scopes.contexts.empty() || !scopes.compilations.empty(), Scope::search_roots);
  note(!scopes.made.empty() || !scopes.templates.empty(), Scope::products);
  note(!scopes.copies.empty(), Scope::copies);
  note(!scopes.lookups.empty(), Scope::lookups);
  note(!scopes.solutions.empty(), Scope::solutions);
  note(!scopes.aliases.empty() || !scopes.merged_folders.empty() || !scopes.entries.empty(), kAllNames);
  note(!scopes.outputs.empty(), Scope::outputs);
  note(!scopes.roles.empty(), Scope::roles);
  note(!scopes.module_roots.empty(), Scope::module_roots);
  note(!scopes.installed.empty() || !scopes.installed_made.empty(), Scope::installed);
  note(!scopes.started.empty(), Scope::programs);
  note(!scopes.starts.empty(), Scope::starts);
  note(!scopes.crates.empty(), Scope::crates);
  return out;
}

void GraphBuilder::know_made(const std::map<RelPath, std::set<BuildTool>>& made) {
  for (const auto& [path, tools] : made) made_names_.insert(std::string(path.name()));
}

void GraphBuilder::add_part(const ReferenceGraph& part) {
  auto append = [](auto& list, const auto& items) { list.insert(list.end(), items.begin(), items.end()); };
  auto first_unit = static_cast<std::int32_t>(graph_.units.size());
  std::vector<ContextIndex> numbers;
  for (const Context& one : part.contexts) numbers.push_back(context(one));
  for (const Compilation& item : part.compilations) {
    ContextIndex number =
        item.context == kNoContext ? kNoContext : numbers[static_cast<std::size_t>(item.context)];
    compile(item.source, number, item.unit < 0 ? item.unit : item.unit + first_unit);
  }
  append(graph_.units, part.units);
  append(graph_.references, part.references);
  for (const Hole& item : part.holes) hole(item.text, item.base, item.format);
  for (const Notice& item : part.notices)
    notice(item.id, item.file, item.has_place ? std::optional(item.span) : std::nullopt, item.message);
  append(graph_.unmet, part.unmet);
  append(graph_.generated, part.generated);
  graph_.clashes.insert(part.clashes.begin(), part.clashes.end());
  graph_.stray_objects.insert(part.stray_objects.begin(), part.stray_objects.end());
  graph_.compared.insert(part.compared.begin(), part.compared.end());
  graph_.handed.insert(part.handed.begin(), part.handed.end());
  for (const auto& [source, options] : part.compile_options)
    graph_.compile_options[source].insert(options.begin(), options.end());
  append(graph_.boundaries, part.boundaries);
  append(graph_.virtual_places, part.virtual_places);
  for (const auto& [file, why] : part.unread) {
    Unread& known = graph_.unread.emplace(file, why).first->second;
    known = std::max(known, why);
  }
  graph_.files_by_format.insert(part.files_by_format.begin(), part.files_by_format.end());
  for (const auto& [folder, holding] : part.holdings) {
    Holding& known = graph_.holdings[folder];
    known.program = known.program || holding.program;
    known.library = known.library || holding.library;
    known.is_private = known.is_private || holding.is_private;
  }
  graph_.findings.insert(part.findings.begin(), part.findings.end());
  constexpr ScopeSet kOthers = Scope::products | Scope::copies | ScopeSet(Scope::lookups) | Scope::solutions |
                               kAllNames | Scope::outputs | Scope::module_roots | Scope::programs |
                               Scope::installed | Scope::crates | Scope::roles | Scope::starts;
  add_scopes(graph_, part, kOthers);
}

ReferenceGraph GraphBuilder::finish() {
  files_->settle();
  graph_.files = *files_;
  std::unordered_multimap<std::size_t, std::size_t> kept;  // hash and place among those kept
  kept.reserve(graph_.references.size());
  std::vector<Reference>& references = graph_.references;
  std::size_t count = 0;
  for (std::size_t i = 0; i < references.size(); ++i) {
    std::size_t hash = hash_of_parts(references[i]);
    auto [first, last] = kept.equal_range(hash);
    if (std::any_of(first, last,
                    [&](const auto& item) { return is_same(references[item.second], references[i]); }))
      continue;
    if (count != i) references[count] = std::move(references[i]);
    kept.emplace(hash, count++);
  }
  references.resize(count);
  std::set<std::tuple<RelPath, ContextIndex, std::int32_t>> compiled;
  std::erase_if(graph_.compilations, [&](const Compilation& item) {
    return !compiled.insert({item.source, item.context, item.unit}).second;
  });
  return std::move(graph_);
}

bool is_installed(const Scopes& scopes, const RelPath& path) {
  if (auto made = scopes.templates.find(path);
      made != scopes.templates.end() && scopes.installed_made.contains(made->second))
    return true;
  for (RelPath up = path;; up = up.parent()) {
    if (scopes.installed.contains(up)) return true;
    if (up.is_root()) return false;
  }
}

Standing standing_of(const Reference& reference) {
  for (const Piece& piece : reference.text.pieces()) {
    if (piece.has_origin()) return {piece.file, piece.span};
  }
  Passage passage = reference.text.first_origin();
  if (passage.file != kNoFile) return {passage.file, {passage.span.begin, passage.span.begin}};
  if (reference.construct.empty()) return {};
  return {reference.construct.back().file,
          {reference.construct.back().offset, reference.construct.back().offset}};
}

}  // namespace yc
