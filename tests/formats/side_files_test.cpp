// What is read from the files beside the sources: assembler, linker scripts, settings of documentation and of
// editors, batch scripts.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/c_family/assembler_scan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::Not;

std::string scanned(const std::string& bytes) {
  std::vector<c_family::Include> found = c_family::scan_includes(bytes).includes;
  std::string out;
  for (const c_family::Include& include : found) {
    out += (out.empty() ? "" : " ") + std::string(include.data ? "!" : "") + include.text;
    EXPECT_EQ(bytes.substr(include.span.begin, include.span.size()), include.text) << bytes;
    EXPECT_EQ(include.form, c_family::Include::Form::searched) << bytes;
  }
  return out;
}

TEST(Assembler, includes_and_what_is_none) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"  .include \"macros.inc\"\n", "macros.inc"},
      {".incbin \"fonts/a b.bin\", 4\n", "!fonts/a b.bin"},
      {"%include \"ext/x86.asm\"\n%INCLUDE 'other.asm'\n", "ext/x86.asm other.asm"},
      {"incbin \"logo.bin\"\n", "!logo.bin"},
      {"# .include \"no.inc\"\n", ""},
      {".included \"no.inc\"\n", ""},
      {".include no.inc\n", ""},
      {".include \"open\n", ""},
      {"asm(\".incbin \\\"logo.bin\\\"\\n\");\n", "!logo.bin"},
      {"const char* s = \".incbin \\\"cut\";\n", ""}};
  for (const auto& [bytes, expected] : cases) EXPECT_EQ(scanned(bytes), expected) << bytes;
}

TEST(Assembler, is_looked_for_where_the_assembler_is_started_and_in_search_roots_only) {
  MemoryTree tree = tree_of({{"Makefile",
                              "all: src/a.o src/b.o\nsrc/a.o: src/a.s\n\tas -Iinc -o $@ src/a.s\n"
                              "src/b.o: src/b.s\n\tas -o $@ src/b.s\n"},
                             {"src/a.s", ".include \"m.inc\"\n.include \"top.inc\"\n"},
                             {"src/b.s", ".include \"beside.inc\"\n"},
                             {"src/beside.inc", ""},
                             {"src/m.inc", ""},
                             {"inc/m.inc", ""},
                             {"top.inc", ""}});
  EXPECT_THAT(dump(read(tree), Role::include),
              ElementsAre("beside.inc -> src/beside.inc ?", "m.inc -> inc/m.inc", "top.inc -> top.inc"));
}

ReferenceGraph with_script(const std::string& makefile, const std::string& script) {
  return read(tree_of({{"Makefile", makefile},
                       {"boot/main.ld", script},
                       {"boot/regions.ld", ""},
                       {"parts/regions.ld", ""},
                       {"parts/start.o.in", ""},
                       {"main.c", ""}}));
}

TEST(LinkerScripts, name_files_in_the_folders_of_the_command_that_uses_them) {
  std::string script =
      "/* INCLUDE boot/regions.ld */\nINCLUDE regions.ld\nSECTIONS { .text : { *(.text) } }\n";
  EXPECT_THAT(
      dump(with_script("a: main.c\n\tcc -T boot/main.ld -Lparts -o $@ main.c\n", script), Role::script),
      ElementsAre("regions.ld -> parts/regions.ld"));
  EXPECT_THAT(dump(with_script("a: main.c\n\tcc -Wl,-Tboot/main.ld -Wl,-L,boot -o $@ main.c\n", script),
                   Role::script),
              ElementsAre("regions.ld -> boot/regions.ld"));
  EXPECT_THAT(dump(with_script("", script), Role::script), ElementsAre("regions.ld -> boot/regions.ld ?"));
  EXPECT_THAT(dump(with_script("", "INPUT(\"parts/start.o.in\", -lc)\nSEARCH_DIR(parts)\n"), Role::argument),
              ElementsAre("parts/start.o.in -> parts/start.o.in ?"));
}

ReferenceGraph documented(const std::string& settings, const std::string& name = "doc/Doxyfile") {
  return read(tree_of(
      {{name, settings}, {"src/a.c", ""}, {"include/a.h", ""}, {"doc/logo.svg", ""}, {"meson.build", ""}}));
}

TEST(DocSettings, words_of_path_settings_from_the_folder_that_fits_most) {
  EXPECT_THAT(
      dump(documented("INPUT = src \\\n  include\nPROJECT_NAME = src\n# INPUT = doc\n"), Role::argument),
      ElementsAre("include -> include ?", "src -> src ?"));
  EXPECT_THAT(dump(documented("INPUT = ../src \"../include\"\nPROJECT_LOGO=logo.svg\n"), Role::argument),
              ElementsAre("../include -> include ?", "../src -> src ?", "logo.svg -> doc/logo.svg ?"));
  EXPECT_THAT(
      dump(documented("INPUT += @top_srcdir@/src @srcdir@/logo.svg\n", "doc/Doxyfile.in"), Role::argument),
      ElementsAre("/\x01tree/src -> src ?", "@/logo.svg -> doc/logo.svg ?"));
  EXPECT_THAT(dump(documented("INPUT = nowhere\n"), Role::argument), IsEmpty());
}

TEST(EditorSettings, options_with_paths_follow) {
  MemoryTree tree = tree_of({{".clangd", "CompileFlags:\n  Add: [-Iinclude, \"-Isrc\"]\n"},
                             {".clang-tidy", "ExtraArgs:\n  - '-Iinclude'\n"},
                             {"src/a.c", ""},
                             {"include/a.h", ""}});
  EXPECT_THAT(dump(read(tree), Role::search_root), ElementsAre("include -> include", "src -> src"));
}

ReferenceGraph batch(const std::string& script) {
  return read(tree_of({{"tools/run.bat", script},
                       {"src/a.c", ""},
                       {"include/a.h", ""},
                       {"tools/gen.py", ""},
                       {"tools/set up.bat", ""},
                       {"data/level.csv", ""}}));
}

TEST(BatchScripts, words_that_lead_somewhere) {
  const std::vector<std::tuple<std::string, Role, std::string>> cases = {
      {"@type data\\level.csv\r\n", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"cd /d %~dp0\r\npython gen.py\r\n", Role::argument, "gen.py -> tools/gen.py ?"},
      {"python \"%~dp0gen.py\"\r\n", Role::argument, "@/gen.py -> tools/gen.py ?"},
      {"type %~dp0..\\data\\level.csv\r\n", Role::argument, "@/../data/level.csv -> data/level.csv ?"},
      {"set DIR=data\r\ntype %DIR%\\level.csv\r\n", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"set \"DIR=data\"\r\ntype !dir!/level.csv\r\n", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"pushd data\r\ntype level.csv\r\npopd\r\n", Role::argument, "level.csv -> data/level.csv ?"},
      {"cl /c src\\a.c ^\r\n  -Iinclude\r\n", Role::search_root, "include -> include ?"},
      {"if not exist data\\level.csv exit /b 1\r\n", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"if \"%1\"==\"x\" (\r\n  type data\\level.csv\r\n)\r\n", Role::argument,
       "data/level.csv -> data/level.csv ?"},
      {"for %%f in (data\\level.csv src\\a.c) do type %%f\r\n", Role::argument, "src/a.c -> src/a.c ?"},
      {"read < data\\level.csv 2>&1\r\n", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"call \"tools\\set up.bat\" x\r\n", Role::script, "tools/set up.bat -> tools/set up.bat"}};
  for (const auto& [script, role, expected] : cases)
    EXPECT_THAT(dump(batch(script), role), Contains(expected)) << script;
}

TEST(BatchScripts, what_is_not_run_is_left_alone) {
  for (const char* script : {"rem type data\\level.csv\r\n", ":: data\\level.csv\r\n", ":data\\level.csv\r\n",
                             "echo data\\level.csv\r\n", "type %1\\level.csv\r\n"})
    EXPECT_THAT(dump(batch(script), Role::argument), Not(Contains("data/level.csv -> data/level.csv ?")))
        << script;
}

TEST(BatchScripts, garbled_scripts_are_survived) {
  for (const std::string& script :
       {std::string("%"), std::string("%~"), std::string("set"), std::string("for"), std::string("if"),
        std::string("\"open"), std::string("^"), std::string(5000, '('), std::string("cd"),
        std::string("if not"), std::string("!"), std::string("%%")})
    EXPECT_NO_FATAL_FAILURE(batch(script));
}

}  // namespace
}  // namespace yc::test
