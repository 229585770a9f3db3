#include "formats/rust/rust.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "base/text.h"
#include "formats/rust/rust_scan.h"
#include "formats/rust/rust_tokens.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

std::vector<std::string> modules_of(std::string_view text) {
  std::vector<std::string> out;
  for (const rust::ModuleLine& line : rust::scan_source(text).modules) {
    std::string one(cut(text, line.name));
    if (line.inner >= 0) one += " inline";
    if (line.in_macro) one += " in a macro";
    for (const Span& path : line.paths) one += " by " + std::string(cut(text, path));
    out.push_back(one);
  }
  return out;
}

std::vector<std::string> imports_of(std::string_view text) {
  std::vector<std::string> out;
  for (const rust::Import& import : rust::scan_source(text).imports) {
    std::string one;
    for (const rust::Segment& segment : import.segments)
      one += (one.empty() ? "" : "::") + std::string(cut(text, segment.span));
    out.push_back(one + " " + (import.takes_all ? "*" : std::string(cut(text, import.bound))));
  }
  return out;
}

std::vector<std::string> paths_of(std::string_view text) {
  std::vector<std::string> out;
  for (const rust::Path& path : rust::scan_source(text).paths) {
    std::string one;
    for (const Span& span : path.segments) one += (one.empty() ? "" : "::") + std::string(cut(text, span));
    out.push_back(one);
  }
  return out;
}

TEST(RustTokens, strings_characters_and_lifetimes) {
  auto names = [](std::string_view text) {
    std::vector<std::string> out;
    for (std::string_view name : rust::names_in(text)) out.emplace_back(name);
    return out;
  };
  EXPECT_THAT(
      names("#!/usr/bin/env x\nlet s = \"no \\\" no\"; r#\"no \" no\"# br\"no\" b'n' '\\'' 'n' r#type &'a b"),
      ElementsAre("let", "s", "type", "b"));
  EXPECT_THAT(names("a /* no /* no */ no */ b // no\n/// no\nc 'é' d"), ElementsAre("a", "b", "c", "d"));
  EXPECT_THAT(names("x r#\"never closed"), ElementsAre("x"));
  EXPECT_THAT(names("'"), IsEmpty());
}

TEST(RustScan, modules_in_all_their_forms) {
  EXPECT_THAT(modules_of("//! mod no;\n/// A\n#[cfg(unix)] pub(crate) mod a;\n#[path = \"x/y.rs\"]\nmod b;\n"
                         "mod c { mod d; }\ncfg_if! { if #[cfg(x)] { mod e; } }\n"
                         "macro_rules! m { ($x:ident) => { mod $x; mod no; } }\nlet model = mod_of;"),
              ElementsAre("a", "b by x/y.rs", "c inline", "d", "e in a macro"));
  EXPECT_TRUE(rust::scan_source("macro_rules! m { ($x:ident) => { mod $x; } }").has_hidden_modules);
  EXPECT_THAT(modules_of("mod"), IsEmpty());
  EXPECT_THAT(modules_of("mod a"), IsEmpty());
}

TEST(RustScan, imports_are_taken_apart) {
  EXPECT_THAT(
      imports_of("use a;\npub use self::b::{self, c as d, e::{*, f as _}};\nuse ::g::h;\nuse {i, j::k};\n"
                 "fn x() { use super::l; }\nfn y() -> impl Sized + use<'a> {}\n"),
      ElementsAre("a a", "self::b::self b", "self::b::c d", "self::b::e *", "self::b::e::f ", "g::h h", "i i",
                  "j::k k", "super::l l"));
  EXPECT_THAT(imports_of("/// ```\n/// use tide::{\n///     level,\n/// };\n/// ```\nfn x() {}\n"),
              ElementsAre("tide::level level"));
  EXPECT_THAT(imports_of("use a::{b"), IsEmpty());
}

TEST(RustScan, paths_in_code_attributes_and_documentation) {
  EXPECT_THAT(
      paths_of("fn f() -> a::B { c::d::<E>(); <F as g::H>::no::n; x.i::<J>(); $crate::k::l; $m::no }\n"
               "#[serde(with = \"n\", default = \"o::p\")] struct Q;\n/// See [`crate::r::S`].\n"
               "pub(in crate::no) fn t() {}\n"),
      ElementsAre("a::B", "c::d", "g::H", "crate::k::l", "n", "o::p", "crate::r::S"));
}

TreeFiles decoder(const std::string& root, const TreeFiles& more) {
  TreeFiles out = {
      {"Cargo.toml", "[package]\nname = \"tide-decoder\"\nversion = \"0.1.0\"\nedition = \"2021\"\n"},
      {"src/lib.rs", root}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(Rust, module_lines_and_paths_follow) {
  expect_edits({
      {"to the module that takes in its new folder",
       decoder(
           "/// Levels.\npub mod level;\npub mod water;\n\nuse level::Level;\n",
           {{"src/level.rs", "use super::water::deep;\npub struct Level;\n"},
            {"src/water.rs", "pub fn deep() {}\nfn x() -> crate::level::Level { crate::level::Level }\n"}}),
       {{"src/level.rs", "src/water/level.rs"}},
       {"src/level.rs: super::water -> super", "src/lib.rs: /// Levels.\npub mod level;\n -> ",
        "src/lib.rs: level -> water::level", "src/water.rs:  -> /// Levels.\npub mod level;\n\n",
        "src/water.rs: crate::level -> crate::water::level",
        "src/water.rs: crate::level -> crate::water::level"}},
      {"renamed where it is",
       decoder("mod level;\nmod packet;\n",
               {{"src/level.rs", "pub struct Level;\n"},
                {"src/packet.rs", "use crate::level::{self, Level};\nfn x() { level::Level; }\n"}}),
       {{"src/level.rs", "src/stage.rs"}},
       {"src/lib.rs: level -> stage", "src/packet.rs: crate::level -> crate::stage",
        "src/packet.rs: level -> stage"}},
      {"where the new name is taken, the import gives the old one",
       decoder("mod level;\nmod packet;\n",
               {{"src/level.rs", ""},
                {"src/packet.rs", "use crate::level;\nstruct stage;\nfn x() { level::f() }\n"}}),
       {{"src/level.rs", "src/stage.rs"}},
       {"src/lib.rs: level -> stage", "src/packet.rs: crate::level -> crate::stage",
        "src/packet.rs:  ->  as level"}},
      {"an import that others see keeps its name",
       decoder(
           "mod level;\npub use level as gauge;\npub use self::level::sea;\nfn x() { crate::gauge::f() }\n",
           {{"src/level.rs", "pub mod sea;\npub fn f() {}\n"}, {"src/level/sea.rs", ""}}),
       {{"src/level/sea.rs", "src/level/ocean.rs"}},
       {"src/level.rs: sea -> ocean", "src/lib.rs: self::level::sea -> self::level::ocean",
        "src/lib.rs:  ->  as sea"}},
      {"out of a group",
       decoder("pub mod a;\npub mod b;\nuse crate::a::{x::X, Y};\n",
               {{"src/a.rs", "pub mod x;\npub struct Y;\n"},
                {"src/a/x.rs", "pub struct X;\n"},
                {"src/b.rs", ""}}),
       {{"src/a/x.rs", "src/b/x.rs"}},
       {"src/a.rs: pub mod x;\n -> ", "src/b.rs:  -> pub mod x;\n", "src/lib.rs: x::X,  -> ",
        "src/lib.rs:  -> \nuse crate::b::x::X;"}},
      {"named by its path where no module looks",
       decoder("pub(crate) mod level;\n", {{"src/level.rs", ""}}),
       {{"src/level.rs", "parts/level.rs"}},
       {"src/lib.rs:  -> #[path = \"../parts/level.rs\"]\n"}},
      {"where its name is taken, it keeps its place in the crate",
       decoder("mod a;\nextern crate std;\n", {{"src/a.rs", "mod std;\n"}, {"src/a/std.rs", ""}}),
       {{"src/a/std.rs", "src/std.rs"}},
       {"src/a.rs:  -> #[path = \"std.rs\"]\n"}},
      {"conditions of what changes nothing do not count",
       decoder("mod a;\n#[cfg_attr(loom, allow(dead_code, unused), doc(hidden))]\nmod b;\n",
               {{"src/a.rs", "mod x;\n"},
                {"src/a/x.rs", "struct S { level: i32 }\nfn f(s: S) -> i32 { s.level }\n"},
                {"src/b.rs", ""}}),
       {{"src/a/x.rs", "src/b/x.rs"}},
       {"src/a.rs: mod x;\n -> ", "src/b.rs:  -> pub(crate) mod x;\n"}},
      {"an inline module that says where its own lie",
       decoder("#[path = \".\"]\nmod a { mod x; }\nmod b;\n", {{"src/x.rs", ""}, {"src/b.rs", ""}}),
       {{"src/b.rs", "src/c.rs"}},
       {"src/lib.rs: b -> c"}},
      {"each of two lines for one source names it by its path",
       decoder("#[cfg(unix)]\npub mod a;\n#[cfg(not(unix))]\nmod a;\n", {{"src/a.rs", ""}}),
       {{"src/a.rs", "parts/a.rs"}},
       {"src/lib.rs:  -> #[path = \"../parts/a.rs\"]\n", "src/lib.rs:  -> #[path = \"../parts/a.rs\"]\n"}},
      {"a condition that it leaves goes with its line",
       decoder("mod a;\n#[cfg(unix)]\nmod b;\n",
               {{"src/a.rs", ""}, {"src/b.rs", "mod x;\n"}, {"src/b/x.rs", ""}}),
       {{"src/b/x.rs", "src/a/x.rs"}},
       {"src/a.rs:  -> #[cfg(unix)]\npub(crate) mod x;\n", "src/b.rs: mod x;\n -> "}},
      {"promoted to a folder: nothing is to be done",
       decoder("mod level;\n", {{"src/level.rs", "mod sea;\n"}, {"src/level/sea.rs", ""}}),
       {{"src/level.rs", "src/level/mod.rs"}},
       {}},
      {"what only the parent saw is seen as far as before",
       decoder("mod a;\nmod b;\n", {{"src/a.rs", "mod x;\nfn f() { x::g(); }\n"},
                                    {"src/a/x.rs", "pub(super) fn g() {}\npub(in crate::a) fn h() {}\n"},
                                    {"src/b.rs", ""}}),
       {{"src/a/x.rs", "src/b/x.rs"}},
       {"src/a.rs: mod x;\n -> ", "src/a.rs: x -> crate::b::x", "src/a/x.rs: pub(super) -> pub(crate)",
        "src/a/x.rs: pub(in crate::a) -> pub(crate)", "src/b.rs:  -> pub(crate) mod x;\n"}},
  });
}

TEST(Rust, examples_in_documentation_keep_their_names) {
  EXPECT_THAT(
      edits(planned(
          decoder("//! ```\n//! use tide_decoder::level;\n//! level::of();\n//! ```\npub mod level;\n",
                  {{"src/level.rs", "pub fn of() {}\n"}}),
          {{"src/level.rs", "src/stage.rs"}})),
      UnorderedElementsAre("src/lib.rs: tide_decoder::level -> tide_decoder::stage",
                           "src/lib.rs:  ->  as level", "src/lib.rs: level -> stage"));
}

TEST(Rust, other_crates_follow_by_the_names_that_they_use) {
  TreeFiles files = {
      {"Cargo.toml",
       "[workspace]\nmembers = [\"a\", \"b\"]\n[workspace.dependencies]\ntide = { path = \"a\", package = "
       "\"a\" }\n"},
      {"a/Cargo.toml", "[package]\nname = \"a\"\nversion = \"0.1.0\"\nedition = \"2021\"\n"},
      {"a/src/lib.rs", "pub mod level;\npub mod water;\n"},
      {"a/src/level.rs", "pub fn of() {}\n"},
      {"a/src/water.rs", ""},
      {"a/tests/of.rs", "use a::level::of;\n"},
      {"b/Cargo.toml",
       "[package]\nname = \"b\"\nversion = \"0.1.0\"\nedition = \"2021\"\n[dependencies]\ntide.workspace = "
       "true\n"},
      {"b/src/main.rs", "extern crate tide as t;\nfn main() { tide::level::of(); t::level::of(); }\n"}};
  EXPECT_THAT(edits(planned(files, {{"a/src/level.rs", "a/src/water/level.rs"}})),
              ::testing::IsSupersetOf({"a/tests/of.rs: a::level -> a::water::level",
                                       "b/src/main.rs: tide::level -> tide::water::level"}));
}

TEST(Rust, packages_that_stand_in_for_others_are_followed) {
  TreeFiles files = {
      {"Cargo.toml", "[workspace]\nmembers = [\"a\", \"b\"]\n[patch.crates-io]\na = { path = \"a\" }\n"},
      {"a/Cargo.toml", "[package]\nname = \"a\"\nedition = \"2021\"\n"},
      {"a/src/lib.rs", "pub mod level;\n"},
      {"a/src/level.rs", ""},
      {"b/Cargo.toml", "[package]\nname = \"b\"\nedition = \"2021\"\n[dependencies]\na = \"1\"\n"},
      {"b/src/lib.rs", "use a::level;\n"}};
  EXPECT_THAT(edits(planned(files, {{"a/src/level.rs", "a/src/stage.rs"}})),
              Contains("b/src/lib.rs: a::level -> a::stage"));
  files[0].second = "[workspace]\nmembers = [\"a\", \"b\"]\n";
  files.push_back({".cargo/config.toml", "paths = [\"a\"]\n"});
  EXPECT_THAT(edits(planned(files, {{"a/src/level.rs", "a/src/stage.rs"}})),
              Contains("b/src/lib.rs: a::level -> a::stage"));
}

TEST(Rust, paths_in_settings_of_lints_follow) {
  TreeFiles files = {
      {"Cargo.toml", "[package]\nname = \"tide-levels\"\nedition = \"2021\"\n"},
      {"clippy.toml",
       "disallowed-methods = [\n  { path = \"tide_levels::gauge::level::read\", reason = \"slow\" },\n"
       "  \"std::gauge::level\", \"tide_levels::gauge::other\",\n]\n"},
      {"src/lib.rs", "mod gauge;\nmod water;\n"},
      {"src/gauge.rs", "mod level;\n"},
      {"src/gauge/level.rs", "pub fn read() {}\n"},
      {"src/water.rs", ""}};
  EXPECT_THAT(edits(planned(files, {{"src/gauge/level.rs", "src/water/stage.rs"}})),
              Contains("clippy.toml: tide_levels::gauge::level -> tide_levels::water::stage"));
  EXPECT_THAT(edits(planned(files, {{"src/gauge.rs", "src/gauge/mod.rs"}})), IsEmpty());
}

TEST(Rust, own_names_of_a_crate_and_paths_from_its_root) {
  EXPECT_THAT(edits(planned(decoder("extern crate self as tides;\nmod a;\nmod level;\n",
                                    {{"src/a.rs", "fn f() { tides::level::g() }\n"}, {"src/level.rs", ""}}),
                            {{"src/level.rs", "src/stage.rs"}})),
              Contains("src/a.rs: tides::level -> crate::stage"));
  EXPECT_THAT(edits(planned({{"Cargo.toml", "[package]\nname = \"old\"\n"},
                             {"src/lib.rs", "mod a;\nmod level;\n"},
                             {"src/a.rs", "use level::h;\nfn f() { ::level::g() }\n"},
                             {"src/level.rs", ""}},
                            {{"src/level.rs", "src/stage.rs"}})),
              UnorderedElementsAre("src/lib.rs: level -> stage", "src/a.rs: level -> stage",
                                   "src/a.rs: level -> stage"));
}

TEST(Rust, paths_where_they_are_easily_overlooked) {
  EXPECT_THAT(
      paths_of("fn f() { let x = *const a::B; ..c::d(); return ::e::f(g) } impl<T> ::h::I for ::j::K {}\n"
               "macro_rules! m { ($x:ident) => { l::$x } }\n"),
      ElementsAre("a::B", "c::d", "e::f", "h::I", "j::K", "l"));
}

TEST(Rust, the_old_module_re_exports_what_went) {
  PlanOptions options;
  options.leave_names = true;
  TreeFiles files = decoder("mod a;\npub mod level;\npub mod water;\n",
                            {{"src/a.rs", ""}, {"src/level.rs", ""}, {"src/water.rs", ""}});
  EXPECT_THAT(edits(planned(files, {{"src/level.rs", "src/water/stage.rs"}}, options)),
              Contains("src/lib.rs:  -> pub use crate::water::stage as level;\n"));
}

TEST(Rust, what_the_language_forbids_is_refused) {
  struct Case {
    std::string what, root, a, x, b, reason;
  };
  for (const Case& one : {
           Case{"a condition", "mod a;\n#[cfg(test)]\nmod b;\n", "mod x;\n", "", "",
                "rust-condition src/a/x.rs"},
           Case{"a macro", "mod b;\nmacro_rules! m { () => {} }\nmod a;\n", "mod x;\n", "m!();\n", "",
                "rust-macro src/a/x.rs"},
           Case{"a private field", "mod a;\nmod b;\n", "mod x;\npub struct S { level: i32 }\n",
                "fn f(s: crate::a::S) -> i32 { s.level }\n", "", "rust-private src/a/x.rs"},
           Case{"a private field without a name", "mod a;\nmod b;\n",
                "mod x;\npub struct S<T>(pub T, i32);\n", "use super::S;\nfn f() -> S<i32> { S(1, 2) }\n", "",
                "rust-private src/a/x.rs"},
           Case{"a private function by *", "mod a;\nmod b;\n", "mod x;\nfn helper() {}\n",
                "use super::*;\nfn f() { helper() }\n", "", "rust-private src/a/x.rs"},
           Case{"a private function by its path", "mod a;\nmod b;\n", "mod x;\nfn helper() {}\n",
                "fn f() { super::helper() }\n", "", "lost src/a/x.rs"},
           Case{"what users can name", "pub mod a;\nmod b;\n", "pub mod x;\n", "", "",
                "rust-private src/a/x.rs"},
           Case{"a name that is given to a macro",
                "mod a;\nmod b;\nmacro_rules! m { ($x:ident) => { crate::a::$x::f() } }\nfn f() { m!(x) }\n",
                "mod x;\n", "", "", "unseen src/lib.rs"},
           Case{"a source that nobody declares",
                "mod a;\nmod b;\nmacro_rules! m { ($x:ident) => { mod $x; } }\n", "mod x;\n", "", "",
                "unseen src/loose.rs"},
       }) {
    SCOPED_TRACE(one.what);
    Plan plan = planned(decoder(one.root, {{"src/a.rs", one.a},
                                           {"src/a/x.rs", one.x},
                                           {"src/b.rs", one.b},
                                           {"src/loose.rs", "fn f() { crate::a::x::f(); }\n"}}),
                        {{"src/a/x.rs", "src/b/x.rs"}});
    EXPECT_THAT(reasons(plan), Contains(one.reason));
  }
  EXPECT_THAT(reasons(planned(decoder("mod a { #[path = \"../x.rs\"] mod x; mod y; }\n",
                                      {{"src/x.rs", ""}, {"src/a/y.rs", ""}}),
                              {{"src/a/y.rs", "src/y.rs"}})),
              Contains("rust-module src/x.rs"))
      << "the folder that the path climbs out of would be gone";
  Plan plan = planned({{"a/Cargo.toml", "[package]\nname = \"a\"\nedition = \"2021\"\n"},
                       {"a/src/lib.rs", "mod x;\n"},
                       {"a/src/x.rs", ""},
                       {"b/Cargo.toml", "[package]\nname = \"b\"\nedition = \"2021\"\n"},
                       {"b/src/lib.rs", ""}},
                      {{"a/src/x.rs", "b/src/x.rs"}});
  EXPECT_THAT(reasons(plan), Contains("rust-module a/src/x.rs"));
}

TEST(Rust, targets_keep_their_names) {
  TreeFiles files = decoder("mod q;\n", {{"src/q.rs", ""},
                                         {"src/main.rs", "fn main() {}\n"},
                                         {"examples/show.rs", "fn main() {}\n"},
                                         {"build.rs", "fn main() {}\n"}});
  EXPECT_THAT(edits(planned(files, {{"examples/show.rs", "examples/print.rs"}})),
              ElementsAre("Cargo.toml:  -> \n[[example]]\nname = \"show\"\npath = \"examples/print.rs\"\n"));
  EXPECT_THAT(edits(planned(files, {{"examples/show.rs", "examples/show/main.rs"}})), IsEmpty());
  EXPECT_THAT(edits(planned(files, {{"build.rs", "tools/build.rs"}})),
              ElementsAre("Cargo.toml:  -> build = \"tools/build.rs\"\n"));
  EXPECT_THAT(
      edits(planned(files, {{"src", "lib/core"}})),
      ElementsAre("Cargo.toml:  -> \n[lib]\npath = \"lib/core/lib.rs\"\n\n[[bin]]\nname = \"tide-decoder\"\n"
                  "path = \"lib/core/main.rs\"\n"));
  EXPECT_THAT(reasons(planned(files, {{"src/q.rs", "tests/q.rs"}})), Contains("cargo-target src/q.rs"));
}

// Each could bring what the others are called by.
TEST(Rust, many_imports_of_all_names_cost_little) {
  std::string root = "mod a;\n", a;
  for (int i = 0; i < 40; ++i) a += "use x" + std::to_string(i) + "::*;\n";
  EXPECT_THAT(
      edits(planned(decoder(root + "mod b;\n", {{"src/a.rs", a + "use super::*;\nfn f() { b::g() }\n"},
                                                {"src/b.rs", a + "pub fn g() {}\n"}}),
                    {{"src/b.rs", "src/c.rs"}})),
      UnorderedElementsAre("src/lib.rs: b -> c", "src/a.rs: b -> c"));
}

TEST(Rust, what_is_included_as_text_or_by_nobody_moves) {
  TreeFiles files = decoder("fn f() -> i32 { include!(\"part.rs\") }\nmod b;\n",
                            {{"src/part.rs", "3 + 4\n"}, {"src/old.rs", "fn g() {}\n"}, {"src/b.rs", ""}});
  EXPECT_THAT(edits(planned(files, {{"src/part.rs", "src/b/part.rs"}})),
              ElementsAre("src/lib.rs: part.rs -> b/part.rs"));
  EXPECT_THAT(edits(planned(files, {{"src/old.rs", "src/attic/old.rs"}})), IsEmpty());
  files.push_back({"tests/ui/wrong.rs", "fn g() {}\n"});
  EXPECT_THAT(reasons(planned(files, {{"tests/ui/wrong.rs", "tests/ui/right.rs"}})),
              Contains("not-read tests/ui/wrong.rs"))
      << "a test may look for it";
}

TEST(Rust, garbled_sources_say_nothing_and_lose_nothing) {
  Plan plan = planned(decoder("mod a;\nuse {{{ mod ; #[ r#\"\n", {{"src/a.rs", "pub(in use ::: mod x { /*"}}),
                      {{"src/a.rs", "src/b/a.rs"}});
  EXPECT_TRUE(plan.verified);
}

}  // namespace
}  // namespace yc::test
