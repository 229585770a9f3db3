// What a refusal tells to do works when it is done: each case is refused, does as told, and is carried out.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kProgram = "int main(void) { return 0; }\n";

struct StepCase {
  std::string what;
  Files files;
  std::vector<std::string> move;   // refused
  std::string told;                // a part of the next step
  std::string done;                // as told, in a shell; may be empty
  std::vector<std::string> again;  // the move that is then carried out
  std::string build;               // must succeed then; may be empty
};

std::vector<StepCase> cases() {
  const Files assemblies = {{"Core/Core.asmdef", "{ \"name\": \"Salt.Core\" }\n"},
                            {"Core/A.cs", "namespace Salt { public class A { } }\n"},
                            {"Core/B.cs", "namespace Salt { public class B { A a; } }\n"},
                            {"Tools/Tools.asmdef", "{ \"name\": \"Salt.Tools\" }\n"}};
  const Files icons = {{"Makefile", "V := $(shell uname)\nall:\n\tcp icons/$(V).png out\n"},
                       {"icons/a.png", ""}};
  const Files bazel = {{"BUILD.bazel", "cc_library(name = \"a\", srcs = [\"lib/a.c\"])\n"},
                       {"lib/a.c", kProgram},
                       {"Makefile", "all:\n\tcc -o a lib/*.c\n"}};
  const Files order = {{"Makefile", "all:\n\tls *.txt | xargs cat > one\n"}, {"a.txt", ""}, {"b.txt", ""}};
  const Files container = {{"compose.yml", "services:\n  a:\n    build: ./api\n"},
                           {"api/Dockerfile", "FROM x\nCOPY main.c .\n"},
                           {"api/main.c", ""}};
  return {
      {"a folder that is called like a target",
       {{"Makefile", "all: prog\nprog: a.c\n\t$(CC) -o prog a.c\ndist:\n\techo all\n"}, {"a.c", kProgram}},
       {"a.c", "dist/a.c"},
       "add the target to .PHONY first",
       "printf '.PHONY: dist\\n' >>Makefile",
       {"a.c", "dist/a.c"},
       "make -s && make -s dist"},
      {"or another name is chosen",
       {{"Makefile", "all: prog\nprog: a.c\n\t$(CC) -o prog a.c\ndist:\n\techo all\n"}, {"a.c", kProgram}},
       {"a.c", "dist/a.c"},
       "choose another name",
       "",
       {"a.c", "src/a.c"},
       "make -s"},
      {"a detour through a folder that goes, put together of two words",
       {{"Makefile", "S = src\nprog: core/a.c\n\t$(CC) -I$(S)/../core -o prog core/a.c\n"},
        {"core/a.c", kProgram},
        {"src/x.h", ""}},
       {"src/x.h", "core/x.h"},
       "write that path without a detour first",
       "sed -i 's|$(S)/../core|core|' Makefile",
       {"src/x.h", "core/x.h"},
       "make -s"},
      {"or something is kept in it",
       {{"Makefile", "S = src\nprog: core/a.c\n\t$(CC) -I$(S)/../core -o prog core/a.c\n"},
        {"core/a.c", kProgram},
        {"src/x.h", ""}},
       {"src/x.h", "core/x.h"},
       "or keep something in that folder",
       "echo kept >src/README",
       {"src/x.h", "core/x.h"},
       "make -s"},
      {"a page's route",
       {{"next.config.mjs", "export default {};\n"}, {"pages/about.tsx", "export default 1;\n"}},
       {"pages/about.tsx", "pages/us.tsx"},
       "add --routes allow",
       "",
       {"pages/about.tsx", "pages/us.tsx", "--routes", "allow"},
       ""},
      {"a reference between units",
       assemblies,
       {"Core/B.cs", "Tools/B.cs"},
       "add --link-units",
       "",
       {"Core/B.cs", "Tools/B.cs", "--link-units"},
       "python3 " STANDINS "/assemblies.py ."},
      {"a container's context",
       container,
       {"api/main.c", "src/main.c"},
       "keep it below the context",
       "",
       {"api/main.c", "api/src/main.c"},
       "grep -q 'COPY src/main.c' api/Dockerfile"},
      {"or a wider context is made",
       container,
       {"api/main.c", "src/main.c"},
       "or make a folder above both the context",
       "printf 'services:\\n  a:\\n    build:\\n      context: .\\n      dockerfile: api/Dockerfile\\n' "
       ">compose.yml; "
       "sed -i 's|COPY main.c|COPY api/main.c|' api/Dockerfile",
       {"api/main.c", "src/main.c"},
       "grep -q 'COPY src/main.c' api/Dockerfile"},
      {"the order of names",
       order,
       {"a.txt", "z.txt"},
       "choose a name that keeps the order",
       "",
       {"a.txt", "aa.txt"},
       "make -s"},
      {"or it does not matter",
       order,
       {"a.txt", "z.txt"},
       "add --accept-unseen if the order does not matter",
       "",
       {"a.txt", "z.txt", "--accept-unseen"},
       "make -s"},
      {"a folder that is copied as one",
       {{"Makefile", "all:\n\tcp -r data out\n"}, {"data/a", ""}, {"data/b", ""}},
       {"data/a", "x/a"},
       "",
       "",
       {"data", "x/data"},
       "make -s"},
      {"a name that only a run knows is settled",
       icons,
       {"icons/a.png", "icons/b.png"},
       "settle it for good if it names nothing here (--settle FILE:LINE)",
       "",
       {"icons/a.png", "icons/b.png", "--settle", "Makefile:3", "--because", "no machine is called so"},
       ""},
      {"or the folder goes whole",
       icons,
       {"icons/a.png", "icons/b.png"},
       "move the whole folder so that the known part can follow",
       "",
       {"icons", "pictures"},
       "grep -q 'pictures/$(V).png' Makefile"},
      {"a tool that is not read is judged by a build",
       bazel,
       {"lib/a.c", "lib/b.c"},
       "give its command behind the move (… -- BUILD COMMAND)",
       "",
       {"lib/a.c", "lib/b.c", "--", "make", "-s"},
       "make -s"},
      {"a language that is not read as well",
       {{"A.java", "class A { }\n"}},
       {"A.java", "src/A.java"},
       "or add --accept-unseen to move anyway, unproved",
       "",
       {"A.java", "src/A.java", "--accept-unseen"},
       ""},
      {"tests that a runner finds by their names",
       {{"pytest.ini", "[pytest]\ntestpaths = tests\n"}, {"tests/test_a.py", "def test_a():\n    pass\n"}},
       {"tests/test_a.py", "tests/a_check.py"},
       "choose a name that a pattern fits",
       "",
       {"tests/test_a.py", "tests/test_check.py"},
       ""},
  };
}

TEST(NextSteps, work_when_they_are_done_as_told) {
  for (const StepCase& one : cases()) {
    SCOPED_TRACE(one.what);
    Workspace tree(one.files);
    auto moving = [](const std::vector<std::string>& arguments) {
      std::vector<std::string> out = {"move"};
      out.insert(out.end(), arguments.begin(), arguments.end());
      return out;
    };
    if (!one.told.empty()) {
      Outcome refused = tree.run(moving(one.move));
      EXPECT_EQ(refused.status, 3) << refused.told;
      EXPECT_NE(refused.err.find(one.told), std::string::npos) << refused.told;
    }
    if (!one.done.empty()) {
      EXPECT_EQ(tree.shell(one.done).status, 0);
    }
    Outcome moved = tree.run(moving(one.again));
    EXPECT_EQ(moved.status, 0) << moved.told;
    if (!one.build.empty()) {
      Outcome built = tree.shell(one.build);
      EXPECT_EQ(built.status, 0) << built.told;
    }
  }
}

TEST(NextSteps, a_sketch_is_renamed_with_its_folder) {
  Workspace tree(Files{{"Pole/Pole.ino", "void setup() {}\n"}});
  expect_refusal(tree, "Pole/Pole.ino -> Pole/Tide.ino\n", {"with a line of its own in a sheet"});
  tree.write("moves", "Pole/Pole.ino -> Tide/Tide.ino\n");
  EXPECT_EQ(tree.run({"move", "--sheet", "moves"}).status, 0);
}

}  // namespace
}  // namespace yc::test
