#include "support/scratch_folder.h"

#include <fmt/format.h>
#include <unistd.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iterator>

namespace yc::test {

namespace fs = std::filesystem;

ScratchFolder::ScratchFolder() {
  std::string pattern = (fs::temp_directory_path() / "yc-scratch-XXXXXX").string();
  path_ = fs::canonical(mkdtemp(pattern.data())).string();
}

ScratchFolder::~ScratchFolder() {
  std::error_code ignored;
  fs::remove_all(path_, ignored);
}

void ScratchFolder::write(const std::string& name, const std::string& bytes) const {
  fs::path full = fs::path(path_) / name;
  fs::create_directories(full.parent_path());
  std::ofstream(full, std::ios::binary) << bytes;
}

std::map<std::string, std::string> ScratchFolder::contents() const {
  return folder_contents(path_);
}

std::map<std::string, std::string> folder_contents(const std::string& root) {
  std::map<std::string, std::string> out;
  for (auto at = fs::recursive_directory_iterator(root); at != fs::recursive_directory_iterator(); ++at) {
    std::string name = at->path().filename().string();
    if (name == ".yellow-compass" || name == ".git") {
      at.disable_recursion_pending();
      continue;
    }
    auto mode = static_cast<unsigned>(at->symlink_status().permissions());
    std::string bytes;
    if (at->is_symlink()) {
      bytes = "link " + fs::read_symlink(at->path()).string();
    } else if (at->is_directory()) {
      bytes = "folder";
    } else {
      std::ifstream file(at->path(), std::ios::binary);
      bytes.assign(std::istreambuf_iterator<char>(file), {});
    }
    out[fs::relative(at->path(), root).string()] = fmt::format("{:o} ", mode) + bytes;
  }
  return out;
}

}  // namespace yc::test
