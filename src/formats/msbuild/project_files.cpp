#include "formats/msbuild/project_files.h"

#include <algorithm>
#include <cctype>
#include <set>

namespace yc::msbuild {

namespace {

std::string ending(const RelPath& path) {
  std::string out(path.extension());
  std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::tolower(c); });
  return out;
}

}  // namespace

bool is_project(const RelPath& path) {
  static const std::set<std::string_view> kEndings = {
      ".csproj", ".vcproj",  ".vsprops", ".fsproj", ".vbproj", ".vcxproj",    ".shproj",
      ".proj",   ".wixproj", ".sqlproj", ".dcproj", ".esproj", ".msbuildproj"};
  return kEndings.contains(ending(path));
}

bool is_imported(const RelPath& path) {
  static const std::set<std::string_view> kEndings = {".props", ".targets", ".projitems", ".vcxitems",
                                                      ".pubxml"};
  return kEndings.contains(ending(path)) || path.str().ends_with(".user");
}

}  // namespace yc::msbuild
