// Folders that settings in scripting languages give roles, and the helpers that look in them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

TreeFiles with(const std::string& settings) {
  return {
      {"config.rb", settings},
      {"styles/site.scss", "a { background: image-url(\"icons/wave.svg\"); src: font-url('salt.woff'); }\n"},
      {"pictures/icons/wave.svg", ""},
      {"fonts/salt.woff", ""}};
}

TEST(RoleSettings, assignments_of_one_string) {
  EXPECT_THAT(
      dump(read(tree_of(with("images_dir = \"pictures\" # of all pages\nconfig.fonts_path = 'fonts'\n"))),
           Role::listed),
      ElementsAre("fonts -> fonts", "pictures -> pictures"));
  EXPECT_THAT(dump(read(tree_of(with("set :images_dir, \"pictures\"\n"))), Role::listed),
              ElementsAre("pictures -> pictures"));
  for (const char* nothing : {"# images_dir = \"pictures\"\n", "images_dir = base + \"pictures\"\n",
                              "images_dir = \"pictures\" + more\n", "images_dir = \"#{a}pictures\"\n",
                              "title = \"pictures\"\n", "images_dir = \"pictures\"\nimages_dir = \"p\"\n"}) {
    SCOPED_TRACE(nothing);
    EXPECT_THAT(dump(read(tree_of(with(nothing))), Role::listed), IsEmpty());
  }
}

TEST(RoleSettings, folders_and_what_helpers_find_in_them_follow) {
  const std::string settings = "images_dir = \"pictures\"\nfonts_dir = \"fonts\"\n";
  expect_edits({
      {"the folder goes, and the helpers stay",
       with(settings),
       {{"pictures", "assets/pictures"}},
       {"config.rb: pictures -> assets/pictures"}},
      {"a file within it",
       with(settings),
       {{"pictures/icons/wave.svg", "pictures/waves/high.svg"}},
       {"styles/site.scss: icons/wave.svg -> waves/high.svg"}},
      {"the sheet goes, and looks in the same folder",
       with(settings),
       {{"styles/site.scss", "assets/styles/site.scss"}},
       {}},
  });
}

}  // namespace
}  // namespace yc::test
