#include <algorithm>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/reviews.h"
#include "formats/capabilities/shared_definitions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/unit_making.h"
#include "formats/capabilities/words.h"
#include "formats/kept_parts.h"
#include "formats/msbuild/central_versions.h"
#include "formats/msbuild/evaluation.h"
#include "formats/msbuild/kept_names.h"
#include "formats/msbuild/member_lists.h"
#include "formats/msbuild/msbuild.h"
#include "formats/msbuild/output_places.h"
#include "formats/msbuild/outside_places.h"
#include "formats/msbuild/project_files.h"
#include "formats/msbuild/project_maker.h"
#include "formats/msbuild/project_references.h"
#include "formats/msbuild/project_review.h"
#include "formats/msbuild/project_words.h"
#include "formats/msbuild/resource_lists.h"
#include "formats/msbuild/virtual_folders.h"
#include "formats/xml/xml_places.h"
#include "model/graph_archive.h"

namespace yc {

namespace {

using namespace msbuild;

// The solution that lists each project. Of several the folder may still be the same one.
Surroundings surroundings_of(const Scopes& scopes) {
  Surroundings out;
  for (const auto& item : scopes.solutions) {
    const RelPath& first = *item.second.begin();
    bool one_folder = std::all_of(item.second.begin(), item.second.end(), [&](const RelPath& solution) {
      return solution.parent() == first.parent();
    });
    if (one_folder) out.solution_of.emplace(item.first, first);
  }
  return out;
}

// Gives the files that are parts of the project, packed. Of what is around it, only its own solution counts.
std::string read_project(const Reading& in, const RelPath& path, const Surroundings& around) {
  Project project = evaluate(in.tree, in.cache, in.self, in.out.files(), path, around);
  if (!project.is_whole)
    in.out.incomplete(Unread::garbled, "garbled-project", path, std::nullopt,
                      "is, or imports, no well-formed XML and is not read whole");
  emit_project(in.tree, project, in.self, in.out);
  std::set<RelPath> parts;
  for (const Part& part : project.parts) parts.insert(part.path);
  return packed(in.cache.parts().tables(), [&](Output& to) { to(parts); });
}

bool is_filters(const RelPath& path) {
  return path.str().ends_with(".filters");
}

class MsbuildFormat : public Format,
                      public ListWords,
                      public PatternLists,
                      public FollowingNames,
                      public NeededChanges,
                      public SharedDefinitions,
                      public Consequences,
                      public MemberLists,
                      public Boundaries,
                      public Reviews,
                      public UnitMaking,
                      public SearchRoots,
                      public IgnoresCase {
 public:
  std::string_view name() const override { return "msbuild"; }
  ScopeSet gives() const override { return Scope::search_roots | Scope::copies; }
  ScopeSet needs() const override { return Scope::solutions; }

  std::vector<Change> share(const ClaimedTree& before) const override {
    return msbuild::share_versions(before);
  }
  std::vector<Change> unshare(const ClaimedTree& before) const override {
    return msbuild::unshare_versions(before);
  }

  bool claims(const RelPath& path) const override {
    return is_project(path) || is_imported(path) || is_filters(path) || path.extension() == ".resx";
  }

  void read(const Reading& in) const override {
    Surroundings around = surroundings_of(in.scopes);
    std::set<RelPath> read;
    std::size_t files = 0;
    auto take = [&](const RelPath& path) {
      ++files;
      auto solution = around.solution_of.find(path);
      std::string key =
          path.str() + "\n" + (solution == around.solution_of.end() ? "" : solution->second.str());
      unpack(in.part(key, [&](const Reading& part) { return read_project(part, path, around); }),
             in.cache.parts().tables(), [&](Input& from) {
               std::set<RelPath> more;
               from(more);
               read.merge(more);
             });
    };
    for (const RelPath& path : in.files) {
      if (is_project(path) && in.tree.is_editable(path)) take(path);
    }
    for (const RelPath& path : in.files) {
      if (!in.tree.is_editable(path)) continue;
      // What nobody here imports, somebody else may.
      if (is_imported(path) && !read.contains(path)) take(path);
      if (is_filters(path)) read_filters(in.tree, path, in.self, in.out), ++files;
      if (path.extension() == ".resx") read_resource_list(in.tree, path, in.self, in.out), ++files;
    }
    in.count(files);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return msbuild::written(text, style);
  }
  Span word_at(std::string_view bytes, Span literal) const override {
    return msbuild::word_at(bytes, literal);
  }
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    return msbuild::beside(bytes, word, text);
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    return msbuild::without(bytes, word);
  }

  std::optional<Proposal> list_by_name(const ReferenceGraph& graph, const Reference& pattern,
                                       const std::vector<std::string>& paths,
                                       const TreeReader& tree) const override {
    return group_way(graph, pattern, "Include", paths, tree);
  }

  std::optional<Proposal> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                  const std::string& path, const TreeReader& tree) const override {
    const TracedText& word = pattern.is_deep() ? pattern.glob()->whole : pattern.text;
    Passage origin = word.first_origin();
    if (origin.file == kNoFile) return group_way(graph, pattern, "Remove", {path}, tree);
    // Beside the words that take it in, as all versions understand it.
    const RelPath& file = graph.files.path(origin.file);
    auto bytes = tree.read(file);
    auto text = bytes ? msbuild::written(path, habit_of(**bytes)) : std::nullopt;
    auto point = text ? exclusion_point(**bytes, origin.span.begin) : std::nullopt;
    if (!point) return std::nullopt;
    std::string insertion = point->is_list ? ";" + *text : " Exclude=\"" + *text + "\"";
    return Proposal{{Edit{file, {point->at, point->at}, insertion}}, ""};
  }

  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    const RelPath& project = graph.files.path(unit.site.file);
    std::set<std::pair<RelPath, std::uint32_t>> ends;  // a list in each configuration
    for (const TracedText& word : unit.root_words) {
      if (word.pieces().empty() || !word.pieces().back().has_origin()) continue;
      const Piece& last = word.pieces().back();
      auto bytes = tree.read(graph.files.path(last.file));
      if (!bytes) continue;
      // Behind the last word of the list, but before what it inherits.
      Span at = msbuild::word_at(**bytes, last.span);
      std::uint32_t end = at.end;
      while (end < (*bytes)->size() && (**bytes)[end] == ';') {
        Span next = msbuild::word_at(**bytes, {end + 1, end + 1});
        std::string_view text = std::string_view(**bytes).substr(next.begin, next.size());
        if (text.empty() || text.starts_with("%(") || text.starts_with("$(")) break;
        end = next.end;
      }
      ends.emplace(graph.files.path(last.file), end);
    }
    Proposal way;
    for (const auto& [file, end] : ends) {
      auto bytes = tree.read(file);
      std::string text = relative_text(project.parent(), root);
      auto written = msbuild::written(text, habit_of(**bytes));
      if (written) way.edits.push_back({file, {end, end}, ";" + *written});
    }
    return way.edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{way};
  }
  std::vector<Remark> review(const TreeView& view) const override {
    return msbuild::review_projects(view, own_index());
  }

  std::optional<UnitChange> make_unit(const TreeView& view, const RelPath& folder) const override {
    return msbuild::make_project(view, own_index(), surroundings_of(view.graph), folder);
  }
  std::optional<UnitChange> join_unit(const TreeView&, const RelPath&, const std::string&) const override {
    return std::nullopt;  // a source can be listed by any project; no file of a folder says so
  }
  std::optional<UnitChange> drop_unit(const TreeView& view, const RelPath& folder) const override {
    return msbuild::drop_project(view, own_index(), surroundings_of(view.graph), folder);
  }

  std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                                const TreeReader& tree) const override {
    return msbuild::list_member(graph, like, path, tree);
  }
  std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                  const TreeReader& tree) const override {
    return msbuild::unlist_member(graph, member, tree);
  }

  // Filters are found by the name of their project.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView&,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out;
    for (const RelPath& path : before.files) {
      constexpr std::string_view kEnding = ".filters";
      if (!path.str().ends_with(kEnding)) continue;
      RelPath project = RelPath::from_normal(path.str().substr(0, path.str().size() - kEnding.size()));
      if (!before.tree.is_file(project)) continue;
      RelPath now = moves.map_file(path),
              wanted = RelPath::from_normal(moves.map_file(project).str() + std::string(kEnding));
      if (now == wanted) continue;
      out.push_back({"name-bound",
                     now,
                     {},
                     path.str(),
                     "is found by the name of its project, and must stand beside it",
                     "move it to " + wanted.str(),
                     Blocker::Bearing::tells_why});
    }
    return out;
  }

  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    std::vector<Proposal> out = keep_output_places(before, moves);
    for (Proposal& way : follow_outside(before, moves)) out.push_back(std::move(way));
    return out;
  }

  BoundaryReport boundary_changes(const TreeView& before, const TreeView&,
                                  const MoveSet& moves) const override {
    BoundaryReport out;
    out.notices = torn_outside({before.tree, before.files}, moves);
    return out;
  }

  std::vector<Proposal> follow_names(const ClaimedTree& before, const MoveSet& moves) const override {
    std::vector<Proposal> out = keep_names(before, moves);
    for (Proposal& way : mirror_filters(before, moves)) out.push_back(std::move(way));
    return out;
  }

 private:
  std::uint8_t own_index() const {
    auto is_this = [this](const auto& format) { return format.get() == this; };
    auto at = std::find_if(formats().begin(), formats().end(), is_this);
    return static_cast<std::uint8_t>(at - formats().begin());
  }

  // A group with one line for each path at the end of the pattern's project.
  static std::optional<Proposal> group_way(const ReferenceGraph& graph, const Reference& pattern,
                                           const std::string& attribute,
                                           const std::vector<std::string>& paths, const TreeReader& tree) {
    const RelPath& file = graph.files.path(pattern.construct.front().file);
    auto bytes = tree.read(file);
    if (!bytes || !pattern.construct_part.tag.starts_with("#")) return std::nullopt;
    std::string type = pattern.construct_part.tag.substr(1);
    InsertPoint place = end_of_project(**bytes);
    std::string lines;
    for (const std::string& path : paths) {
      auto text = msbuild::written(path, habit_of(**bytes));
      if (!text) return std::nullopt;
      lines += item_line(place, type, attribute, *text);
    }
    return Proposal{{Edit{file, {place.at, place.at}, group_around(place, lines), "items " + lines}}, ""};
  }
};

}  // namespace

std::unique_ptr<Format> msbuild_format() {
  return std::make_unique<MsbuildFormat>();
}

}  // namespace yc
