// What a manifest of Cargo packs: its lists follow what they name.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

TEST(CratePacking, what_a_manifest_packs_stays_packed) {
  TreeFiles files = {
      {"Cargo.toml",
       "[package]\nname = \"tide\"\nversion = \"0.1.0\"\ninclude = [\"/src/**/*.rs\", \"data/**\", "
       "\"/README.md\", \"*.toml\"]\nexclude = [\"src/drafts/*\"]\n"},
      {"README.md", ""},
      {"src/lib.rs", "mod level;\n"},
      {"src/level.rs", "mod unit;\n"},
      {"src/level/unit.rs", ""},
      {"data/a.csv", ""},
      {"src/drafts/b.rs", ""}};
  EXPECT_THAT(edits(planned(files, {{"src", "core"}})),
              ElementsAre("Cargo.toml: src -> core", "Cargo.toml: src/drafts/* -> core/drafts/*",
                          "Cargo.toml:  -> \n[lib]\npath = \"core/lib.rs\"\n"));
  EXPECT_THAT(edits(planned(files, {{"data", "assets"}})), ElementsAre("Cargo.toml: data -> assets"));
  EXPECT_THAT(edits(planned(files, {{"src/level.rs", "src/level/mod.rs"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"src/level/unit.rs", "parts/unit.rs"}})),
              Contains(HasSubstr("parts/unit.rs")));
}

}  // namespace
}  // namespace yc::test
