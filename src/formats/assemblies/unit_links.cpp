#include "formats/assemblies/unit_links.h"

#include "formats/json/json_strings.h"

namespace yc::assemblies {

std::string written_reference(const Assembly& from, const Assembly& to) {
  bool by_identifier = from.by_identifier && !to.identifier.empty();
  return "\"" + json::escaped(by_identifier ? "GUID:" + to.identifier : to.name).value_or(to.name) + "\"";
}

std::optional<Edit> link_edit(const TreeReader& tree, const RelPath& file, const Assembly& from,
                              const Assembly& to) {
  auto bytes = tree.read(file);
  if (!bytes) return std::nullopt;
  std::string text = written_reference(from, to);
  const std::string& all = **bytes;
  std::vector<json::StringValue> values = json::string_values(all);
  const json::StringValue* last = nullptr;
  for (const json::StringValue& value : values) {
    if (value.path.size() == 2 && value.path[0] == "references") last = &value;
  }
  std::string tag = "link " + to.name;
  if (last) {
    std::uint32_t end = last->span.end + 1;
    std::size_t line = all.rfind('\n', last->span.begin), first = all.find_first_not_of(" \t", line + 1);
    bool own_line = line != std::string::npos && first + 1 == last->span.begin;
    std::string lead = own_line ? "," + all.substr(line, first - line) : ", ";
    return Edit{file, {end, end}, lead + text, tag};
  }
  std::size_t key = all.find("\"references\""), open = key == std::string::npos ? key : all.find('[', key);
  if (open != std::string::npos) {
    auto at = static_cast<std::uint32_t>(open + 1);
    return Edit{file, {at, at}, text, tag};
  }
  std::size_t name = all.find("\"name\"");
  if (name == std::string::npos) return std::nullopt;
  auto at = static_cast<std::uint32_t>(name);
  std::size_t line = all.rfind('\n', name);
  std::string lead = line == std::string::npos ? " " : all.substr(line, name - line);
  return Edit{file, {at, at}, "\"references\": [" + text + "]," + lead, tag};
}

std::optional<Edit> relink_edit(const TreeReader& tree, const RelPath& file, const std::string& reference,
                                const std::string& written) {
  auto bytes = tree.read(file);
  if (!bytes) return std::nullopt;
  for (const json::StringValue& value : json::string_values(**bytes)) {
    if (value.path.size() == 2 && value.path[0] == "references" && value.text == reference)
      return Edit{file, {value.span.begin - 1, value.span.end + 1}, written};
  }
  return std::nullopt;
}

std::optional<Edit> unlink_edit(const TreeReader& tree, const RelPath& file, const std::string& reference) {
  auto bytes = tree.read(file);
  if (!bytes) return std::nullopt;
  const std::string& all = **bytes;
  for (const json::StringValue& value : json::string_values(all)) {
    if (value.path.size() != 2 || value.path[0] != "references" || value.text != reference) continue;
    std::size_t begin = value.span.begin - 1, end = value.span.end + 1;
    std::size_t behind = all.find_first_not_of(" \t\r\n", end);
    std::size_t before = all.find_last_not_of(" \t\r\n", begin - 1);
    // With the comma that divides it from the one behind, else from the one before.
    if (behind != std::string::npos && all[behind] == ',') {
      end = all.find_first_not_of(" \t\r\n", behind + 1);
      if (end == std::string::npos) return std::nullopt;
    } else if (before != std::string::npos && all[before] == ',') {
      begin = before;
    }
    return Edit{file, span_of(begin, end), ""};
  }
  return std::nullopt;
}

}  // namespace yc::assemblies
