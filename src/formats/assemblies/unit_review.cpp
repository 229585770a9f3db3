#include "formats/assemblies/unit_review.h"

#include <fmt/format.h>

#include "formats/assemblies/unit_links.h"
#include "formats/assemblies/unit_needs.h"
#include "formats/json/json_strings.h"

namespace yc::assemblies {

namespace {

// Where a reference stands in its definition.
std::optional<Span> place_of_reference(const TreeReader& tree, const RelPath& file, const std::string& text) {
  auto bytes = tree.read(file);
  if (!bytes) return std::nullopt;
  for (const json::StringValue& value : json::string_values(**bytes)) {
    if (value.path.size() == 2 && value.path[0] == "references" && value.text == text) return value.span;
  }
  return std::nullopt;
}

Remark remark(std::string id, const RelPath& file, std::optional<Span> span, std::string message) {
  return {{std::move(id), file, span.value_or(Span{}), span.has_value(), std::move(message)}, "", false, {}};
}

std::vector<Remark> missing(const TreeView& view, const AssemblyMap& map, const UnitNeeds& needs) {
  std::vector<Remark> out;
  for (const UnitNeed& need : needs.unmet()) {
    std::string what = fmt::format("uses {}, and {} ", need.type, need.from->name);
    what += !need.to ? "can refer to no source without an assembly of its own"
            : map.reaches(*need.to, *need.from)
                ? fmt::format("cannot refer to {}, which refers to it", need.to->name)
                : fmt::format("has no reference to {}", need.to->name);
    Remark one = remark("missing-unit-reference", need.user, std::nullopt, std::move(what));
    one.unit = need.from->name;
    one.lacks = need.to ? need.to->name : "";
    if (need.to && !map.reaches(*need.to, *need.from)) {
      if (auto edit = link_edit(view.tree, need.from->file, *need.from, *need.to)) one.mend.push_back(*edit);
    }
    out.push_back(std::move(one));
  }
  return out;
}

// What others' packages are called is not known; a name of the tree's own is.
std::vector<Remark> unknown(const TreeView& view, const AssemblyMap& map) {
  std::set<std::string> heads;
  for (const Assembly& one : map.all()) heads.insert(one.name.substr(0, one.name.find('.')));
  std::vector<Remark> out;
  for (const Assembly& one : map.all()) {
    for (const std::string& text : one.references) {
      bool is_own = !text.starts_with("GUID:") && heads.contains(text.substr(0, text.find('.')));
      if (!is_own || map.find(text)) continue;
      Remark remarked = remark("unknown-unit", one.file, place_of_reference(view.tree, one.file, text),
                               "refers to " + text + ", and no definition here is called so");
      if (auto edit = unlink_edit(view.tree, one.file, text)) remarked.mend.push_back(*edit);
      out.push_back(std::move(remarked));
    }
  }
  return out;
}

std::vector<Remark> unused(const TreeView& view, const AssemblyMap& map, const UnitNeeds& needs) {
  std::vector<Remark> out;
  for (const Assembly& one : map.all()) {
    for (const std::string& text : one.references) {
      const Assembly* used = map.find(text);
      if (!used || needs.needs(&one, used)) continue;
      Remark remarked =
          remark("unused-unit-reference", one.file, place_of_reference(view.tree, one.file, text),
                 "refers to " + used->name + ", and no source of " + one.name + " is seen to use it");
      remarked.is_note = true;
      if (auto edit = unlink_edit(view.tree, one.file, text)) remarked.mend.push_back(*edit);
      out.push_back(std::move(remarked));
    }
  }
  return out;
}

}  // namespace

std::vector<Remark> review_units(const TreeView& view) {
  AssemblyMap map(view.tree, view.files);
  if (map.all().empty()) return {};
  UnitNeeds needs(view.tree, map);
  std::vector<Remark> out = missing(view, map, needs);
  for (Remark& one : unknown(view, map)) out.push_back(std::move(one));
  for (Remark& one : unused(view, map, needs)) out.push_back(std::move(one));
  return out;
}

}  // namespace yc::assemblies
