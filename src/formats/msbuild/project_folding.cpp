#include <fmt/format.h>

#include <algorithm>

#include "formats/msbuild/default_items.h"
#include "formats/msbuild/project_copy.h"
#include "formats/msbuild/project_links.h"
#include "formats/msbuild/project_maker.h"
#include "formats/msbuild/project_words.h"
#include "formats/msbuild/source_uses.h"

namespace yc::msbuild {

namespace {

// The only project in a folder itself.
std::optional<RelPath> project_in(const TreeReader& tree, const RelPath& folder) {
  std::optional<RelPath> out;
  for (const std::string& name : tree.children(folder)) {
    RelPath path = folder / name;
    if (path.extension() != ".csproj" || !tree.is_editable(path)) continue;
    if (out) return std::nullopt;
    out = path;
  }
  return out;
}

class Folding {
 public:
  Folding(const TreeView& view, std::uint8_t format, const Surroundings& around, const RelPath& own,
          const RelPath& outer)
      : view_(view), uses_(view, format), own_path_(own), outer_path_(outer) {
    own_ = evaluate(view.tree, cache_, format, files_, own, around);
    outer_ = evaluate(view.tree, cache_, format, files_, outer, around);
  }

  UnitChange run() {
    if (!own_.is_whole || !outer_.is_whole)
      refuse(own_.is_whole ? outer_path_ : own_path_, "is not read whole", "mend it first");
    if (own_.is_new_style != outer_.is_new_style)
      refuse(own_path_, "is written otherwise than " + outer_path_.str(), "have both written alike first");
    compare();
    take_in();
    hand_over();
    out_.dropped.insert(own_path_);
    return std::move(out_);
  }

 private:
  void refuse(const RelPath& file, std::string reason, std::string next) {
    out_.blockers.push_back(unit_blocker(file, std::move(reason), std::move(next)));
  }

  // What the compiler is told must be the same.
  void compare() {
    for (const char* name : {"targetframework", "targetframeworks", "targetframeworkversion", "langversion",
                             "nullable", "implicitusings", "defineconstants", "allowunsafeblocks"}) {
      std::string own = own_.property(name), outer = outer_.property(name);
      if (own != outer)
        refuse(own_path_,
               fmt::format("sets {} to \"{}\", and {} to \"{}\"", name, own, outer_path_.str(), outer),
               "set both alike first");
    }
  }

  void take_in() {
    std::string all = all_below(*outer_.parts[0].bytes, outer_path_, own_path_.parent());
    const std::string& bytes = *outer_.parts[0].bytes;
    bool was_out = false;
    std::set<std::int32_t> gone;
    for (const Item& item : outer_.items) {
      bool is_out = item.act == Item::Act::remove || item.act == Item::Act::exclude;
      if (!is_out || item.value.part != 0) continue;
      std::string_view said = std::string_view(bytes).substr(item.value.span.begin, item.value.span.size());
      if (said.find(all) == std::string_view::npos) continue;
      was_out = true;
      const xml::Element& element = (*outer_.parts[0].elements)[item.value.element];
      if (item.act == Item::Act::remove && said == all) {
        remove_.push_back(item.value.element);
      } else {
        leave_out(item, said, all, element);
      }
    }
    remove_elements();
    if (!own_.is_new_style && !was_out) list_sources();
  }

  // One word of several, or an attribute.
  void leave_out(const Item& item, std::string_view said, const std::string& all,
                 const xml::Element& element) {
    std::size_t at = said.find(all);
    auto begin = item.value.span.begin + static_cast<std::uint32_t>(at);
    Span word{begin, begin + static_cast<std::uint32_t>(all.size())};
    if (said != all) {
      bool is_last = at + all.size() == said.size();
      word = is_last ? Span{word.begin - 1, word.end} : Span{word.begin, word.end + 1};
    } else if (const xml::Attribute* excluded = element.attribute("Exclude")) {
      std::uint32_t name = excluded->span.begin;
      const std::string& bytes = *outer_.parts[0].bytes;
      while (name > 0 && bytes[name - 1] != ' ') --name;
      word = {name - 1, excluded->span.end + 1};
    }
    out_.edits.push_back({outer_path_, word, ""});
  }

  // With the groups that would be empty.
  void remove_elements() {
    const std::vector<xml::Element>& elements = *outer_.parts[0].elements;
    const std::string& bytes = *outer_.parts[0].bytes;
    std::map<std::int32_t, std::vector<std::size_t>> by_group;
    for (std::size_t number : remove_) by_group[elements[number].up].push_back(number);
    for (const auto& [group, numbers] : by_group) {
      auto all = static_cast<std::size_t>(
          std::count_if(elements.begin(), elements.end(),
                        [group = group](const xml::Element& one) { return one.up == group; }));
      if (all == numbers.size() && group > 0) {
        Span span = lines_around(bytes, xml::extent(bytes, elements[static_cast<std::size_t>(group)]));
        out_.edits.push_back({outer_path_, span, ""});
        continue;
      }
      for (std::size_t number : numbers)
        out_.edits.push_back({outer_path_, lines_around(bytes, xml::extent(bytes, elements[number])), ""});
    }
  }

  // Behind the last source that the outer project lists, as the inner one lists them.
  void list_sources() {
    const std::string& bytes = *outer_.parts[0].bytes;
    const xml::Element* last = nullptr;
    for (const xml::Element& element : *outer_.parts[0].elements) {
      if (element.name == "Compile" && element.attribute("Include")) last = &element;
    }
    InsertPoint place = end_of_project(bytes);
    std::string lines;
    for (const Item& item : own_.items) {
      bool goes =
          (item.type == "Compile" || item.type == "EmbeddedResource") && item.act == Item::Act::include;
      if (!goes || item.value.part != 0) continue;
      const std::string& own = *own_.parts[0].bytes;
      Span span = xml::extent(own, (*own_.parts[0].elements)[item.value.element]);
      std::string copy = own.substr(span.begin, span.size());
      std::string said = own.substr(item.value.span.begin, item.value.span.size());
      auto path = RelPath::resolve(own_path_.parent(), slashed(said));
      if (!path || said.find_first_of("*;$%@") != std::string::npos) {
        refuse(own_path_, "lists its sources by \"" + said + "\"", "list them one by one first");
        continue;
      }
      std::string now = relative_text(outer_path_.parent(), *path);
      copy.replace(item.value.span.begin - span.begin, item.value.span.size(),
                   written(now, habit_of(bytes)).value_or(now));
      lines += place.indent + place.indent + copy + place.line_end;
    }
    if (lines.empty()) return;
    std::uint32_t at = last ? lines_around(bytes, xml::extent(bytes, *last)).end : place.at;
    out_.edits.push_back({outer_path_, {at, at}, last ? lines : group_around(place, lines), "items"});
  }

  static std::string slashed(std::string text) {
    std::replace(text.begin(), text.end(), '\\', '/');
    return text;
  }

  // Who refers to the inner project refers to the outer one; what it refers to, the outer one does.
  void hand_over() {
    std::set<RelPath> outer_reaches = uses_.reached(outer_path_);
    LinkedProject outer = linked_project(view_.tree, outer_path_);
    for (const Boundary& boundary : view_.graph.boundaries) {
      bool refers = std::find(boundary.uses.begin(), boundary.uses.end(), own_path_) != boundary.uses.end();
      if (!refers) continue;
      bool has_both =
          std::find(boundary.uses.begin(), boundary.uses.end(), outer_path_) != boundary.uses.end();
      bool is_outer = boundary.file == outer_path_;
      if (!is_outer && outer_reaches.contains(boundary.file)) {
        refuse(boundary.file,
               fmt::format("refers to {0}, and {1} refers to it: it would have to refer to {1}",
                           own_path_.str(), outer_path_.str()),
               "take one of the two references out first");
        continue;
      }
      auto edit = is_outer || has_both ? unlink_edit(view_.tree, boundary.file, own_path_)
                                       : relink_edit(view_.tree, boundary.file, own_path_, outer);
      if (edit) out_.edits.push_back(*edit);
    }
    for (const Boundary& boundary : view_.graph.boundaries) {
      if (boundary.file != own_path_) continue;
      for (const RelPath& used : boundary.uses) {
        if (used == outer_path_) continue;
        if (auto edit = link_edit(view_.tree, outer_path_, linked_project(view_.tree, used)))
          out_.edits.push_back(*edit);
      }
    }
  }

  const TreeView& view_;
  SourceUses uses_;
  RelPath own_path_, outer_path_;
  FactsCache cache_;
  FileTable files_;
  Project own_, outer_;
  std::vector<std::size_t> remove_;
  UnitChange out_;
};

}  // namespace

std::optional<UnitChange> drop_project(const TreeView& view, std::uint8_t format, const Surroundings& around,
                                       const RelPath& folder) {
  auto own = view.files.empty() ? std::nullopt : project_in(view.tree, folder);
  if (!own) return std::nullopt;
  std::optional<RelPath> outer;
  for (RelPath up = folder; !up.is_root() && !outer;) outer = project_in(view.tree, up = up.parent());
  if (!outer) {
    UnitChange out;
    out.blockers.push_back(
        unit_blocker(*own, "has no single project above it", "move its folder below the one that takes it"));
    return out;
  }
  return Folding(view, format, around, *own, *outer).run();
}

}  // namespace yc::msbuild
