#include "formats/go/go.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/go/go_modules.h"
#include "formats/go/go_names.h"
#include "formats/go/go_packages.h"
#include "formats/go/go_scan.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

std::vector<std::string> imports_of(std::string_view source) {
  std::vector<std::string> out;
  for (const go::Import& import : go::scan_source(source).imports)
    out.push_back((import.name ? *import.name + " " : "") + import.path);
  return out;
}

TEST(GoScan, imports_in_all_their_forms) {
  EXPECT_THAT(
      imports_of(
          "// a\npackage tide // b\nimport \"fmt\"\nimport t \"a/b\"; import . `c`\nimport (\n\t_ \"d\"\n"
          "\t/* \"no\" */ \"e\"; \"f\"\n\t// \"no\"\n)\nvar x = \"import\"\nimport \"late\"\n"),
      ElementsAre("fmt", "t a/b", ". c", "_ d", "e", "f"));
  EXPECT_THAT(imports_of("\xEF\xBB\xBFpackage tide;import(\"a\");import()\n"), ElementsAre("a"));
  EXPECT_THAT(imports_of("package p\nimport (\n\"cut"), ElementsAre("cut"));
  EXPECT_THAT(imports_of("no package at all"), IsEmpty());
}

TEST(GoScan, directives_count_at_the_beginning_of_a_line_and_outside_of_strings) {
  go::SourceFacts facts = go::scan_source(
      "//go:build ignore\npackage p\nimport _ \"embed\"\nimport \"C\"\n//go:embed a.txt \"b c.txt\" `d`\nvar "
      "a string\n"
      "  //go:embed no\nvar s = `\n//go:embed no\n`\nvar q = \"\\\"\" // '\n//go:generate  sh gen.sh x \n"
      "//go:linkname own tide/level.of\nvar r = '\"'\n//go:embed e\n//go:embedded no\n");
  std::vector<std::string> embeds;
  for (const go::Word& word : facts.embeds) embeds.push_back(word.text);
  EXPECT_THAT(embeds, ElementsAre("a.txt", "b c.txt", "d", "e"));
  ASSERT_EQ(facts.generates.size(), 1U);
  EXPECT_EQ(facts.generates[0].text, "sh gen.sh x");
  ASSERT_EQ(facts.links.size(), 1U);
  EXPECT_EQ(facts.links[0].text, "tide/level.of");
  EXPECT_TRUE(facts.is_left_out);
  EXPECT_TRUE(facts.uses_c);
  EXPECT_EQ(facts.package, "p");
}

TEST(GoScan, names_of_files_keep_them_for_some_builds) {
  EXPECT_EQ(go::constraint_of("tide.go"), "");
  EXPECT_EQ(go::constraint_of("tide_test.go"), "_test");
  EXPECT_EQ(go::constraint_of("tide_linux_arm64_test.go"), "_linux_arm64_test");
  EXPECT_EQ(go::constraint_of("tide_windows.go"), "_windows");
  EXPECT_EQ(go::constraint_of("linux.go"), "") << "the name alone is none";
  EXPECT_EQ(go::constraint_of("_tide.go"), "nothing");
}

TEST(GoNames, places_where_a_package_is_named) {
  auto count = [](std::string_view text) {
    auto places = go::qualifiers_in(text, "level");
    return places ? static_cast<int>(places->size()) : -1;
  };
  EXPECT_EQ(
      count(
          "package p\nfunc f(o ...level.Option) { a.level.b(level.Of, \"level.Of\", 'l') /* level.X */ }\n"),
      2);
  EXPECT_EQ(count("package level\nvar x = level . Of // level\n"), 1);
  EXPECT_EQ(count("package p\nfunc f(level int) { level.Of() }\n"), -1) << "a parameter";
  EXPECT_EQ(count("package p\nvar x = T{level: level.Of}\n"), -1) << "a field";
}

TEST(GoModules, paths_and_folders) {
  go::ModFacts facts = go::scan_mod(
      "module \"example.com/tide\" // the gateway\n\ngo 1.19\nreplace example.com/sea => ../sea\nreplace (\n"
      "\texample.com/a v1.0.0 => ./a // here\n\texample.com/b => example.com/c v1.2.0\n)\nuse ./gauge\nuse "
      "(\n\t.\n\tsea\n)\n");
  EXPECT_EQ(facts.module, "example.com/tide");
  std::vector<std::string> folders;
  for (const go::FolderWord& word : facts.folders) folders.push_back(word.text);
  EXPECT_THAT(folders, ElementsAre("../sea", "./a", "./gauge", ".", "sea"));
  go::Modules modules;
  modules.add({RelPath(), "example.com/tide"});
  modules.add({at("tools"), "example.com/tide/tools"});
  EXPECT_EQ(modules.folder_of("example.com/tide/level")->str(), "level");
  EXPECT_EQ(modules.folder_of("example.com/tide/tools/gen")->str(), "tools/gen");
  EXPECT_FALSE(modules.folder_of("example.com/tides"));
  EXPECT_EQ(*modules.import_path(at("tools/gen")), "example.com/tide/tools/gen");
  EXPECT_EQ(*modules.import_path(at("sea")), "example.com/tide/sea");
}

const TreeFiles kGateway = {
    {"go.mod", "module example.com/tide\n\ngo 1.19\n"},
    {"Makefile", "all:\n\tgo build -ldflags \"-X example.com/tide/level.version=1\" ./cmd/...\n"},
    {"cmd/gateway/main.go",
     "package main\n\nimport (\n\t\"example.com/tide/internal/packet\"\n\t\"example.com/tide/level\"\n)\n\n"
     "func main() { println(level.Of(packet.Read())) }\n"},
    {"internal/packet/packet.go", "package packet\n\nfunc Read() string { return \"\" }\n"},
    {"internal/packet/packet_linux.go", "package packet\n"},
    {"level/level.go", "package level\n\nfunc Of(p string) int { return len(p) }\n"},
    {"level/level_test.go", "package level_test\n\nimport \"example.com/tide/level\"\n\nvar x = level.Of\n"},
    {"pages/pages.go",
     "package pages\n\nimport _ \"embed\"\n\n//go:embed site/index.html\nvar Index string\n\n"
     "//go:embed style/*.css all:fonts\nvar s string\n"},
    {"pages/site/index.html", "<p>\n"},
    {"pages/style/a.css", "p {}\n"},
    {"pages/fonts/a.woff", "\n"},
    {"pages/fonts/b.woff", "\n"}};

TEST(Go, packages_move_with_their_imports) {
  EXPECT_THAT(
      edits(planned(kGateway, {{"level", "water/level"}})),
      UnorderedElementsAre("Makefile: example.com/tide/level -> example.com/tide/water/level ?",
                           "cmd/gateway/main.go: example.com/tide/level -> example.com/tide/water/level",
                           "level/level_test.go: example.com/tide/level -> example.com/tide/water/level"));
  EXPECT_THAT(edits(planned(kGateway, {{"cmd/gateway", "programs/gateway"}})),
              ElementsAre("Makefile: ./cmd -> ./programs ?"))
      << "all of the folder goes there";
  EXPECT_THAT(edits(planned(kGateway, {{"cmd", "programs"}})),
              ElementsAre("Makefile: ./cmd -> ./programs ?"));
  EXPECT_THAT(edits(planned(kGateway, {{"internal/packet/packet.go", "internal/packet/frame.go"}})),
              IsEmpty());
}

TEST(Go, the_name_of_a_package_follows_its_folder) {
  EXPECT_THAT(edits(planned(kGateway, {{"level", "depth"}})),
              UnorderedElementsAre("Makefile: example.com/tide/level -> example.com/tide/depth ?",
                                   "cmd/gateway/main.go: example.com/tide/level -> example.com/tide/depth",
                                   "cmd/gateway/main.go: level -> depth", "level/level.go: level -> depth",
                                   "level/level_test.go: example.com/tide/level -> example.com/tide/depth",
                                   "level/level_test.go: level -> depth",
                                   "level/level_test.go: level_test -> depth_test"));
  // Where it cannot, the import gives the old one.
  EXPECT_THAT(
      edits(planned(kGateway, {{"level", "water-level"}})),
      UnorderedElementsAre("Makefile: example.com/tide/level -> example.com/tide/water-level ?",
                           "cmd/gateway/main.go:  -> level ",
                           "cmd/gateway/main.go: example.com/tide/level -> example.com/tide/water-level",
                           "level/level_test.go:  -> level ",
                           "level/level_test.go: example.com/tide/level -> example.com/tide/water-level"));
  TreeFiles taken = kGateway;
  taken.push_back({"cmd/gateway/depth.go", "package main\n\nfunc depth() {}\n"});
  EXPECT_THAT(edits(planned(taken, {{"level", "depth"}})), Contains("cmd/gateway/main.go:  -> level "));
}

TEST(Go, what_the_language_forbids_is_refused) {
  EXPECT_THAT(reasons(planned(kGateway, {{"internal/packet/packet.go", "level/packet.go"}})),
              ElementsAre("go-package internal/packet/packet.go"));
  EXPECT_THAT(reasons(planned(kGateway, {{"internal/packet/packet.go", "internal/packet/packet_darwin.go"}})),
              ElementsAre("go-constraint internal/packet/packet.go"));
  EXPECT_THAT(reasons(planned(kGateway, {{"internal", "level/internal"}})),
              ElementsAre("go-internal cmd/gateway/main.go"));
  EXPECT_THAT(reasons(planned(kGateway, {{"level", "_level"}})), Contains("go-package level/level.go"));
  TreeFiles bare = {{"tide/level.go", "package level\n"}};
  EXPECT_THAT(reasons(planned(bare, {{"tide", "sea"}})), ElementsAre("go-module tide/level.go"));
  TreeFiles two = kGateway;
  two.push_back({"tools/go.mod", "module example.com/tools\n"});
  EXPECT_THAT(reasons(planned(two, {{"level", "tools/level"}})), Contains("go-module cmd/gateway/main.go"));
  two.push_back({"go.work", "go 1.19\n\nuse (\n\t.\n\t./tools\n)\n"});
  EXPECT_THAT(edits(planned(two, {{"level", "tools/level"}})),
              Contains("cmd/gateway/main.go: example.com/tide/level -> example.com/tools/level"));
}

// Programs print the paths of their own types.
TEST(Go, import_paths_in_what_a_test_expects_are_a_doubt) {
  TreeFiles files = kGateway;
  files.push_back({"cmd/testdata/printed", "level: example.com/tide/level.Reading{4}\n"});
  EXPECT_THAT(reasons(planned(files, {{"level", "water/level"}})),
              ElementsAre("unseen cmd/testdata/printed"));
  EXPECT_TRUE(planned(files, {{"pages", "web/pages"}}).verified);
}

TEST(Go, what_is_embedded_stays_below_its_package) {
  EXPECT_THAT(edits(planned(kGateway, {{"pages/site", "pages/views"}})),
              ElementsAre("pages/pages.go: site/index.html -> views/index.html"));
  EXPECT_THAT(
      edits(planned(kGateway, {{"pages/style", "pages/looks"}, {"pages/fonts", "pages/type"}})),
      UnorderedElementsAre("pages/pages.go: style/*.css -> looks/*.css", "pages/pages.go: fonts -> type"));
  EXPECT_THAT(edits(planned(kGateway, {{"pages", "web/pages"}})), IsEmpty());
  EXPECT_THAT(reasons(planned(kGateway, {{"pages/site", "site"}})), ElementsAre("lost pages/pages.go"));
  EXPECT_THAT(reasons(planned(kGateway, {{"pages/style", "style"}})), ElementsAre("lost pages/pages.go"));
  EXPECT_THAT(reasons(planned(kGateway, {{"pages/fonts/a.woff", "pages/a.woff"}})),
              ElementsAre("lost pages/pages.go"));
}

TEST(Go, commands_name_packages_by_folders_or_not_at_all) {
  TreeFiles files = {
      {"go.mod", "module example.com/tide\n"},
      {"main.go", "package main\n\nfunc main() {}\n"},
      {"gauge/main.go", "package main\n\nfunc main() {}\n"},
      {"Makefile",
       "GO ?= go\nall:\n\tgo build -ldflags \"-s\" -o out .\n\tcd gauge && go build\n\t$(GO) run . here\n"
       "\tgo vet ./...\n\tgo test -run Tide $(ALL)\n"},
      {"run.sh", "#!/bin/sh\ngo run\ncd gauge\ngo run .\n"},
      {"Dockerfile", "FROM go\nWORKDIR /src\nCOPY . .\nRUN go build -o /tide\n"}};
  EXPECT_THAT(edits(planned(files, {{"main.go", "cmd/tide/main.go"}})),
              UnorderedElementsAre("Makefile: . -> ./cmd/tide ?", "Makefile: . -> ./cmd/tide ?",
                                   "run.sh:  ->  ./cmd/tide ?", "Dockerfile:  ->  ./cmd/tide ?"));
  // Behind "cd" on a line of its own nobody knows where a script is; the folder there follows by itself.
  EXPECT_THAT(edits(planned(files, {{"gauge", "cmd/gauge"}})),
              UnorderedElementsAre("Makefile: gauge -> cmd/gauge ?", "run.sh: gauge -> cmd/gauge ?"));
}

// What its own reader cannot place, the commands of other formats still name.
TEST(Go, commands_elsewhere_name_packages_too) {
  TreeFiles files = {{"go.mod", "module example.com/tide\n"},
                     {"tide.go", "package main\n\nfunc main() {}\n"},
                     {"cmd/gauge/main.go", "package main\n\nfunc main() {}\n"},
                     {"scripts/build.sh", "#!/bin/sh\ngo build ./cmd/gauge\n"},
                     {"scripts/all.sh", "#!/bin/sh\ngo build .\n"},
                     {"package.json", "{ \"scripts\": { \"gauge\": \"go run ./cmd/gauge\" } }\n"}};
  EXPECT_THAT(edits(planned(files, {{"cmd/gauge", "cmd/level"}})),
              UnorderedElementsAre("scripts/build.sh: ./cmd/gauge -> ./cmd/level ?",
                                   "package.json: ./cmd/gauge -> ./cmd/level ?"));
  EXPECT_THAT(edits(planned(files, {{"tide.go", "cmd/tide/tide.go"}})),
              ElementsAre("scripts/all.sh: . -> ./cmd/tide ?"));
}

TEST(Go, module_files_name_folders) {
  TreeFiles files = {{"go.work", "go 1.19\n\nuse (\n\t./gauge\n\t./sea\n)\n"},
                     {"gauge/go.mod", "module example.com/gauge\n\nreplace example.com/sea => ../sea\n"},
                     {"gauge/main.go", "package main\n\nimport _ \"example.com/sea\"\n\nfunc main() {}\n"},
                     {"sea/go.mod", "module example.com/sea\n"},
                     {"sea/sea.go", "package sea\n"}};
  EXPECT_THAT(edits(planned(files, {{"sea", "libs/sea"}})),
              UnorderedElementsAre("go.work: ./sea -> ./libs/sea", "gauge/go.mod: ../sea -> ../libs/sea"));
  EXPECT_THAT(
      edits(planned(files, {{"gauge", "programs/gauge"}})),
      UnorderedElementsAre("go.work: ./gauge -> ./programs/gauge", "gauge/go.mod: ../sea -> ../../sea"));
}

TEST(Go, test_data_is_known_by_its_name) {
  TreeFiles files = {{"go.mod", "module example.com/tide\n"},
                     {"level/level.go", "package level\n"},
                     {"level/level_test.go", "package level\n\nvar data = flag(\"testdata\", 3)\n"},
                     {"level/testdata/marks.txt", "4\n"}};
  EXPECT_THAT(edits(planned(files, {{"level/testdata", "level/samples"}})),
              Contains("level/level_test.go: testdata -> ./samples ?"));
}

}  // namespace
}  // namespace yc::test
