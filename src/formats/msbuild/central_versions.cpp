#include "formats/msbuild/central_versions.h"

#include <algorithm>
#include <map>

#include "base/text.h"

namespace yc::msbuild {

namespace {

using Change = SharedDefinitions::Change;
constexpr std::string_view kCentral = "Directory.Packages.props";

struct Attribute {
  Span whole;  // with the blanks before it
  Span value;
  std::string text;
};
struct Element {
  Span tag;  // from "<" to ">"
  std::map<std::string, Attribute> attributes;
};

// The opening tags of a name, outside of comments.
std::vector<Element> elements(std::string_view text, std::string_view name) {
  std::vector<Element> out;
  std::string open = "<" + std::string(name);
  for (std::size_t at = text.find('<'); at != std::string_view::npos; at = text.find('<', at + 1)) {
    if (text.substr(at, 4) == "<!--") {
      at = text.find("-->", at);
      if (at == std::string_view::npos) break;
      continue;
    }
    std::size_t end = at + open.size();
    bool is_it = text.substr(at, open.size()) == open && end < text.size() &&
                 std::isspace(static_cast<unsigned char>(text[end]));
    if (!is_it) continue;
    Element element;
    while (end < text.size() && text[end] != '>') {
      std::size_t begin = end;
      while (end < text.size() && std::isspace(static_cast<unsigned char>(text[end]))) ++end;
      std::size_t equals = text.find_first_of("=>/", end);
      if (equals == std::string_view::npos || text[equals] != '=') {
        end = text.find('>', end);
        break;
      }
      std::string key(trimmed(text.substr(end, equals - end)));
      std::size_t quote = text.find_first_of("\"'", equals);
      std::size_t close = quote == std::string_view::npos ? quote : text.find(text[quote], quote + 1);
      if (close == std::string_view::npos) return out;
      element.attributes[key] = {span_of(begin, close + 1), span_of(quote + 1, close),
                                 std::string(text.substr(quote + 1, close - quote - 1))};
      end = close + 1;
    }
    if (end == std::string_view::npos || end >= text.size()) return out;
    element.tag = span_of(at, end + 1);
    out.push_back(std::move(element));
  }
  return out;
}

struct Projects {
  std::map<RelPath, std::string> texts;
  RelPath top;  // the folder that holds them all
};

bool takes_versions(const RelPath& path) {
  return path.extension() == ".csproj" || path.extension() == ".fsproj" || path.extension() == ".vbproj";
}

Projects projects_of(const ClaimedTree& before) {
  Projects out;
  bool any = false;
  for (const RelPath& path : before.files) {
    auto bytes = takes_versions(path) && before.tree.is_editable(path) ? before.tree.read(path)
                                                                       : Result<Bytes>(Error{});
    if (!bytes || elements(**bytes, "PackageReference").empty()) continue;
    out.texts.emplace(path, **bytes);
    if (!any) out.top = path.parent();
    any = true;
    while (!path.is_within(out.top)) out.top = out.top.parent();
  }
  // One project alone has its folder's parent as the top, where a solution most often lies.
  if (out.texts.size() == 1) out.top = out.top.parent();
  return out;
}

std::string central_text(const std::map<std::string, std::string>& versions) {
  std::string out =
      "<Project>\n  <PropertyGroup>\n    "
      "<ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally>\n  </PropertyGroup>\n  "
      "<ItemGroup>\n";
  for (const auto& [name, version] : versions)
    out += "    <PackageVersion Include=\"" + name + "\" Version=\"" + version + "\" />\n";
  return out + "  </ItemGroup>\n</Project>\n";
}

}  // namespace

std::vector<Change> share_versions(const ClaimedTree& before) {
  Projects projects = projects_of(before);
  if (projects.texts.empty() || before.tree.find(projects.top / kCentral)) return {};
  std::map<std::string, std::map<std::string, std::size_t>> asked;  // packages, versions, how often
  for (const auto& [path, text] : projects.texts) {
    for (const Element& element : elements(text, "PackageReference")) {
      auto name = element.attributes.find("Include"), version = element.attributes.find("Version");
      // A version in an element of its own, or none at all, is left to whoever wrote it so.
      if (name == element.attributes.end() || version == element.attributes.end()) return {};
      ++asked[name->second.text][version->second.text];
    }
  }
  Change change;
  std::map<std::string, std::string> versions;
  for (const auto& [name, counts] : asked)
    versions[name] = std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) {
                       return a.second < b.second;
                     })->first;
  for (const auto& [path, text] : projects.texts) {
    for (const Element& element : elements(text, "PackageReference")) {
      const Attribute& version = element.attributes.at("Version");
      bool is_common = versions[element.attributes.at("Include").text] == version.text;
      std::string own = is_common ? "" : " VersionOverride=\"" + version.text + "\"";
      change.edits.push_back({path, version.whole, own});
    }
  }
  change.made[projects.top / kCentral] = central_text(versions);
  return {std::move(change)};
}

std::vector<Change> unshare_versions(const ClaimedTree& before) {
  std::vector<Change> out;
  for (const RelPath& central : before.files) {
    auto bytes = central.name() == kCentral ? before.tree.read(central) : Result<Bytes>(Error{});
    if (!bytes) continue;
    std::map<std::string, std::string> versions;
    for (const Element& element : elements(**bytes, "PackageVersion")) {
      auto name = element.attributes.find("Include"), version = element.attributes.find("Version");
      if (name != element.attributes.end() && version != element.attributes.end())
        versions[name->second.text] = version->second.text;
    }
    Change change;
    bool is_whole = true;
    for (const auto& [path, text] : projects_of(before).texts) {
      if (!path.is_within(central.parent())) continue;
      for (const Element& element : elements(text, "PackageReference")) {
        auto name = element.attributes.find("Include"), own = element.attributes.find("VersionOverride");
        if (name == element.attributes.end() || element.attributes.contains("Version")) continue;
        auto version = versions.find(name->second.text);
        if (own != element.attributes.end()) {
          change.edits.push_back({path, own->second.whole, " Version=\"" + own->second.text + "\""});
        } else if (version != versions.end()) {
          change.edits.push_back({path,
                                  {name->second.whole.end, name->second.whole.end},
                                  " Version=\"" + version->second + "\""});
        } else {
          is_whole = false;
        }
      }
    }
    change.dropped.push_back(central);
    if (is_whole && !change.edits.empty()) out.push_back(std::move(change));
  }
  return out;
}

}  // namespace yc::msbuild
