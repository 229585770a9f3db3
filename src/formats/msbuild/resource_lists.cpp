#include "formats/msbuild/resource_lists.h"

#include "formats/msbuild/project_text.h"
#include "formats/xml/xml_places.h"
#include "model/add_reference.h"

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
    add_leading(out, tree,
                Reference::of(Role::source, format, {{file, element.begin}},
                              {path.parent(), file, Space::tree}, std::move(text)),
                IfMissing::dangling, Letters::any_case);
  }
}

}  // namespace yc::msbuild
