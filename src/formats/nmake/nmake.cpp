#include "formats/nmake/nmake.h"

#include <algorithm>
#include <cctype>
#include <optional>

#include "base/text.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/spellings.h"
#include "formats/nmake/nmake_rules.h"
#include "formats/nmake/nmake_script.h"
#include "formats/outside_paths.h"
#include "model/add_reference.h"

namespace yc {

namespace {

using nmake::Inference;

bool is_nmake(const RelPath& path) {
  // Asked of every file of a tree.
  if (path.extension().size() < 3 || path.extension().size() > 5) return false;
  std::string ending = lowered(path.extension());
  return ending == ".vc" || ending == ".msc" || ending == ".msvc" || ending == ".bcc" || ending == ".bor";
}

bool nmake_compiles(std::string_view path) {
  std::string ending = lowered(ending_of(path));
  return ending == ".c" || ending == ".cpp" || ending == ".cxx" || ending == ".cc" || ending == ".rc" ||
         ending == ".asm";
}

// What stands before a path in one word with it: "/I..\inc", "/out:..\tide.dll", "@-copy".
std::size_t option_size(std::string_view word) {
  std::size_t lead = std::min(word.find_first_not_of("@-!"), word.size());
  if (!word.starts_with("/") && !word.starts_with("-")) return lead;
  if (word.size() > 2 && (word[1] == 'I' || word[1] == 'i') && word.find(':') == std::string_view::npos)
    return 2;
  if (word.size() > 3 && word[1] == 'F') return 3;
  std::size_t colon = word.find(':');
  return colon == std::string_view::npos ? word.size() : colon + 1;
}

bool is_root_option(std::string_view word) {
  return word.size() >= 2 && (word[0] == '/' || word[0] == '-') && word[1] == 'I' &&
         word.find(':') == std::string_view::npos;
}

std::string shown_line(const RelPath& folder) {
  return folder.is_root() ? "the root" : folder.str();
}

using Names = std::set<std::string, std::less<>>;

// A tool compiles what it finds beside by rules of its own.
const std::vector<Inference>& built_in_rules() {
  static const std::vector<Inference> all = {{{}, ".c", {}},  {{}, ".cpp", {}}, {{}, ".cxx", {}},
                                             {{}, ".cc", {}}, {{}, ".asm", {}}, {{}, ".rc", {}}};
  return all;
}

class NmakeEmitter {
 public:
  // `names` are those of all makefiles in the folder: they share lists, which one makes and another reads.
  NmakeEmitter(const Reading& in, const RelPath& path, const nmake::Script& script, const Names& names)
      : in_(in), path_(path), file_(in.out.files().index(path)), script_(script), names_(names) {
    choose_start();
  }

  void run() {
    for (std::size_t i = 0; i < script_.includes.size(); ++i) {
      const nmake::Word& word = script_.includes[i];
      add_leading(
          in_.out, in_.tree,
          Reference::of(Role::script, in_.self, {word.site}, base_of(script_.included_from[i]), word.text));
    }
    bool is_root = false;
    for (const nmake::Word& word : script_.words) {
      std::string text = word.text.text();
      if (is_root) {
        root(word, 0);
        is_root = false;
      } else if (is_root_option(text)) {
        if (text.size() > 2) root(word, 2);
        is_root = text.size() == 2;
      } else {
        plain(word, text);
      }
    }
    infer();
    compile();
  }

 private:
  Base base_of(const RelPath& folder) const {
    RelPath own = path_.parent();
    std::size_t levels = own.components().size() - folder.components().size() + 1;
    return {folder, file_, Space::tree, static_cast<std::uint8_t>(levels)};
  }

  // The folder in which most of the words name something; the nearest of several.
  void choose_start() {
    std::size_t best = 0;
    RelPath chosen = path_.parent();
    for (RelPath folder = path_.parent();; folder = folder.parent()) {
      std::size_t found = 0;
      for (const nmake::Word& word : script_.words) {
        std::string text = word.text.text();
        if (word.text.has_hole() || text.find_first_of("./") == std::string::npos) continue;
        auto place = RelPath::resolve(folder, text.substr(option_size(text)));
        if (place && !place->is_root() && find_any_case(in_.tree, *place)) ++found;
      }
      if (found > best) best = found, chosen = folder;
      if (folder.is_root()) break;
    }
    start_ = base_of(chosen);
  }

  static TracedText without_tail(TracedText text) {
    while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
    return text;
  }

  void root(const nmake::Word& word, std::size_t skip) {
    Reference reference =
        Reference::of(Role::search_root, in_.self, {word.site}, start_, without_tail(word.text.substr(skip)));
    if (reference.text.has_hole() || reference.text.empty()) return;
    auto folder = leads_to(in_.tree, reference, Letters::any_case);
    add_leading(in_.out, in_.tree, std::move(reference), IfMissing::skip, Letters::any_case);
    bool is_here = !folder && place_of(start_.folder, word.text.text().substr(skip)).path == start_.folder;
    SearchRoot found{{Space::tree, is_here ? start_.folder : folder.value_or(RelPath())}};
    if ((folder || is_here) && std::find(roots_.begin(), roots_.end(), found) == roots_.end())
      roots_.push_back(found);
  }

  // A word that names what is there. Bare names are none, but for prerequisites: most are of targets.
  void plain(const nmake::Word& word, const std::string& all) {
    TracedText text = without_tail(word.text.substr(option_size(all)));
    std::string spelled = text.text();
    if (text.empty() || text.is_only_holes() || spelled.find_first_of("./") == std::string::npos) return;
    if (text.has_hole() && spelled.find('/') == std::string::npos) return;
    bool compiled = nmake_compiles(spelled);
    Reference reference =
        Reference::of(compiled ? Role::source : Role::argument, in_.self, {word.site}, start_, text);
    bool is_mere = word.kind == nmake::Word::Kind::dependency;
    bool is_sure = compiled || is_mere || word.kind == nmake::Word::Kind::prerequisite;
    if (!is_sure) reference = std::move(reference).guessed();
    auto path = text.has_hole() ? std::nullopt : leads_to(in_.tree, reference, Letters::any_case);
    add_leading(in_.out, in_.tree, std::move(reference), IfMissing::skip, Letters::any_case);
    if (path && compiled && !is_mere) sources_.insert(*path);
  }

  // The sources that a rule for a folder compiles: those of the folder whose names are said somewhere.
  void infer() {
    for (const Inference& rule : script_.inferences) {
      Reference folder = Reference::of(Role::search_root, in_.self, {rule.site}, start_, rule.folder);
      if (rule.folder.has_hole()) {
        in_.out.hole(rule.folder, start_, in_.self);
        continue;
      }
      Place place = place_of(start_.folder, rule.folder.empty() ? "." : rule.folder.text());
      auto found = place.space == Space::tree && (place.path.is_root() || in_.tree.is_folder(place.path))
                       ? std::optional(place.path)
                       : leads_to(in_.tree, folder, Letters::any_case);
      if (!found) continue;
      if (!rule.folder.empty())
        add_leading(in_.out, in_.tree, std::move(folder), IfMissing::skip, Letters::any_case);
      if (rule.folder.empty()) {
        take_all(*found, rule.ending, script_.objects);
      } else {
        take_all(*found, rule.ending, names_);
      }
    }
    for (const Inference& rule : built_in_rules()) take_all(start_.folder, rule.ending, script_.objects);
  }

  template <typename Said>
  void take_all(const RelPath& folder, const std::string& ending, const Said& said) {
    for (const auto& stem : said) {
      RelPath source = folder / (std::string(stem) + ending);
      const Entry* entry = in_.tree.find(source);
      bool is_own = script_.own_commands.contains(std::string(stem) + ".obj");
      if (entry && entry->kind == EntryKind::file && !entry->ignored && !is_own) sources_.insert(source);
    }
  }

  void compile() {
    if (sources_.empty()) return;
    Context context;
    context.roots = roots_;
    context.open = true;
    context.start = {Space::tree, start_.folder};
    ContextIndex number = in_.out.context(std::move(context));
    std::vector<Unit>& units = in_.out.graph().units;
    units.push_back({std::string(path_.name()), in_.self, {file_, 0}, {}});
    for (const RelPath& source : sources_) {
      in_.out.compile(source, number, static_cast<std::int32_t>(units.size()) - 1);
      // That it is compiled, by whichever rule. No byte says so by itself.
      in_.out.add(Reference::of(Role::source, in_.self, {{file_, 0}}, start_,
                                TracedText::plain(std::string(source.name())))
                      .guessed()
                      .in(ConstructPart::of(source))
                      .spelled_by_format()
                      .leading_to(source));
    }
  }

  const Reading& in_;
  const RelPath& path_;
  FileIndex file_;
  const nmake::Script& script_;
  const Names& names_;
  Base start_;
  std::vector<SearchRoot> roots_;
  std::set<RelPath> sources_;
};

class NmakeFormat : public Format,
                    public IgnoresCase,
                    public ReadsWhole,
                    public NeededChanges,
                    public Spellings {
 public:
  std::string_view name() const override { return "nmake"; }
  std::string_view unit_kind() const override { return "makefile"; }
  ScopeSet gives() const override { return Scope::search_roots; }
  bool claims(const RelPath& path) const override { return is_nmake(path); }

  void read(const Reading& in) const override {
    std::vector<std::pair<RelPath, nmake::Script>> scripts;
    std::map<RelPath, Names> names;  // by folder
    in.each([&](const RelPath& path, const Bytes& bytes) {
      nmake::Script script = is_binary(*bytes) ? nmake::Script() : nmake::read_script(in.tree, path, in.out);
      if (is_binary(*bytes) || script.is_garbled) {
        in.out.incomplete(Unread::garbled, "garbled-script", path, std::nullopt,
                          "has the ending of a makefile of nmake, is none, and is not read");
        return false;
      }
      names[path.parent()].insert(script.names.begin(), script.names.end());
      scripts.emplace_back(path, std::move(script));
      return true;
    });
    for (const auto& [path, script] : scripts) NmakeEmitter(in, path, script, names[path.parent()]).run();
  }

  // A source that no rule's folder holds any more.
  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    if (auto renamed = rename_object(need)) return {std::move(*renamed)};
    if (!need.reference.construct_part.path || need.wanted.empty()) return {};
    RelPath old_folder = need.reference.construct_part.path->parent(),
            now = need.wanted.front().path.parent();
    auto kept = old_folder.is_root() ? std::optional(old_folder) : need.moves.map_folder(old_folder);
    auto rule = kept && *kept != now ? rule_for(need) : std::nullopt;
    if (!rule || need.moves.moves(rule->first)) return {};
    auto bytes = need.tree.read(rule->first);
    if (!bytes) return {};
    nmake::Homeless what;
    what.stem = nmake::stem_of(*need.reference.construct_part.path);
    what.is_renamed = nmake::stem_of(need.wanted.front().path) != what.stem;
    what.way = relative_text(*kept, now);
    what.source = relative_text(need.new_base, need.wanted.front().path);
    return nmake::rule_ways(rule->first, **bytes, rule->second.begin, what);
  }

  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference, const RelPath&,
                                const RelPath& target) const override {
    if (!reference.construct_part.path) return std::nullopt;
    if (target.parent() == reference.construct_part.path->parent())
      return Reason{"the lists of this makefile name the object that is made of it, and none for " +
                        std::string(target.name()),
                    "rename the object in those lists, then move again with --accept-unseen"};
    return Reason{"a rule of " + graph.files.path(reference.construct.front().file).str() +
                      " compiles what is in " + shown_line(reference.construct_part.path->parent()) +
                      ", and none what is in " + shown_line(target.parent()),
                  "add a rule for that folder, or add --accept-unseen if the makefile is not used"};
  }

  // Paths that lead out of the tree go on leading there.
  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    Proposal way;
    for (const Move& move : moves.files()) {
      auto bytes = claims(move.from) ? before.tree.read(move.from) : Result<Bytes>(Error{});
      if (!bytes) continue;
      constexpr std::string_view kEnds = " \t\r\n\"'(){};,=|&<>$";
      const std::string& all = **bytes;
      for (std::size_t at = all.find(".."); at != std::string::npos;) {
        std::size_t end = std::min(all.find_first_of(kEnds, at), all.size());
        bool begins = at == 0 || kEnds.find(all[at - 1]) != std::string_view::npos || all[at - 1] == 'I' ||
                      all[at - 1] == ':';
        Span span = span_of(at, end);
        auto text = begins ? outside_path(move.from.parent(), move.to.parent(), all.substr(at, end - at))
                           : std::nullopt;
        if (text) way.edits.push_back({move.from, span, *text});
        at = all.find("..", end);
      }
    }
    return way.edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{way};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (text.find_first_of(" \t\r\n\"'$#(){};,=|&<>^!") != std::string_view::npos) return std::nullopt;
    std::string out(text);
    if (style == nmake::kBackslash) std::replace(out.begin(), out.end(), '/', '\\');
    return out;
  }

 private:
  // A source that keeps its folder takes its object's name along wherever the makefile has it.
  static std::optional<Proposal> rename_object(const RewriteRequest& need) {
    const std::optional<RelPath>& source = need.reference.construct_part.path;
    if (!source || need.wanted.size() != 1) return std::nullopt;
    const RelPath& now = need.wanted.front().path;
    auto folder = source->parent().is_root() ? source->parent() : need.moves.map_folder(source->parent());
    const RelPath& script = need.graph.files.path(need.reference.construct.front().file);
    auto bytes = need.tree.read(script);
    if (!folder || *folder != now.parent() || now.name() == source->name() || !bytes) return std::nullopt;
    std::string old_stem = nmake::stem_of(*source), new_stem = nmake::stem_of(now);
    Proposal way;
    for (Span span : nmake::object_names(**bytes, old_stem)) way.edits.push_back({script, span, new_stem});
    return way.edits.empty() ? std::nullopt : std::optional(std::move(way));
  }

  // The file and line of the rule that compiled a source, as the graph has it.
  static std::optional<std::pair<RelPath, Span>> rule_for(const RewriteRequest& need) {
    const RelPath& script = need.graph.files.path(need.reference.construct.front().file);
    GraphBuilder scratch;
    nmake::Script read = nmake::read_script(need.tree, script, scratch);
    for (const Inference& rule : read.inferences) {
      std::string folder = rule.folder.empty() ? "." : rule.folder.text();
      auto place = RelPath::resolve(need.reference.base.folder, folder);
      const RelPath& source = *need.reference.construct_part.path;
      if (place && lowered(place->str()) == lowered(source.parent().str()) &&
          rule.ending == source.extension())
        return std::pair(scratch.files().path(rule.site.file), Span{rule.site.offset, rule.site.offset});
    }
    return std::nullopt;
  }
};

}  // namespace

std::unique_ptr<Format> nmake_format() {
  return std::make_unique<NmakeFormat>();
}

}  // namespace yc
