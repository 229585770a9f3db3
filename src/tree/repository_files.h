// Whether the files of a repository are what they must be before a library may read them. A tree that was
// unpacked from an archive can bring a `.git` of any kind along.
#pragma once

#include <string>

struct git_repository;

namespace yc {

// Why the `.git` in the folder `top` (absolute) cannot be used: it or one of its files is a link, a pipe or a
// device, as may be lists of rules from there down to `folder`, or it leads to a repository that does not
// know of this working tree. Empty if it can.
std::string repository_files_problem(const std::string& top, const std::string& folder);
// The same for the files that its configuration names.
std::string configured_files_problem(git_repository* repository);

}  // namespace yc
