#include "formats/msbuild/member_lists.h"

#include "formats/msbuild/project_text.h"
#include "formats/msbuild/project_words.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

namespace {

// The item of a file whose attribute is spelled so; nothing if there is none.
std::optional<xml::Element> item_with(std::string_view bytes, const std::string& spelled) {
  auto elements = xml::elements(bytes);
  for (xml::Element& element : elements.value_or(std::vector<xml::Element>())) {
    for (const char* name : {"Include", "RelativePath"}) {
      const xml::Attribute* attribute = element.attribute(name);
      if (attribute && attribute->value == spelled) return std::move(element);
    }
  }
  return std::nullopt;
}

// Behind the line of an element, with what its lines begin with.
struct LineBehind {
  std::uint32_t at = 0;
  std::string indent, line_end;
};
std::optional<LineBehind> line_behind(std::string_view bytes, const xml::Element& element) {
  Span span = xml::extent(bytes, element);
  std::size_t end = bytes.find('\n', span.end), line = bytes.rfind('\n', span.begin);
  if (end == std::string_view::npos || line == std::string_view::npos) return std::nullopt;
  LineBehind out;
  out.at = static_cast<std::uint32_t>(end + 1);
  out.indent = bytes.substr(line + 1, span.begin - line - 1);
  out.line_end = end > 0 && bytes[end - 1] == '\r' ? "\r\n" : "\n";
  bool blank = out.indent.find_first_not_of(" \t") == std::string::npos;
  return blank ? std::optional(out) : std::nullopt;
}

// How the item is spelled that a reference stands in.
std::string spelling_of(std::string_view bytes, const Reference& member) {
  const Piece& piece = member.text.pieces().back();
  std::uint32_t begin = piece.span.begin, end = piece.span.end;
  while (begin > 0 && bytes[begin - 1] != '"' && bytes[begin - 1] != ';') --begin;
  while (end < bytes.size() && bytes[end] != '"' && bytes[end] != ';') ++end;
  return std::string(bytes.substr(begin, end - begin));
}

RelPath filters_of(const RelPath& project) {
  return RelPath::from_normal(project.str() + ".filters");
}

}  // namespace

std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                              const TreeReader& tree) {
  std::vector<Edit> out;
  if (like.text.pieces().empty() || !like.text.pieces().back().has_origin()) return out;
  const RelPath& file = graph.files.path(like.text.pieces().back().file);
  auto bytes = tree.read(file);
  if (!bytes) return out;
  std::string sibling = spelling_of(**bytes, like);
  // In the sibling's folder, so only the name differs.
  std::size_t cut = sibling.find_last_of("\\/");
  auto name = written(path.name(), habit_of(**bytes));
  if (!name || like.targets.front().path.parent() != path.parent()) return out;
  std::string spelled = sibling.substr(0, cut == std::string::npos ? 0 : cut + 1) + *name;
  auto item = item_with(**bytes, sibling);
  auto line = item ? line_behind(**bytes, *item) : std::nullopt;
  if (!line) return out;
  bool old_form = item->name == "File";
  std::string text =
      old_form ? line->indent + "<File RelativePath=\"" + spelled + "\">" + line->line_end + line->indent +
                     "</File>" + line->line_end
               : line->indent + "<" + item->name + " Include=\"" + spelled + "\" />" + line->line_end;
  out.push_back({file, {line->at, line->at}, text, spelled});
  RelPath filters = filters_of(graph.files.path(like.construct.front().file));
  auto shown = tree.read(filters);
  auto beside = shown ? item_with(**shown, sibling) : std::nullopt;
  auto place = beside ? line_behind(**shown, *beside) : std::nullopt;
  if (!place) return out;
  Span whole = xml::extent(**shown, *beside);
  std::string copy = (*shown)->substr(whole.begin, whole.size());
  std::size_t at = copy.find(sibling);
  copy.replace(at, sibling.size(), spelled);
  out.push_back({filters, {place->at, place->at}, place->indent + copy + place->line_end, spelled});
  return out;
}

std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                const TreeReader& tree) {
  std::vector<Edit> out;
  if (member.text.pieces().empty() || !member.text.pieces().back().has_origin()) return out;
  const Piece& piece = member.text.pieces().back();
  const RelPath& file = graph.files.path(piece.file);
  auto bytes = tree.read(file);
  if (!bytes) return out;
  if (auto span = without(**bytes, word_at(**bytes, piece.span))) out.push_back({file, *span, ""});
  RelPath filters = filters_of(graph.files.path(member.construct.front().file));
  auto shown = tree.read(filters);
  auto item = shown ? item_with(**shown, spelling_of(**bytes, member)) : std::nullopt;
  auto span = item ? without(**shown, item->attribute("Include")->span) : std::nullopt;
  if (span) out.push_back({filters, *span, ""});
  return out;
}

}  // namespace yc::msbuild
