#include "formats/c_family/include_resolver.h"

#include <algorithm>

#include "formats/c_family/standard_headers.h"
#include "words/c_family.h"

namespace yc::c_family {

bool is_source(const RelPath& path) {
  std::string_view extension = path.extension();
  if (extension == ".in") {
    RelPath inner = RelPath::from_normal(path.str().substr(0, path.str().size() - 3));
    return inner.extension() != "" && words::c_family::source_endings().contains(inner.extension());
  }
  return words::c_family::source_endings().contains(extension);
}

void IncludeResolver::resolve(const TreeReader& tree, const std::vector<RelPath>& files, FactsCache& cache,
                              std::uint8_t format, const Scopes& scopes, const IsSame& same) {
  tree_ = &tree;
  cache_ = &cache;
  scopes_ = &scopes;
  same_ = &same;
  format_ = format;
  macros_.clear();
  included_macros_.clear();
  if (++turn_ == 1) files_ = files;
  for (const RelPath& path : files_) load(path);
  take_contexts();
  for (const auto& [path, made] : templates_) load(path);
  for (const Compilation& item : scopes.compilations) {
    visit(item.source, item.context);
    for (const RelPath& forced : scopes.contexts[static_cast<std::size_t>(item.context)].forced)
      visit(forced, item.context);
  }
  drain();
  // Whatever no compilation reaches is read without a context.
  std::vector<const Source*> unreached;
  for (const auto& [path, source] : sources_) {
    if (source.turn == turn_ && source.resolved.empty()) unreached.push_back(&source);
  }
  for (const Source* source : unreached) visit(source->path, kNoContext);
  drain();
}

void IncludeResolver::take_contexts() {
  std::set<RelPath> all;
  bool same_made = scopes_->made == made_ && scopes_->templates == templates_;
  made_ = scopes_->made;
  templates_ = scopes_->templates;
  template_of_.clear();
  for (const auto& [path, made] : templates_) template_of_.emplace(made, path);
  contexts_.resize(scopes_->contexts.size());
  for (std::size_t i = 0; i < contexts_.size(); ++i) {
    Roots& roots = contexts_[i];
    const std::vector<SearchRoot>& declared = scopes_->contexts[i].roots;
    roots.same = turn_ > 1 && same_made && roots.declared == declared &&
                 roots.start == scopes_->contexts[i].start && roots.tool == scopes_->contexts[i].tool;
    roots.start = scopes_->contexts[i].start;
    roots.tool = scopes_->contexts[i].tool;
    for (const SearchRoot& root : declared) {
      if (root.place.space == Space::tree) all.insert(root.place.path);
    }
    if (turn_ > 1 && roots.declared == declared) continue;
    roots.quoted.clear();
    roots.angled.clear();
    roots.as_built.clear();
    roots.declared = declared;
    for (const SearchRoot& root : declared) {
      bool is_in_place = root.as_built && root.place.space == Space::tree;
      if (is_in_place && !std::count(declared.begin(), declared.end(), SearchRoot{root.place}))
        roots.as_built.push_back(root.place);
    }
    for (bool quoted_only : {true, false}) {
      for (const SearchRoot& root : declared) {
        if (root.quoted_only != quoted_only || root.place.space == Space::outside) continue;
        roots.quoted.push_back(root.place);
        if (!quoted_only) roots.angled.push_back(root.place);
      }
    }
  }
  same_roots_ = turn_ > 1 && all == all_roots_;
  all_roots_ = std::move(all);
}

IncludeResolver::Source* IncludeResolver::load(const RelPath& path) {
  auto [at, fresh] = sources_.try_emplace(path);
  Source& source = at->second;
  if (source.turn == turn_) return &source;
  if (fresh) source.path = path;
  if (source.facts && (*same_)(path)) {
    source.earlier = std::move(source.resolved);
  } else {
    auto bytes = tree_->read(path);
    if (!bytes) {
      sources_.erase(at);
      return nullptr;
    }
    source.earlier.clear();
    source.facts = cache_->get<IncludeFacts>(format_, *bytes,
                                             [](const std::string& text) { return scan_includes(text); });
  }
  source.resolved.clear();
  source.turn = turn_;
  for (const Include& include : source.facts->includes) {
    if (include.form == Include::Form::macro) included_macros_.insert(include.text);
  }
  for (const auto& [name, body] : source.facts->path_macros) macros_[name].push_back({path, body});
  return &source;
}

void IncludeResolver::visit(const RelPath& path, ContextIndex context) {
  Source* source = load(path);
  if (!source || !source->resolved.try_emplace(context).second) return;
  queue_.emplace_back(source, context);
}

void IncludeResolver::drain() {
  while (!queue_.empty()) {
    auto [source, context] = queue_.back();
    queue_.pop_back();
    std::vector<Hit> hits = hits_of(*source, context);
    for (std::size_t i = 0; i < hits.size(); ++i) {
      if (!hits[i].found || source->facts->includes[i].data) continue;
      // What is made of a template includes what that does.
      auto filled_in = hits[i].is_made ? template_of_.find(hits[i].path) : template_of_.end();
      if (filled_in != template_of_.end()) visit(filled_in->second, context);
      if (!hits[i].is_made) visit(hits[i].path, context);
    }
    source->resolved[context] = std::move(hits);
  }
}

std::vector<IncludeResolver::Hit> IncludeResolver::hits_of(const Source& source, ContextIndex context) {
  const std::vector<Include>& includes = source.facts->includes;
  auto earlier = source.earlier.find(context);
  bool same_folders = context == kNoContext ? same_roots_ : contexts_[static_cast<std::size_t>(context)].same;
  // What a macro means may be told by another file.
  bool by_macro = std::any_of(includes.begin(), includes.end(),
                              [](const Include& include) { return include.form == Include::Form::macro; });
  if (earlier != source.earlier.end() && same_folders && !by_macro) return earlier->second;
  std::vector<Hit> hits;
  for (const Include& include : includes) {
    const Include* meant = &include;
    Include from_script;
    if (include.form == Include::Form::macro) {
      if (const auto* macro = macro_body(source.path, include.text)) {
        meant = &macro->second;
      } else if (const PathMacro* defined = script_macro(context, include.text)) {
        from_script.form = defined->angled ? Include::Form::angled : Include::Form::quoted;
        from_script.text = defined->value.text();
        meant = &from_script;
      }
    }
    hits.push_back(
        meant->form == Include::Form::macro ? Hit{} : resolve_in(source.path, *meant, include.next, context));
  }
  return hits;
}

const std::pair<RelPath, Include>* IncludeResolver::macro_body(const RelPath& user,
                                                               const std::string& name) const {
  auto at = macros_.find(name);
  if (at == macros_.end()) return nullptr;
  for (const auto& body : at->second) {
    if (body.first == user) return &body;
  }
  return at->second.size() == 1 ? &at->second.front() : nullptr;
}

const PathMacro* IncludeResolver::script_macro(ContextIndex context, const std::string& name) const {
  if (context == kNoContext) return nullptr;
  const std::vector<PathMacro>& macros = scopes_->contexts[static_cast<std::size_t>(context)].macros;
  auto at = std::find_if(macros.rbegin(), macros.rend(),
                         [&](const PathMacro& macro) { return macro.name == name; });
  return at == macros.rend() ? nullptr : &*at;
}

IncludeResolver::Hit IncludeResolver::look(const Place& folder, const std::string& text,
                                           BuildTool tool) const {
  auto path = RelPath::resolve(folder.path, text);
  bool is_made = folder.space == Space::build;
  if (!path) return {};
  if (is_made ? makes(*path, tool) : tree_->is_file(*path)) return {true, std::move(*path), is_made, 0};
  if (!is_made && tool.empty() && makes(*path, kBuildsInPlace)) return {true, std::move(*path), true, 0};
  return {};
}

bool IncludeResolver::makes(const RelPath& path, BuildTool tool) const {
  auto made = made_.find(path);
  return made != made_.end() &&
         (tool.empty() || made->second.contains(BuildTool()) || made->second.contains(tool));
}

IncludeResolver::Hit IncludeResolver::resolve_in(const RelPath& user, const Include& include, bool next,
                                                 ContextIndex context) const {
  if (context == kNoContext) return resolve_freely(user, include);
  const Roots& roots = contexts_[static_cast<std::size_t>(context)];
  BuildTool tool = scopes_->contexts[static_cast<std::size_t>(context)].tool;
  if (include.form == Include::Form::searched) {
    Place start = scopes_->contexts[static_cast<std::size_t>(context)].start;
    if (start.space != Space::outside) {
      if (Hit hit = look(start, include.text, tool); hit.found) return hit;
    }
  }
  bool quoted = include.form == Include::Form::quoted;
  const std::vector<Place>& folders = quoted ? roots.quoted : roots.angled;
  Place own{Space::tree, user.parent()};
  if (auto made = templates_.find(user); made != templates_.end())
    own = {Space::build, made->second.parent()};
  // The file's own folder, if it counts, is number 0.
  auto folder = [&](std::size_t i) -> const Place& {
    return !quoted ? folders[i] : i ? folders[i - 1] : own;
  };
  std::size_t count = folders.size() + (quoted ? 1 : 0), from = 0;
  if (next) {
    for (std::size_t i = 0; i < count; ++i) {
      Hit hit = look(folder(i), include.text, tool);
      if (hit.found && hit.path == user) from = i + 1;
    }
  }
  for (std::size_t i = from; i < count; ++i) {
    Hit hit = look(folder(i), include.text, tool);
    if (!hit.found) continue;
    bool is_own = quoted && i == 0;
    hit.doubt =
        !is_own && !hit.is_made && std::count(roots.as_built.begin(), roots.as_built.end(), folder(i)) > 0;
    return hit;
  }
  return guess_made(include, folders);
}

// A quoted text that leads nowhere, by way of a folder that the build tree mirrors: something that scripts
// make there in a way that no reader knows.
IncludeResolver::Hit IncludeResolver::guess_made(const Include& include,
                                                 const std::vector<Place>& folders) const {
  if (include.form != Include::Form::quoted || include.text.find('/') == std::string::npos) return {};
  if (is_standard_header(include.text)) return {};
  for (const Place& folder : folders) {
    if (folder.space != Space::build) continue;
    auto path = RelPath::resolve(folder.path, include.text);
    if (path && !path->parent().is_root() && tree_->is_folder(path->parent()))
      return {true, std::move(*path), true, 0};
  }
  return {};
}

// Without a context: beside the file, else in the one search root or at the one place that fits.
IncludeResolver::Hit IncludeResolver::resolve_freely(const RelPath& user, const Include& include) const {
  if (include.form == Include::Form::searched) {
    if (Hit hit = look({Space::tree, {}}, include.text); hit.found) return hit;
  }
  bool is_systems = include.form == Include::Form::angled && is_standard_header(include.text);
  if (include.form != Include::Form::angled) {
    if (Hit hit = look({Space::tree, user.parent()}, include.text); hit.found) return hit;
  } else if (is_systems && !files_called(include.text.substr(include.text.rfind('/') + 1))) {
    return {};  // most of them, and there may be many folders
  }
  std::set<RelPath> hits;
  for (const RelPath& root : all_roots_) {
    if (Hit hit = look({Space::tree, root}, include.text); hit.found) hits.insert(hit.path);
  }
  if (hits.size() == 1) return {true, *hits.begin(), false, 1};
  return hits.empty() && !is_systems ? by_suffix(include.text) : Hit{};
}

std::map<RelPath, RelPath> IncludeResolver::in_roots(const std::string& text) const {
  std::map<RelPath, RelPath> out;
  for (const RelPath& root : all_roots_) {
    if (Hit hit = look({Space::tree, root}, text); hit.found) out.emplace(hit.path, root);
  }
  return out;
}

const std::vector<RelPath>* IncludeResolver::files_called(const std::string& name) const {
  if (by_name_.empty()) {
    for (const RelPath& path : tree_->files()) by_name_[std::string(path.name())].push_back(path);
  }
  auto at = by_name_.find(name);
  return at == by_name_.end() ? nullptr : &at->second;
}

IncludeResolver::Hit IncludeResolver::by_suffix(const std::string& text) const {
  auto normal = RelPath::resolve({}, text);
  const std::vector<RelPath>* named = normal ? files_called(std::string(normal->name())) : nullptr;
  if (!named) return {};
  const RelPath* only = nullptr;
  for (const RelPath& path : *named) {
    std::string_view full = path.str(), tail = normal->str();
    bool ends_so =
        full.ends_with(tail) && (full.size() == tail.size() || full[full.size() - tail.size() - 1] == '/');
    if (!ends_so) continue;
    if (only) return {};
    only = &path;
  }
  return only ? Hit{true, *only, false, 2} : Hit{};
}

std::vector<const IncludeResolver::Source*> IncludeResolver::sources() const {
  std::vector<const Source*> out;
  for (const auto& [path, source] : sources_) {
    if (source.turn == turn_) out.push_back(&source);
  }
  std::sort(out.begin(), out.end(), [](const Source* a, const Source* b) { return a->path < b->path; });
  return out;
}

}  // namespace yc::c_family
