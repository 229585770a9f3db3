// A move of fifty files is killed, or refused by the disk, at every single call that changes anything. After
// it the tree must be the old or the new one, to the byte, whichever way is chosen.
#include <fcntl.h>
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <filesystem>
#include <fstream>
#include <random>

#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

constexpr int kModules = 28;  // a source and a header each

void write(const fs::path& path, const std::string& bytes) {
  fs::create_directories(path.parent_path());
  std::ofstream(path, std::ios::binary) << bytes;
}

int shell(const fs::path& folder, const std::string& command) {
  return std::system(fmt::format("cd '{}' && {} >/dev/null 2>&1", folder.string(), command).c_str());
}

// Gauges with a source and a header each, notes in a folder of their own, all tracked.
void fill(const fs::path& root) {
  std::string sources;
  for (int i = 0; i < kModules; ++i) {
    std::string name = fmt::format("gauge{}", i);
    write(root / (name + ".h"), fmt::format("int {}(void);\n", name));
    write(root / (name + ".c"),
          fmt::format("#include \"{0}.h\"\n#include \"gauge{1}.h\"\nint {0}(void) {{ return {2}; }}\n", name,
                      (i + 1) % kModules, i));
    sources += " " + name + ".c";
  }
  for (int i = 0; i < 10; ++i)
    write(root / fmt::format("notes/day{}.txt", i), fmt::format("low water {}\n", i));
  write(root / "main.c", "#include \"gauge0.h\"\nint main(void) { return gauge0(); }\n");
  write(root / "Makefile", fmt::format("SRC = main.c{}\nstation: $(SRC:.c=.o)\n\t$(CC) -o $@ $^\n", sources));
  fs::permissions(root / "gauge3.c", fs::perms(0640));
  ASSERT_EQ(
      shell(root, "git init -q . && git add -A && git -c user.name=t -c user.email=t@t commit -qm start"), 0);
}

// Files to other folders, a folder renamed, a swap and a chain.
std::string sheet() {
  std::string out = "notes/ -> log/tide/\ngauge0.c -> gauge1.c\ngauge1.c -> gauge0.c\n";
  out += "gauge2.h -> gauge3.h\ngauge3.h -> gauge4.h\ngauge4.h -> pins/gauge4.h\n";
  for (int i = 5; i < kModules; ++i)
    out += fmt::format("gauge{0}.c -> src/gauge{0}.c\ngauge{0}.h -> api/gauge{0}.h\n", i);
  out += "main.c -> src/main.c\n";
  return out;
}

struct Ended {
  int status = -1;  // exit status; -9 if it was killed
  bool reached = false;
};

Ended run(const fs::path& root, const std::string& arguments, int at = 0, const std::string& kind = "kill") {
  fs::path flag = root.string() + ".reached";
  fs::remove(flag);
  pid_t child = fork();
  if (child == 0) {
    int null = open("/dev/null", O_WRONLY);
    dup2(null, 1);
    dup2(null, 2);
    if (at > 0) {
      setenv("LD_PRELOAD", FAULT_SHIM, 1);
      setenv("FAULT_AT", std::to_string(at).c_str(), 1);
      setenv("FAULT_KIND", kind.c_str(), 1);
      setenv("FAULT_FLAG", flag.c_str(), 1);
    }
    std::string command =
        fmt::format("exec '{}' -C '{}' {}", YELLOW_COMPASS_PROGRAM, root.string(), arguments);
    execl("/bin/sh", "sh", "-c", command.c_str(), nullptr);
    _exit(127);
  }
  int status = 0;
  waitpid(child, &status, 0);
  Ended out;
  out.status = WIFSIGNALED(status) ? -WTERMSIG(status) : WEXITSTATUS(status);
  out.reached = fs::exists(flag);
  fs::remove(flag);
  return out;
}

std::string output_of(const std::string& command) {
  std::string out;
  FILE* pipe = popen(command.c_str(), "r");
  char buffer[4096];
  for (std::size_t got; pipe && (got = std::fread(buffer, 1, sizeof buffer, pipe)) > 0;)
    out.append(buffer, got);
  if (pipe) pclose(pipe);
  return out;
}

// All that counts of a tree: files, bytes, permissions, and version control's index.
struct State {
  std::map<std::string, std::string> files;
  std::string index;
  bool operator==(const State&) const = default;
};

State state_of(const fs::path& root) {
  return {folder_contents(root.string()), output_of(fmt::format("git -C '{}' ls-files -s", root.string()))};
}

// What a move must not leave behind once it is over.
std::string leftovers(const fs::path& root) {
  std::string out;
  for (const auto& item : fs::recursive_directory_iterator(root / ".git")) {
    std::string name = item.path().filename().string();
    bool is_left =
        name == "index.lock" || name == "draft" || name.starts_with("aside-") ||
        (item.path().parent_path().parent_path().filename() == "journals" && name.starts_with("index"));
    if (is_left) out += item.path().string() + "\n";
  }
  return out;
}

// The tree to start from, the tree that comes out, and room for copies.
class Crash : public ::testing::Test {
 protected:
  void SetUp() override {
    (void)own_state();
    base_ = folder_.path();
    fill(base_ / "old");
    write(base_ / "sheet", sheet());
    old_ = state_of(base_ / "old");
    start();
    ASSERT_EQ(run(tree(), move()).status, 0);
    new_ = state_of(tree());
    ASSERT_FALSE(old_ == new_);
    ASSERT_EQ(shell(tree(), "make -s station"), 0) << "the example itself must build after the move";
  }

  fs::path tree() const { return base_ / "tree"; }
  std::string move() const {
    return fmt::format("move --forward --sheet '{}' -q", (base_ / "sheet").string());
  }
  void start() {
    fs::remove_all(tree());
    fs::copy(base_ / "old", tree(), fs::copy_options::recursive | fs::copy_options::copy_symlinks);
  }
  // Whether a way on led to one of the two trees, with nothing left over.
  void expect_whole(const std::string& when, bool may_be_old, bool may_be_new) {
    State now = state_of(tree());
    EXPECT_TRUE((may_be_old && now == old_) || (may_be_new && now == new_)) << when;
    EXPECT_EQ(leftovers(tree()), "") << when;
  }

  ScratchFolder folder_;
  fs::path base_;
  State old_, new_;
};

// Shares of the work, so that they can run side by side.
constexpr int kShares = 4;
class Killed : public Crash, public ::testing::WithParamInterface<int> {};

TEST_P(Killed, at_any_call_can_be_undone) {
  int points = 0;
  for (int at = 1 + GetParam();; at += kShares, ++points) {
    start();
    Ended killed = run(tree(), move(), at);
    if (!killed.reached) break;
    ASSERT_EQ(killed.status, -SIGKILL);
    int status = run(tree(), "undo").status;
    EXPECT_TRUE(status == 0 || status == 2) << "call " << at;  // 2: nothing had begun yet
    expect_whole(fmt::format("undo after call {}", at), true, false);
    ASSERT_FALSE(HasFailure());
  }
  EXPECT_GT(points * kShares, 300);
}

TEST_P(Killed, at_any_call_can_be_finished) {
  for (int at = 1 + GetParam();; at += kShares) {
    start();
    if (!run(tree(), move(), at).reached) break;
    bool was_open = run(tree(), "move main.c x.c --preview").status == 3;
    int status = run(tree(), "resume").status;
    EXPECT_TRUE(status == 0 || status == 2) << "call " << at;
    expect_whole(fmt::format("resume after call {}", at), !was_open, true);
    ASSERT_FALSE(HasFailure());
  }
}

TEST_P(Killed, while_undoing_can_go_either_way) {
  for (int at = 1 + GetParam();; at += kShares) {
    start();
    ASSERT_EQ(run(tree(), move()).status, 0);
    if (!run(tree(), "undo", at).reached) break;
    int status = run(tree(), at / kShares % 2 ? "undo" : "resume").status;
    EXPECT_TRUE(status == 0 || status == 2) << "call " << at;
    expect_whole(fmt::format("after call {} of undo", at), true, true);
    ASSERT_FALSE(HasFailure());
  }
}

// A copy of the tree has other inodes, and no file is another one's second name: then the content must tell.
TEST_P(Killed, tree_that_was_copied_since_can_go_either_way) {
  constexpr int kStride = 5;
  for (int at = 1 + GetParam();; at += kShares * kStride) {
    start();
    if (!run(tree(), move(), at).reached) break;
    fs::rename(tree(), base_ / "stopped");
    fs::copy(base_ / "stopped", tree(), fs::copy_options::recursive | fs::copy_options::copy_symlinks);
    fs::remove_all(base_ / "stopped");
    bool was_open = run(tree(), "move main.c x.c --preview").status == 3;
    bool is_undo = at / (kShares * kStride) % 2 == 0;
    int status = run(tree(), is_undo ? "undo" : "resume").status;
    EXPECT_TRUE(status == 0 || status == 2) << "call " << at;
    expect_whole(fmt::format("copied after call {}", at), is_undo || !was_open, !is_undo || !was_open);
    ASSERT_FALSE(HasFailure());
  }
}

TEST_P(Killed, while_finishing_can_go_either_way) {
  // Somewhere behind the point from which on the move is under way.
  int stopped = 100;
  for (bool is_under_way = false; !is_under_way; stopped += 25) {
    start();
    ASSERT_EQ(run(tree(), move(), stopped).status, -SIGKILL);
    is_under_way = run(tree(), "move main.c x.c --preview").status == 3;
  }
  stopped += 20;
  int points = 0;
  for (int at = 1 + GetParam();; at += kShares) {
    start();
    ASSERT_EQ(run(tree(), move(), stopped).status, -SIGKILL);
    if (!run(tree(), "resume", at).reached) break;
    ++points;
    int status = run(tree(), at / kShares % 2 ? "undo" : "resume").status;
    EXPECT_TRUE(status == 0 || status == 2) << "call " << at;
    expect_whole(fmt::format("after call {} of resume", at), true, true);
    ASSERT_FALSE(HasFailure());
  }
  EXPECT_GT(points * kShares, 100);
}

// A thousand times in all: whatever is under way is killed anywhere, up to three times in a row.
TEST_P(Killed, at_random_again_and_again_loses_nothing) {
  std::mt19937 random(static_cast<unsigned>(GetParam()) + 77);
  auto below = [&](unsigned count) { return static_cast<int>(random() % count); };
  int kills = 0;
  while (kills < 1000 / kShares) {
    start();
    kills += run(tree(), move(), 1 + below(1600)).reached ? 1 : 0;
    for (int again = below(3); again > 0; --again) {
      bool goes_back = below(2) == 0;
      kills += run(tree(), goes_back ? "undo" : "resume", 1 + below(800)).reached ? 1 : 0;
    }
    bool goes_back = below(2) == 0;
    int status = run(tree(), goes_back ? "undo" : "resume").status;
    EXPECT_TRUE(status == 0 || status == 2) << "after kill " << kills;
    expect_whole(fmt::format("after kill {}", kills), true, true);
    ASSERT_FALSE(HasFailure());
  }
}

INSTANTIATE_TEST_SUITE_P(Share, Killed, ::testing::Range(0, kShares));

class Refused : public Crash, public ::testing::WithParamInterface<int> {};

TEST_P(Refused, at_any_call_leaves_the_old_tree) {
  for (int at = 1;; ++at) {
    start();
    Ended refused = run(tree(), move(), at, std::to_string(GetParam()));
    if (!refused.reached) break;
    std::string when = fmt::format("{} at call {}, exit {}", std::strerror(GetParam()), at, refused.status);
    EXPECT_TRUE(refused.status == 4 || refused.status == 3 || refused.status == 0) << when;
    // Done all the same if the refused call was no part of the move, as giving a file its owner.
    expect_whole(when, refused.status != 0, refused.status == 0);
    ASSERT_FALSE(HasFailure());
  }
}

INSTANTIATE_TEST_SUITE_P(By, Refused, ::testing::Values(ENOSPC, EIO, EACCES, EROFS),
                         [](const auto& param) { return std::string(strerrorname_np(param.param)); });

}  // namespace
}  // namespace yc::test
