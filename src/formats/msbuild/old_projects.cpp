#include "formats/msbuild/old_projects.h"

#include <algorithm>
#include <cctype>

#include "formats/shell/command_line.h"

namespace yc::msbuild {

namespace {

TracedText folder_with_slash(FileIndex anchor, const RelPath& folder) {
  TracedText out = TracedText::folder(Piece::Nature::tree_folder, anchor, marked(Space::tree, folder));
  out.append(TracedText::plain("/"));
  return out;
}

std::string lower(std::string text) {
  std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::tolower(c); });
  return text;
}

// The name that the successors of the format give to an attribute of a tool.
std::string modern(const std::string& name) {
  if (name == "CommandLine") return "Command";
  if (name == "AdditionalDependencies") return "AdditionalInputs";
  return name;
}

}  // namespace

Project read_old_project(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
                         const RelPath& path, const Surroundings& around) {
  Project out;
  auto bytes = tree.read(path);
  if (!bytes) return out;
  using Elements = std::optional<std::vector<xml::Element>>;
  auto facts =
      cache.get<Elements>(format, *bytes, [](const std::string& text) { return xml::elements(text); });
  out.is_whole = facts->has_value();
  if (!out.is_whole) return out;
  FileIndex file = files.index(path);
  out.parts.push_back(
      {path, file, *bytes, std::shared_ptr<const std::vector<xml::Element>>(facts, &**facts)});
  const std::vector<xml::Element>& elements = **facts;
  WritingStyle habit = habit_of(**bytes);
  out.separators = ";,";  // either will do
  Configurations configurations;
  for (const xml::Element& element : elements) {
    const xml::Attribute* both = element.name == "Configuration" ? element.attribute("Name") : nullptr;
    if (both) configurations.add(both->value);
  }
  auto value_of = [&](char sign, std::string_view inner) -> std::optional<Texts> {
    std::string name = lower(std::string(inner));
    if (sign != '$') return std::nullopt;
    if (name == "projectdir" || name == "inputdir") return Texts{folder_with_slash(file, path.parent())};
    auto solution = around.solution_of.find(path);
    if (name == "solutiondir" && solution != around.solution_of.end())
      return Texts{folder_with_slash(files.index(solution->second), solution->second.parent())};
    return built_in(name, configurations);
  };
  auto value_at = [&](std::size_t i, Span span) {
    return Value{0, i, elements[i].begin, span, expanded(decoded(**bytes, span, file, habit), value_of)};
  };
  std::size_t count = 0, item = static_cast<std::size_t>(-1);
  std::int32_t item_element = -1;
  for (std::size_t i = 0; i < elements.size(); ++i) {
    const xml::Element& element = elements[i];
    if (element.name == "File") {
      const xml::Attribute* named = element.attribute("RelativePath");
      if (!named) continue;
      item = count++;
      item_element = static_cast<std::int32_t>(i);
      bool source = shell::is_source_name(named->value);
      out.items.push_back(
          {source ? "ClCompile" : "ClInclude", Item::Act::include, item, value_at(i, named->span)});
      continue;
    }
    // Within a file's element its own settings stand, each in the element of a configuration.
    bool of_item = false;
    for (std::int32_t up = element.up; up >= 0; up = elements[static_cast<std::size_t>(up)].up)
      of_item = of_item || up == item_element;
    for (const xml::Attribute& attribute : element.attributes) {
      if (attribute.name == "Name" || attribute.name == "InheritedPropertySheets") {
        if (attribute.name != "Name")
          out.settings.push_back(
              {"Project", "Import", static_cast<std::size_t>(-1), value_at(i, attribute.span)});
        continue;
      }
      bool is_tool = element.name == "Tool" || element.name == "Configuration";
      if (element.name == "ProjectReference" && attribute.name == "RelativePathToProject") {
        // It counts from the folder of the solution.
        auto solution = around.solution_of.find(path);
        if (solution == around.solution_of.end()) continue;
        Value value = value_at(i, attribute.span);
        for (TracedText& text : value.texts) {
          TracedText whole = folder_with_slash(files.index(solution->second), solution->second.parent());
          whole.append(text);
          text = std::move(whole);
        }
        out.items.push_back({"ProjectReference", Item::Act::include, count++, std::move(value)});
      } else if (is_tool) {
        const xml::Attribute* tool = element.attribute("Name");
        bool compiles = tool && tool->value == "VCCLCompilerTool";
        std::string owner = compiles ? "ClCompile" : element.name;
        out.settings.push_back({modern(attribute.name), owner, of_item ? item : static_cast<std::size_t>(-1),
                                value_at(i, attribute.span)});
      }
    }
  }
  return out;
}

}  // namespace yc::msbuild
