#include "formats/qmake/qmake.h"

#include <algorithm>
#include <optional>

#include "base/text.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/spellings.h"
#include "formats/qmake/qmake_script.h"
#include "model/add_reference.h"

namespace yc {

namespace {

bool is_project(const RelPath& path) {
  return path.extension() == ".pro";
}

// Files of other languages have these endings, too: one of qmake sets a variable that it knows, or includes.
bool is_of_qmake(const qmake::Script& script) {
  static constexpr std::string_view kKnown[] = {"SOURCES", "HEADERS", "SUBDIRS",  "CONFIG",
                                                "QT",      "TARGET",  "TEMPLATE", "INCLUDEPATH",
                                                "LIBS",    "DEFINES", "FORMS",    "RESOURCES"};
  return !script.includes.empty() ||
         std::any_of(std::begin(kKnown), std::end(kKnown),
                     [&](std::string_view name) { return script.variables.contains(std::string(name)); });
}

enum class Use : std::uint8_t { source, file, folders, flags, projects, other };

Use use_of(const std::string& variable) {
  if (variable == "SOURCES" || variable == "OBJECTIVE_SOURCES") return Use::source;
  if (variable == "HEADERS" || variable == "OBJECTIVE_HEADERS" || variable == "FORMS" ||
      variable == "RESOURCES" || variable == "PRECOMPILED_HEADER" || variable == "TRANSLATIONS")
    return Use::file;
  if (variable == "INCLUDEPATH" || variable == "DEPENDPATH" || variable == "VPATH") return Use::folders;
  if (variable == "LIBS" || variable.find("FLAGS") != std::string::npos) return Use::flags;
  if (variable == "SUBDIRS" || variable.ends_with(".subdir") || variable.ends_with(".file"))
    return Use::projects;
  return Use::other;
}

// What a folder of SUBDIRS is spelled as, so that qmake finds the project in it.
std::string project_text(const RelPath& base, const RelPath& project) {
  RelPath folder = project.parent();
  std::string stem(project.name());
  stem.resize(stem.size() - project.extension().size());
  return relative_text(base, folder.name() == stem ? folder : project);
}

class QmakeEmitter {
 public:
  QmakeEmitter(const Reading& in, const RelPath& project)
      : in_(in),
        project_(project),
        script_(qmake::read_script(in.tree, project, in.out)),
        base_{project.parent(), in.out.files().index(project), Space::tree} {}

  const qmake::Script& script() const { return script_; }

  void run() {
    for (const qmake::Word& word : script_.includes) {
      FileIndex file = word.file;
      RelPath folder = in_.out.files().path(file).parent();
      add_leading(in_.out, in_.tree,
                  Reference::of(Role::script, in_.self, {word.site}, {folder, file, Space::tree}, word.text));
    }
    for (const auto& [name, words] : script_.variables) {
      Use use = use_of(name);
      for (std::size_t i = 0; i < words.size(); ++i) {
        if (use == Use::projects) {
          project(words[i], name.ends_with(".file"));
        } else {
          put(words, i, use);
        }
      }
    }
    for (const qmake::Word& word : script_.arguments) plain(word, Role::argument, false);
    compile();
  }

 private:
  void put(const std::vector<qmake::Word>& words, std::size_t i, Use use) {
    const qmake::Word& word = words[i];
    if (use == Use::source) {
      if (auto path = plain(word, Role::source, true)) sources_.push_back(*path);
    } else if (use == Use::file) {
      plain(word, Role::listed, true);
    } else if (use == Use::folders) {
      root(word, 0);
    } else if (use == Use::flags) {
      flag(words, i);
    } else {
      plain(word, Role::listed, false);
    }
  }

  std::optional<RelPath> plain(const qmake::Word& word, Role role, bool is_file) {
    std::string text = word.text.text();
    if (text.empty() || word.text.is_only_holes()) return std::nullopt;
    // Bare words of other variables are modules and settings.
    if (!is_file && text.find_first_of("./") == std::string::npos) return std::nullopt;
    Reference reference = Reference::of(role, in_.self, {word.site}, base_, word.text);
    if (has_wildcard(text) && !word.text.has_hole()) {
      reference.kind = GlobPattern{};
      std::vector<RelPath> found = match_paths(in_.tree, base_.folder, text);
      if (role == Role::source) sources_.insert(sources_.end(), found.begin(), found.end());
      reference.lead_to(std::move(found));
      if (!reference.targets.empty()) in_.out.add(std::move(reference).likely());
      return std::nullopt;
    }
    if (goes_to_build(reference)) return std::nullopt;
    reference.in_list = role != Role::argument;
    if (is_file) look_in_vpath(reference);
    if (!is_file) reference = std::move(reference).likely();
    auto path = word.text.has_hole() ? std::nullopt : leads_to(in_.tree, reference);
    if (!reference.targets.empty()) {
      path = reference.targets.front().path;
      in_.out.add(std::move(reference));
    } else {
      add_leading(in_.out, in_.tree, std::move(reference), is_file ? IfMissing::dangling : IfMissing::skip);
    }
    return path;
  }

  // What is not where its word says is looked for in the folders of VPATH.
  void look_in_vpath(Reference& reference) const {
    std::string text = reference.text.text();
    Place here = place_of(base_.folder, text);
    auto folders = script_.variables.find("VPATH");
    bool is_bare = !reference.text.has_hole() && here.space == Space::tree && !in_.tree.find(here.path);
    if (!is_bare || folders == script_.variables.end()) return;
    for (const qmake::Word& folder : folders->second) {
      Place at = folder.text.has_hole() ? Place() : place_of(base_.folder, folder.text.text());
      if (at.space != Space::tree) continue;
      reference.search.push_back({at.path, kNoFile, Space::tree});
      auto found = RelPath::resolve(at.path, text);
      if (found && in_.tree.is_file(*found) && !in_.tree.find(*found)->ignored && reference.targets.empty())
        reference.lead_to(*found);
    }
  }

  void root(const qmake::Word& word, std::size_t skip) {
    TracedText text = word.text.substr(skip);
    if (text.empty() || text.is_only_holes()) return;
    Reference reference = Reference::of(Role::search_root, in_.self, {word.site}, base_, std::move(text));
    reference.in_list = true;
    Place place = reference.text.has_hole() ? Place() : place_of(base_.folder, reference.text.text());
    bool is_folder = place.space == Space::tree && (place.path.is_root() || in_.tree.is_folder(place.path));
    if (skip == 0 && (is_folder || place.space == Space::build)) {
      roots_.push_back({place, false});
      root_words_.push_back(word.text);
    }
    if (!goes_to_build(reference)) add_leading(in_.out, in_.tree, std::move(reference));
  }

  // Adds a reference to a place of the build tree, where qmake mirrors the folders of projects.
  bool goes_to_build(const Reference& reference) {
    Place place = reference.text.has_hole() ? Place() : place_of(base_.folder, reference.text.text());
    if (place.space != Space::build) return false;
    Reference out = reference;
    out.lead_to(place.path, Target::Kind::build);
    in_.out.add(std::move(out));
    return true;
  }

  // -L../lib, -I../inc, -L ../lib, ../lib/libtide.a
  void flag(const std::vector<qmake::Word>& words, std::size_t i) {
    std::string text = words[i].text.text();
    std::string before = i > 0 ? words[i - 1].text.text() : "";
    if (text.starts_with("-L") || text.starts_with("-I")) {
      if (text.size() > 2) root(words[i], 2);
    } else if (before == "-L" || before == "-I") {
      root(words[i], 0);
    } else if (!text.starts_with("-")) {
      plain(words[i], Role::argument, false);
    }
  }

  // A folder whose project bears its name, a project, or a name that .subdir or .file explain.
  void project(const qmake::Word& word, bool is_file) {
    std::string text = word.text.text();
    if (word.text.has_hole() || script_.variables.contains(text + ".file") ||
        script_.variables.contains(text + ".subdir"))
      return;
    Place place = place_of(base_.folder, text);
    if (place.space != Space::tree || place.path.is_root()) return;
    RelPath target = place.path;
    if (in_.tree.is_folder(target)) target = target / (std::string(target.name()) + ".pro");
    Reference reference = Reference::of(Role::subfolder, in_.self, {{base_.anchor, 0}}, base_, word.text);
    if (!in_.tree.is_file(target)) {
      add_leading(in_.out, in_.tree, std::move(reference));
      return;
    }
    // Whichever line says where it is, it is the same project.
    reference = std::move(reference).in(ConstructPart::of(target)).leading_to(target);
    in_.out.add(is_file ? std::move(reference) : std::move(reference).spelled_by_format());
  }

  void compile() {
    if (sources_.empty()) return;
    Context context;
    context.roots.push_back({{Space::tree, base_.folder}, false});
    context.roots.push_back({{Space::build, base_.folder}, false});
    context.roots.insert(context.roots.end(), roots_.begin(), roots_.end());
    context.open = true;  // what qmake's own settings add
    context.tool = "qmake";
    ContextIndex number = in_.out.context(std::move(context));
    std::vector<Unit>& units = in_.out.graph().units;
    units.push_back({std::string(project_.name()), in_.self, {base_.anchor, 0}, root_words_});
    for (const RelPath& source : sources_)
      in_.out.compile(source, number, static_cast<std::int32_t>(units.size()) - 1);
  }

  const Reading& in_;
  const RelPath& project_;
  qmake::Script script_;
  Base base_;
  std::vector<RelPath> sources_;
  std::vector<SearchRoot> roots_;
  std::vector<TracedText> root_words_;
};

class QmakeFormat : public Format, public ReadsWhole, public Spellings, public SearchRoots {
 public:
  std::string_view name() const override { return "qmake"; }
  std::string_view unit_kind() const override { return "project"; }
  ScopeSet gives() const override { return Scope::search_roots; }
  bool claims(const RelPath& path) const override { return is_project(path) || path.extension() == ".pri"; }

  // Parts that no project includes are read by themselves.
  void read(const Reading& in) const override {
    std::set<RelPath> done;
    for (bool projects : {true, false}) {
      in.each([&](const RelPath& path, const Bytes& bytes) {
        if (is_project(path) != projects || done.contains(path)) return false;
        // Clauses of Prolog, which is no tool that builds.
        if (projects && bytes->find(":-\n") != std::string::npos) return false;
        QmakeEmitter emitter(in, path);
        if (is_binary(*bytes) || (projects && !is_of_qmake(emitter.script()))) {
          in.out.incomplete(Unread::garbled, "garbled-project", path, std::nullopt,
                            "has the ending of a project of qmake, is none, and is not read");
          return false;
        }
        done.insert(emitter.script().files.begin(), emitter.script().files.end());
        emitter.run();
        return true;
      });
    }
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    if (need.wanted.size() != 1 || pieces.size() != 1 || !pieces.front().has_origin()) return {};
    const RelPath& file = need.graph.files.path(pieces.front().file);
    std::string text = project_text(need.new_base, need.wanted.front().path);
    auto written = write(text, pieces.front().style);
    if (!written) return {};
    auto at = known_by_name(need, pieces.front());
    if (!at) return {{{Edit{file, pieces.front().span, *written}}, ""}};
    std::string line =
        pieces.front().text + (text.ends_with(".pro") ? ".file = " : ".subdir = ") + *written + "\n";
    return {{{Edit{file, {*at, *at}, line, pieces.front().text}}, ""}};
  }

  // One more folder behind the last, or a line of its own.
  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    const RelPath& project = graph.files.path(unit.site.file);
    auto text = write(relative_text(project.parent(), root), qmake::kBare);
    auto bytes = tree.read(project);
    if (!text || !bytes) return {};
    for (auto word = unit.root_words.rbegin(); word != unit.root_words.rend(); ++word) {
      const std::vector<Piece>& pieces = word->pieces();
      bool is_own = pieces.size() == 1 && pieces.front().has_origin() &&
                    pieces.front().style == qmake::kBare && graph.files.path(pieces.front().file) == project;
      if (!is_own) continue;
      std::uint32_t end = pieces.front().span.end;
      return {{{Edit{project, {end, end}, " " + *text}}, ""}};
    }
    auto end = static_cast<std::uint32_t>((*bytes)->size());
    std::string lead = (*bytes)->ends_with('\n') ? "" : "\n";
    return {{{Edit{project, {end, end}, lead + "INCLUDEPATH += " + *text + "\n"}}, ""}};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool quoted = style == qmake::kQuoted;
    if (text.find_first_of(quoted ? "\"$\\\r\n" : " \t\"$\\#(){},\r\n") != std::string_view::npos)
      return std::nullopt;
    return std::string(text);
  }

 private:
  // Where the line begins whose word of SUBDIRS other lines know by its name, as app.depends does; that name
  // must stay.
  static std::optional<std::uint32_t> known_by_name(const RewriteRequest& need, const Piece& piece) {
    GraphBuilder scratch;
    qmake::Script script =
        qmake::read_script(need.tree, need.graph.files.path(need.reference.construct.front().file), scratch);
    bool is_known = false;
    std::optional<std::uint32_t> site;
    for (const auto& [name, words] : script.variables) {
      is_known = is_known || (name.starts_with(piece.text + ".") && !words.empty());
      for (const qmake::Word& word : words) {
        is_known = is_known || (name.ends_with(".depends") && word.text.text() == piece.text);
        if (name == "SUBDIRS" && word.text.first_origin().span == piece.span) site = word.site.offset;
      }
    }
    auto bytes = need.tree.read(need.graph.files.path(piece.file));
    if (!is_known || !site || !bytes) return std::nullopt;
    return static_cast<std::uint32_t>(line_begin(**bytes, *site));
  }
};

}  // namespace

std::unique_ptr<Format> qmake_format() {
  return std::make_unique<QmakeFormat>();
}

}  // namespace yc
