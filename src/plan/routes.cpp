#include "plan/routes.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc {

namespace {

std::string ending_that_fits(const std::vector<std::string>& endings, const std::string& name) {
  std::string best;
  for (const std::string& ending : endings) {
    if (name.size() > ending.size() && name.ends_with(ending) && ending.size() > best.size()) best = ending;
  }
  return best;
}

}  // namespace

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
    // A tool looks where it always looks, whatever moves.
    if (!folder.follows && moves.map_file(folder.settings).parent() == folder.settings.parent())
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
