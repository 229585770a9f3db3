#include "tree/folder_watch.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>

#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

TEST(FolderWatch, tells_whether_anything_happened) {
  ScratchFolder folder;
  folder.write("src/a.c", "text");
  folder.write("src/deep/b.c", "text");
  auto watch = FolderWatch::begin({folder.path(), folder.path() + "/src"});
  if (!watch) GTEST_SKIP() << "this file system does not tell";
  EXPECT_TRUE(watch->is_quiet());
  auto happens = [&](const std::string& command) {
    EXPECT_EQ(std::system(("cd '" + folder.path() + "' && " + command).c_str()), 0) << command;
    return !watch->is_quiet() && watch->is_quiet();  // each is told once
  };
  EXPECT_FALSE(happens("cat src/a.c >/dev/null")) << "reading changes nothing";
  EXPECT_TRUE(happens("echo more >> src/a.c"));
  EXPECT_TRUE(happens("touch -d 2020-01-01 src/a.c"));
  EXPECT_TRUE(happens("echo new > src/c.c"));
  EXPECT_TRUE(happens("mv src/c.c d.c"));
  EXPECT_TRUE(happens("rm d.c"));
  EXPECT_TRUE(happens("mkdir lib"));
  EXPECT_FALSE(happens("echo more >> src/deep/b.c")) << "not a folder that is watched";
  EXPECT_TRUE(happens("mv src away"));
}

TEST(FolderWatch, gives_none_for_what_is_not_there) {
  ScratchFolder folder;
  EXPECT_EQ(FolderWatch::begin({folder.path(), folder.path() + "/gone"}), nullptr);
}

}  // namespace
}  // namespace yc::test
