#include "formats/msbuild/project_words.h"

#include <algorithm>

#include "base/text.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

namespace {

bool ends_value(char c) {
  return c == '"' || c == '\'' || c == '<' || c == '>';
}

// Lists of the projects before MSBuild may be separated by either sign.
bool has_commas(std::string_view bytes) {
  return bytes.substr(0, 400).find("<VisualStudioP") != std::string_view::npos;
}

// Whether the attribute that ends a text is one by which an item names a file.
bool names_item(std::string_view before) {
  while (!before.empty() && (before.back() == '=' || is_space(before.back()))) before.remove_suffix(1);
  std::size_t begin = before.find_last_of(" \t\r\n");
  std::string_view name = before.substr(begin == std::string_view::npos ? 0 : begin + 1);
  return name == "Include" || name == "Remove" || name == "Update" || name == "RelativePath";
}

// The element whose start tag holds a place.
std::optional<xml::Element> element_around(std::string_view bytes, std::uint32_t at) {
  auto all = xml::elements(bytes);
  if (!all) return std::nullopt;
  std::optional<xml::Element> found;
  for (xml::Element& element : *all) {
    if (element.begin < at) found = std::move(element);
  }
  return found;
}

}  // namespace

Span lines_around(std::string_view bytes, Span span) {
  std::uint32_t begin = span.begin, end = span.end;
  while (begin > 0 && (bytes[begin - 1] == ' ' || bytes[begin - 1] == '\t')) --begin;
  while (end < bytes.size() && (bytes[end] == ' ' || bytes[end] == '\t' || bytes[end] == '\r')) ++end;
  bool alone = (begin == 0 || bytes[begin - 1] == '\n') && end < bytes.size() && bytes[end] == '\n';
  return alone ? Span{begin, end + 1} : span;
}

Span word_at(std::string_view bytes, Span literal) {
  Span out = literal;
  bool commas = has_commas(bytes);
  auto stops = [&](char c) { return c == ';' || (commas && c == ',') || ends_value(c); };
  // An entity within the word ends with a semicolon too.
  while (out.begin > 0 && !stops(bytes[out.begin - 1])) --out.begin;
  while (out.end < bytes.size() && !stops(bytes[out.end])) ++out.end;
  while (out.begin < literal.begin && is_space(bytes[out.begin])) ++out.begin;
  while (out.end > literal.end && is_space(bytes[out.end - 1])) --out.end;
  return out;
}

std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) {
  bool backslashes = bytes.substr(word.begin, word.size()).find('\\') != std::string_view::npos;
  std::string out(text);
  if (backslashes) std::replace(out.begin(), out.end(), '/', '\\');
  return ";" + xml::escaped(out);
}

std::optional<Span> without(std::string_view bytes, Span word) {
  Span out = word;
  while (out.end < bytes.size() && is_space(bytes[out.end])) ++out.end;
  while (out.begin > 0 && is_space(bytes[out.begin - 1])) --out.begin;
  bool commas = has_commas(bytes);
  auto separates = [&](std::uint32_t at) { return bytes[at] == ';' || (commas && bytes[at] == ','); };
  if (out.end < bytes.size() && separates(out.end)) return Span{word.begin, out.end + 1};
  if (out.begin > 0 && separates(out.begin - 1)) return Span{out.begin - 1, word.end};
  bool in_attribute = out.begin > 0 && (bytes[out.begin - 1] == '"' || bytes[out.begin - 1] == '\'');
  // Only an item is nothing without what it names.
  if (!in_attribute || !names_item(bytes.substr(0, out.begin - 1))) return std::nullopt;
  auto element = element_around(bytes, word.begin);
  return element ? std::optional(lines_around(bytes, xml::extent(bytes, *element))) : std::nullopt;
}

std::optional<ExclusionPoint> exclusion_point(std::string_view bytes, std::uint32_t at) {
  auto element = element_around(bytes, at);
  if (!element) return std::nullopt;
  if (const xml::Attribute* excluded = element->attribute("Exclude"))
    return ExclusionPoint{excluded->span.end, true};
  const xml::Attribute* included = element->attribute("Include");
  return included ? std::optional(ExclusionPoint{included->span.end + 1, false}) : std::nullopt;
}

Edit metadata_beside(const RelPath& project, std::string_view bytes, const xml::Element& item,
                     const std::string& name, const std::string& value, bool is_new_style) {
  std::uint32_t end = item.attributes.empty() ? item.name_end : item.attributes.back().span.end + 1;
  Edit attribute{project, {end, end}, " " + name + "=\"" + xml::escaped(value) + "\""};
  std::size_t close = bytes.find('>', end);
  if (is_new_style || close == std::string_view::npos) return attribute;
  std::string inner = "<" + name + ">" + xml::escaped(value) + "</" + name + ">";
  auto behind = static_cast<std::uint32_t>(close + 1);
  if (bytes[close - 1] == '/') return {project, {end, behind}, ">" + inner + "</" + item.name + ">"};
  // In a line of its own, if the element behind it has one.
  std::size_t next = bytes.find_first_not_of(" \t\r\n", behind);
  std::string blanks(bytes.substr(behind, next == std::string_view::npos ? 0 : next - behind));
  return {project, {behind, behind}, (blanks.find('\n') == std::string::npos ? "" : blanks) + inner};
}

InsertPoint end_of_project(std::string_view bytes) {
  InsertPoint out;
  std::size_t end = bytes.rfind("</");
  out.at = static_cast<std::uint32_t>(end == std::string_view::npos ? bytes.size() : end);
  if (std::size_t line = bytes.find('\n');
      line != std::string_view::npos && line > 0 && bytes[line - 1] == '\r')
    out.line_end = "\r\n";
  // As the first element within the project stands.
  for (std::size_t at = bytes.find('\n'); at != std::string_view::npos; at = bytes.find('\n', at + 1)) {
    std::size_t first = bytes.find_first_not_of(" \t", at + 1);
    if (first == std::string_view::npos || first == at + 1 || bytes[first] != '<') continue;
    out.indent = bytes.substr(at + 1, first - at - 1);
    break;
  }
  return out;
}

std::string item_line(const InsertPoint& place, const std::string& type, const std::string& attribute,
                      const std::string& text, const std::string& more) {
  return place.indent + place.indent + "<" + type + " " + attribute + "=\"" + text + "\"" + more + " />" +
         place.line_end;
}

std::string group_around(const InsertPoint& place, const std::string& lines) {
  return place.indent + "<ItemGroup>" + place.line_end + lines + place.indent + "</ItemGroup>" +
         place.line_end;
}

}  // namespace yc::msbuild
