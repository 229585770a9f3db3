#include "formats/modules/site_routes.h"

#include <string_view>

namespace yc::modules {

namespace {

const std::vector<std::string> kScripts = {".tsx", ".ts", ".jsx", ".js"};

// The strings of `key: [ … ]` in a settings program.
std::vector<std::string> list_of(std::string_view bytes, std::string_view key) {
  std::vector<std::string> out;
  std::size_t at = bytes.find(key);
  if (at == std::string_view::npos) return out;
  std::size_t open = bytes.find('[', at), close = bytes.find(']', at);
  if (open == std::string_view::npos || close == std::string_view::npos || open > close ||
      open - at > key.size() + 4)
    return out;
  for (std::size_t i = bytes.find_first_of("'\"", open); i < close; i = bytes.find_first_of("'\"", i + 1)) {
    std::size_t end = bytes.find(bytes[i], i + 1);
    if (end == std::string_view::npos || end > close) break;
    out.emplace_back(bytes.substr(i + 1, end - i - 1));
    i = end;
  }
  return out;
}

}  // namespace

std::vector<RouteFolder> route_folders(const ClaimedTree& before) {
  const TreeReader& tree = before.tree;
  std::vector<RouteFolder> out;
  for (const RelPath& path : before.files) {
    std::string_view name = path.name();
    std::size_t config = name.find(".config.");
    if (config == std::string_view::npos) continue;
    const Entry* entry = tree.find(path);
    if (entry->kind != EntryKind::file || entry->ignored) continue;
    std::string_view tool = name.substr(0, config);
    auto bytes = tree.read(path);
    if (!bytes) continue;
    RelPath home = path.parent();
    auto add = [&](const char* folder, std::vector<std::string> endings, std::vector<std::string> names = {},
                   bool by_default = true) {
      if (tree.is_folder(home / folder))
        out.push_back({home / folder, path, std::move(endings), std::move(names), by_default, false});
    };
    if (tool == "next") {
      std::vector<std::string> endings;
      for (const std::string& ending : list_of(**bytes, "pageExtensions")) endings.push_back("." + ending);
      bool by_default = endings.empty();
      if (by_default) endings = kScripts;
      for (const char* folder : {"pages", "src/pages"}) add(folder, endings, {}, by_default);
      for (const char* folder : {"app", "src/app"}) add(folder, endings, {"page", "route"}, by_default);
    } else if (tool == "nuxt") {
      for (const char* folder : {"pages", "app/pages"}) add(folder, {".vue", ".tsx", ".jsx"});
    } else if (tool == "astro") {
      add("src/pages", {".astro", ".md", ".mdx", ".html", ".js", ".ts"});
    } else if (tool == "svelte") {
      add("src/routes", {".svelte", ".js", ".ts"}, {"+page", "+server", "+layout"});
    }
  }
  return out;
}

}  // namespace yc::modules
