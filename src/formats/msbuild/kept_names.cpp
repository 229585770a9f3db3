#include "formats/msbuild/kept_names.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"
#include "formats/msbuild/default_items.h"
#include "formats/msbuild/evaluation.h"
#include "formats/msbuild/project_files.h"
#include "formats/msbuild/project_words.h"

namespace yc::msbuild {

namespace {

std::string stem_of_file(const RelPath& path) {
  std::string name(path.name());
  return name.substr(0, name.size() - path.extension().size());
}

// A folder's name as a part of a resource's name (the SDK's task CreateManifestResourceNames).
std::string as_identifier(std::string_view part) {
  std::string out;
  for (char c : part) {
    bool fits = std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.' ||
                static_cast<unsigned char>(c) >= 0x80;
    out += fits ? c : '_';
  }
  if (!out.empty() && std::isdigit(static_cast<unsigned char>(out.front()))) out.insert(0, "_");
  return out;
}

// The first class of a source of C#, with its namespace.
std::optional<std::string> first_class(const std::string& text) {
  auto word_behind = [&](std::string_view keyword, std::size_t from) {
    std::size_t at = text.find(keyword, from);
    std::size_t begin = at == std::string::npos ? at : text.find_first_not_of(" \t", at + keyword.size());
    std::size_t end = begin == std::string::npos ? begin : text.find_first_of(" \t\r\n;:{<(", begin);
    return end == std::string::npos ? std::string() : text.substr(begin, end - begin);
  };
  std::string space = word_behind("namespace ", 0), name = word_behind("class ", 0);
  if (name.empty()) return std::nullopt;
  return space.empty() ? name : space + "." + name;
}

class Keeper {
 public:
  Keeper(const TreeReader& tree, const MoveSet& moves, const RelPath& path)
      : tree_(tree), moves_(moves), path_(path) {
    project_ = evaluate(tree, cache_, 0, files_, path, {});
  }

  std::vector<Proposal> run() {
    if (project_.parts.empty()) return {};
    keep_project_name();
    keep_resource_names();
    return std::move(out_);
  }

 private:
  const std::string& bytes() const { return *project_.parts.front().bytes; }
  const std::vector<xml::Element>& elements() const { return *project_.parts.front().elements; }

  void keep_project_name() {
    std::string old_stem = stem_of_file(path_), new_stem = stem_of_file(moves_.map_file(path_));
    if (old_stem == new_stem) return;
    std::string lines;
    InsertPoint point = end_of_project(bytes());
    auto keep = [&](const char* name) {
      if (project_.properties.contains(lowered(name))) return;
      lines += point.line_end + point.indent + point.indent + "<" + name + ">" + xml::escaped(old_stem) +
               "</" + name + ">";
    };
    if (path_.extension() == ".vcxproj") {
      keep("ProjectName");
    } else if (path_.extension() == ".csproj" || path_.extension() == ".vbproj" ||
               path_.extension() == ".fsproj") {
      keep("AssemblyName");
      keep("RootNamespace");
    }
    if (lines.empty()) return;
    for (const xml::Element& element : elements()) {
      if (element.name != "PropertyGroup" || element.attribute("Condition") || element.parent != "Project")
        continue;
      Span whole = xml::extent(bytes(), element);
      std::size_t open = bytes().find('>', element.name_end);
      if (open == std::string::npos || open >= whole.end || bytes()[open - 1] == '/') continue;
      auto at = static_cast<std::uint32_t>(open + 1);
      out_.push_back({{Edit{path_, {at, at}, lines}}, ""});
      return;
    }
  }

  // What the program asks for a resource by; nothing where a class beside it gives the name.
  std::optional<std::string> resource_name(const RelPath& folder, const RelPath& file,
                                           const std::string& space) const {
    if (!file.is_within(folder)) return space + "." + std::string(file.name());
    bool is_list = file.extension() == ".resx";
    std::string name = space;
    RelPath below = RelPath::from_normal(std::string(file.below(folder))).parent();
    for (std::string_view part : below.components()) name += "." + as_identifier(part);
    return name + "." + (is_list ? stem_of_file(file) + ".resources" : std::string(file.name()));
  }

  // The name that a resource has, if it would get another one.
  std::optional<std::string> changed_name(const RelPath& file, const RelPath& old_folder,
                                          const RelPath& new_folder, const std::string& space) const {
    auto before = resource_name(old_folder, file, space);
    auto after = resource_name(new_folder, moves_.map_file(file), space);
    RelPath code = file.parent() / (stem_of_file(file) + ".cs");
    bool by_class = project_.is_new_style && file.extension() == ".resx" && tree_.is_file(code);
    if (!by_class) return before && before != after ? before : std::nullopt;
    // Named after the class in the source beside it, as long as that is beside it.
    RelPath now = moves_.map_file(file), code_now = moves_.map_file(code);
    if (now.parent() == code_now.parent() && stem_of_file(now) == stem_of_file(code_now)) return std::nullopt;
    auto bytes = tree_.read(code);
    auto of_class = bytes ? first_class(**bytes) : std::nullopt;
    if (!of_class || *of_class + ".resources" == after) return std::nullopt;
    return *of_class + ".resources";
  }

  void keep_resource_names() {
    RelPath old_folder = path_.parent(), new_folder = moves_.map_file(path_).parent();
    std::string space = project_.property("RootNamespace");
    if (space.empty()) space = project_.property("AssemblyName");
    if (space.empty()) space = stem_of_file(path_);
    auto changed = [&](const RelPath& file) { return changed_name(file, old_folder, new_folder, space); };
    std::set<std::size_t> named;  // items with a name of their own
    for (const Setting& setting : project_.settings) {
      bool names =
          setting.name == "LogicalName" || setting.name == "ManifestResourceName" || setting.name == "Link";
      if (names || setting.name == "DependentUpon") named.insert(setting.item);
    }
    for (const Item& item : project_.items) {
      bool plain = item.type == "EmbeddedResource" && item.act == Item::Act::include &&
                   item.value.part == 0 && !named.contains(item.number) && item.value.texts.size() == 1;
      if (!plain) continue;
      ::yc::Place place = place_of(old_folder, item.value.texts.front().text());
      auto file = place.space == Space::tree ? find_any_case(tree_, place.path) : std::nullopt;
      if (!file || !tree_.is_file(*file)) continue;
      if (auto name = changed(*file))
        out_.push_back({{metadata_beside(path_, bytes(), elements()[item.value.element], "LogicalName", *name,
                                         project_.is_new_style)},
                        ""});
    }
    // What no word names alone, an SDK's defaults or a pattern take in.
    std::vector<RelPath> taken_in;
    for (const DefaultItems& items : default_items(tree_, project_)) {
      if (items.type == "EmbeddedResource")
        taken_in.insert(taken_in.end(), items.files.begin(), items.files.end());
    }
    for (const Item& item : project_.items) {
      bool pattern = item.type == "EmbeddedResource" && item.act == Item::Act::include &&
                     !named.contains(item.number) && item.value.texts.size() == 1 && project_.is_new_style;
      std::string text = pattern ? item.value.texts.front().text() : "";
      if (text.find('*') == std::string::npos) continue;
      ::yc::Place all = place_of(old_folder, text);
      for (const RelPath& file : tree_.files()) {
        if (all.space == Space::tree && file.is_within(old_folder) && takes_in(all.path.str(), file.str()))
          taken_in.push_back(file);
      }
    }
    InsertPoint point = end_of_project(bytes());
    std::string lines;
    for (const RelPath& file : taken_in) {
      RelPath now = moves_.map_file(file);
      auto name = now.is_within(new_folder) ? changed(file) : std::nullopt;
      auto text = name ? written(relative_text(new_folder, now), habit_of(bytes())) : std::nullopt;
      if (text)
        lines += item_line(point, "EmbeddedResource", "Update", *text,
                           " LogicalName=\"" + xml::escaped(*name) + "\"");
    }
    if (!lines.empty())
      out_.push_back({{Edit{path_, {point.at, point.at}, group_around(point, lines), "names"}}, ""});
  }

  const TreeReader& tree_;
  const MoveSet& moves_;
  const RelPath& path_;
  FactsCache cache_;
  FileTable files_;
  Project project_;
  std::vector<Proposal> out_;
};

}  // namespace

std::vector<Proposal> keep_names(const ClaimedTree& before, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  std::vector<Proposal> out;
  for (const RelPath& path : before.files) {
    const Entry* entry = tree.find(path);
    if (!is_project(path) || entry->kind != EntryKind::file || entry->guarded || entry->ignored) continue;
    RelPath now = moves.map_file(path);
    bool renamed = path.name() != now.name();
    auto bytes = tree.read(path);
    bool wanted = bytes && (renamed || (*bytes)->find("EmbeddedResource") != std::string::npos ||
                            (*bytes)->find("Sdk=") != std::string::npos);
    if (!wanted) continue;
    for (Proposal& way : Keeper(tree, moves, path).run()) out.push_back(std::move(way));
  }
  return out;
}

}  // namespace yc::msbuild
