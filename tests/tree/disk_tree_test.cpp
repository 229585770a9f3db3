#include "tree/disk_tree.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>

#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

RelPath at(const char* text) {
  return RelPath::from_normal(text);
}

int shell(const ScratchFolder& folder, const std::string& command) {
  return std::system(("cd '" + folder.path() + "' && (" + command + ") >/dev/null 2>&1").c_str());
}

TEST(DiskTree, kinds_contents_and_what_is_not_there) {
  ScratchFolder folder;
  folder.write("src/a.c", "text");
  fs::create_symlink("src/a.c", folder.path() + "/link");
  fs::create_directory(folder.path() + "/empty");
  auto tree = DiskTree::scan(folder.path(), {});
  ASSERT_TRUE(tree);
  EXPECT_TRUE((*tree)->is_file(at("src/a.c")));
  EXPECT_TRUE((*tree)->is_folder(at("src")));
  EXPECT_TRUE((*tree)->is_folder(at("empty")));
  EXPECT_EQ((*tree)->find(at("link"))->kind, EntryKind::link);
  EXPECT_EQ(**(*tree)->read(at("link")), "src/a.c") << "a link's content is its text";
  EXPECT_EQ(**(*tree)->read(at("src/a.c")), "text");
  EXPECT_EQ((*tree)->find(at("src/b.c")), nullptr);
  EXPECT_FALSE((*tree)->read(at("src/b.c")));
  EXPECT_EQ((*tree)->files(), (std::vector<RelPath>{at("link"), at("src/a.c")}));
}

TEST(DiskTree, is_looked_into_without_keeping) {
  ScratchFolder folder;
  folder.write("long.c", std::string(10000, 'x'));
  folder.write("short.c", "text");
  folder.write("empty.c", "");
  folder.write("below/huge.c", std::string(300000, 'y'));
  fs::create_symlink("short.c", folder.path() + "/link");
  auto tree = DiskTree::scan(folder.path(), {});
  ASSERT_TRUE(tree);
  std::string buffer;
  EXPECT_EQ((*tree)->peek(at("long.c"), buffer)->size(), 10000U);
  EXPECT_EQ(*(*tree)->peek(at("short.c"), buffer), "text") << "the buffer is used again";
  EXPECT_EQ(*(*tree)->peek(at("empty.c"), buffer), "");
  EXPECT_FALSE((*tree)->peek(at("link"), buffer));
  EXPECT_FALSE((*tree)->peek(at("gone.c"), buffer));
  folder.write("short.c", "another text");
  EXPECT_EQ(*(*tree)->peek(at("short.c"), buffer), "another text") << "as it is now";
  EXPECT_FALSE((*tree)->peek(at("below"), buffer)) << "a folder";
  EXPECT_EQ((*tree)->peek(at("below/huge.c"), buffer)->size(), 300000U) << "longer than any buffer so far";
}

TEST(DiskTree, ignored_outputs_and_version_control) {
  ScratchFolder folder;
  folder.write(".gitignore", "*.o\nbuild/\n/local.txt\n");
  folder.write("a.o", "");
  folder.write("kept.o", "");
  folder.write("build/x.txt", "");
  folder.write("out/CMakeCache.txt", "");
  folder.write("out/y.txt", "");
  folder.write("node_modules/p/index.js", "");
  folder.write("a.c", "");
  ASSERT_EQ(shell(folder, "git init -q . && git add -f kept.o"), 0);
  auto tree = DiskTree::scan(folder.path(), {{at("a.c")}});
  ASSERT_TRUE(tree);
  for (const char* path : {"a.o", "build", "out", "node_modules"})
    EXPECT_TRUE((*tree)->find(at(path))->ignored) << path;
  EXPECT_FALSE((*tree)->find(at("kept.o"))->ignored) << "what is tracked is not ignored";
  EXPECT_TRUE((*tree)->find(at(".git"))->guarded);
  EXPECT_TRUE((*tree)->find(at("a.c"))->guarded);
  EXPECT_TRUE((*tree)->find(at("build/x.txt"))->ignored) << "looked into when asked";
  EXPECT_EQ((*tree)->files(), (std::vector<RelPath>{at(".gitignore"), at("a.c"), at("kept.o")}));
}

TEST(DiskTree, root_is_found_upwards) {
  ScratchFolder folder;
  folder.write("top/a/b/c.txt", "");
  std::string top = folder.path() + "/top";
  EXPECT_EQ(find_root(top + "/a/b"), top + "/a/b");
  ASSERT_EQ(shell(folder, "cd top && git init -q ."), 0);
  EXPECT_EQ(find_root(top + "/a/b"), top);
  EXPECT_EQ(state_folder(top), top + "/.git/yellow-compass");
  EXPECT_EQ(state_folder(top + "/a/b"), top + "/.git/yellow-compass-a%2Fb")
      << "a part has journals of its own";
  folder.write("top/a/yellow-compass.toml", "");
  EXPECT_EQ(find_root(top + "/a/b"), top + "/a");
}

TEST(DiskTree, folder_that_a_repository_ignores_is_a_tree_of_its_own) {
  ScratchFolder folder;
  folder.write(".gitignore", "/scratch/\n");
  folder.write("scratch/main.c", "");
  ASSERT_EQ(shell(folder, "git init -q ."), 0);
  std::string inner = folder.path() + "/scratch";
  EXPECT_EQ(find_root(inner), inner);
  EXPECT_EQ(state_folder(inner), inner + "/.yellow-compass");
  auto tree = DiskTree::scan(inner, {});
  ASSERT_TRUE(tree);
  EXPECT_FALSE((*tree)->find(at("main.c"))->ignored);
}

TEST(TreePatterns, match_as_the_tools_do) {
  ScratchFolder folder;
  for (const char* path : {"a.c", "b.c", ".hidden.c", "src/x.c", "src/deep/y.c", "src/deep/z.h"})
    folder.write(path, "");
  auto tree = DiskTree::scan(folder.path(), {});
  auto shallow = [&](const char* pattern) {
    std::string out;
    for (const RelPath& path : match_paths(**tree, {}, pattern)) out += path.str() + " ";
    return out;
  };
  auto deep = [&](const char* pattern) {
    std::string out;
    for (const RelPath& path : match_deep(**tree, {}, pattern)) out += path.str() + " ";
    return out;
  };
  EXPECT_EQ(shallow("*.c"), "a.c b.c ");
  EXPECT_EQ(shallow("[ab].c"), "a.c b.c ");
  EXPECT_EQ(shallow("?.c"), "a.c b.c ");
  EXPECT_EQ(shallow("src/*/*.c"), "src/deep/y.c ");
  EXPECT_EQ(shallow("./src/../a.c"), "a.c ");
  EXPECT_EQ(shallow("../a.c"), "");
  EXPECT_EQ(deep("src/*.c"), "src/deep/y.c src/x.c ");
  EXPECT_EQ(deep("*.h"), "src/deep/z.h ");
}

TEST(DiskTree, knows_that_names_came_or_went) {
  ScratchFolder folder;
  folder.write("src/a.c", "text");
  folder.write("src/net/b.c", "text");
  auto tree = std::move(*DiskTree::scan(folder.path(), {}));
  EXPECT_FALSE(tree->has_other_names());
  folder.write("src/a.c", "another text");
  EXPECT_FALSE(tree->has_other_names()) << "that is no name";
  fs::rename(folder.path() + "/src/net/b.c", folder.path() + "/src/net/c.c");
  EXPECT_TRUE(tree->has_other_names());
  EXPECT_FALSE((*DiskTree::scan(folder.path(), {}))->has_other_names());
  fs::remove_all(folder.path() + "/src/net");
  EXPECT_TRUE(tree->has_other_names());
}

TEST(DiskTree, takes_over_what_was_read_of_what_is_the_same) {
  ScratchFolder folder;
  folder.write("a.c", "same");
  folder.write("b.c", "before");
  folder.write("c.c", "told so");
  auto before = std::move(*DiskTree::scan(folder.path(), {}));
  Bytes same = *before->read(at("a.c")), changed = *before->read(at("b.c")), told = *before->read(at("c.c"));
  folder.write("b.c", "behind it");
  auto now = std::move(*DiskTree::scan(folder.path(), {}));
  now->take_over(*before, {at("c.c")});
  EXPECT_EQ(*now->read(at("a.c")), same) << "the very bytes, by which their facts are known";
  EXPECT_EQ(**now->read(at("b.c")), "behind it");
  EXPECT_NE(*now->read(at("c.c")), told);
}

TEST(DiskTree, knows_which_texts_changed_and_what_a_build_made_since) {
  ScratchFolder folder;
  ASSERT_EQ(shell(folder, "git init -q . && echo built/ > .gitignore"), 0);
  folder.write("a.c", "text");
  folder.write("built/made.txt", "1");
  folder.write("built/more.txt", "1");
  auto tree = std::move(*DiskTree::scan(folder.path(), {}));
  EXPECT_TRUE(tree->is_file(at("built/made.txt")));  // looked up
  EXPECT_TRUE(tree->changed_files().empty());
  folder.write("a.c", "another text");
  folder.write("built/made.txt", "22");
  EXPECT_EQ(tree->changed_files(), (std::set<RelPath>{at("a.c"), at("built/made.txt")}));
  ASSERT_EQ(shell(folder, "sleep 0.05; echo 1 > built/new.txt"), 0);  // past the grain of the time of files
  EXPECT_TRUE(tree->changed_files().contains(at("built")));
}

TEST(DiskTree, tells_which_folders_tell_of_changes) {
  ScratchFolder folder;
  ASSERT_EQ(shell(folder, "git init -q . && echo built/ > .gitignore"), 0);
  folder.write("src/a.c", "text");
  folder.write("built/deep/made.txt", "1");
  auto tree = std::move(*DiskTree::scan(folder.path(), {}));
  auto folders = [&] {
    std::vector<std::string> all = tree->folders();
    return std::set<std::string>(all.begin(), all.end());
  };
  std::set<std::string> expected = {folder.path(), folder.path() + "/src", folder.path() + "/built"};
  EXPECT_EQ(folders(), expected);
  std::size_t before = tree->late_folders();
  EXPECT_TRUE(tree->is_file(at("built/deep/made.txt")));
  EXPECT_GT(tree->late_folders(), before);
  expected.insert(folder.path() + "/built/deep");
  EXPECT_EQ(folders(), expected);
  EXPECT_EQ(tree->listing().ignored(), (std::vector<RelPath>{at("built")}));
}

TEST(DiskTree, looks_by_itself_at_files_with_several_names) {
  ScratchFolder folder;
  folder.write("a.c", "text");
  folder.write("b.c", "text");
  fs::create_directory(folder.path() + "/elsewhere");
  fs::create_hard_link(folder.path() + "/a.c", folder.path() + "/elsewhere/a.c");
  auto tree = std::move(*DiskTree::scan(folder.path(), {}));
  EXPECT_TRUE(tree->changed_links().empty());
  folder.write("b.c", "another text");
  EXPECT_TRUE(tree->changed_links().empty());
  std::ofstream(folder.path() + "/elsewhere/a.c") << "another text";
  EXPECT_EQ(tree->changed_links(), (std::set<RelPath>{at("a.c"), at("elsewhere/a.c")}));
}

}  // namespace
}  // namespace yc::test
