#include "formats/c_family/c_family.h"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <future>
#include <set>
#include <thread>

#include "formats/c_family/include_scan.h"
#include "formats/c_family/standard_headers.h"

namespace yc {

namespace {

using c_family::Include;
using c_family::IncludeFacts;

bool is_c_family(const RelPath& path) {
  static const std::set<std::string_view> endings = {
      ".c",  ".h",   ".cc",  ".cpp", ".cxx", ".c++", ".C",   ".hh",  ".hpp",  ".hxx", ".h++",
      ".H",  ".ipp", ".ixx", ".inl", ".inc", ".tcc", ".tpp", ".txx", ".m",    ".mm",  ".S",
      ".cu", ".cuh", ".def", ".y",   ".l",   ".yy",  ".ll",  ".ino", ".cppm", ".rc"};
  std::string_view extension = path.extension();
  if (extension == ".in") {
    RelPath inner = RelPath::from_normal(path.str().substr(0, path.str().size() - 3));
    return inner.extension() != "" && endings.contains(inner.extension());
  }
  return endings.contains(extension);
}

constexpr WritingStyle kQuoted = 0, kAngled = 1;

class Resolver {
 public:
  Resolver(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out)
      : tree_(tree), cache_(cache), self_(self), out_(out) {}

  void run() {
    for (RelPath& path : tree_.files()) {
      by_name_[std::string(path.name())].push_back(path);
      const Entry* entry = tree_.find(path);
      if (entry->kind == EntryKind::file && is_c_family(path)) load(path);
    }
    collect_roots();
    for (const Compilation& item : out_.graph().compilations) {
      visit(item.source, item.context);
      for (const RelPath& forced : out_.graph().contexts[static_cast<std::size_t>(item.context)].forced)
        visit(forced, item.context);
    }
    drain();
    // Whatever no compilation reaches is read without a context.
    std::vector<RelPath> unreached;
    for (const auto& [path, state] : states_) {
      if (state.resolved.empty()) unreached.push_back(path);
    }
    for (const RelPath& path : unreached) visit(path, kNoContext);
    drain();
    emit();
  }

 private:
  struct Hit {
    bool found = false;
    RelPath path;
  };
  struct State {
    std::shared_ptr<const IncludeFacts> facts;
    std::map<ContextIndex, std::vector<Hit>> resolved;
  };

  State* load(const RelPath& path) {
    auto at = states_.find(path);
    if (at != states_.end()) return &at->second;
    auto bytes = tree_.read(path);
    if (!bytes) return nullptr;
    State& state = states_[path];
    if ((*bytes)->find('\0') != std::string::npos) {
      state.facts = std::make_shared<IncludeFacts>();
    } else {
      state.facts = cache_.get<IncludeFacts>(
          self_, *bytes, [](const std::string& text) { return c_family::scan_includes(text); });
    }
    for (const Include& include : state.facts->includes) {
      if (include.form == Include::Form::macro) included_macros_.insert(include.text);
    }
    for (const auto& [name, body] : state.facts->path_macros) macros_[name].push_back({path, body});
    return &state;
  }

  void collect_roots() {
    for (const Context& context : out_.graph().contexts) {
      for (const SearchRoot& root : context.roots) {
        if (root.place.space == Space::tree) all_roots_.insert(root.place.path);
      }
    }
  }

  void visit(const RelPath& path, ContextIndex context) {
    State* state = load(path);
    if (!state || state->resolved.contains(context)) return;
    state->resolved[context];
    queue_.emplace_back(path, context);
  }

  void drain() {
    while (!queue_.empty()) {
      auto [path, context] = queue_.back();
      queue_.pop_back();
      std::shared_ptr<const IncludeFacts> facts = states_[path].facts;
      std::vector<Hit> hits;
      for (const Include& include : facts->includes) {
        const Include* meant = &include;
        Include from_script;
        if (include.form == Include::Form::macro) {
          const auto* macro = macro_body(path, include.text);
          if (macro) {
            meant = &macro->second;
          } else if (const PathMacro* defined = script_macro(context, include.text)) {
            from_script.form = defined->angled ? Include::Form::angled : Include::Form::quoted;
            from_script.text = defined->value.text();
            meant = &from_script;
          }
        }
        Hit hit = meant->form == Include::Form::macro ? Hit{} : resolve(path, *meant, include.next, context);
        if (hit.found && !include.data) visit(hit.path, context);
        hits.push_back(std::move(hit));
      }
      states_[path].resolved[context] = std::move(hits);
    }
  }

  const std::pair<RelPath, Include>* macro_body(const RelPath& user, const std::string& name) const {
    auto at = macros_.find(name);
    if (at == macros_.end()) return nullptr;
    for (const auto& body : at->second) {
      if (body.first == user) return &body;
    }
    return at->second.size() == 1 ? &at->second.front() : nullptr;
  }

  // A macro that the build script of a context defines.
  const PathMacro* script_macro(ContextIndex context, const std::string& name) {
    if (context == kNoContext) return nullptr;
    const std::vector<PathMacro>& macros = out_.graph().contexts[static_cast<std::size_t>(context)].macros;
    auto at = std::find_if(macros.rbegin(), macros.rend(),
                           [&](const PathMacro& macro) { return macro.name == name; });
    return at == macros.rend() ? nullptr : &*at;
  }

  Hit look(const RelPath& folder, const std::string& text) const {
    auto path = RelPath::resolve(folder, text);
    if (path && tree_.is_file(*path)) return {true, *path};
    return {};
  }

  Hit resolve(const RelPath& user, const Include& include, bool next, ContextIndex context) {
    if (context == kNoContext) return resolve_freely(user, include);
    const std::vector<SearchRoot>& roots = out_.graph().contexts[static_cast<std::size_t>(context)].roots;
    std::vector<RelPath> folders;
    if (include.form == Include::Form::quoted) folders.push_back(user.parent());
    for (bool quoted_only : {true, false}) {
      if (quoted_only && include.form != Include::Form::quoted) continue;
      for (const SearchRoot& root : roots) {
        if (root.quoted_only == quoted_only && root.place.space == Space::tree)
          folders.push_back(root.place.path);
      }
    }
    std::size_t from = 0;
    if (next) {
      for (std::size_t i = 0; i < folders.size(); ++i) {
        Hit hit = look(folders[i], include.text);
        if (hit.found && hit.path == user) from = i + 1;
      }
    }
    for (std::size_t i = from; i < folders.size(); ++i) {
      if (Hit hit = look(folders[i], include.text); hit.found) return hit;
    }
    return {};
  }

  // Without a context: beside the file, else in the one search root or at the one place that fits.
  Hit resolve_freely(const RelPath& user, const Include& include) {
    if (include.form == Include::Form::quoted) {
      if (Hit hit = look(user.parent(), include.text); hit.found) return hit;
    } else if (c_family::is_standard_header(include.text)) {
      return {};
    }
    std::set<RelPath> hits;
    for (const RelPath& root : all_roots_) {
      if (Hit hit = look(root, include.text); hit.found) hits.insert(hit.path);
    }
    if (hits.size() == 1) return {true, *hits.begin()};
    return hits.empty() ? by_suffix(include.text) : Hit{};
  }

  Hit by_suffix(const std::string& text) const {
    auto normal = RelPath::resolve({}, text);
    if (!normal) return {};
    auto at = by_name_.find(std::string(normal->name()));
    if (at == by_name_.end()) return {};
    const RelPath* only = nullptr;
    for (const RelPath& path : at->second) {
      std::string tail = "/" + normal->str();
      std::string full = "/" + path.str();
      if (full.size() < tail.size() || full.compare(full.size() - tail.size(), tail.size(), tail) != 0)
        continue;
      if (only) return {};
      only = &path;
    }
    return only ? Hit{true, *only} : Hit{};
  }

  void emit() {
    std::vector<RelPath> order;
    for (const auto& [path, state] : states_) order.push_back(path);
    std::sort(order.begin(), order.end());
    for (const RelPath& path : order) {
      const State& state = states_[path];
      bool whole = out_.wants(path);
      for (std::size_t i = 0; i < state.facts->includes.size(); ++i) {
        const Include& include = state.facts->includes[i];
        if (whole || include.form == Include::Form::macro || out_.wants_name(include.text))
          emit_include(path, state, i);
      }
      for (const c_family::PathLiteral& literal : state.facts->literals) {
        if (whole || out_.wants_any_name(literal.text)) emit_literal(path, literal.text, literal.span);
      }
      for (const auto& [name, body] : state.facts->path_macros) {
        bool is_path = body.form == Include::Form::quoted && body.text.find('/') != std::string::npos &&
                       !included_macros_.contains(name);
        if (is_path) emit_literal(path, body.text, body.span);
      }
    }
    emit_other_macros();
    out_.graph().files_by_format["c and c++"] = order.size();
  }

  void emit_include(const RelPath& path, const State& state, std::size_t i) {
    const Include& include = state.facts->includes[i];
    const std::pair<RelPath, Include>* macro =
        include.form == Include::Form::macro ? macro_body(path, include.text) : nullptr;
    if (include.form == Include::Form::macro && !macro) {
      emit_script_macros(path, state, i);
      return;
    }
    const Include& meant = macro ? macro->second : include;
    FileIndex file = out_.files().index(path);
    Reference reference;
    reference.role = Role::include;
    reference.format = self_;
    reference.angled = meant.form == Include::Form::angled;
    reference.key = {{file, include.line_start}};
    reference.base = {path.parent(), file, Space::tree};
    WritingStyle style = reference.angled ? kAngled : kQuoted;
    FileIndex holder = macro ? out_.files().index(macro->first) : file;
    reference.text = TracedText::literal(meant.text, holder, meant.span, style);
    if (macro) reference.text = reference.text.through({file, include.span});
    bool any = false;
    for (const auto& [context, hits] : state.resolved) {
      const Hit& hit = hits[i];
      any = any || hit.found;
      reference.contexts.push_back({context, hit.found, hit.path});
      if (hit.found) reference.targets.push_back({Target::Kind::tree, hit.path, {}});
      if (hit.found && context == kNoContext)
        reference.certainty = beside(path, meant, hit.path) ? Certainty::certain : Certainty::likely;
    }
    bool judged = !any && !state.resolved.contains(kNoContext);
    if (judged) guess(reference, meant);
    // A quoted include that leads nowhere names a header of this tree that is missing, unless the build makes
    // it.
    bool may_be_elsewhere = reference.angled || include.test || c_family::is_standard_header(meant.text);
    reference.dangling = !may_be_elsewhere && (reference.targets.empty() || (judged && !is_open(state)));
    out_.add(std::move(reference));
  }

  // A path in a string is opened from where the program is started: the one folder, from the file's own up to
  // the root, below which it names something.
  void emit_literal(const RelPath& path, const std::string& text, Span span) {
    std::optional<RelPath> base, target;
    for (RelPath up = path.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, text);
      const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
      if (entry && !entry->ignored) {
        if (target && *target != *place) return;  // two things it could mean
        base = up;
        target = place;
      }
      if (up.is_root()) break;
    }
    bool is_there = target.has_value();
    for (RelPath up = path.parent(); !target; up = up.parent()) {
      // A file that is not there yet, in a folder that is: the program will write it.
      auto place = RelPath::resolve(up, text);
      bool in_folder =
          place && !place->parent().is_root() && place->extension() != "" && tree_.is_folder(place->parent());
      if (in_folder) {
        base = up;
        target = place;
      }
      if (up.is_root()) break;
    }
    if (!target) return;
    FileIndex file = out_.files().index(path);
    Reference reference;
    reference.role = Role::argument;
    reference.certainty = Certainty::likely;
    reference.format = self_;
    reference.key = {{file, span.begin}};
    reference.instance = *base;  // found from another folder it would be another reference
    reference.base = {*base, kNoFile, Space::tree};
    reference.text = TracedText::literal(text, file, span, kQuoted);
    reference.targets.push_back({is_there ? Target::Kind::tree : Target::Kind::output, *target, {}});
    out_.add(std::move(reference));
  }

  // An include of a macro from the build scripts: the path stands there, and leads from here.
  void emit_script_macros(const RelPath& path, const State& state, std::size_t i) {
    const Include& include = state.facts->includes[i];
    FileIndex file = out_.files().index(path);
    std::map<std::string, Reference> by_definition;
    for (const auto& [context, hits] : state.resolved) {
      const PathMacro* macro = script_macro(context, include.text);
      if (!macro) continue;
      used_macros_.insert({context, include.text});
      std::string id = macro->value.text();
      for (const Piece& piece : macro->value.pieces())
        id += fmt::format(" {}:{}", piece.file, piece.span.begin);
      Reference& reference = by_definition[id];
      reference.role = Role::include;
      reference.format = macro->definition.format;
      reference.angled = macro->angled;
      reference.key = {{file, include.line_start}};
      reference.base = {path.parent(), file, Space::tree};
      reference.text = macro->value.through({file, include.span});
      reference.contexts.push_back({context, hits[i].found, hits[i].path});
      if (hits[i].found) reference.targets.push_back({Target::Kind::tree, hits[i].path, {}});
    }
    for (auto& [id, reference] : by_definition) {
      reference.dangling = reference.targets.empty() && !reference.angled;
      out_.add(std::move(reference));
    }
  }

  // A path in a macro that no include uses is opened by the program, most likely from where the script
  // stands.
  void emit_other_macros() {
    for (std::size_t i = 0; i < out_.graph().contexts.size(); ++i) {
      for (const PathMacro& macro : out_.graph().contexts[i].macros) {
        if (used_macros_.contains({static_cast<ContextIndex>(i), macro.name})) continue;
        Reference reference = macro.definition;
        Place place = place_of(reference.base.folder, macro.value.text(), reference.base.space);
        if (place.space != Space::tree || place.path.is_root() || !tree_.find(place.path)) continue;
        reference.role = Role::argument;
        reference.certainty = Certainty::likely;
        reference.text = macro.value;
        reference.targets.push_back({Target::Kind::tree, place.path, {}});
        out_.add(std::move(reference));
      }
    }
  }

  // Whether a context of the file may have roots that evaluation cannot know.
  bool is_open(const State& state) {
    return std::any_of(state.resolved.begin(), state.resolved.end(), [&](const auto& item) {
      return item.first != kNoContext && out_.graph().contexts[static_cast<std::size_t>(item.first)].open;
    });
  }

  static bool beside(const RelPath& user, const Include& include, const RelPath& target) {
    auto path = RelPath::resolve(user.parent(), include.text);
    return include.form == Include::Form::quoted && path && *path == target;
  }

  // The contexts do not tell (flags may come from outside): the one file that fits is likely meant.
  void guess(Reference& reference, const Include& include) {
    if (c_family::is_standard_header(include.text)) return;
    if (include.form == Include::Form::angled && include.text.find('/') == std::string::npos) return;
    Hit hit = by_suffix(include.text);
    if (!hit.found) return;
    reference.certainty = Certainty::likely;
    reference.contexts.push_back({kNoContext, true, hit.path});
    reference.targets.push_back({Target::Kind::tree, hit.path, {}});
  }

  const TreeReader& tree_;
  FactsCache& cache_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::unordered_map<RelPath, State> states_;
  std::unordered_map<std::string, std::vector<std::pair<RelPath, Include>>> macros_;
  std::unordered_map<std::string, std::vector<RelPath>> by_name_;
  std::set<std::pair<ContextIndex, std::string>> used_macros_;
  std::set<std::string> included_macros_;
  std::set<RelPath> all_roots_;
  std::vector<std::pair<RelPath, ContextIndex>> queue_;
};

class CFamilyFormat : public Format {
 public:
  std::string_view name() const override { return "c and c++"; }

  void read(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out) const override {
    Resolver(tree, cache, self, out).run();
  }

  void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self) const override {
    std::vector<RelPath> files = tree.files();
    std::atomic<std::size_t> next = 0;
    auto work = [&] {
      for (std::size_t i = next++; i < files.size(); i = next++) {
        if (!is_c_family(files[i]) || tree.find(files[i])->kind != EntryKind::file) continue;
        auto bytes = tree.read(files[i]);
        if (bytes && (*bytes)->find('\0') == std::string::npos) {
          cache.get<IncludeFacts>(self, *bytes,
                                  [](const std::string& text) { return c_family::scan_includes(text); });
        }
      }
    };
    std::vector<std::future<void>> others;
    for (unsigned i = 1; i < std::min(8U, std::thread::hardware_concurrency()); ++i)
      others.push_back(std::async(std::launch::async, work));
    work();
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    std::string_view forbidden = style == kAngled ? ">\n\r" : "\"\n\r";
    if (text.find_first_of(forbidden) != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
  Span word_at(std::string_view, Span literal) const override { return literal; }
  std::optional<std::string> beside(std::string_view, Span, std::string_view) const override {
    return std::nullopt;
  }
  std::optional<Span> without(std::string_view, Span) const override { return std::nullopt; }
};

}  // namespace

std::unique_ptr<Format> c_family_format() {
  return std::make_unique<CFamilyFormat>();
}

}  // namespace yc
