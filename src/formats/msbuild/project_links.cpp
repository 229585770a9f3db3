#include "formats/msbuild/project_links.h"

#include <algorithm>

#include "formats/msbuild/project_text.h"
#include "formats/msbuild/project_words.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

namespace {

constexpr std::string_view kLink = "ProjectReference";

// The element of `bytes` that refers to a project; with its number.
std::optional<std::size_t> link_to(const std::vector<xml::Element>& elements, const RelPath& project,
                                   const RelPath& used) {
  for (std::size_t i = 0; i < elements.size(); ++i) {
    const xml::Attribute* named = elements[i].attribute("Include");
    if (elements[i].name != kLink || !named) continue;
    std::string text = named->value;
    std::replace(text.begin(), text.end(), '\\', '/');
    if (RelPath::resolve(project.parent(), text) == used) return i;
  }
  return std::nullopt;
}

// Whether the references of a project tell the identifiers of others, as old ones do.
bool tells_identifiers(std::string_view bytes) {
  return bytes.find("<Project>{") != std::string_view::npos ||
         bytes.find("<ProjectGuid>") != std::string_view::npos;
}

std::string link_element(const RelPath& folder, std::string_view bytes, const InsertPoint& place,
                         const LinkedProject& used) {
  std::string path = written(relative_text(folder, used.file), habit_of(bytes)).value_or(used.file.str());
  std::string indent = place.indent + place.indent, inner = indent + place.indent;
  std::string open = indent + "<ProjectReference Include=\"" + path + "\"";
  if (used.identifier.empty() || !tells_identifiers(bytes)) return open + " />" + place.line_end;
  return open + ">" + place.line_end + inner + "<Project>" + used.identifier + "</Project>" + place.line_end +
         inner + "<Name>" + xml::escaped(used.name) + "</Name>" + place.line_end + indent +
         "</ProjectReference>" + place.line_end;
}

}  // namespace

LinkedProject linked_project(const TreeReader& tree, const RelPath& file) {
  std::string name(file.name());
  LinkedProject out{file, name.substr(0, name.size() - file.extension().size()), ""};
  auto bytes = tree.read(file);
  auto elements = bytes ? xml::elements(**bytes) : std::nullopt;
  for (const xml::Element& element : elements.value_or(std::vector<xml::Element>())) {
    if (element.name == "ProjectGuid") out.identifier = element.text;
  }
  return out;
}

std::string link_line(const RelPath& folder, std::string_view like, const LinkedProject& used) {
  return link_element(folder, like, end_of_project(like), used);
}

std::optional<Edit> link_edit(const TreeReader& tree, const RelPath& project, const LinkedProject& used) {
  auto bytes = tree.read(project);
  auto elements = bytes ? xml::elements(**bytes) : std::nullopt;
  if (!elements || link_to(*elements, project, used.file)) return std::nullopt;
  InsertPoint place = end_of_project(**bytes);
  std::string line = link_element(project.parent(), **bytes, place, used);
  const xml::Element* last = nullptr;
  for (const xml::Element& element : *elements) {
    if (element.name == kLink && element.attribute("Include")) last = &element;
  }
  if (!last) {
    // Before the imports at the end, where people look for it.
    for (const xml::Element& element : *elements) {
      if (element.name == "ItemGroup" && element.up == 0) last = &element;
    }
    line = group_around(place, line);
  }
  std::uint32_t at = last ? lines_around(**bytes, xml::extent(**bytes, *last)).end : place.at;
  return Edit{project, {at, at}, line, used.file.str()};
}

std::optional<Edit> unlink_edit(const TreeReader& tree, const RelPath& project, const RelPath& used) {
  auto bytes = tree.read(project);
  auto elements = bytes ? xml::elements(**bytes) : std::nullopt;
  auto at = elements ? link_to(*elements, project, used) : std::nullopt;
  if (!at) return std::nullopt;
  std::int32_t group = (*elements)[*at].up;
  auto within = std::count_if(elements->begin(), elements->end(),
                              [&](const xml::Element& element) { return element.up == group; });
  const xml::Element& gone =
      within == 1 && group > 0 ? (*elements)[static_cast<std::size_t>(group)] : (*elements)[*at];
  return Edit{project, lines_around(**bytes, xml::extent(**bytes, gone)), ""};
}

std::optional<Edit> relink_edit(const TreeReader& tree, const RelPath& project, const RelPath& used,
                                const LinkedProject& instead) {
  auto bytes = tree.read(project);
  auto elements = bytes ? xml::elements(**bytes) : std::nullopt;
  auto at = elements ? link_to(*elements, project, used) : std::nullopt;
  if (!at) return std::nullopt;
  Span span = lines_around(**bytes, xml::extent(**bytes, (*elements)[*at]));
  return Edit{project, span, link_line(project.parent(), **bytes, instead), instead.file.str()};
}

}  // namespace yc::msbuild
