#include "formats/msbuild/project_files.h"
#include "words/msbuild.h"

#include <algorithm>
#include <cctype>

namespace yc::msbuild {

namespace {

std::string ending(const RelPath& path) {
  std::string out(path.extension());
  std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::tolower(c); });
  return out;
}

}  // namespace

bool is_project(const RelPath& path) {
  return words::msbuild::project_endings().contains(ending(path));
}

bool is_imported(const RelPath& path) {
  return words::msbuild::imported_endings().contains(ending(path)) || path.str().ends_with(".user");
}

}  // namespace yc::msbuild
