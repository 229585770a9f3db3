// Shapes of Rust crates: modules are moved, checked and tested with the real tool, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// What is built lies outside of the tree. Examples in documentation are run, too.
const std::string kBuild =
    "export CARGO_NET_OFFLINE=true CARGO_TARGET_DIR=$(mktemp -d) && cargo test -q --offline >/dev/null; "
    "status=$?; rm -rf \"$CARGO_TARGET_DIR\"; rm -f Cargo.lock; exit $status";

// The packet decoder as one crate.
Files decoder() {
  return {{"Cargo.toml", "[package]\nname = \"tide-decoder\"\nversion = \"0.1.0\"\nedition = \"2021\"\n"},
          {"src/lib.rs",
           "//! Decodes what gauges send.\n//!\n//! ```\n//! use tide_decoder::level;\n//! "
           "assert_eq!(level::Level(3).mark(), 6);\n"
           "//! ```\n\n#[macro_use]\nmod marks;\n/// What a gauge read.\npub mod level;\nmod packet;\npub "
           "mod water;\n\n"
           "pub use level::Level;\n\npub fn read(text: &str) -> Level {\n    packet::parse(text)\n}\n"},
          {"src/marks.rs",
           "macro_rules! mark {\n    ($x:expr) => {\n        $crate::water::twice($x)\n    };\n}\n"},
          {"src/level.rs",
           "use super::packet::Packet;\nuse crate::water::{self, salt::Salt, Depth};\n\n"
           "#[derive(Debug, Clone, PartialEq)]\npub struct Level(pub i32);\n\nimpl Level {\n"
           "    pub(super) fn of(packet: &Packet) -> Self {\n        let _: Depth = water::deep();\n"
           "        let _: Option<Salt> = None;\n        Level(packet.value)\n    }\n"
           "    pub fn mark(&self) -> i32 {\n        mark!(self.0)\n    }\n}\n\n"
           "#[cfg(test)]\nmod tests {\n    use super::*;\n    #[test]\n    fn marks() {\n"
           "        assert_eq!(Level(2).mark(), 4);\n    }\n}\n"},
          {"src/packet.rs",
           "use crate::level::{self, Level};\n\npub(crate) struct Packet {\n    pub(crate) value: i32,\n}\n\n"
           "pub fn parse(text: &str) -> Level {\n    let _ = level::Level(3);\n"
           "    Level::of(&Packet { value: text.len() as i32 })\n}\n"},
          {"src/water/mod.rs",
           "pub mod salt;\n\npub struct Depth;\n\npub fn deep() -> Depth {\n    Depth\n}\n\n"
           "pub fn twice(x: i32) -> i32 {\n    2 * x\n}\n"},
          {"src/water/salt.rs", "pub struct Salt;\n"},
          {"tests/reads.rs",
           "use tide_decoder::level::Level;\n\n#[test]\nfn reads() {\n    "
           "assert_eq!(tide_decoder::read(\"abc\"), "
           "Level(3));\n}\n"}};
}

TEST(RustShapes, a_module_goes_to_another) {
  Workspace tree(decoder());
  expect_move_says(tree, "src/level.rs -> src/water/level.rs\n",
                   {"+ //! use tide_decoder::water::level;", "+ /// What a gauge read."}, kBuild);
  expect_move_keeps_build(tree, "src/water/salt.rs -> src/salt.rs\n", kBuild);
  expect_move_keeps_build(tree, "src/packet.rs -> src/level/packet.rs\n", kBuild);
}

TEST(RustShapes, modules_are_renamed_and_promoted) {
  Workspace tree(decoder());
  expect_move_says(tree, "src/level.rs -> src/stage.rs\n", {"use tide_decoder::stage as level;"}, kBuild);
  expect_move_keeps_build(tree, "src/level.rs -> src/level/mod.rs\nsrc/water/mod.rs -> src/water.rs\n",
                          kBuild);
}

TEST(RustShapes, a_folder_without_a_module_and_the_whole_source_folder) {
  Workspace tree(decoder());
  expect_move_says(tree, "src/packet.rs -> wire/packet.rs\n", {"+ #[path = \"../wire/packet.rs\"]"}, kBuild);
  expect_move_keeps_build(tree, "src/ -> core/tide/\n", kBuild);
  expect_move_keeps_build(tree, "src/water/ -> src/sea/\ntests/reads.rs -> tests/decoder/main.rs\n", kBuild);
}

TEST(RustShapes, what_would_not_compile_is_refused) {
  Workspace tree(decoder());
  expect_refusal(tree, "src/level.rs -> src/marks/level.rs\n", {"\"mark\" is a macro"});
  expect_refusal(tree, "src/water/salt.rs -> src/packet/salt.rs\n", {"which users of the crate can name"});
}

}  // namespace
}  // namespace yc::test
