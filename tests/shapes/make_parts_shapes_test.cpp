// Makefiles in parts: fragments that a list of folders names, one makefile that is run for each folder, and
// targets that are called like folders.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

TEST(MakeParts, a_name_that_would_stay_in_a_list_is_no_way) {
  Workspace tree({{"Makefile",
                   "parts := core net\nsrc :=\nCPPFLAGS += $(patsubst %,-I%,$(parts))\n"
                   "include $(addsuffix /part.mk,$(parts))\n"
                   "tide: $(src:.c=.o)\n\t$(CC) -o $@ $^\n"},
                  {"core/part.mk", "src += core/main.c\n"},
                  {"core/main.c", "#include \"link.h\"\nint main(void) { return netlink(); }\n"},
                  {"net/part.mk", "src += net/link.c\n"},
                  {"net/link.h", "int netlink(void);\n"},
                  {"net/link.c", "#include \"link.h\"\nint netlink(void) { return 0; }\n"}});
  const char* const build = "make -s tide && ./tide && rm tide $(find . -name '*.o')";
  // The folder stays on the list, as compilers search it.
  expect_refusal(tree, "core/part.mk -> parts/core.mk\n", {"core/part.mk"});
  expect_move_says(tree, "net -> lib/net\n", {"parts := core lib/net"}, build);
}

TEST(MakeParts, a_makefile_that_is_run_for_each_folder) {
  Workspace tree(
      {{"Makefile",
        "folders := lib/ gauge/\nobj := .\ntide: main.c $(patsubst %/,%/all.a,$(folders))\n"
        "\t$(CC) -o $@ $^\n"
        "%/all.a: FORCE\n\t$(MAKE) -s -f rules/build.mk obj=$*\nFORCE:\n"},
       {"rules/build.mk",
        "obj-y :=\ninclude $(obj)/Kbuild\nobjects := $(addprefix $(obj)/,$(obj-y))\n"
        "$(obj)/all.a: $(objects)\n\t$(AR) rcs $@ $^\n"
        "$(obj)/%.o: $(obj)/%.c\n\t$(CC) -c -o $@ $<\n"},
       {"lib/Kbuild", "obj-y += level.o\n"},
       {"lib/level.c", "int level(void) { return 0; }\n"},
       {"gauge/Kbuild", "obj-y := gauge.o\n"},
       {"gauge/gauge.c", "int gauge(void) { return 0; }\n"},
       {"main.c", "int level(void), gauge(void);\nint main(void) { return level() + gauge(); }\n"}});
  const char* const build = "make -s && ./tide && rm tide $(find . -name '*.[ao]')";
  expect_move_says(tree, "gauge -> drivers/gauge\n", {"folders := lib/ drivers/gauge/"}, build);
  expect_move_says(tree, "gauge/gauge.c -> gauge/pole.c\n", {"obj-y := pole.o"}, build);
  expect_refusal(tree, "lib/Kbuild -> lib/core/Kbuild\n", {"lib/Kbuild"});
}

TEST(MakeParts, targets_that_are_called_like_folders) {
  Workspace tree({{"Makefile",
                   "FOLDERS = lib tools\nall: $(FOLDERS)\n$(FOLDERS):\n\t$(MAKE) -s -C $@\n"
                   "tools: lib\n.PHONY: all $(FOLDERS)\n"},
                  {"lib/Makefile", "all:\n\techo 1 > level.txt\n"},
                  {"tools/Makefile", "all:\n\ttest -f ../lib*/level.txt\n"}});
  const char* const build = "make -s -j2 && rm lib*/level.txt";
  expect_move_says(tree, "lib -> library\n", {"FOLDERS = library tools", "+ tools: library"}, build);
  expect_move_says(tree, "tools -> checks\n", {"FOLDERS = lib checks", "+ checks: lib"}, build);
}

}  // namespace
}  // namespace yc::test
