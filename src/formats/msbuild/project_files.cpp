#include "formats/msbuild/project_files.h"
#include "base/text.h"
#include "words/msbuild.h"

#include <algorithm>
#include <cctype>

namespace yc::msbuild {

namespace {

std::string ending(const RelPath& path) {
  std::string out(path.extension());
  out = lowered(out);
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
