#include "inspect/managed.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "formats/capabilities/members.h"
#include "formats/mirrored_folders.h"

namespace yc {

namespace {

// A member that a project lists by name.
struct Member {
  RelPath path;
  std::int32_t reference = -1;
};

// A nested repository that is named in .gitmodules and not there, or empty.
struct NestedPath {
  RelPath path;
  Span span;
};

std::vector<NestedPath> missing_submodules(const TreeReader& tree) {
  std::vector<NestedPath> out;
  auto bytes = tree.read(RelPath::from_normal(".gitmodules"));
  if (!bytes) return out;
  std::string_view text = **bytes;
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = std::min(text.find('\n', at), text.size());
    std::string_view line = text.substr(at, end - at);
    std::size_t begin = line.find_first_not_of(" \t"), equals = line.find('=');
    std::size_t offset = at;
    at = end + 1;
    if (begin == std::string_view::npos || !line.substr(begin).starts_with("path") ||
        equals == std::string_view::npos)
      continue;
    std::size_t first = line.find_first_not_of(" \t", equals + 1);
    if (first == std::string_view::npos) continue;
    auto path = RelPath::resolve({}, line.substr(first));
    if (path && tree.children(*path).empty()) out.push_back({*path, span_of(offset + first, end)});
  }
  return out;
}

class Checker {
 public:
  Checker(const TreeReader& tree, const ReferenceGraph& graph) : tree_(tree), graph_(graph) {}

  std::vector<ManagedFinding> run() {
    collect();
    for (const auto& [project, members] : projects_) {
      twice(project, members);
      unlisted(project, members);
    }
    wrong_case();
    for (const VirtualPlace& place : graph_.virtual_places) note_place(place);
    unmirrored();
    submodules();
    return std::move(out_);
  }

  std::vector<ManagedFinding> as_unlisted(const RelPath& path) {
    collect();
    out_.clear();
    for (const auto& [project, members] : projects_) {
      auto like = std::find_if(members.begin(), members.end(), [&](const Member& member) {
        return member.path.parent() == path.parent() && member.path.extension() == path.extension();
      });
      if (like == members.end() || known_[project].contains(path) || taken_in_[project].contains(path))
        continue;
      add("unlisted", like->reference, path, "does not list " + path.str());
    }
    return std::move(out_);
  }

 private:
  void collect() {
    for (std::size_t i = 0; i < graph_.references.size(); ++i) {
      const Reference& reference = graph_.references[i];
      if (reference.construct.empty() || !offer<MemberLists>(reference.format)) continue;
      RelPath project = graph_.files.path(reference.construct.front().file);
      auto number = static_cast<std::int32_t>(i);
      bool member = reference.role == Role::source && !reference.is_pattern() && !reference.excludes;
      if (reference.is_pattern() && reference.role == Role::pattern) {
        for (const Target& target : reference.targets) taken_in_[project].insert(target.path);
      }
      if (reference.dangling && reference.role != Role::script)
        add("dangling", number, {}, "");  // the message is that of every reference which leads nowhere
      if (member && reference.targets.size() == 1 && !reference.dangling)
        projects_[project].push_back({reference.targets.front().path, number});
      // Headers and the like are listed too, and known by that.
      if (reference.targets.size() == 1) known_[project].insert(reference.targets.front().path);
    }
  }

  void add(const std::string& id, std::int32_t number, const RelPath& path, std::string message,
           std::string suggestion = "") {
    ManagedFinding out;
    const Reference& reference = graph_.references[static_cast<std::size_t>(number)];
    Seen seen = as_seen(graph_, reference);
    out.finding.id = id;
    out.finding.file = seen.file;
    out.finding.span = seen.span;
    out.finding.has_place = seen.has_place;
    out.finding.message = std::move(message);
    out.finding.suggestion = std::move(suggestion);
    out.path = path;
    out.reference = number;
    out_.push_back(std::move(out));
  }

  void twice(const RelPath&, const std::vector<Member>& members) {
    std::map<std::pair<ConstructPart, RelPath>, std::int32_t> seen;  // by kind of item and path
    for (const Member& member : members) {
      const Reference& reference = graph_.references[static_cast<std::size_t>(member.reference)];
      auto [first, fresh] = seen.emplace(std::pair{reference.construct_part, member.path}, member.reference);
      if (fresh) continue;
      const Reference& before = graph_.references[static_cast<std::size_t>(first->second)];
      Passage one = before.text.first_origin(), other = reference.text.first_origin();
      if (one == other) continue;  // one word that means several things
      add("listed-twice", member.reference, member.path,
          fmt::format("lists {} a second time", member.path.str()));
    }
  }

  // A file beside three times as many listed ones of its kind was most likely forgotten.
  void unlisted(const RelPath& project, const std::vector<Member>& members) {
    std::map<std::pair<RelPath, std::string>, std::vector<const Member*>> kinds;
    for (const Member& member : members) {
      std::string ending(member.path.extension());
      kinds[{member.path.parent(), ending}].push_back(&member);
    }
    const std::set<RelPath>& known = known_[project];
    const std::set<RelPath>& taken_in = taken_in_[project];
    for (const auto& [kind, listed] : kinds) {
      const auto& [folder, ending] = kind;
      std::vector<RelPath> missing;
      for (const std::string& name : tree_.children(folder)) {
        RelPath path = folder / name;
        const Entry* entry = tree_.find(path);
        bool counts =
            path.extension() == ending && entry && entry->kind == EntryKind::file && !entry->ignored;
        if (counts && !known.contains(path) && !taken_in.contains(path)) missing.push_back(path);
      }
      if (ending.empty() || listed.size() < 3 * missing.size()) continue;
      for (const RelPath& path : missing) {
        add("unlisted", listed.back()->reference, path,
            fmt::format("does not list {}, which is on disk beside {} that it lists", path.str(),
                        listed.size()));
        out_.back().finding.file = project;
        out_.back().finding.has_place = false;
      }
    }
  }

  void wrong_case() {
    std::set<std::pair<FileIndex, std::uint32_t>> seen;
    for (std::size_t i = 0; i < graph_.references.size(); ++i) {
      const Reference& reference = graph_.references[i];
      bool plain = reference.targets.size() == 1 && !reference.is_pattern() &&
                   !reference.has_own_spelling() && reference.targets.front().kind == Target::Kind::tree &&
                   !reference.text.has_hole() && offer<IgnoresCase>(reference.format);
      if (!plain || reference.text.empty()) continue;
      Place place = place_of(reference.base.folder, reference.text.text(), reference.base.space);
      const RelPath& path = reference.targets.front().path;
      if (place.space != Space::tree || place.path == path || !same_name(place.path.str(), path.str()))
        continue;
      Passage origin = reference.text.first_origin();
      if (!seen.emplace(origin.file, origin.span.begin).second) continue;
      add("wrong-case", static_cast<std::int32_t>(i), path,
          fmt::format("{} is {} on disk; a system that tells letters apart by their case finds nothing",
                      reference.text.text(), path.str()),
          path.str());
    }
  }

  void note_place(const VirtualPlace& place) { places_[place.list].push_back(&place); }

  // Where most virtual folders of a list end as the folders on disk do, one that does not has been left
  // behind.
  void unmirrored() {
    for (const auto& [list, places] : places_) {
      std::size_t mirror = 0;
      auto mirrors = [](const VirtualPlace& place) {
        RelPath folder = place.path.parent();
        std::vector<std::string_view> shown = folder_parts(place.shown), disk = folder.components();
        return !shown.empty() && !disk.empty() && same_name(shown.back(), disk.back());
      };
      for (const VirtualPlace* place : places) mirror += mirrors(*place);
      if (mirror < 3 || mirror * 10 < places.size() * 8) continue;
      for (const VirtualPlace* place : places) {
        if (mirrors(*place)) continue;
        ManagedFinding out;
        out.finding.id = "unmirrored";
        out.finding.file = list;
        out.finding.span = place->span;
        out.finding.has_place = true;
        out.finding.message =
            fmt::format("shows {} in {}, while the others mirror the disk", place->path.str(),
                        place->shown.empty() ? "no folder" : place->shown);
        out.path = place->path;
        out_.push_back(std::move(out));
      }
    }
  }

  // A clone that was not filled lacks nothing but one command.
  void submodules() {
    for (const NestedPath& nested : missing_submodules(tree_)) {
      ManagedFinding out;
      out.finding = {
          "missing-submodule", RelPath::from_normal(".gitmodules"), nested.span, true, "", "", true};
      out.finding.message = fmt::format(
          "the nested repository {0} is not checked out; git submodule update --init {0} fetches it",
          nested.path.str());
      out.path = nested.path;
      out_.push_back(std::move(out));
    }
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  std::map<RelPath, std::vector<Member>> projects_;
  std::map<RelPath, std::set<RelPath>> known_, taken_in_;
  std::map<RelPath, std::vector<const VirtualPlace*>> places_;
  std::vector<ManagedFinding> out_;
};

}  // namespace

std::vector<ManagedFinding> as_unlisted(const TreeReader& tree, const ReferenceGraph& graph,
                                        const RelPath& path) {
  return Checker(tree, graph).as_unlisted(path);
}

std::vector<RelPath> missing_repositories(const TreeReader& tree) {
  std::vector<RelPath> out;
  for (NestedPath& nested : missing_submodules(tree)) out.push_back(std::move(nested.path));
  return out;
}

std::vector<ManagedFinding> check_managed(const TreeReader& tree, const ReferenceGraph& graph) {
  return Checker(tree, graph).run();
}

}  // namespace yc
