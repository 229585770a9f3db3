// The text of a project that is made of a part of another.
#pragma once

#include <string>
#include <vector>

#include "formats/msbuild/evaluation.h"
#include "tree/tree_reader.h"

namespace yc::msbuild {

struct NewProject {
  RelPath file;
  std::string assembly, space, identifier;  // space: its root namespace
  std::vector<std::string> items;           // elements for its sources
  std::vector<std::string> links;           // lines for the projects that it refers to
};

// What both share is copied: properties, packages, imports; paths are counted from the new folder. Shared
// lists of sources are not, since they would be compiled twice.
std::string project_text(const TreeReader& tree, const Project& outer, const NewProject& made);

// A path in a project as one in another folder says it; other texts as they are.
std::string rebased_path(const TreeReader& tree, const RelPath& from, const RelPath& to,
                         std::string_view text);

}  // namespace yc::msbuild
