// What tells references of one construct apart: paths, which follow a move, and words of a format, which do
// not although a folder may be called so.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "model/reference.h"
#include "support/plans.h"

namespace yc::test {
namespace {

TEST(Instances, folders_that_are_called_like_a_word_of_a_format) {
  expect_edits({
      {"a folder of macros that is called macros",
       {{"configure.ac",
         "AC_INIT([tide],[1])\nAC_CONFIG_MACRO_DIR([macros])\nTIDE_CHECK\nAC_CONFIG_FILES([notes])\nAC_"
         "OUTPUT\n"},
        {"notes.in", "\n"},
        {"macros/tide.m4", "AC_DEFUN([TIDE_CHECK], [AC_CHECK_HEADERS([math.h])])\n"}},
       {{"macros", "config"}},
       {"configure.ac: macros -> config"}},
      {"folders that are called like what an import is",
       {{"main.py", "import pkg.a\nprint(pkg.a.LEVEL)\n"},
        {"pkg/__init__.py", ""},
        {"pkg/sub/__init__.py", ""},
        {"pkg/a.py", "LEVEL = 1\n"},
        {"module/notes.txt", "\n"},
        {"member/notes.txt", "\n"},
        {"path/notes.txt", "\n"}},
       {{"pkg/a.py", "pkg/sub/a.py"}, {"module", "notes"}, {"member", "people"}, {"path", "way"}},
       {"main.py: pkg.a -> pkg.sub.a", "main.py: pkg.a -> pkg.sub.a"}},
  });
}

TEST(Instances, a_path_and_a_word_of_the_same_letters_differ) {
  ConstructPart path = ConstructPart::of(at("macros")), word = ConstructPart::tagged("macros");
  EXPECT_NE(path, word);
  EXPECT_NE(path.str(), word.str());
  EXPECT_NE(ConstructPart::of(RelPath()), ConstructPart());
  EXPECT_FALSE(ConstructPart::of(RelPath()).is_one_of_many());
  EXPECT_TRUE(word.is_one_of_many());
}

}  // namespace
}  // namespace yc::test
