#include "formats/property_lists/property_lists.h"

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/spellings.h"
#include "formats/property_lists/group_children.h"
#include "formats/property_lists/member_lists.h"
#include "formats/property_lists/plist_text.h"
#include "formats/property_lists/project_objects.h"
#include "formats/property_lists/project_references.h"
#include "formats/shell/command_line.h"
#include "formats/xml/xml_places.h"

namespace yc {

namespace {

constexpr WritingStyle kXml = 72, kLine = 73;  // as workspaces.cpp reads them

class PropertyListsFormat : public Format,
                            public Spellings,
                            public FollowingNames,
                            public Consequences,
                            public MemberLists,
                            public SearchRoots,
                            public IgnoresCase {
 public:
  std::string_view name() const override { return "property lists"; }
  ScopeSet gives() const override { return Scope::search_roots; }
  std::string_view unit_kind() const override { return "project"; }

  bool claims(const RelPath& path) const override {
    std::string_view ending = path.extension();
    return path.name() == "project.pbxproj" || ending == ".xcworkspacedata" || ending == ".xcscheme" ||
           ending == ".xcconfig";
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes&) {
      if (path.name() == "project.pbxproj") {
        plist::read_project(in.tree, path, in.self, in.out);
      } else if (path.extension() == ".xcconfig") {
        plist::read_settings(in.tree, path, in.self, in.out);
      } else {
        plist::read_workspace(in.tree, path, in.self, in.out);
      }
      return true;
    });
  }
  std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                                const TreeReader& tree) const override {
    return plist::list_member(graph, like, path, tree);
  }
  std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                  const TreeReader& tree) const override {
    return plist::unlist_member(graph, member, tree);
  }

  // The programs that open such projects know them by the name of their bundle.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView&,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out;
    for (const RelPath& path : before.files) {
      std::string_view bundle = path.name() == "project.pbxproj"            ? ".xcodeproj"
                                : path.name() == "contents.xcworkspacedata" ? ".xcworkspace"
                                                                            : "";
      RelPath now = moves.map_file(path), folder = now.parent();
      if (bundle.empty() || now == path || !path.parent().str().ends_with(bundle)) continue;
      if (now.name() == path.name() && folder.str().ends_with(bundle)) continue;
      out.push_back({"name-bound",
                     now,
                     {},
                     path.str(),
                     "is opened as a part of " + path.parent().str() + ", whose name must end in " +
                         std::string(bundle),
                     "move the whole of " + path.parent().str() + ", to a name that ends so",
                     Blocker::Bearing::tells_why});
    }
    return out;
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (text.find_first_of("\n\r") != std::string_view::npos) return std::nullopt;
    if (style == kXml) return xml::escaped(text);
    if (style == kLine) {
      bool plain = text.find_first_of(" \t\"") == std::string_view::npos;
      return plain ? std::optional(std::string(text)) : std::nullopt;
    }
    // Words of a script stand within the quotes of the list.
    bool in_script = style == shell::kBare || style == shell::kDouble || style == shell::kSingle;
    if (in_script && text.find_first_of(" \t\"'$`\\;&|<>()") != std::string_view::npos) return std::nullopt;
    return plist::written(text, in_script ? plist::kQuoted : style);
  }

  std::vector<Proposal> early_proposals(const RewriteRequest& need) const override {
    return plist::change_group(need);
  }

  std::vector<Proposal> follow_names(const ClaimedTree& before, const MoveSet& moves) const override {
    return plist::follow_shown_names(before, moves);
  }

  // A new word in each list of header folders that the unit has.
  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    const RelPath& project = graph.files.path(unit.site.file);
    auto bytes = tree.read(project);
    if (!bytes) return {};
    std::set<std::uint32_t> ends;
    for (const TracedText& word : unit.root_words) {
      if (!word.pieces().back().has_origin()) continue;
      std::size_t comma = (*bytes)->find(',', word.pieces().back().span.end);
      if (comma != std::string::npos) ends.insert(static_cast<std::uint32_t>(comma + 1));
    }
    Proposal way;
    for (std::uint32_t end : ends) {
      std::size_t line = (*bytes)->rfind('\n', end - 1);
      std::size_t first = (*bytes)->find_first_not_of(" \t", line + 1);
      std::string indent = (*bytes)->substr(line + 1, first - line - 1);
      std::string text =
          plist::written(relative_text(plist::bundle_base(project).folder, root), plist::kQuoted);
      way.edits.push_back({project, {end, end}, "\n" + indent + "\"" + text + "\","});
    }
    return way.edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{way};
  }
};

}  // namespace

std::unique_ptr<Format> property_lists_format() {
  return std::make_unique<PropertyListsFormat>();
}

}  // namespace yc
