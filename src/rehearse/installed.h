// Installed packages, which version control ignores and a build needs: copies that are built get them.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "tree/disk_tree.h"

namespace yc {

// The ignored folders that builds need: each node_modules beside a package.json, and what the configuration
// names as `installed`. None lies in another.
std::vector<RelPath> installed_packages(const DiskTree& disk, const std::vector<RelPath>& named);

// Copies them, links as links, below `folder`, at the same places: a move leaves what is ignored where it is.
// A link in place of such a folder is left out, since a build would write through it. Fails where the disk
// does.
Status copy_installed(const DiskTree& disk, const std::vector<RelPath>& packages, const std::string& folder);

}  // namespace yc
