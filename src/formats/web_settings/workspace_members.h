// Members of a workspace of packages, in its manifest and in the lock beside it.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/edit.h"
#include "formats/web_settings/manifest_texts.h"
#include "model/graph.h"

namespace yc::web_settings {

struct Workspace {
  RelPath folder;
  bool by_mark = false;  // its tool knows "workspace:*"
  bool by_list = false;  // a list beside the manifest tells the members
};
// The workspace that a package is in or could be: the nearest above.
std::optional<Workspace> workspace_above(const TreeReader& tree, const RelPath& folder);
// How one member depends on another.
std::string member_version(const TreeReader& tree, const Workspace& workspace);

struct NewMember {
  RelPath folder;
  std::string name, version;
  std::map<std::string, Dependency> dependencies;
  std::vector<RelPath> users;  // folders of the packages that depend on it
};
// The manifest's list, unless a pattern takes it in, and the lock (lockfileVersion 2 and 3).
std::vector<Edit> add_member(const TreeReader& tree, const Workspace& workspace, const NewMember& member);
// A lock that is not written here, and the command that does; nothing if there is none.
std::optional<Notice> stale_lock(const TreeReader& tree, const Workspace& workspace);
std::vector<Edit> drop_member(const TreeReader& tree, const Workspace& workspace, const RelPath& folder,
                              const std::string& name);

}  // namespace yc::web_settings
