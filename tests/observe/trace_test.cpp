// What the system call tracer writes, as it writes it.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <sstream>

#include "observe/trace_line.h"
#include "observe/trace_reader.h"
#include "tree/memory_tree.h"

namespace yc {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

RelPath path(const char* text) {
  return RelPath::from_normal(text);
}

TEST(TraceLine, calls_are_taken_apart) {
  auto call = parse_call(7, R"(openat(AT_FDCWD</w/src>, "a \"b\" (c).h", O_RDONLY|O_CLOEXEC) = 3</w/src/a>)");
  ASSERT_TRUE(call);
  EXPECT_EQ(call->name, "openat");
  EXPECT_TRUE(call->succeeded());
  EXPECT_EQ(call->opened_path(), "/w/src/a");
  ArgumentReader arguments(call->arguments);
  EXPECT_EQ(arguments.folder(), "/w/src");
  EXPECT_EQ(arguments.string(), "a \"b\" (c).h");
  EXPECT_EQ(arguments.rest(), ", O_RDONLY|O_CLOEXEC");
  auto failed =
      parse_call(7, R"(access("gone.h", R_OK)                  = -1 ENOENT (No such file or directory))");
  ASSERT_TRUE(failed);
  EXPECT_FALSE(failed->succeeded());
  auto child = parse_call(7, "clone3({flags=CLONE_VM|CLONE_VFORK, exit_signal=SIGCHLD}, 88) = 4711");
  ASSERT_TRUE(child);
  EXPECT_EQ(child->number(), 4711);
}

TEST(TraceLine, escapes_and_brackets_in_names_are_undone) {
  EXPECT_EQ(unescaped(R"(a\nb\t\"\\\303\251\0z\x41)"), std::string("a\nb\t\"\\\xC3\xA9") + '\0' + "zA");
  auto call =
      parse_call(1, R"(openat(3</w/a\74b\76 c>, "x = 1) = 2", O_RDONLY) = 4</w/a\74b\76 c/x = 1) = 2>)");
  ASSERT_TRUE(call);
  ArgumentReader arguments(call->arguments);
  EXPECT_EQ(arguments.folder(), "/w/a<b> c");
  EXPECT_EQ(arguments.string(), "x = 1) = 2");
  EXPECT_EQ(call->opened_path(), "/w/a<b> c/x = 1) = 2");
}

TEST(TraceLine, what_is_no_call_is_none) {
  for (const char* text : {"", "open", "open(", "open(\"a", "open(\"a\\", "open(\"a\") ", "open(3</a",
                           "() = 3", "+++ exited with 0 +++", "open(\"a\") = "})
    EXPECT_FALSE(parse_call(1, text).value_or(TracedCall()).succeeded()) << text;
  ArgumentReader cut("[\"a\", \"b");
  EXPECT_THAT(cut.strings(), ElementsAre("a"));
  ArgumentReader arguments("[\"cc\", \"-c\", \"a,b].c\"...], 0x7ff /* 3 vars */");
  EXPECT_THAT(arguments.strings(), ElementsAre("cc", "-c", "a,b].c"));
}

class Trace : public ::testing::Test {
 protected:
  Trace() {
    for (const char* name : {"Makefile", "src/a.c", "src/a.h", "tools/gen.sh"}) tree_.write(name, "x");
  }
  Observation read(const std::string& log) {
    std::istringstream in(log);
    return read_trace(in, "/w", tree_);
  }
  MemoryTree tree_;
};

TEST_F(Trace, processes_know_their_parents_folders_and_what_they_read) {
  Observation seen = read(R"(10  execve("/usr/bin/make", ["make", "all"], 0x7ff /* 9 vars */) = 0
10  openat(AT_FDCWD</w>, "Makefile", O_RDONLY) = 3</w/Makefile>
10  vfork( <unfinished ...>
11  chdir("src")                          = 0
11  execve("/usr/bin/cc", ["cc", "-I/w/src", "a.c"], 0x7ff /* 9 vars */ <unfinished ...>
10  <... vfork resumed>)                  = 11
11  <... execve resumed>)                 = 0
11  openat(AT_FDCWD</w/src>, "a.c", O_RDONLY <unfinished ...>
10  newfstatat(AT_FDCWD</w>, "all", 0x7ff, 0) = -1 ENOENT (No such file or directory)
11  <... openat resumed>)                 = 3</w/src/a.c>
11  openat(AT_FDCWD</w/src>, "missing.h", O_RDONLY) = -1 ENOENT (No such file or directory)
11  openat(AT_FDCWD</w/src>, "a.o", O_RDWR|O_CREAT|O_TRUNC, 0666) = 4</w/src/a.o>
11  openat(AT_FDCWD</w/src>, "/usr/include/stdio.h", O_RDONLY) = 5</usr/include/stdio.h>
11  openat(AT_FDCWD</w/src>, "../tools", O_RDONLY|O_DIRECTORY) = 6</w/tools>
11  +++ exited with 2 +++
10  +++ killed by SIGKILL +++
)");
  ASSERT_EQ(seen.processes.size(), 2u);
  const ObservedProcess& make = seen.processes[0];
  EXPECT_EQ(make.parent, -1);
  EXPECT_EQ(make.folder, RelPath());
  EXPECT_THAT(make.read, ElementsAre(path("Makefile")));
  EXPECT_THAT(make.missed, ElementsAre(path("all")));
  EXPECT_FALSE(make.status);
  const ObservedProcess& cc = seen.processes[1];
  EXPECT_EQ(cc.parent, 0);
  EXPECT_EQ(cc.program, "/usr/bin/cc");
  EXPECT_THAT(cc.arguments, ElementsAre("cc", "-I<tree>/src", "a.c"));
  EXPECT_EQ(cc.folder, path("src"));
  EXPECT_THAT(cc.read, ElementsAre(path("src/a.c")));
  EXPECT_THAT(cc.missed, ElementsAre(path("src/missing.h")));
  EXPECT_THAT(cc.wrote, ElementsAre(path("src/a.o")));
  EXPECT_THAT(cc.listed, ElementsAre(path("tools")));
  EXPECT_EQ(cc.status, 2);
}

// Two shells start something at once, so that nobody knows at first whose child the new one is.
TEST_F(Trace, child_whose_parent_is_known_late_gets_its_folder_then) {
  Observation seen = read(R"(10  execve("/bin/sh", ["sh"], 0x7ff) = 0
10  clone(child_stack=NULL, flags=SIGCHLD) = 11
11  chdir("src")                          = 0
10  clone(child_stack=NULL, flags=SIGCHLD <unfinished ...>
11  clone(child_stack=NULL, flags=SIGCHLD <unfinished ...>
12  access("a.h", R_OK)                   = 0
12  execve("gen", ["gen"], 0x7ff)         = -1 ENOENT (No such file or directory)
12  execve("/usr/bin/cat", ["cat"], 0x7ff) = 0
10  <... clone resumed>)                  = 13
11  <... clone resumed>)                  = 12
)");
  ASSERT_EQ(seen.processes.size(), 4u);
  EXPECT_EQ(seen.processes[2].program, "/usr/bin/cat");
  EXPECT_EQ(seen.processes[2].parent, 1);
  EXPECT_EQ(seen.processes[2].folder, path("src"));
  EXPECT_THAT(seen.processes[2].missed, ElementsAre(path("src/gen")));
}

TEST_F(Trace, program_in_the_place_of_another_begins_a_record_and_threads_do_not) {
  Observation seen = read(R"(10  execve("/bin/sh", ["sh", "-c", "tools/gen.sh"], 0x7ff) = 0
10  execve("tools/gen.sh", ["tools/gen.sh"], 0x7ff) = 0
10  clone3({flags=CLONE_VM|CLONE_THREAD, exit_signal=0}, 88) = 12
12  openat(AT_FDCWD</w>, "src/a.h", O_RDONLY) = 3</w/src/a.h>
12  rename("out.tmp", "src/out")          = 0
)");
  ASSERT_EQ(seen.processes.size(), 2u);
  EXPECT_EQ(seen.processes[1].program, "tools/gen.sh");
  EXPECT_TRUE(seen.processes[1].is_in_tree());
  EXPECT_THAT(seen.processes[1].read, ElementsAre(path("src/a.h"), path("tools/gen.sh")));
  EXPECT_THAT(seen.processes[1].wrote, ElementsAre(path("src/out")));
}

TEST_F(Trace, garbled_log_ends_nothing) {
  for (std::string log :
       {"", "\n\n", "x", "10", "10 ", "10  <... open resumed>) = 3", "10  +++ exited with", "10  open(",
        "10  execve(\"/bin/sh\" <unfinished ...>", "99999999999999999999 open(\"a\") = 3", "10  clone() = 10",
        "10  chdir(\"../../..\") = 0\n10  open(\"a\", O_RDONLY) = 3"})
    EXPECT_THAT(read(log).digests, IsEmpty()) << log;
}

}  // namespace
}  // namespace yc
