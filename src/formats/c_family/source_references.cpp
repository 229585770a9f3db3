#include "formats/c_family/source_references.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/build_copies.h"
#include "formats/c_family/standard_headers.h"
#include "formats/literal_paths.h"

namespace yc::c_family {

namespace {

using Source = IncludeResolver::Source;

class Emitter {
 public:
  Emitter(const IncludeResolver& resolver, const Reading& in)
      : resolver_(resolver),
        tree_(in.tree),
        self_(in.self),
        scopes_(in.scopes),
        out_(in.out),
        installed_(in.scopes.installed) {
    for (const auto& [filled_in, made] : scopes_.templates) {
      auto found = scopes_.installed_made.find(made);
      if (found == scopes_.installed_made.end()) continue;
      installed_[filled_in].insert(found->second.begin(), found->second.end());
    }
    for (const auto& [file, places] : installed_) {
      for (const RelPath& place : places) by_installed_.emplace(place, file);
    }
  }

  // Gives how many sources there are.
  std::size_t run() {
    std::vector<const Source*> sources = resolver_.sources();
    for (const Source* each : sources) {
      const Source& state = *each;
      const RelPath& path = state.path;
      bool whole = out_.wants(path);
      for (std::size_t i = 0; i < state.facts->includes.size(); ++i) {
        const Include& include = state.facts->includes[i];
        bool named =
            out_.wants_name(include.text) || (is_made(state, i) && out_.wants_any_name(include.text));
        if (whole || include.form == Include::Form::macro || named) emit_include(path, state, i);
      }
      for (const PathLiteral& literal : state.facts->literals) {
        // What an assembler includes is a string, too.
        bool included = std::any_of(state.facts->includes.begin(), state.facts->includes.end(),
                                    [&](const Include& include) { return include.span == literal.span; });
        if (!included && (whole || out_.wants_any_name(literal.text)))
          emit_literal(path, literal.text, literal.span);
      }
      for (const PathLiteral& text : state.facts->written) {
        if (whole || out_.wants_any_name(text.text)) emit_written(path, text);
      }
      for (const auto& [name, body] : state.facts->path_macros) {
        bool is_path = body.form == Include::Form::quoted && body.text.find('/') != std::string::npos &&
                       !resolver_.is_included_macro(name);
        if (is_path) emit_literal(path, body.text, body.span);
      }
    }
    emit_other_macros();
    return sources.size();
  }

 private:
  void emit_include(const RelPath& path, const Source& state, std::size_t i) {
    const Include& include = state.facts->includes[i];
    const std::pair<RelPath, Include>* macro =
        include.form == Include::Form::macro ? resolver_.macro_body(path, include.text) : nullptr;
    if (include.form == Include::Form::macro && !macro) {
      emit_script_macros(path, state, i);
      return;
    }
    const Include& meant = macro ? macro->second : include;
    FileIndex file = out_.files().index(path);
    WritingStyle style = meant.form == Include::Form::angled ? kAngled : kQuoted;
    FileIndex holder = macro ? out_.files().index(macro->first) : file;
    TracedText text = TracedText::literal(meant.text, holder, meant.span, style);
    if (macro) text = text.through({file, include.span});
    Reference reference = Reference::of(Role::include, self_, {{file, include.line_start}},
                                        {path.parent(), file, Space::tree}, std::move(text));
    // Only search roots count for what an assembler includes, too.
    reference.kind = IncludeText{meant.form != Include::Form::quoted};
    bool any = false;
    for (const auto& [context, hits] : state.resolved) {
      const IncludeResolver::Hit& hit = hits[i];
      any = any || hit.found;
      reference.contexts.push_back({context, hit.found, hit.path, hit.is_made, hit.doubt});
      if (hit.found) reference.targets.push_back(target_of(hit));
      if (hit.found && context == kNoContext)
        reference.certainty = beside(path, meant, hit.path) ? Certainty::certain : Certainty::likely;
    }
    bool judged = !any && !state.resolved.contains(kNoContext);
    if (judged) guess(reference, meant);
    // A quoted include that leads nowhere names a header of this tree that is missing, unless the build makes
    // it.
    bool may_be_elsewhere = reference.is_angled() || include.test || is_standard_header(meant.text);
    reference.dangling = !may_be_elsewhere && (reference.targets.empty() || (judged && !is_open(state)));
    bool is_below = judged && !reference.dangling && !may_be_elsewhere && !macro &&
                    !reference.targets.empty() && reference.targets.front().path.is_within(path.parent());
    auto wanted = is_below ? RelPath::resolve(path.parent(), meant.text) : std::nullopt;
    if (wanted) out_.unmet({path, meant.span, "include", meant.text, *wanted});
    bool is_installed = !macro && emit_installed(path, meant, reference);
    // Nothing compiles a template where it stands: what is beside it there is what will be beside what it
    // becomes only if both are installed so.
    bool is_filled_in = scopes_.templates.contains(path) && state.resolved.contains(kNoContext);
    if (is_installed && is_filled_in) return;
    out_.add(std::move(reference));
  }

  // What is installed is included by others, who find what it includes where that is installed: beside it, or
  // from a folder above that they search. Nothing spells this but the include itself.
  // Gives whether it is.
  bool emit_installed(const RelPath& path, const Include& include, const Reference& reference) {
    for (const RelPath& place : installed_at(path)) {
      bool is_searched = !reference.is_angled();
      for (RelPath folder = place.parent();; folder = folder.parent(), is_searched = true) {
        auto wanted = is_searched ? RelPath::resolve(folder, include.text) : std::nullopt;
        if (auto found = wanted ? installed_as(*wanted) : std::nullopt) {
          Reference installed =
              Reference::of(Role::argument, self_, reference.construct, reference.base, reference.text)
                  .in(ConstructPart::tagged(kInstalledPart))
                  .spelled_by_format();
          installed.may_gain = true;  // one more that is found there harms nobody
          installed.lead_to(std::move(*found));
          out_.add(std::move(installed));
          return true;
        }
        if (folder.is_root()) break;
      }
    }
    return false;
  }

  // The places at which a file is installed: by itself, with a folder, or filled in.
  std::vector<RelPath> installed_at(const RelPath& path) const {
    std::vector<RelPath> out;
    if (installed_.empty()) return out;
    for (RelPath up = path;; up = up.parent()) {
      if (auto found = installed_.find(up); found != installed_.end()) {
        for (const RelPath& place : found->second) out.push_back(up == path ? place : place / path.below(up));
      }
      if (up.is_root()) return out;
    }
  }

  // The file that is installed at a place.
  std::optional<RelPath> installed_as(const RelPath& place) const {
    for (RelPath up = place;; up = up.parent()) {
      auto [from, to] = by_installed_.equal_range(up);
      for (auto found = from; found != to; ++found) {
        RelPath file = up == place ? found->second : found->second / place.below(up);
        if (tree_.is_file(file)) return file;
      }
      if (up.is_root()) return std::nullopt;
    }
  }

  // What a program writes into a source that it makes is looked up in the search roots of whoever compiles
  // that.
  void emit_written(const RelPath& path, const PathLiteral& written) {
    std::map<RelPath, RelPath> found = resolver_.in_roots(written.text);
    if (found.size() != 1) return;
    FileIndex file = out_.files().index(path);
    out_.add(Reference::of(Role::argument, self_, {{file, written.span.begin}},
                           {found.begin()->second, kNoFile, Space::tree},
                           TracedText::literal(written.text, file, written.span, kQuoted))
                 .likely()
                 .leading_to(found.begin()->first));
  }

  // path(__FILE__).parent_path() / "…" is beside the source, and another reader's.
  bool is_anchored(const RelPath& path, Span span) const {
    auto bytes = tree_.read(path);
    if (!bytes) return false;
    std::size_t from = span.begin > 80 ? span.begin - 80 : 0;
    std::string_view before = std::string_view(**bytes).substr(from, span.begin - from);
    std::size_t mark = before.rfind("__FILE__");
    return mark != std::string_view::npos && before.find_first_of(";{}", mark) == std::string_view::npos &&
           before.find("parent_path()", mark) != std::string_view::npos;
  }

  void emit_literal(const RelPath& path, const std::string& text, Span span) {
    if (is_anchored(path, span)) return;
    FileIndex file = out_.files().index(path);
    TracedText traced = TracedText::literal(text, file, span, kQuoted);
    CopyUse copy = copied_path(scopes_, out_.files(), tree_, traced, {file, span.begin}, self_);
    std::optional<Reference> found = std::move(copy.reference);
    if (!copy.any) found = literal_path(tree_, path, file, text, span, kQuoted, self_);
    if (found) out_.add(std::move(*found));
  }

  // An include of a macro from the build scripts: the path stands there, and leads from here.
  void emit_script_macros(const RelPath& path, const Source& state, std::size_t i) {
    const Include& include = state.facts->includes[i];
    FileIndex file = out_.files().index(path);
    std::map<std::string, Reference> by_definition;
    for (const auto& [context, hits] : state.resolved) {
      const PathMacro* macro = resolver_.script_macro(context, include.text);
      if (!macro) continue;
      used_macros_.insert({context, include.text});
      std::string id = macro->value.text();
      for (const Piece& piece : macro->value.pieces())
        id += fmt::format(" {}:{}", piece.file, piece.span.begin);
      Reference& reference = by_definition[id];
      if (reference.construct.empty()) {
        reference =
            Reference::of(Role::include, macro->definition.format, {{file, include.line_start}},
                          {path.parent(), file, Space::tree}, macro->value.through({file, include.span}));
        reference.kind = IncludeText{macro->angled};
      }
      reference.contexts.push_back({context, hits[i].found, hits[i].path, hits[i].is_made, hits[i].doubt});
      if (hits[i].found) reference.targets.push_back(target_of(hits[i]));
    }
    for (auto& [id, reference] : by_definition) {
      reference.dangling = reference.targets.empty() && !reference.is_angled();
      out_.add(std::move(reference));
    }
  }

  // A path in a macro that no include uses is opened by the program, most likely from where the script
  // stands.
  void emit_other_macros() {
    for (std::size_t i = 0; i < scopes_.contexts.size(); ++i) {
      for (const PathMacro& macro : scopes_.contexts[i].macros) {
        if (used_macros_.contains({static_cast<ContextIndex>(i), macro.name})) continue;
        Reference reference = macro.definition;
        Place place = place_of(reference.base.folder, macro.value.text(), reference.base.space);
        if (place.space != Space::tree || place.path.is_root() || !tree_.find(place.path)) continue;
        reference.role = Role::argument;
        reference.certainty = Certainty::likely;
        reference.text = macro.value;
        reference.lead_to(place.path);
        out_.add(std::move(reference));
      }
    }
  }

  // Whether a context of the file may have roots that evaluation cannot know.
  bool is_open(const Source& state) {
    return std::any_of(state.resolved.begin(), state.resolved.end(), [&](const auto& item) {
      return item.first != kNoContext && scopes_.contexts[static_cast<std::size_t>(item.first)].open;
    });
  }

  static bool is_made(const Source& state, std::size_t i) {
    return std::any_of(state.resolved.begin(), state.resolved.end(),
                       [&](const auto& item) { return item.second[i].is_made; });
  }

  static Target target_of(const IncludeResolver::Hit& hit) {
    return {hit.is_made ? Target::Kind::build : Target::Kind::tree, hit.path, {}};
  }

  static bool beside(const RelPath& user, const Include& include, const RelPath& target) {
    auto path = RelPath::resolve(user.parent(), include.text);
    return include.form == Include::Form::quoted && path && *path == target;
  }

  // The contexts do not tell (flags may come from outside): the one file that fits is likely meant.
  void guess(Reference& reference, const Include& include) {
    if (is_standard_header(include.text)) return;
    if (include.form == Include::Form::angled && include.text.find('/') == std::string::npos) return;
    IncludeResolver::Hit hit = resolver_.by_suffix(include.text);
    if (!hit.found) return;
    reference.certainty = Certainty::likely;
    reference.contexts.push_back({kNoContext, true, hit.path});
    reference.lead_to(hit.path);
  }

  const IncludeResolver& resolver_;
  const TreeReader& tree_;
  std::uint8_t self_;
  const Scopes& scopes_;
  GraphBuilder& out_;
  std::set<std::pair<ContextIndex, std::string>> used_macros_;
  std::map<RelPath, std::set<RelPath>>
      installed_;  // as the scopes have it; a template stands for what it becomes
  std::multimap<RelPath, RelPath> by_installed_;  // files and folders by the places where they are installed
};

}  // namespace

void emit_references(const IncludeResolver& resolver, const Reading& in) {
  in.count(Emitter(resolver, in).run());
}

}  // namespace yc::c_family
