#include "formats/web_settings/folder_pattern.h"

#include <gtest/gtest.h>

namespace yc::web_settings {
namespace {

RelPath at(const std::string& text) {
  return RelPath::from_normal(text);
}

TEST(FolderPattern, takes_what_compilers_take) {
  struct Case {
    const char* pattern;
    const char* file;
    bool taken;
  };
  for (const Case& one : std::vector<Case>{{"src", "src/a.ts", true},
                                           {"src", "src/b/c/a.ts", true},
                                           {"src/", "src/a.ts", true},
                                           {"./src", "src/a.ts", true},
                                           {"src", "src2/a.ts", false},
                                           {"src", "lib/src/a.ts", false},
                                           {"src/*", "src/a.ts", true},
                                           {"src/**/*", "src/b/c/a.ts", true},
                                           {"src/**/*.test.ts", "src/b/a.test.ts", true},
                                           {"src/**/*.test.ts", "src/b/a.ts", false},
                                           {"**/*.d.ts", "x/y.d.ts", true},
                                           {"**/spec", "a/b/spec/c.ts", true},
                                           {"*.ts", "a.ts", true},
                                           {"*.ts", "b/a.ts", false},
                                           {"src/?.ts", "src/a.ts", true},
                                           {"src/?.ts", "src/ab.ts", false},
                                           {"src/a.ts", "src/a.ts", true},
                                           {".", "any/a.ts", true},
                                           {"", "a.ts", true}}) {
    EXPECT_EQ(FolderPattern(one.pattern).takes({}, at(one.file)), one.taken)
        << one.pattern << " " << one.file;
  }
}

TEST(FolderPattern, is_given_from_its_home) {
  FolderPattern pattern("src");
  EXPECT_TRUE(pattern.takes(at("app"), at("app/src/a.ts")));
  EXPECT_FALSE(pattern.takes(at("app"), at("src/a.ts")));
  EXPECT_FALSE(pattern.takes(at("app"), at("apps/src/a.ts")));
}

}  // namespace
}  // namespace yc::web_settings
