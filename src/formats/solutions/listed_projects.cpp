#include "formats/solutions/listed_projects.h"

#include <algorithm>

#include "base/text.h"
#include "formats/json/json_lists.h"
#include "formats/json/json_strings.h"
#include "formats/mirrored_folders.h"
#include "formats/solutions/solution_text.h"
#include "formats/xml/xml_places.h"

namespace yc::solutions {

namespace {

std::string slashed(std::string text) {
  std::replace(text.begin(), text.end(), '\\', '/');
  return text;
}

bool leads_to_project(const RelPath& list, const std::string& text, const RelPath& project) {
  return RelPath::resolve(list.parent(), slashed(text)) == project;
}

// As the text beside it spells its separators.
std::string spelled(const RelPath& list, const std::string& like, const RelPath& project) {
  std::string out = relative_text(list.parent(), project);
  if (like.find('/') == std::string::npos) std::replace(out.begin(), out.end(), '/', '\\');
  return out;
}

std::string upper_guid(std::string text) {
  for (char& c : text) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  return text;
}

const Entry* entry_of(const Solution& solution, const RelPath& list, const RelPath& project) {
  auto at = std::find_if(solution.entries.begin(), solution.entries.end(), [&](const Entry& entry) {
    return !entry.is_folder() && leads_to_project(list, entry.path, project);
  });
  return at == solution.entries.end() ? nullptr : &*at;
}

// The lines between the entries and the end that tell of an identifier, with their line ends.
std::vector<Span> lines_about(std::string_view bytes, const Solution& solution,
                              const std::string& identifier) {
  std::vector<Span> out;
  for (std::size_t at = solution.entries_end; at < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size() - 1) + 1;
    if (upper_guid(std::string(bytes.substr(at, end - at))).find(identifier) != std::string::npos)
      out.push_back(span_of(at, end));
    at = end;
  }
  return out;
}

void list_in_text(const RelPath& list, std::string_view bytes, const MadeUnit& unit, std::vector<Edit>& out) {
  Solution solution = read_solution(bytes);
  const Entry* like = entry_of(solution, list, unit.like);
  if (!like) return;
  std::string line = bytes.substr(0, bytes.find('\n') + 1).ends_with("\r\n") ? "\r\n" : "\n";
  std::string identifier = unit.identifier.empty() ? identifier_of(unit.file.str()) : unit.identifier;
  std::string entry = "Project(\"" + like->type + "\") = \"" + unit.name + "\", \"" +
                      spelled(list, like->path, unit.file) + "\", \"" + identifier + "\"" + line +
                      "EndProject" + line;
  out.push_back({list, {like->line.end, like->line.end}, entry});
  // What is said of the other, section by section.
  std::vector<Span> lines = lines_about(bytes, solution, like->identifier);
  for (std::size_t i = 0; i < lines.size();) {
    std::string more;
    std::uint32_t end = lines[i].end;
    for (std::uint32_t next = lines[i].begin; i < lines.size() && lines[i].begin == next; ++i) {
      std::string text(bytes.substr(lines[i].begin, lines[i].size()));
      text.replace(upper_guid(text).find(like->identifier), like->identifier.size(), identifier);
      more += text;
      end = next = lines[i].end;
    }
    out.push_back({list, {end, end}, more});
  }
}

void list_in_xml(const RelPath& list, std::string_view bytes, const MadeUnit& unit, std::vector<Edit>& out) {
  auto elements = xml::elements(bytes);
  for (const xml::Element& element : elements.value_or(std::vector<xml::Element>())) {
    const xml::Attribute* path = element.attribute("Path");
    if (element.name != "Project" || !path || !leads_to_project(list, path->value, unit.like)) continue;
    Span span = xml::extent(bytes, element);
    std::size_t line = line_begin(bytes, span.begin);
    std::string break_ = span.end < bytes.size() && bytes[span.end] == '\r' ? "\r\n" : "\n";
    std::string text = break_ + std::string(bytes.substr(line, span.begin - line)) + "<Project Path=\"" +
                       xml::escaped(spelled(list, path->value, unit.file)) + "\" />";
    out.push_back({list, {span.end, span.end}, text});
  }
}

void unlist_in_text(const RelPath& list, std::string_view bytes, const RelPath& file,
                    std::vector<Edit>& out) {
  Solution solution = read_solution(bytes);
  const Entry* entry = entry_of(solution, list, file);
  if (!entry) return;
  out.push_back({list, entry->line, ""});
  for (const Span& line : lines_about(bytes, solution, entry->identifier)) out.push_back({list, line, ""});
}

void unlist_in_xml(const RelPath& list, std::string_view bytes, const RelPath& file, std::vector<Edit>& out) {
  auto elements = xml::elements(bytes);
  for (const xml::Element& element : elements.value_or(std::vector<xml::Element>())) {
    const xml::Attribute* path = element.attribute("Path");
    if (element.name != "Project" || !path || !leads_to_project(list, path->value, file)) continue;
    Span span = xml::extent(bytes, element);
    std::size_t begin = line_begin(bytes, span.begin), end = bytes.find('\n', span.end);
    out.push_back({list, span_of(begin, end == std::string_view::npos ? bytes.size() : end + 1), ""});
  }
}

// Filters spell projects as their solution does.
void unlist_in_filter(const RelPath& list, std::string_view bytes, const RelPath& file,
                      std::vector<Edit>& out) {
  RelPath solution = list;
  std::vector<json::StringValue> values = json::string_values(bytes);
  for (const json::StringValue& value : values) {
    bool names = value.path.size() == 2 && value.path[0] == "solution" && value.path[1] == "path";
    auto path = names ? RelPath::resolve(list.parent(), slashed(value.text)) : std::nullopt;
    if (path) solution = *path;
  }
  for (const json::StringValue& value : values) {
    bool lists = value.path.size() == 3 && value.path[0] == "solution" && value.path[1] == "projects";
    if (!lists || !leads_to_project(solution, value.text, file)) continue;
    if (auto span = json::without(bytes, {value.span.begin - 1, value.span.end + 1}))
      out.push_back({list, *span, ""});
  }
}

}  // namespace

std::vector<Edit> list_project(const TreeView& view, const MadeUnit& unit) {
  std::vector<Edit> out;
  for (const RelPath& list : view.files) {
    auto bytes = view.tree.is_editable(list) ? view.tree.read(list) : Result<Bytes>(Error{});
    if (!bytes) continue;
    if (list.extension() == ".sln") list_in_text(list, **bytes, unit, out);
    if (list.extension() == ".slnx") list_in_xml(list, **bytes, unit, out);
  }
  return out;
}

std::vector<Edit> unlist_project(const TreeView& view, const RelPath& file) {
  std::vector<Edit> out;
  for (const RelPath& list : view.files) {
    auto bytes = view.tree.is_editable(list) ? view.tree.read(list) : Result<Bytes>(Error{});
    if (!bytes) continue;
    if (list.extension() == ".sln") unlist_in_text(list, **bytes, file, out);
    if (list.extension() == ".slnx") unlist_in_xml(list, **bytes, file, out);
    if (list.extension() == ".slnf") unlist_in_filter(list, **bytes, file, out);
  }
  return out;
}

}  // namespace yc::solutions
