#include "plan/routes.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc {

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

std::string ending_that_fits(const std::vector<std::string>& endings, const std::string& name) {
  std::string best;
  for (const std::string& ending : endings) {
    if (name.size() > ending.size() && name.ends_with(ending) && ending.size() > best.size()) best = ending;
  }
  return best;
}

}  // namespace

std::vector<RouteFolder> known_route_folders(const TreeReader& tree) {
  std::vector<RouteFolder> out;
  for (const RelPath& path : tree.files()) {
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
        out.push_back({home / folder, path, std::move(endings), std::move(names), by_default});
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

std::string route_of(const RouteFolder& folder, const RelPath& path) {
  if (!path.is_within(folder.folder) || path == folder.folder) return "";
  std::string ending = ending_that_fits(folder.endings, std::string(path.name()));
  if (ending.empty()) return "";
  std::string below(path.below(folder.folder));
  below.resize(below.size() - ending.size());
  std::size_t slash = below.rfind('/');
  std::string parent = slash == std::string::npos ? "" : below.substr(0, slash);
  std::string name = slash == std::string::npos ? below : below.substr(slash + 1);
  if (!folder.names.empty()) {
    if (std::find(folder.names.begin(), folder.names.end(), name) == folder.names.end()) return "";
    return "/" + parent;
  }
  if (name == "index") return "/" + parent;
  return "/" + below;
}

std::vector<Blocker> changed_routes(const MoveSet& moves, const std::vector<RouteFolder>& folders) {
  std::vector<Blocker> out;
  for (const RouteFolder& folder : folders) {
    RouteFolder after = folder;
    after.folder = moves.map_folder(folder.folder).value_or(folder.folder);
    // A tool of its own settings looks where it always looks, whatever moves.
    if (folder.settings.name() != "yellow-compass.toml" &&
        moves.map_file(folder.settings).parent() == folder.settings.parent())
      after.folder = folder.folder;
    for (const Move& move : moves.files()) {
      std::string was = route_of(folder, move.from), is = route_of(after, move.to);
      if (was == is) continue;
      Blocker item;
      item.id = "route";
      item.file = move.from;
      item.text = std::string(move.from.name());
      if (was.empty()) {
        item.reason = fmt::format("would become the route {}: files of {} are pages", is, after.folder.str());
        item.next = "add --routes allow to have it so";
        if (folder.by_default)
          item.next = fmt::format("let {} tell pages by an ending of their own, or {}", folder.settings.str(),
                                  item.next);
      } else if (is.empty()) {
        item.reason = fmt::format("is the route {}, which would be gone", was);
        item.next = "add --routes allow to take it away";
      } else {
        item.reason = fmt::format("is the route {}, which would become {}", was, is);
        item.next = "add --routes allow to rename it";
      }
      out.push_back(std::move(item));
    }
  }
  return out;
}

}  // namespace yc
