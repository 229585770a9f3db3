// CMake as a format: finds the projects of a tree, runs each in as many branches as it needs, respells
// arguments.
#include <algorithm>

#include "formats/capabilities/carving.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/shared_definitions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/cmake/cmake.h"
#include "formats/cmake/cmake_carver.h"
#include "formats/cmake/cmake_evaluation.h"
#include "formats/cmake/cmake_meta_objects.h"
#include "formats/cmake/cmake_proposals.h"
#include "formats/cmake/cmake_shared.h"
#include "formats/cmake/cmake_subfolders.h"
#include "formats/kept_parts.h"
#include "model/graph_archive.h"

namespace yc {

namespace {

using cmake::Argument;
using cmake::Command;

constexpr std::size_t kMostCMakeBranches = 96;
constexpr std::size_t kMostLooseBranches = 16;

// The argument that holds a byte range, and the command it belongs to.
struct FoundScripts {
  Command command;
  std::size_t argument = 0;
};

std::optional<FoundScripts> find_argument(std::string_view bytes, Span literal) {
  for (Command& command : cmake::parse(bytes).commands) {
    if (!command.span.holds(literal)) continue;
    for (std::size_t i = 0; i < command.arguments.size(); ++i) {
      if (command.arguments[i].span.holds(literal)) return FoundScripts{std::move(command), i};
    }
  }
  return std::nullopt;
}

// Names that no side of any conditional gives to a target. Those of other projects' libraries are known by
// their own heads: "Qt6::Core".
void tell_unknown_targets(GraphBuilder& out, const cmake::Evaluation::Names& names) {
  std::set<std::string> heads;
  for (const std::string& name : names.known) {
    if (std::size_t cut = name.find("::"); cut != std::string::npos) heads.insert(name.substr(0, cut));
  }
  for (const auto& [name, place] : names.wanted) {
    std::size_t cut = name.find("::");
    bool is_own = cut == std::string::npos ? !names.may_be_fetched : heads.contains(name.substr(0, cut));
    if (!is_own || names.known.contains(name) || place.file == kNoFile) continue;
    out.notice("unknown-target", out.files().path(place.file), place.span,
               "names a target " + name + ", and no script here makes one of that name");
  }
}

// Reads the project that begins with a script. Gives the scripts that are a part of it, packed.
std::string cmake_project(const Reading& in, const RelPath& top, cmake::ParsedScripts& parsed) {
  std::set<RelPath> read;
  std::set<FileIndex> left_out;
  cmake::Evaluation::Names names;
  BranchExplorer branches(kMostCMakeBranches);
  while (branches.next()) {
    cmake::Evaluation evaluation(in.tree, in.out, in.self, branches, parsed);
    evaluation.run_project(top);
    read.insert(evaluation.read_scripts().begin(), evaluation.read_scripts().end());
    names.known.insert(evaluation.names().known.begin(), evaluation.names().known.end());
    names.wanted.insert(evaluation.names().wanted.begin(), evaluation.names().wanted.end());
    names.may_be_fetched = names.may_be_fetched || evaluation.names().may_be_fetched;
    left_out = branches.left_out();
  }
  in.count_runs(branches.runs());
  tell_left_out(in.out, left_out);
  if (left_out.empty()) tell_unknown_targets(in.out, names);
  return packed(in.cache.parts().tables(), [&](Output& to) { to(read); });
}

// Whether a script names anything that can be known, wherever it is started. Templates have the ending, too:
// "config.h.cmake".
bool tells_paths(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.read(path);
  if (!bytes || is_binary(**bytes)) return false;
  constexpr std::string_view kFolders[] = {"_LIST_DIR}", "_LIST_FILE}", "_SOURCE_DIR}"};
  bool any = std::any_of(std::begin(kFolders), std::end(kFolders), [&](std::string_view folder) {
    return (*bytes)->find(folder) != std::string::npos;
  });
  return any && cmake::parse(**bytes).problems.empty();
}

// The folder of the topmost project around a script; its own without one.
RelPath top_folder(const TreeReader& tree, const RelPath& script) {
  RelPath out = script.parent();
  for (RelPath up = out;; up = up.parent()) {
    if (tree.is_file(up / "CMakeLists.txt")) out = up;
    if (up.is_root()) return out;
  }
}

// Reads a script that no project includes: a toolchain's, or one that "cmake -P" runs.
std::string loose_script(const Reading& in, const RelPath& script, cmake::ParsedScripts& parsed) {
  std::set<RelPath> read;
  BranchExplorer branches(kMostLooseBranches);
  while (branches.next()) {
    cmake::Evaluation evaluation(in.tree, in.out, in.self, branches, parsed);
    evaluation.run_loose(script, top_folder(in.tree, script));
    read.insert(evaluation.read_scripts().begin(), evaluation.read_scripts().end());
  }
  in.count_runs(branches.runs());
  tell_left_out(in.out, branches.left_out());
  return packed(in.cache.parts().tables(), [&](Output& to) { to(read); });
}

// What is installed lies beside other files where it is used, as does what configure_file() makes of a
// script.
std::set<RelPath> scripts_for_others(const ReferenceGraph& graph) {
  std::set<RelPath> out;
  for (const auto& [input, made] : graph.templates) out.insert(input);
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::listed) continue;
    for (const Target& target : reference.targets) {
      if (target.path.extension() == ".cmake") out.insert(target.path);
    }
  }
  return out;
}

class CMakeFormat : public Format,
                    public ListWords,
                    public Spellings,
                    public PatternLists,
                    public Consequences,
                    public NeededChanges,
                    public Carving,
                    public SearchRoots,
                    public SharedDefinitions {
 public:
  std::string_view name() const override { return "cmake"; }
  ScopeSet gives() const override {
    return Scope::search_roots | Scope::products | ScopeSet(Scope::copies) | Scope::installed | Scope::starts;
  }

  bool claims(const RelPath& path) const override {
    return path.extension() == ".cmake" || path.name() == "CMakeLists.txt";
  }

  void read(const Reading& in) const override {
    std::vector<RelPath> tops, scripts;
    for (const RelPath& path : in.files) {
      if (in.tree.is_editable(path)) (path.name() == "CMakeLists.txt" ? tops : scripts).push_back(path);
    }
    in.count(tops.size() + scripts.size());
    std::sort(tops.begin(), tops.end(), [](const RelPath& a, const RelPath& b) {
      return std::pair(a.components().size(), a) < std::pair(b.components().size(), b);
    });
    cmake::ParsedScripts parsed;
    std::set<RelPath> included;
    auto take = [&](const RelPath& script, auto read_it, std::set<RelPath>& into) {
      std::string outcome =
          in.part(script.str(), [&](const Reading& part) { return read_it(part, script, parsed); });
      unpack(outcome, in.cache.parts().tables(), [&](Input& from) {
        std::set<RelPath> more;
        from(more);
        into.merge(more);
      });
    };
    for (const RelPath& top : tops) {
      if (!included.contains(top)) take(top, cmake_project, included);
    }
    // Each by itself, whichever of them includes which, for that may change.
    std::set<RelPath> not_run = scripts_for_others(in.out.graph()), others;
    for (const RelPath& script : scripts) {
      bool is_loose = !included.contains(script) && !not_run.contains(script);
      if (is_loose && tells_paths(in.tree, script)) take(script, loose_script, others);
    }
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style == cmake::kBracket)
      return text.find("]") == std::string_view::npos ? std::optional(std::string(text)) : std::nullopt;
    std::string out;
    for (char c : text) {
      if (c == '\n' || c == ';') return std::nullopt;
      bool special = c == '"' || c == '\\' || c == '$' ||
                     (style == cmake::kUnquoted && (c == ' ' || c == '(' || c == ')' || c == '#'));
      if (special) out += '\\';
      out += c;
    }
    return out;
  }

  const Carver& carver() const override { return cmake::carver(*this); }
  Span word_at(std::string_view bytes, Span literal) const override {
    auto found = find_argument(bytes, literal);
    return found ? found->command.arguments[found->argument].span : literal;
  }

  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    bool quoted = word.begin < bytes.size() && bytes[word.begin] == '"';
    // A text that brings its own ${…} is taken as it is.
    std::optional<std::string> written = text.substr(0, 2) == "${"
                                             ? std::optional(std::string(text))
                                             : write(text, quoted ? cmake::kQuoted : cmake::kUnquoted);
    if (!written) return std::nullopt;
    if (quoted) *written = "\"" + *written + "\"";
    return cmake::indent_of(bytes, word.begin).value_or(" ") + *written;
  }

  std::optional<Span> without(std::string_view bytes, Span word) const override {
    Span out = word;
    while (out.begin > 0 && (bytes[out.begin - 1] == ' ' || bytes[out.begin - 1] == '\t')) --out.begin;
    bool own_line = out.begin > 0 && bytes[out.begin - 1] == '\n' && out.end < bytes.size() &&
                    (bytes[out.end] == '\n' || bytes[out.end] == '\r' || bytes[out.end] == ')');
    if (own_line) {
      --out.begin;
      if (out.begin > 0 && bytes[out.begin - 1] == '\r') --out.begin;
    } else if (out.begin > 0 && bytes[out.begin - 1] == '(') {
      while (out.end < bytes.size() && (bytes[out.end] == ' ' || bytes[out.end] == '\t')) ++out.end;
    }
    return out;
  }

  std::vector<Change> share(const ClaimedTree& before) const override {
    return cmake::share_includes(before);
  }
  std::vector<Change> unshare(const ClaimedTree& before) const override {
    return cmake::unshare_includes(before);
  }

  std::vector<Proposal> early_proposals(const RewriteRequest& need) const override {
    return cmake::with_build_folder(*this, need);
  }
  std::optional<std::string> behind_folder(std::string_view expression,
                                           const std::string& relative) const override {
    auto written = write(relative, cmake::kUnquoted);
    bool is_variable = expression.starts_with("${") && expression.ends_with("}");
    return is_variable && written ? std::optional("/" + *written) : std::nullopt;
  }
  std::optional<Reason> why_not(const ReferenceGraph&, const Reference& reference, const RelPath&,
                                const RelPath&) const override {
    if (reference.construct_part != ConstructPart::tagged(cmake::kSetPart)) return std::nullopt;
    return Reason{"the files of a file set lie below its base folders",
                  "add the new folder to BASE_DIRS first, or move it to a place below one of them"};
  }
  // What an installation leaves out by its name stays out wherever it is called so, and need not be there.
  bool is_moot(const ReferenceGraph&, const ReferenceGraph&, const MoveSet& moves,
               const Reference& reference) const override {
    if (reference.construct_part != ConstructPart::tagged(cmake::kLeftOut)) return false;
    const RelPath& old = reference.targets.front().path;
    bool goes_whole = std::any_of(moves.requested().begin(), moves.requested().end(),
                                  [&](const Move& move) { return old.is_within(move.from); });
    std::optional<RelPath> now = moves.moves(old) ? moves.map_file(old) : moves.map_folder(old);
    return !goes_whole || !now || now->name() == old.name();
  }
  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    return cmake::listed_headers(*this, before, moves);
  }
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    return cmake::lacking_build_folders(before, planned, moves, *this);
  }
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    std::vector<Proposal> out = cmake::find_module(*this, need);
    std::vector<Proposal> more = cmake::single_out(*this, need);
    out.insert(out.end(), more.begin(), more.end());
    return out;
  }
  std::optional<Proposal> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                  const std::string& path, const TreeReader& tree) const override {
    return cmake::exclude(*this, graph, pattern, path, tree);
  }
  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    return cmake::add_search_root(*this, graph, unit, root, tree);
  }
};

}  // namespace

std::unique_ptr<Format> cmake_format() {
  return std::make_unique<CMakeFormat>();
}

}  // namespace yc
