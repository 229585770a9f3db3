// Shapes of Cargo workspaces: each is moved, checked and tested with the real tool, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// What is built lies outside of the tree.
const std::string kBuild =
    "export CARGO_NET_OFFLINE=true CARGO_TARGET_DIR=$(mktemp -d) && cargo test -q --offline --workspace "
    ">/dev/null && "
    "cargo run -q --offline -p decode; status=$?; rm -rf \"$CARGO_TARGET_DIR\"; rm -f Cargo.lock; exit "
    "$status";

std::string crate(const std::string& name, const std::string& more) {
  return "[package]\nname = \"" + name + "\"\nversion = \"0.1.0\"\nedition = \"2021\"\n" + more;
}

// The packet decoder: a library for frames, one for levels, a program.
Files decoder() {
  return {{"Cargo.toml", "[workspace]\nmembers = [\"crates/*\", \"tools/decode\"]\nresolver = \"2\"\n"},
          {"crates/frame/Cargo.toml", crate("frame", "\n[dependencies]\nlevel = { path = \"../level\" }\n")},
          {"crates/frame/src/lib.rs",
           "mod wire;\npub fn level(text: &str) -> i32 {\n    level::of(wire::number(text))\n}\n"},
          {"crates/frame/src/wire.rs",
           "mod digits;\npub fn number(text: &str) -> i32 {\n    digits::read(text)\n}\n"},
          {"crates/frame/src/wire/digits.rs",
           "pub fn read(text: &str) -> i32 {\n    text.parse().unwrap_or(0)\n}\n"},
          {"crates/level/Cargo.toml", crate("level", "readme = \"../../README.md\"\n")},
          {"crates/level/src/lib.rs",
           "pub const MARKS: &str = include_str!(\"../../../data/marks.txt\");\npub fn of(number: i32) -> "
           "i32 {\n    number * "
           "2\n}\n#[test]\nfn marks() {\n    "
           "assert!(std::fs::read_to_string(\"../../data/marks.txt\").is_ok());\n}\n"},
          {"data/marks.txt", "4\n"},
          {"README.md", "Tides\n"},
          {"tools/decode/Cargo.toml",
           crate("decode", "\n[dependencies]\nframe = { path = \"../../crates/frame\" }\n")},
          {"tools/decode/src/main.rs", "fn main() {\n    print!(\"{}\", frame::level(\"4\"));\n}\n"}};
}

TEST(CargoShapes, a_workspace_is_regrouped) {
  Workspace tree(decoder());
  expect_move_says(
      tree,
      "crates/level/ -> libs/public/level/\ncrates/frame/ -> libs/private/frame/\ntools/decode/ -> "
      "programs/decode/\n",
      {"members = [\"libs/private/*\", \"libs/public/*\", \"programs/decode\"]"}, kBuild);
  expect_move_keeps_build(tree, "crates/frame/ -> tools/frame/\n", kBuild);
  expect_move_keeps_build(tree, "tools/decode/ -> crates/decode/\n", kBuild);
}

TEST(CargoShapes, roots_get_names_and_modules_folders) {
  Workspace tree(decoder());
  expect_move_keeps_build(tree, "crates/frame/src/wire.rs -> crates/frame/src/wire/mod.rs\n", kBuild);
  expect_move_says(tree, "crates/frame/src/lib.rs -> crates/frame/src/frame.rs\n",
                   {"path = \"src/frame.rs\""}, kBuild);
  expect_move_says(tree, "tools/decode/src/main.rs -> tools/decode/src/decode.rs\n",
                   {"path = \"src/decode.rs\""}, kBuild);
}

TEST(CargoShapes, modules_that_would_be_others_are_not_moved) {
  Workspace tree(decoder());
  expect_refusal(tree, "crates/frame/src/wire.rs -> crates/level/src/wire.rs\n", {"another crate"});
  expect_refusal(tree, "crates/frame/ -> crates/parts/frame/\n", {"crates/parts"});
}

}  // namespace
}  // namespace yc::test
