#include "formats/go/go_packages.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "words/go.h"

namespace yc::go {

namespace {

std::optional<std::string> text_of(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  return bytes ? std::optional(**bytes) : std::nullopt;
}

std::string shown(const RelPath& folder) {
  return folder.is_root() ? "the root" : folder.str();
}

class Judge {
 public:
  Judge(const TreeView& before, const TreeView& planned, const MoveSet& moves)
      : before_(before), planned_(planned), moves_(moves) {}

  std::vector<Blocker> run() {
    auto reader = [](const TreeReader& tree) {
      return [&tree](const RelPath& path) { return text_of(tree, path); };
    };
    old_ = modules_of(before_.files, reader(before_.tree));
    now_ = modules_of(planned_.files, reader(planned_.tree));
    std::set<RelPath> judged;
    for (const Move& move : moves_.files()) {
      if (!is_member(move.from)) continue;
      if (const auto* module = old_.around(move.from.parent()); !module || module->second.empty()) {
        without_module(move);
      } else {
        other_module(move);
      }
      if (move.from.parent() == move.to.parent()) {
        renamed(move);
      } else if (judged.insert(move.from.parent()).second) {
        package(move);
      }
    }
    if (judged.empty() && std::none_of(moves_.files().begin(), moves_.files().end(),
                                       [](const Move& move) { return move.from.name() == "go.mod"; }))
      return std::move(out_);
    imports();
    if (!judged.empty()) expected_texts(judged);
    return std::move(out_);
  }

 private:
  bool is_left_out(const TreeReader& tree, const RelPath& path) const {
    auto text = text_of(tree, path);
    return text && scan_source(*text).is_left_out;
  }

  // Whether a file is compiled as a part of the package in its folder.
  bool is_member(const RelPath& path) const {
    if (is_source(path)) return !is_left_out(before_.tree, path);
    bool with_c = words::go::c_endings().contains(path.extension());
    if (!with_c && !words::go::assembler_endings().contains(path.extension())) return false;
    RelPath folder = path.parent();
    for (const std::string& name : before_.tree.children(folder)) {
      RelPath beside = folder / name;
      if (!is_source(beside) || !before_.tree.is_file(beside)) continue;
      auto text = text_of(before_.tree, beside);
      if (text && (!with_c || scan_source(*text).uses_c)) return true;
    }
    return false;
  }

  // Nobody knows by which path others import it. A program of one file that imports what comes with Go is
  // nobody's.
  void without_module(const Move& move) {
    auto text = is_source(move.from) ? text_of(before_.tree, move.from) : std::nullopt;
    if (!text) return;
    SourceFacts facts = scan_source(*text);
    bool comes_with_go = std::all_of(facts.imports.begin(), facts.imports.end(), [](const Import& import) {
      return import.path.substr(0, import.path.find('/')).find('.') == std::string::npos;
    });
    if (facts.package == "main" && comes_with_go) return;
    if (!without_module_.insert(move.from.parent()).second) return;
    out_.push_back(
        {"go-module",
         move.from,
         {},
         std::string(move.from.name()),
         "stands in no module that others name (there is no go.mod for it), so nobody knows by which path it "
         "is imported",
         "let the project's own build judge: give its command behind the move (… -- BUILD COMMAND), or add "
         "--accept-unseen to move anyway, unproved",
         Blocker::Bearing::stands_for_all});
  }

  // What it imports from outside the tree, the module that it joins may not require.
  void other_module(const Move& move) {
    const auto* was = old_.around(move.from.parent());
    const auto* is = now_.around(move.to.parent());
    auto text = is && was->second != is->second && is_source(move.from) ? text_of(before_.tree, move.from)
                                                                        : std::nullopt;
    if (!text) return;
    for (const Import& import : scan_source(*text).imports) {
      bool comes_with_go = import.path.substr(0, import.path.find('/')).find('.') == std::string::npos;
      if (comes_with_go || now_.folder_of(import.path)) continue;
      out_.push_back(
          {"go-module", move.from, import.span, import.path,
           fmt::format("is imported in {}, which would be of the module {} instead of {}, and may not be "
                       "required there",
                       move.from.str(), is->second, was->second),
           "add the requirement to its go.mod first, and move with --accept-unseen, or stay in the module",
           Blocker::Bearing::tells_why});
      return;
    }
  }

  // Patterns such as "./..." pass over some folders.
  static bool is_passed_over(const RelPath& folder) {
    for (std::string_view part : folder.components()) {
      if (part.starts_with('_') || part.starts_with('.') || part == "testdata" || part == "vendor")
        return true;
    }
    return false;
  }

  void renamed(const Move& move) {
    std::string was = constraint_of(move.from.name()), is = constraint_of(move.to.name());
    if (was == is && is_source(move.from) == is_source(move.to)) return;
    out_.push_back(
        {"go-constraint",
         move.from,
         {},
         std::string(move.from.name()),
         fmt::format("is taken by {}, and {} would be by {}", takers(was), move.to.name(), takers(is)),
         "choose a name that ends in the same \"_test\", system and processor",
         Blocker::Bearing::tells_why});
  }

  static std::string takers(const std::string& constraint) {
    if (constraint.empty()) return "every build";
    if (constraint == "nothing") return "no build";
    bool is_test = constraint.ends_with("_test");
    std::string systems = constraint.substr(0, constraint.size() - (is_test ? 5 : 0));
    std::string out = is_test ? "tests" : "builds";
    return systems.empty() ? out + " only" : out + " for " + systems.substr(1) + " only";
  }

  // A folder is a package: all its sources go to one folder that holds no others.
  void package(const Move& move) {
    RelPath from = move.from.parent(), to = move.to.parent();
    if (is_passed_over(from) != is_passed_over(to)) {
      tell(move,
           fmt::format("lies in {}, which patterns like \"./...\" {}, and would go to {}, which they {}",
                       shown(from), is_passed_over(from) ? "pass over" : "take in", shown(to),
                       is_passed_over(to) ? "pass over" : "take in"),
           is_passed_over(from) ? "choose a folder that they pass over as well"
                                : "choose a folder that they take in as well");
    }
    std::vector<std::string> stay, met;
    for (const std::string& name : before_.tree.children(from)) {
      RelPath beside = from / name;
      if (is_source(beside) && before_.tree.is_file(beside) && moves_.map_file(beside).parent() != to &&
          !is_left_out(before_.tree, beside))
        stay.push_back(name);
    }
    for (const std::string& name : planned_.tree.children(to)) {
      RelPath beside = to / name;
      if (is_source(beside) && planned_.tree.is_file(beside) && moves_.unmap_file(beside).parent() != from &&
          !is_left_out(planned_.tree, beside))
        met.push_back(name);
    }
    if (!stay.empty()) {
      tell(
          move,
          fmt::format(
              "is a part of the package in {}, where {}{} would stay: what they name of each other would be "
              "in two packages",
              shown(from), stay.front(), stay.size() > 1 ? " and others" : ""),
          "move all sources of the folder to one folder, or make what they share a package of its own first");
    } else if (!met.empty()) {
      tell(move, fmt::format("would lie in {} with {}, which is of another package", shown(to), met.front()),
           "move the package to a folder without Go sources");
    }
    if (constraint_of(move.from.name()) != constraint_of(move.to.name())) renamed(move);
  }

  void tell(const Move& move, std::string reason, std::string next) {
    out_.push_back({"go-package",
                    move.from,
                    {},
                    std::string(move.from.name()),
                    std::move(reason),
                    std::move(next),
                    Blocker::Bearing::stands_for_all});
  }

  // What a program prints of itself has its import path in it, and test data may hold what it should print.
  void expected_texts(const std::set<RelPath>& packages) {
    for (const RelPath& path : before_.tree.files()) {
      std::vector<std::string_view> parts = path.components();
      const Entry* entry = before_.tree.find(path);
      bool is_data = std::find(parts.begin(), parts.end(), "testdata") != parts.end() && !is_source(path) &&
                     entry && entry->kind == EntryKind::file && entry->size < 4'000'000;
      auto text = is_data ? text_of(before_.tree, path) : std::nullopt;
      for (const RelPath& folder : text ? packages : std::set<RelPath>()) {
        auto name = old_.import_path(folder);
        std::size_t at = name ? text->find(*name) : std::string::npos;
        if (at == std::string::npos) continue;
        out_.push_back({"unseen", path, span_of(at, at + name->size()), *name,
                        "is the import path of what moves, in test data: a test may compare it with what a "
                        "program prints",
                        "edit it to the new path, let a build judge (… -- BUILD COMMAND), settle it for good "
                        "(--settle FILE:LINE), "
                        "or add --accept-unseen",
                        Blocker::Bearing::by_itself, true});
      }
    }
  }

  // Whether a module replaces another one by its folder, or a workspace takes in both, so that one finds the
  // other.
  bool finds(const RelPath& user, const RelPath& used) const {
    auto own = text_of(planned_.tree, user / "go.mod");
    for (const FolderWord& word : own ? scan_mod(*own).folders : std::vector<FolderWord>()) {
      if (RelPath::resolve(user, word.text) == used) return true;
    }
    return in_one_workspace(user, used);
  }

  bool in_one_workspace(const RelPath& a, const RelPath& b) const {
    for (const RelPath& file : planned_.files) {
      auto text = file.name() == "go.work" ? text_of(planned_.tree, file) : std::nullopt;
      if (!text) continue;
      std::set<RelPath> used;
      for (const FolderWord& word : scan_mod(*text).folders) {
        if (auto folder = RelPath::resolve(file.parent(), word.text)) used.insert(*folder);
      }
      if (used.contains(a) && used.contains(b)) return true;
    }
    return false;
  }

  void imports() {
    std::set<std::pair<RelPath, RelPath>> told;
    for (const Reference& reference : planned_.graph.references) {
      if (reference.role != Role::module || reference.targets.empty() || reference.construct.empty())
        continue;
      const RelPath& user = planned_.graph.files.path(reference.construct.front().file);
      RelPath folder = reference.targets.front().path.parent(), importer = user.parent();
      if (!is_source(user) || !told.emplace(importer, folder).second) continue;
      if (!moves_.moves(moves_.unmap_file(user)) &&
          !moves_.moves(moves_.unmap_file(reference.targets.front().path)))
        continue;
      judge_import(user, reference.targets.front().path);
    }
  }

  void judge_import(const RelPath& user, const RelPath& target) {
    auto path = now_.import_path(target.parent()), importer = now_.import_path(user.parent());
    if (!path || !importer) return;
    RelPath user_was = moves_.unmap_file(user), target_was = moves_.unmap_file(target);
    // "An import of a path containing the element “internal” is disallowed if the importing code is outside
    // the tree rooted at the parent of the “internal” directory."
    std::string around = "/" + *path + "/";
    std::size_t at = around.rfind("/internal/");
    std::string parent = at == std::string::npos ? "" : around.substr(0, at + 1);
    if (!parent.empty() && !("/" + *importer + "/").starts_with(parent)) {
      out_.push_back(
          {"go-internal",
           user_was,
           {},
           *path,
           fmt::format(
               "would be imported from {}, which lies outside of {}: what is below a folder \"internal\" "
               "is for that folder's parent alone",
               *importer, parent.size() > 1 ? parent.substr(1, parent.size() - 2) : "the root"),
           "keep both below the parent of \"internal\", or move the package out of it in the same sheet",
           Blocker::Bearing::tells_why});
      return;
    }
    const auto* own = now_.around(user.parent());
    const auto* other = now_.around(target.parent());
    const auto* own_was = old_.around(user_was.parent());
    const auto* other_was = old_.around(target_was.parent());
    bool were_one = own_was && other_was && own_was->second == other_was->second;
    bool are_one = own && other && own->second == other->second;
    if (!were_one || are_one || (own && other && finds(own->first, other->first))) return;
    out_.push_back({"go-module",
                    user_was,
                    {},
                    *path,
                    fmt::format("would be of the module {}, and {}, which imports it, of {}",
                                other ? other->second : "none", user.str(), own ? own->second : "none"),
                    "add a requirement and a replacement to go.mod, or a go.work that uses both, first",
                    Blocker::Bearing::tells_why});
  }

  const TreeView& before_;
  const TreeView& planned_;
  const MoveSet& moves_;
  Modules old_, now_;
  std::set<RelPath> without_module_;  // folders that were told of
  std::vector<Blocker> out_;
};

}  // namespace

bool is_source(const RelPath& path) {
  return path.extension() == ".go";
}

std::string constraint_of(std::string_view name) {
  std::string_view stem = name.substr(0, name.rfind('.'));
  std::string out;
  if (name.starts_with('_') || name.starts_with('.')) return "nothing";
  if (stem.ends_with("_test")) {
    out = "_test";
    stem.remove_suffix(out.size());
  }
  auto last = [&]() -> std::string_view {
    std::size_t at = stem.rfind('_');
    return at == std::string_view::npos ? std::string_view() : stem.substr(at + 1);
  };
  std::string_view end = last();
  if (words::go::processors().contains(end)) {
    out = "_" + std::string(end) + out;
    stem.remove_suffix(end.size() + 1);
    end = last();
  }
  if (words::go::systems().contains(end)) out = "_" + std::string(end) + out;
  return out;
}

std::vector<Blocker> package_consequences(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) {
  return Judge(before, planned, moves).run();
}

}  // namespace yc::go
