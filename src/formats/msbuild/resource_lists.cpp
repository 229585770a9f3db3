#include "formats/msbuild/resource_lists.h"

#include "formats/msbuild/project_text.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

void read_resource_list(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out) {
  auto bytes = tree.read(path);
  if (!bytes || (*bytes)->find("ResXFileRef") == std::string::npos) return;
  auto elements = xml::elements(**bytes);
  if (!elements) {
    out.notice("garbled-resources", path, std::nullopt, "is no well-formed XML and is not read");
    return;
  }
  FileIndex file = out.files().index(path);
  WritingStyle habit = habit_of(**bytes);
  for (const xml::Element& element : *elements) {
    if (element.name != "value" || element.parent != "data") continue;
    bool is_reference = false;
    for (const xml::Attribute& attribute : element.outer)
      is_reference = is_reference ||
                     (attribute.name == "type" && attribute.value.find("ResXFileRef") != std::string::npos);
    if (!is_reference) continue;
    TracedText text = decoded(**bytes, element.text_span, file, habit).split(';').front().trimmed();
    Place place = place_of(path.parent(), text.text());
    if (place.space != Space::tree || place.path.is_root()) continue;
    auto found = find_any_case(tree, place.path);
    Reference reference;
    reference.role = Role::source;
    reference.format = format;
    reference.key = {{file, element.begin}};
    reference.base = {path.parent(), file, Space::tree};
    reference.text = std::move(text);
    reference.dangling = !found;
    if (found) reference.targets.push_back({Target::Kind::tree, *found, {}});
    out.add(std::move(reference));
  }
}

}  // namespace yc::msbuild
