// Readers survive anything: real scripts with bytes cut out, doubled, swapped and replaced, by a fixed seed.
#include <gtest/gtest.h>

#include <random>

#include "plan/plan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

const std::string kMakefile =
    "S := $(wildcard src/*.c)\nifdef DEBUG\nCFLAGS += -Iinc -include inc/x.h\nelse ifeq "
    "($(V),1)\nendif\ndefine rule\n$(1).o: $(1).c\n\t$$(CC) -c $$<\nendef\n"
    "$(foreach n,a b,$(eval $(call rule,$(n))))\nprog: $(S:.c=.o) $(addprefix lib/,c.o)\n\t@cd src && cat "
    "\"a.c\" > ../out/x; $(CC) -o $@ $^\nvpath %.c lib\n-include dep.mk\n";
const std::string kScript =
    "cmake_minimum_required(VERSION 3.16)\nproject(p C)\nset(S src/a.c \"src/b.c\")\nif(X AND NOT Y)\n  "
    "list(APPEND S lib/${Z}.c)\nelse()\n  file(GLOB G ${CMAKE_CURRENT_SOURCE_DIR}/lib/*.c)\nendif()\n"
    "function(f n)\n  cmake_parse_arguments(A \"Q\" \"N\" \"S\" ${ARGN})\n  add_library(${n} "
    "${A_S})\nendfunction()\nf(l S ${S})\nforeach(t IN LISTS S)\nendforeach()\n"
    "target_include_directories(l PUBLIC $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/inc> "
    "[[x]])\nadd_custom_command(OUTPUT o COMMAND sh -c \"cat src/a.c\" DEPENDS src/a.c)\n";
const std::string kSource =
    "#include \"x.h\"\n#  include <x.h> /* c */\n#if __has_include(\"inc/x.h\")\n#define H "
    "\"inc/x.h\"\n#include H\n#endif\nconst char* s = R\"d(#include \"no.h\")d\" \"data/x.txt\";\n";
const std::string kPresets =
    "{ \"version\": 3, \"include\": [\"more.json\"], \"configurePresets\": [ { \"toolchainFile\": "
    "\"${sourceDir}/inc/x.h\", \"x\": \"\\u0041\" } ] }\n";

std::string mutated(std::string text, std::mt19937& random) {
  for (unsigned i = 0, count = 1 + static_cast<unsigned>(random() % 4); i < count && !text.empty(); ++i) {
    std::size_t at = random() % text.size(), size = random() % 12;
    static const std::string odd("\0\xff$(){}[]\"'\\\n\t:;=<>#%", 22);
    switch (random() % 4) {
      case 0:
        text.erase(at, size);
        break;
      case 1:
        text.insert(at, text.substr(random() % text.size(), size));
        break;
      case 2:
        text[at] = odd[random() % odd.size()];
        break;
      default:
        text.resize(at);
        break;
    }
  }
  return text;
}

TEST(Mutation, no_reader_crashes_and_no_plan_edits_outside_of_its_files) {
  std::mt19937 random(20);
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  for (int i = 0; i < 250; ++i) {
    std::string make = kMakefile, cmake = kScript, source = kSource, presets = kPresets;
    std::string* all[] = {&make, &cmake, &source, &presets};
    std::string& victim = *all[random() % 4];
    victim = mutated(victim, random);
    MemoryTree tree = tree_of({{"Makefile", make},
                               {"CMakeLists.txt", cmake},
                               {"CMakePresets.json", presets},
                               {"src/a.c", source},
                               {"src/b.c", source},
                               {"lib/c.c", source},
                               {"inc/x.h", ""},
                               {"data/x.txt", ""},
                               {"out/keep", ""}});
    Plan plan =
        make_plan(tree, *MoveSet::make(tree, {{at("src/a.c"), at("core/a.c")}, {at("inc"), at("api")}}), {});
    EXPECT_TRUE(plan.verified || !plan.unsettled.empty()) << "at " << i;
    for (const PlannedEdit& edit : plan.edit_list) {
      auto bytes = tree.read(edit.file);
      ASSERT_TRUE(bytes);
      ASSERT_LE(edit.span.end, (*bytes)->size());
      EXPECT_EQ((*bytes)->substr(edit.span.begin, edit.span.size()), edit.before);
    }
  }
}

}  // namespace
}  // namespace yc::test
