// libgit2 is started once in a process: starting it costs more than most of what we ask of it.
#pragma once

#include <string>

namespace yc {

void use_git_library();
// Whether a folder is in a repository, as a look at the folders upwards tells; libgit2 need not be asked where there is none.
bool may_be_in_repository(const std::string& folder);

}  // namespace yc
