#include "formats/web_settings/manifest_texts.h"

#include <algorithm>

#include "formats/json/json_members.h"
#include "formats/web_settings/package_boundaries.h"

namespace yc::web_settings {

bool is_section(std::string_view key) {
  return key == "dependencies" || key == "devDependencies" || key == "peerDependencies" ||
         key == "optionalDependencies";
}

std::optional<Manifest> read_manifest(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  if (!bytes) return std::nullopt;
  Manifest out{path, "", {}, {}, {}};
  std::vector<json::StringValue> values = json::string_values(**bytes);
  out.platforms = platforms_of(values);
  for (const json::StringValue& value : values) {
    if (value.path.size() == 1 && value.path[0] == "name") out.name = value.text;
    if (value.path.size() == 2 && is_section(value.path[0]))
      out.dependencies.try_emplace(value.path[1], Dependency{value.path[0], value.text});
    if (value.path[0] == "workspaces") out.members.push_back(value.text);
  }
  return out;
}

std::vector<Manifest> manifests_above(const TreeReader& tree, const RelPath& file) {
  std::vector<Manifest> out;
  for (RelPath up = file.parent();; up = up.parent()) {
    if (auto manifest = read_manifest(tree, up / "package.json")) out.push_back(std::move(*manifest));
    if (up.is_root()) return out;
  }
}

const Dependency* listed(const std::vector<Manifest>& manifests, const std::string& name) {
  for (const Manifest& manifest : manifests) {
    auto at = manifest.dependencies.find(name);
    if (at != manifest.dependencies.end()) return &at->second;
  }
  return nullptr;
}

std::optional<Edit> drop_dependency(const RelPath& file, std::string_view bytes,
                                    const std::vector<std::string>& section, const std::string& name) {
  std::vector<json::Member> all = json::members(bytes);
  auto others = std::count_if(all.begin(), all.end(), [&](const json::Member& one) {
    return one.path.size() == section.size() + 1 &&
           std::equal(section.begin(), section.end(), one.path.begin());
  });
  std::vector<std::string> gone = section;
  if (others > 1) gone.push_back(name);
  return json::drop_member(file, bytes, gone);
}

std::string package_of(const std::string& specifier) {
  if (specifier.empty() || specifier[0] == '.' || specifier[0] == '/' || specifier[0] == '#' ||
      specifier.find(':') != std::string::npos)
    return "";
  std::size_t cut = specifier.find('/');
  if (specifier[0] == '@' && cut != std::string::npos) cut = specifier.find('/', cut + 1);
  return specifier.substr(0, cut);
}

}  // namespace yc::web_settings
