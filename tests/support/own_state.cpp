#include "support/own_state.h"

#include <stdlib.h>

#include <cstdlib>
#include <filesystem>

namespace yc::test {

namespace fs = std::filesystem;

namespace {

struct Folder {
  std::string path, program;
  Folder() {
    std::string pattern = (fs::temp_directory_path() / "yc-user-XXXXXX").string();
    path = fs::canonical(mkdtemp(pattern.data())).string();
    program = path + "/yellow-compass";
    setenv("XDG_STATE_HOME", path.c_str(), 1);
    setenv("XDG_CACHE_HOME", (path + "/kept").c_str(), 1);
  }
  ~Folder() {
    std::error_code ignored;
    fs::remove_all(path, ignored);
  }
};

}  // namespace

const std::string& own_state() {
  static const Folder folder;
  return folder.program;
}

}  // namespace yc::test
