#include "formats/cargo/cargo.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/cargo/cargo_manifest.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

TEST(CargoManifest, paths_of_every_table) {
  cargo::Manifest manifest = cargo::read_manifest(
      "[package]\nname = \"tide\"\nbuild = \"make.rs\"\ninclude = [\"src/*.rs\"]\nworkspace = \"..\"\n"
      "[lib]\npath = \"l.rs\"\n[[bin]]\nname = \"t\"\npath = \"t.rs\"\n"
      "[dependencies]\nlevel = { path = \"../level\", version = \"1\" }\nserde = \"1\"\n"
      "[target.'cfg(unix)'.dev-dependencies.sea]\npath = \"../sea\"\n[patch.crates-io]\nx = { path = \"x\" "
      "}\n"
      "[package.metadata.deb]\nassets = [[\"data/a\", \"/usr\"]]\n[profile.dev]\npath = \"no\"\n");
  EXPECT_EQ(manifest.package, "tide");
  EXPECT_FALSE(manifest.is_workspace);
  std::vector<std::string> found;
  for (const cargo::NamedPath& named : manifest.paths)
    found.push_back(std::to_string(static_cast<int>(named.what)) + " " + named.value.text);
  EXPECT_THAT(found, UnorderedElementsAre("2 make.rs", "3 src/*.rs", "1 ..", "2 l.rs", "2 t.rs", "1 ../level",
                                          "1 ../sea", "1 x", "4 data/a", "4 /usr"));
  EXPECT_TRUE(cargo::read_manifest("[workspace]\n").is_workspace);
}

TreeFiles workspace() {
  auto crate = [](const std::string& name, const std::string& more) {
    return "[package]\nname = \"" + name + "\"\nversion = \"0.1.0\"\n" + more;
  };
  return {{"Cargo.toml",
           "[workspace]\nmembers = [\"crates/*\", \"tools/decode\"]\n\n[workspace.dependencies]\nlevel = { "
           "path = "
           "\"crates/level\" }\n"},
          {"crates/frame/Cargo.toml", crate("frame", "\n[dependencies]\nlevel = { path = \"../level\" }\n")},
          {"crates/frame/src/lib.rs", "mod wire;\n"},
          {"crates/frame/src/wire.rs", "pub const N: i32 = 4;\n"},
          {"crates/level/Cargo.toml", crate("level", "readme = \"../../README.md\"\n")},
          {"crates/level/src/lib.rs", "const M: &str = include_str!(\"../../../data/marks.txt\");\n"},
          {"data/marks.txt", "4\n"},
          {"README.md", "Tides\n"},
          {"tools/decode/Cargo.toml",
           crate("decode",
                 "\n[dependencies]\nframe = { path = \"../../crates/frame\" }\nlevel.workspace = true\n")},
          {"tools/decode/src/main.rs", "fn main() {}\n"}};
}

TEST(Cargo, crates_move_whole) {
  EXPECT_THAT(edits(planned(workspace(), {{"crates/level", "libs/public/level"}})),
              UnorderedElementsAre(
                  "Cargo.toml:  -> , \"libs/public/*\"", "Cargo.toml: crates/level -> libs/public/level",
                  "crates/frame/Cargo.toml: ../level -> ../../libs/public/level",
                  "crates/level/Cargo.toml: ../../README.md -> ../../../README.md",
                  "crates/level/src/lib.rs: ../../../data/marks.txt -> ../../../../data/marks.txt"));
  EXPECT_THAT(edits(planned(workspace(), {{"tools/decode", "programs/decode"}})),
              ElementsAre("Cargo.toml: tools/decode -> programs/decode"));
}

TEST(Cargo, lists_of_members_stay_right) {
  EXPECT_THAT(edits(planned(workspace(), {{"crates/level", "libs/level"}, {"crates/frame", "parts/frame"}})),
              Contains("Cargo.toml: crates/* -> libs/*"))
      << "a pattern that takes nothing is an error";
  EXPECT_THAT(edits(planned(workspace(), {{"tools/decode", "crates/decode"}})),
              Contains("Cargo.toml: , \"tools/decode\" -> "))
      << "the pattern takes it in";
  EXPECT_THAT(reasons(planned(workspace(), {{"crates/frame", "crates/parts/frame"}})),
              ElementsAre("drift Cargo.toml"))
      << "the pattern would take a folder without a manifest";
}

TEST(Cargo, a_crate_stays_in_its_workspace) {
  TreeFiles files = workspace();
  files.push_back({"other/Cargo.toml", "[workspace]\n"});
  EXPECT_THAT(reasons(planned(files, {{"tools/decode", "other/decode"}})),
              Contains("cargo-workspace tools/decode/Cargo.toml"));
}

TEST(Cargo, a_manifest_does_not_leave_its_sources) {
  EXPECT_THAT(reasons(planned(workspace(), {{"crates/level/Cargo.toml", "crates/level/src/Cargo.toml"}})),
              Contains("cargo-package crates/level/Cargo.toml"));
}

TEST(Cargo, sources_that_stay_the_same_modules_move_alone) {
  EXPECT_THAT(edits(planned(workspace(), {{"crates/frame/src/wire.rs", "crates/frame/src/wire/mod.rs"}})),
              IsEmpty());
  EXPECT_THAT(edits(planned(workspace(), {{"crates/frame/src/lib.rs", "crates/frame/src/frame.rs"}})),
              ElementsAre("crates/frame/Cargo.toml:  -> \n[lib]\npath = \"src/frame.rs\"\n"));
  EXPECT_THAT(
      edits(planned(workspace(), {{"tools/decode/src/main.rs", "tools/decode/src/decode.rs"}})),
      ElementsAre("tools/decode/Cargo.toml:  -> \n[[bin]]\nname = \"decode\"\npath = \"src/decode.rs\"\n"));
  TreeFiles named = workspace();
  named[8].second += "\n[[bin]]\nname = \"decode\"\ntest = false\n";
  EXPECT_THAT(edits(planned(named, {{"tools/decode/src/main.rs", "tools/decode/src/decode.rs"}})),
              ElementsAre("tools/decode/Cargo.toml:  -> path = \"src/decode.rs\"\n"));
  named[8].second = "[package]\nname = \"decode\"\nautobins = false\n";
  for (const auto& [from, to] : TreeMoves{{"crates/frame/src/lib.rs", "crates/level/src/frame.rs"},
                                          {"tools/decode/src/main.rs", "tools/decode/src/decode.rs"}})
    EXPECT_THAT(reasons(planned(named, {{from, to}})), Contains("not-read " + from)) << to;
}

TEST(Cargo, settings_name_crates_and_files_from_above_their_folder) {
  TreeFiles files = workspace();
  files.push_back(
      {".cargo/config.toml",
       "paths = [\"crates/level\"]\n[build]\nrustc-wrapper = \"tools/wrap.sh\"\nrustflags = [\"-C\", "
       "\"link-arg=-Ttools/memory.x\"]\n[target.x86_64-unknown-linux-gnu]\nlinker = \"cc\"\n"
       "[env]\nMARKS = { value = \"data/marks.txt\", relative = true }\nOTHER = { value = \"data\" }\n"});
  for (const char* name : {"tools/wrap.sh", "tools/memory.x", "cc"}) files.push_back({name, ""});
  EXPECT_THAT(edits(planned(files, {{"tools/wrap.sh", "scripts/wrap.sh"},
                                    {"tools/memory.x", "scripts/memory.x"},
                                    {"crates/level", "crates/water"},
                                    {"data", "texts"}})),
              ::testing::IsSupersetOf({".cargo/config.toml: crates/level -> crates/water",
                                       ".cargo/config.toml: tools/wrap.sh -> scripts/wrap.sh",
                                       ".cargo/config.toml: tools/memory.x -> scripts/memory.x",
                                       ".cargo/config.toml: data/marks.txt -> texts/marks.txt"}));
}

TEST(Cargo, what_climbs_out_of_a_crate_is_a_doubt) {
  TreeFiles files = workspace();
  files.push_back({"crates/level/build.rs",
                   "fn main() { let p = concat!(env!(\"CARGO_MANIFEST_DIR\"), \"/../../marks\"); }\n"});
  EXPECT_THAT(reasons(planned(files, {{"crates/level", "libs/public/level"}})),
              ElementsAre("unseen crates/level/build.rs"));
}

}  // namespace
}  // namespace yc::test
