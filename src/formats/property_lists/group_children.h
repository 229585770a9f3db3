// Moving a file of a project from one group to another, where a group stands for its new folder.
#pragma once

#include "formats/capabilities/companions.h"
#include "formats/format.h"

namespace yc::plist {

// One way that takes the file out of the children of its group and puts it among those of the group for its
// new folder, if the groups are folders. Where there is no such group and one stands for a folder above, the
// group is made, with all files that go there.
std::vector<Proposal> change_group(const RewriteRequest& need);
// Ways to have names follow that a file is shown by, where they repeat the name of the file.
std::vector<Proposal> follow_shown_names(const ClaimedTree& before, const MoveSet& moves);

}  // namespace yc::plist
