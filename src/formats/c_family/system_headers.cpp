#include "formats/c_family/system_headers.h"

#include <fmt/format.h>

#include <set>
#include <unordered_set>

#include "formats/c_family/standard_headers.h"

namespace yc::c_family {

namespace {

std::unordered_set<RelPath> searched_folders(const ReferenceGraph& graph) {
  std::unordered_set<RelPath> out;
  for (const Context& context : graph.contexts) {
    for (const SearchRoot& root : context.roots) {
      if (root.place.space == Space::tree && !root.quoted_only) out.insert(root.place.path);
    }
  }
  return out;
}

// The names of system headers by which a file is found.
std::set<std::string> system_names(const std::unordered_set<RelPath>& folders, const RelPath& path) {
  std::set<std::string> out;
  for (RelPath up = path; !up.is_root();) {
    up = up.parent();
    std::string name = up.is_root() ? path.str() : std::string(path.below(up));
    bool is_deep = name.starts_with("sys/") && name.find('/', 4) != std::string::npos;
    if (folders.contains(up) && is_standard_header(name) && !is_deep) out.insert(std::move(name));
  }
  return out;
}

Blocker changed(const Move& move, const std::string& name, bool is_lost) {
  Blocker out;
  out.id = "system-header";
  out.file = move.from;
  out.reason = is_lost ? fmt::format(
                             "stands in for the system's <{}>, which headers of the system may include; "
                             "at {} it would not be found by that name",
                             name, move.to.str())
                       : fmt::format(
                             "at {} it would stand in for the system's <{}>, which headers of the system "
                             "may include",
                             move.to.str(), name);
  out.next =
      "leave it below a folder that is searched, by the same name, or let the project's own build judge "
      "(… -- BUILD COMMAND); --accept-unseen moves anyway, unproved";
  return out;
}

}  // namespace

std::vector<Blocker> changed_system_headers(const ReadTree& before, const ReadTree& planned,
                                            const MoveSet& moves) {
  std::vector<Blocker> out;
  std::optional<std::unordered_set<RelPath>> folders, folders_then;
  for (const Move& move : moves.files()) {
    if (move.from.extension() != ".h" && move.to.extension() != ".h") continue;
    if (!folders) {
      folders = searched_folders(before.graph);
      folders_then = searched_folders(planned.graph);
    }
    std::set<std::string> names = system_names(*folders, move.from);
    std::set<std::string> then = system_names(*folders_then, move.to);
    for (const std::string& name : names) {
      if (!then.contains(name)) out.push_back(changed(move, name, true));
    }
    for (const std::string& name : then) {
      if (!names.contains(name)) out.push_back(changed(move, name, false));
    }
  }
  return out;
}

}  // namespace yc::c_family
