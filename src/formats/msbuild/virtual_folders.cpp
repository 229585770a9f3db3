#include "formats/msbuild/virtual_folders.h"

#include <algorithm>
#include <map>

#include "base/text.h"
#include "formats/mirrored_folders.h"
#include "formats/msbuild/evaluation.h"
#include "formats/msbuild/project_text.h"
#include "formats/msbuild/project_words.h"

namespace yc::msbuild {

namespace {

struct FilterItem {
  const xml::Element* element = nullptr;
  Texts texts;
  const xml::Element* filter = nullptr;  // the element that names its filter, if it has one
};

struct Filters {
  Bytes bytes;
  std::vector<xml::Element> elements;
  std::vector<FilterItem> items;
  std::vector<const xml::Element*> definitions;
};

// The properties of the project that the filters belong to serve for their items too.
std::optional<Filters> parse(const TreeReader& tree, const RelPath& path, FileTable& files) {
  Filters out;
  auto bytes = tree.read(path);
  if (!bytes) return std::nullopt;
  auto elements = xml::elements(**bytes);
  if (!elements) return std::nullopt;
  out.bytes = *bytes;
  out.elements = std::move(*elements);
  FileIndex file = files.index(path);
  WritingStyle habit = habit_of(*out.bytes);
  FactsCache cache;
  Project project;
  if (out.bytes->find("$(") != std::string::npos) {
    RelPath owner =
        RelPath::from_normal(path.str().substr(0, path.str().size() - std::string_view(".filters").size()));
    if (tree.is_file(owner)) project = evaluate(tree, cache, 0, files, owner, {});
  }
  auto value_of = [&](char sign, std::string_view inner) -> std::optional<Texts> {
    std::string name(inner);
    name = lowered(name);
    if (sign != '$') return std::nullopt;
    if (name == "projectdir" || name == "msbuildthisfiledirectory" || name == "msbuildprojectdirectory")
      return Texts{
          TracedText::folder(Piece::Nature::tree_folder, file, marked(Space::tree, path.parent()) + "/")};
    auto known = project.properties.find(name);
    return known == project.properties.end() ? std::nullopt : std::optional(known->second);
  };
  for (std::size_t i = 0; i < out.elements.size(); ++i) {
    const xml::Element& element = out.elements[i];
    const xml::Attribute* include = element.attribute("Include");
    if (element.parent == "ItemGroup" && include) {
      if (element.name == "Filter") {
        out.definitions.push_back(&element);
        continue;
      }
      out.items.push_back(
          {&element, expanded(decoded(*out.bytes, include->span, file, habit), value_of), nullptr});
    } else if (element.name == "Filter" && !out.items.empty() && element.up >= 0 &&
               &out.elements[static_cast<std::size_t>(element.up)] == out.items.back().element) {
      out.items.back().filter = &element;
    }
  }
  return out;
}

// The filters of one file after a move.
class Follower {
 public:
  Follower(const TreeReader& tree, const MoveSet& moves, const RelPath& path, const Filters& filters)
      : tree_(tree), moves_(moves), path_(path), filters_(filters) {}

  std::optional<Proposal> run() {
    for (const FilterItem& item : filters_.items) place(item);
    if (changed_.empty()) return std::nullopt;
    Proposal way;
    for (const auto& [element, filter] : changed_)
      way.edits.push_back({path_, element->text_span, xml::escaped(filter)});
    define(way);
    return way;
  }

 private:
  void place(const FilterItem& item) {
    if (!item.filter || item.texts.empty()) return;
    const std::string& filter = item.filter->text;
    ::yc::Place place = place_of(path_.parent(), item.texts.front().text());
    if (place.space != Space::tree) return;
    auto old_path = find_any_case(tree_, place.path);
    if (!old_path || !tree_.is_file(*old_path)) return;
    std::string now = mirrored(filter, *old_path, moves_.map_file(*old_path));
    if (now != filter) changed_.emplace_back(item.filter, now);
    kept_[filter] = kept_[filter] || now == filter;
  }

  bool is_defined(const std::string& filter) const {
    return std::any_of(
        filters_.definitions.begin(), filters_.definitions.end(),
        [&](const xml::Element* element) { return same_name(element->attribute("Include")->value, filter); });
  }

  // A filter that all its items leave for one place takes the new name; others are added.
  void define(Proposal& way) {
    std::set<std::string> wanted, renamed;
    for (const auto& [element, filter] : changed_) {
      std::vector<std::string_view> parts = folder_parts(filter);
      std::string whole;
      for (std::string_view part : parts) {
        whole += (whole.empty() ? "" : "\\") + std::string(part);
        if (!is_defined(whole)) wanted.insert(whole);
      }
    }
    for (const xml::Element* definition : filters_.definitions) {
      const xml::Attribute* name = definition->attribute("Include");
      std::set<std::string> targets;
      for (const auto& [element, filter] : changed_) {
        if (same_name(element->text, name->value)) targets.insert(filter);
      }
      bool all = targets.size() == 1 && !kept_[name->value] && !holds_others(name->value);
      if (!all || !wanted.contains(*targets.begin()) || !renamed.insert(*targets.begin()).second) continue;
      way.edits.push_back({path_, name->span, xml::escaped(*targets.begin())});
      wanted.erase(*targets.begin());
    }
    if (wanted.empty()) return;
    InsertPoint point = end_of_project(*filters_.bytes);
    std::string lines, in = point.indent + point.indent;
    for (const std::string& filter : wanted) {
      lines += in + "<Filter Include=\"" + xml::escaped(filter) + "\">" + point.line_end + in + point.indent +
               "<UniqueIdentifier>" + identifier_of(filter) + "</UniqueIdentifier>" + point.line_end + in +
               "</Filter>" + point.line_end;
    }
    if (!filters_.definitions.empty()) {
      Span last = xml::extent(*filters_.bytes, *filters_.definitions.back());
      std::string text = point.line_end + lines;
      text.resize(text.size() - point.line_end.size());
      way.edits.push_back({path_, {last.end, last.end}, text});
    } else {
      way.edits.push_back({path_, {point.at, point.at}, group_around(point, lines), "filters"});
    }
  }

  // Filters within this one stay where they are.
  bool holds_others(const std::string& filter) const {
    return std::any_of(filters_.definitions.begin(), filters_.definitions.end(),
                       [&](const xml::Element* element) {
                         return element->attribute("Include")->value.starts_with(filter + "\\");
                       });
  }

  const TreeReader& tree_;
  const MoveSet& moves_;
  const RelPath& path_;
  const Filters& filters_;
  std::vector<std::pair<const xml::Element*, std::string>> changed_;
  std::map<std::string, bool> kept_;  // filters that an item stays in
};

}  // namespace

void read_filters(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out) {
  auto filters = parse(tree, path, out.files());
  if (!filters) {
    out.notice("garbled-project", path, std::nullopt, "is no well-formed XML and is not read");
    out.graph().unread.emplace(path, Unread::garbled);
    return;
  }
  FileIndex file = out.files().index(path);
  for (const FilterItem& item : filters->items) {
    for (const TracedText& text : item.texts) {
      ::yc::Place place = place_of(path.parent(), text.text());
      if (text.has_hole() || has_wildcard(text.text()) || place.space != Space::tree) continue;
      auto found = find_any_case(tree, place.path);
      if (!found || tree.is_folder(*found) || tree.find(*found)->ignored) continue;
      out.add(Reference::of(Role::listed, format, {{file, 0}}, {path.parent(), file, Space::tree}, text)
                  .in(ConstructPart::tagged("#" + item.element->name))
                  .leading_to(*found));
      Span span = item.element->attribute("Include")->span;
      out.graph().virtual_places.push_back({path, *found, item.filter ? item.filter->text : "", span});
    }
  }
}

std::vector<Proposal> mirror_filters(const ClaimedTree& before, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  std::vector<Proposal> out;
  for (const RelPath& path : before.files) {
    const Entry* entry = tree.find(path);
    if (!path.str().ends_with(".filters") || entry->kind != EntryKind::file || entry->guarded ||
        entry->ignored)
      continue;
    FileTable files;
    auto filters = parse(tree, path, files);
    if (!filters) continue;
    if (auto way = Follower(tree, moves, path, *filters).run()) out.push_back(std::move(*way));
  }
  return out;
}

}  // namespace yc::msbuild
