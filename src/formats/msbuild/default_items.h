// The items of a new-style project that no word of it names: what its SDK takes in by itself.
#pragma once

#include <string>
#include <vector>

#include "formats/msbuild/evaluation.h"

namespace yc::msbuild {

struct DefaultItems {
  std::string type;     // "Compile"
  std::string pattern;  // of names at any depth: "*.cs"
  std::vector<RelPath> files;
};
// By type; `removed` tells which files a project takes out again.
std::vector<DefaultItems> default_items(const TreeReader& tree, const Project& project);

}  // namespace yc::msbuild
