#include "formats/nmake/nmake.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/nmake/nmake_script.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

TEST(Nmake, lines_continue_and_comments_end_them) {
  std::string text = "A = b \\\r\n  c # end\r\n# all of it\n\tcmd # stays\n!IF 1\n";
  std::vector<std::string> lines;
  for (const nmake::Line& line : nmake::lines_of(text))
    lines.push_back((line.is_indented ? ">" : "") + text.substr(line.span.begin, line.span.size()));
  EXPECT_THAT(lines, ElementsAre("A = b \\\r\n  c ", ">\tcmd # stays", "!IF 1"));
}

TEST(Nmake, headers_of_inference) {
  auto shown = [](const std::string& text) {
    auto found = nmake::inference_header(text, {0, static_cast<std::uint32_t>(text.size())});
    if (!found) return std::string("none");
    return text.substr(found->folder.begin, found->folder.size()) + "|" + found->from + "|" +
           text.substr(found->made.begin, found->made.size()) + "|" + found->to;
  };
  EXPECT_EQ(shown("{..\\lib\\}.c{$(OBJ)\\}.obj::"), "..\\lib\\|.c|$(OBJ)\\|.obj");
  EXPECT_EQ(shown(".c.obj:"), "|.c||.obj");
  EXPECT_EQ(shown(".SUFFIXES: .c .obj"), "none");
  EXPECT_EQ(shown("{..\\lib\\.c.obj:"), "none");
}

const std::string kLibrary =
    "SRC = ..\\lib\r\nOUT = out\r\nCFLAGS = /I. /I ..\\inc $(MORE)\r\n!IFDEF STATIC\r\nKIND = "
    "..\\lib\\static.def\r\n"
    "!ELSE\r\nKIND = ..\\lib\\shared.def\r\n!ENDIF\r\nOBJS = $(OUT)\\level.obj \\\r\n $(OUT)\\tide.obj\r\n"
    "gauge.dll: $(OBJS) $(KIND)\r\n\t@link /out:$@ /def:$(KIND) $(OBJS)\r\n"
    "{$(SRC)\\}.c{$(OUT)\\}.obj::\r\n\tcl $(CFLAGS) /Fo\"$(OUT)\\\\\" $<\r\n"
    "$(OUT)\\gauge.res: $(SRC)\\gauge.rc\r\n\trc $(SRC)\\gauge.rc\r\n";

TreeFiles library(const std::string& makefile = kLibrary) {
  return {{"win/Makefile.vc", makefile}, {"lib/level.c", "#include \"level.h\"\n"},
          {"lib/tide.c", "\n"},          {"lib/spare.c", "\n"},
          {"lib/gauge.rc", "\n"},        {"lib/static.def", "\n"},
          {"lib/shared.def", "\n"},      {"inc/level.h", "\n"},
          {"win/README.md", "see it\n"}};
}

TEST(Nmake, macros_rules_and_inference_are_read) {
  ReferenceGraph graph = read(tree_of(library()));
  EXPECT_THAT(dump(graph, Role::source),
              ElementsAre("../lib/gauge.rc -> lib/gauge.rc", "gauge.rc -> lib/gauge.rc ?",
                          "level.c -> lib/level.c ?", "tide.c -> lib/tide.c ?"))
      << "spare.c is said nowhere";
  EXPECT_THAT(dump(graph, Role::search_root), ElementsAre(". -> win", "../inc -> inc", "../lib -> lib"));
  EXPECT_THAT(compiled(graph),
              ElementsAre("lib/gauge.rc [win][inc]", "lib/level.c [win][inc]", "lib/tide.c [win][inc]"));
}

TEST(Nmake, what_both_sides_of_a_conditional_name_follows) {
  expect_edits({
      {"a folder that a macro holds",
       library(),
       {{"lib", "src"}},
       {"win/Makefile.vc: ..\\lib -> ..\\src", "win/Makefile.vc: ..\\lib\\static.def -> ..\\src\\static.def",
        "win/Makefile.vc: ..\\lib\\shared.def -> ..\\src\\shared.def"}},
      {"a search root after a blank",
       library(),
       {{"inc", "include"}},
       {"win/Makefile.vc: ..\\inc -> ..\\include"}},
      {"a makefile that is started in the root",
       {{"scripts/makefile.msc",
         "O=.obj\nOBJS = tide$(O)\ntide$(O): tide.c tide.h\n\tcl -c $*.c\n"
         "tide.lib: $(OBJS)\n\tlib $(OBJS)\n"},
        {"tide.c", "#include \"tide.h\"\n"},
        {"tide.h", "\n"}},
       {{"tide.c", "src/tide.c"}, {"tide.h", "src/tide.h"}},
       {"scripts/makefile.msc: tide.c -> src\\tide.c", "scripts/makefile.msc: tide.h -> src\\tide.h",
        "scripts/makefile.msc: $*.c -> src\\tide.c"}},
      {"a makefile that moves, with a path that leads out",
       {{"win/Makefile.vc", "all:\n\tcl /I..\\..\\zlib ..\\lib\\tide.c\n"}, {"lib/tide.c", "\n"}},
       {{"win/Makefile.vc", "build/win/Makefile.vc"}},
       {"win/Makefile.vc: ..\\..\\zlib -> ..\\..\\..\\zlib",
        "win/Makefile.vc: ..\\lib\\tide.c -> ..\\..\\lib\\tide.c"}},
  });
}

TEST(Nmake, a_folder_beside_is_compiled_as_its_neighbour_is) {
  std::string neighbour =
      "{$(SRC)\\radio\\}.c{$(OUT)\\radio\\}.obj::\r\n\tcl $(CFLAGS) /Fo\"$(OUT)\\radio\\\\\" $<\r\n"
      "$(OUT):\r\n\tmkdir $(OUT)\r\n\tmkdir $(OUT)\\radio\r\n";
  TreeFiles files = library(kLibrary + neighbour);
  files.push_back({"lib/radio/mast.c", "\n"});
  Plan plan = planned(files, {{"lib/tide.c", "lib/tables/tide.c"}});
  EXPECT_THAT(edits(plan),
              ElementsAre(HasSubstr("{$(SRC)\\tables\\}.c{$(OUT)\\tables\\}.obj::\r\n\tcl $(CFLAGS) "
                                    "/Fo\"$(OUT)\\tables\\\\\" $<\r\n"),
                          HasSubstr("\tmkdir $(OUT)\\tables\r\n")));
}

TEST(Nmake, objects_known_by_name_are_compiled_from_another_folder) {
  std::string text = "OBJS = tide.obj level.obj\nall: $(OBJS)\n.c.obj:\n\tcl /c $<\n";
  Plan plan =
      planned({{"Makefile.vc", text}, {"tide.c", "\n"}, {"level.c", "\n"}}, {{"tide.c", "src/tide.c"}});
  EXPECT_THAT(edits(plan), ElementsAre(HasSubstr("{src\\}.c.obj:\n\tcl /c $<\n")));
}

TEST(Nmake, a_rule_without_commands_gets_them_where_the_shared_one_cannot_find_the_source) {
  std::string text =
      "OBJS = tide.obj level.obj\nall: $(OBJS)\n.c.obj:\n\tbcc -c $*.c\ntide.obj: tide.c tide.h\n";
  Plan plan = planned({{"makefile.bor", text}, {"tide.c", "\n"}, {"tide.h", "\n"}, {"level.c", "\n"}},
                      {{"tide.c", "src/tide.c"}});
  EXPECT_THAT(edits(plan), ElementsAre("makefile.bor: tide.c -> src\\tide.c",
                                       "makefile.bor:  -> \tbcc -c src\\tide.c\n ?"));
}

TEST(Nmake, a_renamed_source_takes_its_object_along) {
  std::string text =
      "OUT = out\nOBJS = $(OUT)\\tide.obj level.obj\nall: $(OBJS)\n.c.obj:\n\tcl /c $<\n"
      "{lib\\}.c{$(OUT)\\}.obj:\n\tcl /c $<\n";
  TreeFiles files = {{"Makefile.vc", text}, {"lib/tide.c", "\n"}, {"level.c", "\n"}, {"out/x", ""}};
  EXPECT_THAT(edits(planned(files, {{"lib/tide.c", "lib/gauge.c"}})),
              ElementsAre("Makefile.vc: tide -> gauge ?"));
  EXPECT_THAT(edits(planned(files, {{"level.c", "water.c"}})), ElementsAre("Makefile.vc: level -> water ?"));
}

TEST(Nmake, objects_without_a_rule_are_compiled_by_the_tool_itself) {
  TreeFiles files = {{"makefile.vc", "SRCS = tide.c level.c\nall: $(SRCS:.c=.obj)\n\tlink $(SRCS:.c=.obj)\n"},
                     {"tide.c", "\n"},
                     {"level.c", "\n"},
                     {"all.c", "\n"}};
  EXPECT_THAT(compiled(read(tree_of(files))), ElementsAre("level.c ", "tide.c ")) << "all names no object";
  files[0].second = "all: tide.obj\n\tlink tide.obj\n";
  EXPECT_THAT(edits(planned(files, {{"tide.c", "gauge.c"}})),
              ElementsAre("makefile.vc: tide -> gauge ?", "makefile.vc: tide -> gauge ?"));
  EXPECT_THAT(reasons(planned(files, {{"tide.c", "src/tide.c"}})), ElementsAre("lost makefile.vc"));
}

TEST(Nmake, what_is_no_makefile_or_too_much_is_not_verified) {
  std::string chart = "msc {\n  pole, office;\n  pole -> office [ label = \"tide.c\" ];\n}\n";
  TreeFiles files = {{"doc/radio.msc", chart}, {"tide.c", "\n"}, {"Makefile", "all:\n\tcc tide.c\n"}};
  EXPECT_THAT(reasons(planned(files, {{"tide.c", "src/tide.c"}})), ElementsAre("garbled doc/radio.msc"));
  std::string many = "!IFDEF A\n";
  for (int i = 0; i < 12; ++i) many += "!ELSE\nK = k" + std::to_string(i) + ".c\n";
  files[0] = {"win/tide.vc", many + "!ENDIF\nall: $(K) ../tide.c\n\tcl $**\n"};
  EXPECT_THAT(reasons(planned(files, {{"tide.c", "src/tide.c"}})), ElementsAre("given-up win/tide.vc"));
}

TEST(Nmake, a_source_that_no_rule_would_compile_is_held_back) {
  EXPECT_THAT(reasons(planned(library(), {{"lib/tide.c", "lib/tables/tide.c"}})),
              ElementsAre("lost win/Makefile.vc"));
  EXPECT_THAT(edits(planned(library(), {{"lib/spare.c", "lib/old/spare.c"}})), IsEmpty());
}

}  // namespace
}  // namespace yc::test
