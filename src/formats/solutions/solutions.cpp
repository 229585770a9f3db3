#include "formats/solutions/solutions.h"

#include <algorithm>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/unit_making.h"
#include "formats/json/json_strings.h"
#include "formats/solutions/folder_elements.h"
#include "formats/solutions/listed_projects.h"
#include "formats/solutions/solution_folders.h"
#include "formats/solutions/solution_text.h"
#include "formats/xml/xml_places.h"
#include "model/add_reference.h"

namespace yc {

namespace {

// How a path spells its separators, in which of the three forms.
constexpr WritingStyle kSlash = 0, kBackslash = 1, kXmlSlash = 2, kXmlBackslash = 3, kJsonSlash = 4,
                       kJsonBackslash = 5;

class SolutionReader {
 public:
  SolutionReader(const TreeReader& tree, std::uint8_t format, GraphBuilder& out)
      : tree_(tree), self_(format), out_(out) {}

  void run(const RelPath& path, const std::string& bytes) {
    base_ = {path.parent(), out_.files().index(path), Space::tree};
    if (path.extension() == ".sln") text_form(bytes);
    if (path.extension() == ".slnx") xml_form(path, bytes);
    if (path.extension() == ".slnf") filter(path, bytes);
  }

 private:
  void text_form(std::string_view bytes) {
    solutions::Solution solution = solutions::read_solution(bytes);
    for (const solutions::Entry& entry : solution.entries) {
      if (!entry.is_folder()) refer(entry.path, entry.path_span, Role::subfolder, kSlash);
    }
    for (const solutions::Named& file : solution.files) refer(file.text, file.span, Role::listed, kSlash);
  }

  void xml_form(const RelPath& path, std::string_view bytes) {
    auto elements = xml::elements(bytes);
    if (!elements) {
      out_.notice("garbled-solution", path, std::nullopt, "is no well-formed XML and is not read");
      out_.graph().unread.emplace(path, Unread::garbled);
      return;
    }
    for (const xml::Element& element : *elements) {
      const xml::Attribute* named = element.attribute("Path");
      bool lists = element.name == "Project" || element.name == "File";
      if (named && lists)
        refer(named->value, named->span, element.name == "Project" ? Role::subfolder : Role::listed,
              kXmlSlash);
    }
  }

  // {"solution": {"path": "…", "projects": […]}}; projects are spelled as the solution spells them.
  void filter(const RelPath& path, std::string_view bytes) {
    std::vector<json::StringValue> values = json::string_values(bytes);
    RelPath folder = path.parent();
    for (const json::StringValue& value : values) {
      if (value.path.size() != 2 || value.path[0] != "solution" || value.path[1] != "path") continue;
      refer(value.text, value.span, Role::script, kJsonSlash);
      if (auto solution = RelPath::resolve(folder, slashed(value.text))) {
        if (tree_.is_file(*solution))
          base_ = {solution->parent(), out_.files().index(*solution), Space::tree};
      }
    }
    FileIndex own = out_.files().index(path);
    for (const json::StringValue& value : values) {
      if (value.path.size() == 3 && value.path[0] == "solution" && value.path[1] == "projects")
        refer(value.text, value.span, Role::listed, kJsonSlash, own);
    }
  }

  static std::string slashed(std::string text) {
    std::replace(text.begin(), text.end(), '\\', '/');
    return text;
  }

  void refer(const std::string& spelled, Span span, Role role, WritingStyle style, FileIndex in = kNoFile) {
    FileIndex file = in == kNoFile ? base_.anchor : in;
    if (in == kNoFile && style == kJsonSlash) file = base_.anchor;
    std::string text = slashed(spelled);
    if (text.find("://") != std::string::npos || text.find("$(") != std::string::npos) return;
    bool backslashes = spelled.find('\\') != std::string::npos || spelled.find('/') == std::string::npos;
    auto written = static_cast<WritingStyle>(style + (backslashes ? 1 : 0));
    // The elements of a solution in XML are one construct: one may move from folder to folder.
    Site site{file, style == kXmlSlash ? 0 : span.begin};
    Reference reference =
        Reference::of(role, self_, {site}, base_, TracedText::literal(text, file, span, written));
    auto project = role == Role::subfolder ? leads_to(tree_, reference, Letters::any_case) : std::nullopt;
    if (project) out_.graph().solutions[*project].insert(out_.files().path(file));
    add_leading(out_, tree_, std::move(reference), IfMissing::dangling, Letters::any_case);
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  Base base_;
};

class SolutionsFormat : public Format, public Spellings, public FollowingNames, public UnitLists {
 public:
  std::string_view name() const override { return "solutions"; }
  ScopeSet gives() const override { return Scope::solutions; }

  bool claims(const RelPath& path) const override {
    std::string_view ending = path.extension();
    return ending == ".sln" || ending == ".slnx" || ending == ".slnf";
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (is_binary(*bytes)) return false;
      SolutionReader(in.tree, in.self, in.out).run(path, *bytes);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (text.find_first_of("\"\n\r") != std::string_view::npos) return std::nullopt;
    std::string out(text);
    if (style == kBackslash || style == kXmlBackslash) std::replace(out.begin(), out.end(), '/', '\\');
    if (style == kXmlSlash || style == kXmlBackslash) return xml::escaped(out);
    if (style != kJsonBackslash) return out;
    std::string doubled;
    for (char c : out) doubled += c == '/' ? std::string("\\\\") : std::string(1, c);
    return doubled;
  }

  // An element goes to the virtual folder that shows it now.
  std::vector<Proposal> early_proposals(const RewriteRequest& need) const override {
    const Piece& piece = need.reference.text.pieces().front();
    const RelPath& path = need.graph.files.path(piece.file);
    auto bytes = path.extension() == ".slnx" ? need.tree.read(path) : Bytes();
    if (!bytes || !*bytes || need.wanted.size() != 1) return {};
    auto text = write(relative_text(need.new_base, need.wanted[0].path), piece.style);
    if (!text) return {};
    std::vector<Edit> edits = solutions::into_folder(path, **bytes, need.moves, piece.span, *text);
    return edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{{std::move(edits), ""}};
  }

  std::vector<Edit> list_unit(const TreeView& view, const MadeUnit& unit) const override {
    return solutions::list_project(view, unit);
  }
  std::vector<Edit> unlist_unit(const TreeView& view, const RelPath& file) const override {
    return solutions::unlist_project(view, file);
  }

  std::vector<Proposal> follow_names(const ClaimedTree& before, const MoveSet& moves) const override {
    std::vector<Proposal> out;
    for (const RelPath& path : before.files) {
      const Entry* entry = before.tree.find(path);
      bool is_xml = path.extension() == ".slnx";
      if ((path.extension() != ".sln" && !is_xml) || entry->kind != EntryKind::file || entry->guarded ||
          entry->ignored)
        continue;
      auto bytes = before.tree.read(path);
      if (!bytes) continue;
      auto way = is_xml ? solutions::part_folders(path, **bytes, moves)
                        : solutions::mirror_folders(path, **bytes, solutions::read_solution(**bytes), moves);
      if (way) out.push_back(std::move(*way));
    }
    return out;
  }
};

}  // namespace

std::unique_ptr<Format> solutions_format() {
  return std::make_unique<SolutionsFormat>();
}

}  // namespace yc
