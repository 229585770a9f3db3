#include "formats/msbuild/default_items.h"

#include <algorithm>

namespace yc::msbuild {

namespace {

bool is_off(const Project& project, const char* switch_name) {
  std::string value = project.property(switch_name);
  return value == "false" || value == "False";
}

// Patterns of what is never taken in, relative to the project's folder.
std::vector<std::string> left_out(const Project& project) {
  std::vector<std::string> out = {"bin/**", "obj/**", "**/.*/**"};
  auto given = project.properties.find("defaultitemexcludes");
  if (given == project.properties.end()) return out;
  for (const TracedText& text : given->second) {
    for (const TracedText& word : list_words(text)) {
      if (!word.has_hole()) out.push_back(word.text());
    }
  }
  return out;
}

}  // namespace

std::vector<DefaultItems> default_items(const TreeReader& tree, const Project& project) {
  std::vector<DefaultItems> out;
  if (!project.is_new_style || is_off(project, "EnableDefaultItems")) return out;
  const RelPath& path = project.parts.front().path;
  std::string_view ending = path.extension();
  auto take = [&](std::string type, std::string pattern, const char* switch_name) {
    if (!is_off(project, switch_name)) out.push_back({std::move(type), std::move(pattern), {}});
  };
  if (ending == ".csproj") take("Compile", "*.cs", "EnableDefaultCompileItems");
  if (ending == ".vbproj") take("Compile", "*.vb", "EnableDefaultCompileItems");
  if (ending == ".csproj" || ending == ".vbproj" || ending == ".fsproj")
    take("EmbeddedResource", "*.resx", "EnableDefaultEmbeddedResourceItems");
  bool web = project.sdk.find("Web") != std::string::npos || project.sdk.find("Razor") != std::string::npos;
  if (web) {
    take("Content", "*.cshtml", "EnableDefaultContentItems");
    take("Content", "*.razor", "EnableDefaultContentItems");
  }
  std::vector<std::string> excluded = left_out(project);
  for (DefaultItems& items : out) {
    for (RelPath& file : match_deep(tree, path.parent(), items.pattern)) {
      const Entry* entry = tree.find(file);
      std::string_view below = file.below(path.parent());
      bool out_of_reach = !entry || entry->ignored ||
                          std::any_of(excluded.begin(), excluded.end(),
                                      [&](const std::string& pattern) { return takes_in(pattern, below); });
      if (!out_of_reach) items.files.push_back(std::move(file));
    }
  }
  return out;
}

}  // namespace yc::msbuild
