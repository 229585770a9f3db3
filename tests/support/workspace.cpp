#include "support/workspace.h"

#include <fmt/format.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iterator>

#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {

namespace fs = std::filesystem;

namespace {

std::string slurp(const fs::path& path) {
  std::ifstream file(path, std::ios::binary);
  return {std::istreambuf_iterator<char>(file), {}};
}

std::string quoted(const std::string& text) {
  std::string out = "'";
  for (char c : text) out += c == '\'' ? "'\\''" : std::string(1, c);
  return out + "'";
}

}  // namespace

Workspace::Workspace() {
  (void)own_state();
  const auto* test = ::testing::UnitTest::GetInstance()->current_test_info();
  std::string name = test ? fmt::format("{}.{}", test->test_suite_name(), test->name()) : "workspace";
  for (char& c : name) c = c == '/' ? '_' : c;
  std::string pattern = (fs::temp_directory_path() / (name + "-XXXXXX")).string();
  root_ = fs::canonical(mkdtemp(pattern.data())).string();
}

Workspace::Workspace(const Files& files) : Workspace() {
  for (const auto& [path, bytes] : files) write(path, bytes);
}

Workspace::~Workspace() {
  std::error_code ignored;
  if (!std::getenv("YC_KEEP")) fs::remove_all(root_, ignored);
}

void Workspace::write(const std::string& path, const std::string& bytes) {
  fs::path full = fs::path(root_) / path;
  fs::create_directories(full.parent_path());
  std::ofstream(full, std::ios::binary) << bytes;
}

std::string Workspace::read(const std::string& path) const {
  return slurp(fs::path(root_) / path);
}
bool Workspace::exists(const std::string& path) const {
  return fs::exists(fs::symlink_status(fs::path(root_) / path));
}

std::map<std::string, std::string> Workspace::contents() const {
  return folder_contents(root_);
}

Outcome Workspace::shell(const std::string& command) const {
  static int number = 0;
  std::string base = fs::temp_directory_path() / fmt::format("yc-output-{}-{}", getpid(), ++number);
  std::string line = fmt::format("export PATH={}/.bin:\"$PATH\"; cd {} && ( {} ) >{}.out 2>{}.err </dev/null",
                                 quoted(WEB_TOOLS), quoted(root_), command, base, base);
  int raw = std::system(line.c_str());
  Outcome out;
  out.status = WIFEXITED(raw) ? WEXITSTATUS(raw) : 128 + WTERMSIG(raw);
  out.out = slurp(base + ".out");
  out.err = slurp(base + ".err");
  fs::remove(base + ".out");
  fs::remove(base + ".err");
  out.told = fmt::format("in {}: {}\nstatus {}\n--- out\n{}--- err\n{}", root_, command, out.status, out.out,
                         out.err);
  return out;
}

Outcome Workspace::run(const std::vector<std::string>& arguments) const {
  std::string line = quoted(YELLOW_COMPASS_PROGRAM);
  for (const std::string& argument : arguments) line += " " + quoted(argument);
  return shell(line);
}

namespace {

// Builds in a copy, so that no output of the build is left in the tree.
Outcome build_copy(const Workspace& tree, const std::string& build) {
  return tree.shell(
      fmt::format("copy=$(mktemp -d) && cp -a . \"$copy\" && cd \"$copy\" && ( {} ); status=$?; rm -rf "
                  "\"$copy\"; exit $status",
                  build));
}

}  // namespace

Outcome expect_move_keeps_build(const Workspace& tree, const std::string& sheet, const std::string& build) {
  auto before = tree.contents();
  Outcome first = build_copy(tree, build);
  EXPECT_EQ(first.status, 0) << "the tree must build before the move\n" << first.told;
  std::string file = tree.root() + ".sheet";
  std::ofstream(file) << sheet;
  Outcome moved = tree.run({"-v", "move", "--sheet", file});
  fs::remove(file);
  EXPECT_EQ(moved.status, 0) << moved.told;
  if (moved.status != 0) return moved;
  Outcome after = build_copy(tree, build);
  EXPECT_EQ(after.status, 0) << moved.told << after.told;
  EXPECT_EQ(first.out, after.out) << "the build must say the same before and after";
  Outcome undone = tree.run({"undo"});
  EXPECT_EQ(undone.status, 0) << undone.told;
  EXPECT_EQ(tree.contents(), before);
  return moved;
}

Outcome expect_move_says(const Workspace& tree, const std::string& sheet,
                         const std::vector<std::string>& lines, const std::string& build) {
  Outcome moved = expect_move_keeps_build(tree, sheet, build);
  for (const std::string& line : lines)
    EXPECT_NE(moved.out.find(line), std::string::npos) << line << "\n" << moved.told;
  return moved;
}

Outcome expect_refusal(const Workspace& tree, const std::string& sheet,
                       const std::vector<std::string>& texts) {
  auto before = tree.contents();
  std::string file = tree.root() + ".sheet";
  std::ofstream(file) << sheet;
  Outcome refused = tree.run({"move", "--sheet", file});
  fs::remove(file);
  EXPECT_EQ(refused.status, 3) << refused.told;
  for (const std::string& text : texts)
    EXPECT_NE(refused.err.find(text), std::string::npos) << "expected: " << text << "\n" << refused.told;
  EXPECT_EQ(tree.contents(), before);
  return refused;
}

}  // namespace yc::test
