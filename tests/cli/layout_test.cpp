// The commands `layout` and `check --layout`, and definitions that units share, with the built program.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cstdlib>

#include "support/workspace.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;

const std::string kBuild =
    "export CARGO_NET_OFFLINE=true CARGO_TARGET_DIR=$(mktemp -d) && cargo test -q --offline --workspace "
    ">/dev/null; "
    "status=$?; rm -rf \"$CARGO_TARGET_DIR\"; rm -f Cargo.lock; exit $status";

std::string crate(const std::string& name, const std::string& more) {
  return "[package]\nname = \"" + name + "\"\nversion = \"0.1.0\"\nedition = \"2021\"\n" + more;
}

Files decoder() {
  return {{"Cargo.toml", "[workspace]\nmembers = [\"crates/*\", \"decode\"]\nresolver = \"2\"\n"},
          {"crates/frame/Cargo.toml", crate("frame", "publish = false\n")},
          {"crates/frame/src/lib.rs", "pub fn read() -> i32 {\n    4\n}\n"},
          {"crates/tide/Cargo.toml", crate("tide", "\n[dependencies]\nframe = { path = \"../frame\" }\n")},
          {"crates/tide/src/lib.rs", "pub fn level() -> i32 {\n    frame::read()\n}\n"},
          {"decode/Cargo.toml", crate("decode", "\n[dependencies]\ntide = { path = \"../crates/tide\" }\n")},
          {"decode/src/main.rs", "fn main() {\n    print!(\"{}\", tide::level());\n}\n"}};
}

const std::string kRules =
    "[[place]]\nholds = \"program\"\nto = \"programs/\"\n\n[[place]]\nholds = \"private\"\nto = "
    "\"internal/\"\n\n"
    "[[place]]\nholds = \"library\"\nto = \"libraries/\"\n";

TEST(LayoutCommand, shows_checks_writes_and_moves) {
  Workspace tree(decoder());
  Outcome none = tree.run({"layout"});
  EXPECT_EQ(none.status, 2) << none.told;
  EXPECT_THAT(none.err, HasSubstr("layout --learn"));
  tree.write("layout.toml", kRules);
  auto before = tree.contents();
  Outcome shown = tree.run({"layout"});
  EXPECT_EQ(shown.status, 0) << shown.told;
  EXPECT_THAT(shown.out, HasSubstr("  decode/  program, from decode\n"));
  EXPECT_THAT(shown.out, HasSubstr("3 folders would move; 0 things are where the rules want them."));
  EXPECT_THAT(tree.run({"layout", "--format", "json"}).out, HasSubstr("\"to\": \"internal/frame\""));
  EXPECT_EQ(tree.run({"check", "--layout"}).status, 1);
  Outcome sheet = tree.run({"layout", "--write-sheet", "-"});
  EXPECT_THAT(sheet.out, HasSubstr("\ncrates/tide/ -> libraries/tide/\n"));
  EXPECT_EQ(tree.run({"layout", "--move", "--preview"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
  Outcome moved = tree.run({"layout", "--move"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_EQ(tree.shell(kBuild).status, 0) << moved.told;
  Outcome checked = tree.run({"check", "--layout"});
  EXPECT_EQ(checked.status, 0) << checked.told;
  EXPECT_THAT(tree.run({"layout", "--move"}).out, HasSubstr("Everything is where the rules want it."));
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
}

TEST(LayoutCommand, what_it_learns_it_can_read) {
  Workspace tree(decoder());
  tree.write("crates/sea/Cargo.toml", crate("sea", ""));
  tree.write("crates/sea/src/lib.rs", "");
  Outcome learned = tree.run({"layout", "--learn"});
  EXPECT_THAT(learned.out, HasSubstr("[[place]]\nholds = \"library\"\nto = \"crates/\"\n")) << learned.told;
  tree.write("layout.toml", learned.out);
  Outcome checked = tree.run({"check", "--layout"});
  EXPECT_EQ(checked.status, 0) << checked.told;
  tree.write("layout.toml", "[[place]]\nto = 3\n");
  Outcome wrong = tree.run({"check", "--layout"});
  EXPECT_EQ(wrong.status, 2);
  EXPECT_THAT(wrong.err, HasSubstr("layout.toml:2:6"));
}

TEST(SharedCommand, a_move_changes_one_line_then) {
  Workspace tree(decoder());
  auto before = tree.contents();
  Outcome shared = tree.run({"restyle", "--shared"});
  EXPECT_EQ(shared.status, 0) << shared.told;
  EXPECT_THAT(tree.read("crates/tide/Cargo.toml"), HasSubstr("frame = { workspace = true }"));
  EXPECT_EQ(tree.shell(kBuild).status, 0);
  Outcome moved = tree.run({"move", "crates/frame", "internal/frame"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_THAT(moved.out, HasSubstr("2 edits in 1 file")) << "the member, and the one definition";
  EXPECT_EQ(tree.shell(kBuild).status, 0);
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  EXPECT_EQ(tree.run({"restyle", "--unshared"}).status, 0);
  EXPECT_EQ(tree.contents(), before);
  EXPECT_THAT(tree.run({"restyle", "--unshared"}).out, HasSubstr("Nothing here can be spelled otherwise."));
}

// The layouts that are shipped, on the demo's programs.
TEST(LayoutCommand, shipped_layouts_hold_for_the_demo) {
  for (const char* name : {"programs-and-libraries", "sources-and-headers", "parts-of-a-site"}) {
    SCOPED_TRACE(name);
    Workspace tree;
    std::string source = SOURCES;
    ASSERT_EQ(tree.shell("cp -r '" + source + "/demo/saltmarsh/.' . && cp '" + source + "/docs/layouts/" +
                         name + ".toml' layout.toml")
                  .status,
              0);
    Outcome moved = tree.run({"layout", "--move"});
    EXPECT_EQ(moved.status, 0) << moved.told;
    EXPECT_THAT(moved.out, HasSubstr("Done and verified"));
    EXPECT_EQ(tree.run({"check", "--layout"}).status, 0);
  }
}

}  // namespace
}  // namespace yc::test
