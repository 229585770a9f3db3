// What carving takes along and what it leaves, on trees in memory: a table of scripts, and what becomes of
// them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/carve.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

using Files = std::vector<std::pair<std::string, std::string>>;

MemoryTree with_sources(Files files) {
  for (const char* path : {"src/a.c", "src/b.c", "src/deep/c.c", "src/a.h", "lib/l.c", "main.c", "src/t.in"})
    files.push_back({path, ""});
  return tree_of(files);
}

struct Carved {
  std::string above, own;
  std::vector<std::string> notices, blockers;
};

Carved result_of(const MemoryTree& tree, const Result<Plan>& plan, const std::string& above,
                 const std::string& own) {
  Carved out;
  if (!plan) {
    out.blockers.push_back(plan.error().message);
    return out;
  }
  auto text = [&](const std::string& path) {
    RelPath at = RelPath::from_normal(path);
    if (auto made = plan->changes.made.find(at); made != plan->changes.made.end()) return made->second;
    if (plan->changes.dropped.contains(at)) return std::string("(gone)");
    auto bytes = tree.is_file(at) ? tree.read(at) : yc::Result<Bytes>(std::make_shared<const std::string>());
    auto edits = plan->edits.find(at);
    return edits == plan->edits.end() ? **bytes : edits->second.apply(**bytes);
  };
  out.above = text(above);
  out.own = text(own);
  for (const Notice& notice : plan->notices) out.notices.push_back(notice.message);
  for (const Blocker& item : plan->blockers) out.blockers.push_back(item.reason);
  EXPECT_EQ(plan->verified, plan->blockers.empty());
  return out;
}

Carved carved(const std::string& name, const std::string& script, Files more = {}) {
  more.push_back({name, script});
  MemoryTree tree = with_sources(more);
  std::string own = name == "Makefile" ? "src/rules.mk" : "src/" + name;
  return result_of(tree, carve(tree, RelPath::from_normal("src")), name, own);
}

Carved folded(const std::string& name, const std::string& script, const std::string& child) {
  std::string own = name == "Makefile" ? "src/rules.mk" : "src/" + name;
  MemoryTree tree = with_sources({{name, script}, {own, child}});
  return result_of(tree, fold(tree, RelPath::from_normal("src")), name, own);
}

struct Case {
  std::string script, above, own;
};

const std::string kMeson = "project('p', 'c')\n";
const std::string kCMake = "project(p C)\n";

TEST(Carving, meson_statements) {
  const std::vector<Case> cases = {
      // The comment right above goes along, the one at the top of the file stays.
      {"# top\n" + kMeson + "\n# why\nexecutable('x', 'src/a.c')\n", "# top\n" + kMeson + "\nsubdir('src')\n",
       "# why\nexecutable('x', 'a.c')\n"},
      // A variable that is needed is set before.
      {kMeson + "args = ['-Dx']\nexecutable('x', 'src/a.c', c_args: args)\n",
       kMeson + "args = ['-Dx']\nsubdir('src')\n", "executable('x', 'a.c', c_args: args)\n"},
      // One that others need is set before them.
      {kMeson + "lib = library('l', 'src/a.c')\nexecutable('x', 'main.c', link_with: lib)\n",
       kMeson + "subdir('src')\nexecutable('x', 'main.c', link_with: lib)\n", "lib = library('l', 'a.c')\n"},
      // What lies between and is needed comes along.
      {kMeson + "s = ['src/a.c']\nif true\n  s += 'src/b.c'\nendif\nn = s\nexecutable('x', n)\n",
       kMeson + "subdir('src')\n", "s = ['a.c']\nif true\n  s += 'b.c'\nendif\nn = s\nexecutable('x', n)\n"},
      // Arguments for the whole project come before every target.
      {kMeson + "s = ['src/a.c']\nadd_project_arguments('-Dx', language: 'c')\nexecutable('x', s)\n",
       kMeson + "add_project_arguments('-Dx', language: 'c')\nsubdir('src')\n",
       "s = ['a.c']\n\nexecutable('x', s)\n"},
      // Folders below, names that format strings make, roots held in variables.
      {kMeson + "foreach n : ['a', 'b']\n  executable(n, 'src/@0@.c'.format(n))\nendforeach\n",
       kMeson + "subdir('src')\n",
       "foreach n : ['a', 'b']\n  executable(n, '@0@.c'.format(n))\nendforeach\n"},
      {kMeson + "d = 'src' / 'deep'\nexecutable('x', d / 'c.c')\n", kMeson + "subdir('src')\n",
       "d = '.' / 'deep'\nexecutable('x', d / 'c.c')\n"},
      {kMeson + "executable('x', meson.current_source_dir() / 'src/a.c')\n", kMeson + "subdir('src')\n",
       "executable('x', meson.current_source_dir() / 'a.c')\n"},
      {kMeson + "executable('x', meson.project_source_root() / 'src/a.c')\n", kMeson + "subdir('src')\n",
       "executable('x', meson.project_source_root() / 'src/a.c')\n"},
      {kMeson + "i = include_directories('src')\nj = include_directories('src', 'lib')\nexecutable('x', "
                "'main.c', include_directories: [i, j])\n",
       kMeson + "subdir('src')\nj = include_directories('src', 'lib')\nexecutable('x', 'main.c', "
                "include_directories: [i, j])\n",
       "i = include_directories('.')\n"}};
  for (const Case& one : cases) {
    Carved result = carved("meson.build", one.script);
    EXPECT_THAT(result.blockers, IsEmpty()) << one.script;
    EXPECT_EQ(result.above, one.above) << one.script;
    EXPECT_EQ(result.own, one.own) << one.script;
  }
}

TEST(Carving, cmake_statements) {
  const std::vector<Case> cases = {
      {kCMake + "add_library(l src/a.c)\nset_target_properties(l PROPERTIES X 1)\n",
       kCMake + "add_subdirectory(src)\n", "add_library(l a.c)\nset_target_properties(l PROPERTIES X 1)\n"},
      // A variable of a scope of its own is of no use to others, so it stays, and the target with it.
      {kCMake + "set(S src/a.c)\nadd_library(l ${S})\nadd_library(m lib/l.c ${S})\n", "", ""},
      // Settings of the folder come before what they are for.
      {kCMake + "set(S src/a.c)\nadd_definitions(-Dx)\nadd_library(l ${S})\n",
       kCMake + "add_definitions(-Dx)\nadd_subdirectory(src)\n", "set(S a.c)\n\nadd_library(l ${S})\n"},
      {kCMake + "find_package(Z)\nadd_library(l src/a.c)\ntarget_link_libraries(l Z::Z)\n",
       kCMake + "find_package(Z)\nadd_subdirectory(src)\n",
       "add_library(l a.c)\ntarget_link_libraries(l Z::Z)\n"},
      {kCMake + "if(X)\n  add_library(l src/a.c)\nendif()\n", kCMake + "add_subdirectory(src)\n",
       "if(X)\n  add_library(l a.c)\nendif()\n"},
      {kCMake + "file(GLOB S src/*.c)\nadd_library(l ${S})\n", kCMake + "add_subdirectory(src)\n",
       "file(GLOB S *.c)\nadd_library(l ${S})\n"},
      {kCMake + "configure_file(src/t.in ${CMAKE_CURRENT_BINARY_DIR}/t.h)\nadd_library(l src/a.c)\n",
       kCMake + "add_subdirectory(src)\n",
       "configure_file(t.in ${PROJECT_BINARY_DIR}/t.h)\nadd_library(l a.c)\n"}};
  for (const Case& one : cases) {
    Carved result = carved("CMakeLists.txt", one.script);
    if (one.above.empty()) {
      EXPECT_FALSE(result.blockers.empty()) << one.script << result.above << result.own;
      continue;
    }
    EXPECT_THAT(result.blockers, IsEmpty()) << one.script;
    EXPECT_EQ(result.above, one.above) << one.script;
    EXPECT_EQ(result.own, one.own) << one.script;
  }
}

TEST(Carving, make_statements) {
  // A variable that a rule elsewhere uses stays, and so does the first rule's place.
  Carved result = carved("Makefile",
                         "DIR = src\nx: main.o src/a.o\n\tcc -o $@ $^\nsrc/a.o: src/a.c\n\tcc -c -o $@ "
                         "$<\ny: $(DIR)/b.o main.o\n\tcc -o $@ $^\n");
  EXPECT_THAT(result.blockers, IsEmpty());
  EXPECT_EQ(result.above,
            "DIR = src\nx: main.o src/a.o\n\tcc -o $@ $^\ninclude src/rules.mk\ny: $(DIR)/b.o main.o\n\tcc "
            "-o $@ $^\n");
  EXPECT_EQ(result.own, "src/a.o: src/a.c\n\tcc -c -o $@ $<\n");
}

TEST(Carving, a_script_that_is_there_is_added_to) {
  Carved result = carved(
      "meson.build",
      kMeson + "i = include_directories('src')\nsubdir('src')\ntest('t', exe, args: files('src/t.in'))\n",
      {{"src/meson.build", "# own\nexe = executable('x', 'a.c', include_directories: i)\n"}});
  EXPECT_THAT(result.blockers, IsEmpty());
  EXPECT_EQ(result.above, kMeson + "subdir('src')\n");
  EXPECT_EQ(result.own,
            "# own\ni = include_directories('.')\n\nexe = executable('x', 'a.c', include_directories: i)\n\n"
            "test('t', exe, args: files('t.in'))\n")
      << "a comment at the top speaks of the whole file";
}

TEST(Carving, what_stays_is_said_with_the_reason) {
  Carved result = carved("meson.build", kMeson +
                                            "executable('x', 'src/a.c')\ninstall_data('src/t.in', "
                                            "'lib/l.c')\ninstall_subdir('src', install_dir: 'x')\n");
  EXPECT_THAT(result.notices, Contains("names files of other folders too, so it stays here"));
  EXPECT_THAT(result.notices, Contains("names the folder as a whole, so it stays here"));
}

TEST(Carving, folding_is_the_reverse) {
  const std::vector<Case> meson = {
      {kMeson + "subdir('src')\nx = 1\n",
       kMeson + "s = ['src/a.c']\nexecutable('x', s, include_directories: ['lib', 'src'])\nx = 1\n",
       "s = ['a.c']\nexecutable('x', s, include_directories: ['../lib', '.'])\n"},
      {kMeson + "subdir('src')\n", kMeson + "executable('x', meson.current_source_dir() / 'src/a.c')\n",
       "executable('x', meson.current_source_dir() / 'a.c')\n"}};
  for (const Case& one : meson) {
    Carved result = folded("meson.build", one.script, one.own);
    EXPECT_THAT(result.blockers, IsEmpty()) << one.own;
    EXPECT_EQ(result.above, one.above);
    EXPECT_EQ(result.own, "(gone)");
  }
  Carved cmake = folded("CMakeLists.txt", kCMake + "add_subdirectory(src)\n",
                        "add_library(l a.c ${CMAKE_CURRENT_SOURCE_DIR}/b.c)\n");
  EXPECT_THAT(cmake.blockers, IsEmpty());
  EXPECT_EQ(cmake.above, kCMake + "add_library(l src/a.c ${CMAKE_CURRENT_SOURCE_DIR}/src/b.c)\n");
  Carved make = folded("Makefile", "x: src/a.o\n\tcc -o $@ $^\ninclude src/rules.mk\n",
                       "src/a.o: src/a.c\n\tcc -c -o $@ $<\n");
  EXPECT_THAT(make.blockers, IsEmpty());
  EXPECT_EQ(make.above, "x: src/a.o\n\tcc -o $@ $^\nsrc/a.o: src/a.c\n\tcc -c -o $@ $<\n");
}

TEST(Carving, scripts_that_cannot_be_taken_in) {
  EXPECT_THAT(folded("meson.build", kMeson + "subdir('src')\n", "if true\n  subdir_done()\nendif\n").blockers,
              Contains(HasSubstr("it ends early")));
  EXPECT_THAT(folded("CMakeLists.txt", kCMake + "set(S main.c)\nadd_subdirectory(src)\nadd_library(m ${S})\n",
                     "set(S a.c)\nadd_library(l ${S})\n")
                  .blockers,
              Contains(HasSubstr("it sets S, which the other script has too")));
  EXPECT_THAT(folded("CMakeLists.txt", kCMake + "add_subdirectory(src)\n", "project(q)\nadd_library(l a.c)\n")
                  .blockers,
              Contains(HasSubstr("it says something of its own folder")));
}

}  // namespace
}  // namespace yc::test
