// Shapes of Go modules: each is moved, built, checked and tested with the real tools, and taken back.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

// With Go's own cache: what comes with it is compiled once.
const std::string kEnvironment =
    "export HOME=\"${HOME:-/tmp}\" GOPROXY=off GOFLAGS=-mod=mod GOTOOLCHAIN=local && ";
const std::string kBuild = kEnvironment + "go build ./... && go vet ./... && go test ./... >/dev/null";
const std::string kRun = kBuild + " && go run ./$(find . -name main.go -printf '%P\\n' | xargs dirname)";

// The gateway that hands readings of gauges on.
Files gateway() {
  return {{"go.mod", "module example.com/saltmarsh/gateway\n\ngo 1.19\n"},
          {"cmd/gateway/main.go",
           "// Command gateway hands on what gauges send.\npackage main\n\nimport (\n\t\"fmt\"\n\n"
           "\t\"example.com/saltmarsh/gateway/internal/packet\"\n\t\"example.com/saltmarsh/gateway/level\"\n"
           "\tst \"example.com/saltmarsh/gateway/store\"\n\t\"example.com/saltmarsh/gateway/web\"\n)\n\n"
           "func main() {\n\tfmt.Print(level.Of(packet.Read(\"4\")), st.Count(), len(web.Index))\n}\n"},
          {"internal/packet/packet.go",
           "package packet\n\n// Read gives the bytes of a packet.\nfunc Read(text string) []byte { return "
           "[]byte(text) }\n"},
          {"internal/packet/packet_linux.go", "package packet\n\nconst System = \"linux\"\n"},
          {"internal/packet/packet_test.go",
           "package packet_test\n\nimport "
           "(\n\t\"testing\"\n\n\t\"example.com/saltmarsh/gateway/internal/packet\"\n)\n\n"
           "func TestRead(t *testing.T) {\n\tif len(packet.Read(\"4\")) != 1 {\n\t\tt.Fatal(\"no "
           "byte\")\n\t}\n}\n"},
          {"level/level.go",
           "package level\n\n// Of is the water level of a packet.\nfunc Of(packet []byte) int { return "
           "int(packet[0] - '0') }\n"},
          {"store/store.go",
           "package store\n\nimport \"example.com/saltmarsh/gateway/level\"\n\nfunc Count() int { return "
           "level.Of([]byte(\"1\")) }\n"},
          {"store/store_test.go",
           "package store\n\nimport (\n\t\"os\"\n\t\"testing\"\n)\n\nfunc TestCount(t *testing.T) {\n"
           "\tif _, err := os.ReadFile(\"testdata/levels.txt\"); err != nil {\n\t\tt.Fatal(err)\n\t}\n}\n"},
          {"store/testdata/levels.txt", "4\n"},
          {"web/web.go",
           "package web\n\nimport \"embed\"\n\n//go:embed static/index.html\nvar Index string\n\n//go:embed "
           "static/*.css\n"
           "var Styles embed.FS\n"},
          {"web/static/index.html", "<p>\n"},
          {"web/static/page.css", "p {}\n"}};
}

TEST(GoShapes, a_package_goes_to_another_folder) {
  Workspace tree(gateway());
  expect_move_says(tree, "level/ -> water/level/\n", {"+ \t\"example.com/saltmarsh/gateway/water/level\""},
                   kRun);
  expect_move_keeps_build(tree, "internal/ -> cmd/internal/\nstore/ -> data/store/\nweb/ -> front/web/\n",
                          kRun);
}

TEST(GoShapes, a_package_is_renamed_with_its_folder) {
  Workspace tree(gateway());
  expect_move_says(tree, "level/ -> depth/\ninternal/packet/ -> internal/frame/\n",
                   {"package depth", "depth.Of(", "package frame_test", "frame.Read("}, kRun);
  expect_move_says(tree, "level/ -> water-level/\n", {"level \"example.com/saltmarsh/gateway/water-level\""},
                   kRun);
}

TEST(GoShapes, data_and_embedded_files_follow) {
  expect_move_keeps_build(Workspace(gateway()),
                          "web/static/ -> web/files/\nstore/testdata/ -> store/tables/\n", kRun);
  expect_refusal(Workspace(gateway()), "web/static/ -> static/\n", {"//go:embed", "below web"});
}

TEST(GoShapes, a_source_does_not_go_to_another_package) {
  Workspace tree(gateway());
  expect_refusal(tree, "internal/packet/packet.go -> level/packet.go\n",
                 {"packet_linux.go", "move all sources"});
  expect_refusal(tree, "level/level.go -> store/level.go\n", {"store.go", "of another package"});
  expect_refusal(tree, "internal/ -> level/internal/\n", {"outside of example.com/saltmarsh/gateway/level"});
}

TEST(GoShapes, modules_of_a_workspace_are_regrouped) {
  Workspace tree(
      Files{{"go.work", "go 1.19\n\nuse (\n\t./gauge\n\t./sea\n)\n"},
            {"gauge/go.mod", "module example.com/saltmarsh/gauge\n\ngo 1.19\n"},
            {"gauge/main.go",
             "package main\n\nimport (\n\t\"fmt\"\n\n\t\"example.com/saltmarsh/sea/tide\"\n)\n\nfunc main() "
             "{ fmt.Print(tide.High) }\n"},
            {"sea/go.mod", "module example.com/saltmarsh/sea\n\ngo 1.19\n"},
            {"sea/tide/tide.go", "package tide\n\nconst High = 4\n"}});
  const std::string build =
      "export HOME=\"${HOME:-/tmp}\" GOPROXY=off GOTOOLCHAIN=local && go run "
      "example.com/saltmarsh/gauge";
  expect_move_keeps_build(tree, "gauge/ -> programs/gauge/\nsea/ -> libs/sea/\n", build);
  expect_move_keeps_build(tree, "sea/tide/ -> sea/water/tide/\n", build);
}

// Files that a program holds in itself or looks for by patterns.
TEST(GoShapes, files_by_patterns_and_folders_of_embedded_files) {
  Workspace tree(
      Files{{"go.mod", "module example.com/saltmarsh/pages\n\ngo 1.19\n"},
            {"cmd/main.go",
             "package main\n\nimport "
             "(\n\t\"embed\"\n\t\"html/template\"\n\t\"io/fs\"\n\t\"os\"\n\t\"path/filepath\"\n)\n\n"
             "//go:embed views static\nvar files embed.FS\n\n"
             "var views = template.Must(template.ParseFS(files, \"views/*.html\"))\n\nfunc main() {\n"
             "\ttemplate.Must(template.ParseGlob(\"cmd/views/*.html\"))\n"
             "\tsub, _ := fs.Sub(files, \"static\")\n"
             "\tsheets, _ := fs.Glob(sub, \"*.css\")\n\tlogs, _ := filepath.Glob(\"logs/*.txt\")\n"
             "\tif len(sheets) != 1 || len(logs) != 2 {\n\t\tos.Exit(1)\n\t}\n}\n"},
            {"cmd/views/level.html", "<p>level</p>\n"},
            {"cmd/static/level.css", "p { color: blue; }\n"},
            {"logs/today.txt", "1\n"},
            {"logs/notes.txt", "1\n"}});
  const char* const run = "export HOME=\"${HOME:-/tmp}\" GOPROXY=off GOTOOLCHAIN=local && go run ./cmd";
  expect_move_says(
      tree, "cmd/views/ -> cmd/pages/\n",
      {"//go:embed pages static", "ParseFS(files, \"pages/*.html\")", "ParseGlob(\"cmd/pages/*.html\")"},
      run);
  expect_move_says(tree, "cmd/static/ -> cmd/public/\n", {"fs.Sub(files, \"public\")"}, run);
  expect_move_says(tree, "logs/ -> data/logs/\n", {"filepath.Glob(\"data/logs/*.txt\")"}, run);
  expect_move_keeps_build(tree, "cmd/views/level.html -> cmd/views/station.html\n", run);
  expect_refusal(tree, "logs/today.txt -> data/today.txt\n", {"main.go:20"});
}

TEST(GoShapes, folders_that_a_pattern_embeds) {
  Workspace tree(Files{
      {"go.mod", "module example.com/saltmarsh/pages\n\ngo 1.19\n"},
      {"main.go",
       "package main\n\nimport (\n\t\"embed\"\n\t\"io/fs\"\n\t\"os\"\n)\n\n//go:embed cases/*\n"
       "var cases embed.FS\n\nfunc main() {\n\tn := 0\n"
       "\tfs.WalkDir(cases, \".\", func(p string, d fs.DirEntry, err error) error { n++; return err })\n"
       "\tif n < 7 {\n\t\tos.Exit(1)\n\t}\n}\n"},
      {"cases/ebb/low/a.txt", "1\n"},
      {"cases/ebb/low/b.txt", "1\n"},
      {"cases/flood/c.txt", "1\n"}});
  const char* const run = "export HOME=\"${HOME:-/tmp}\" GOPROXY=off GOTOOLCHAIN=local && go run .";
  expect_refusal(tree, "cases/ebb/low -> old/low\n", {"main.go:9", "it would leave"});
  expect_move_keeps_build(tree, "cases/ebb/low -> cases/flood/low\n", run);
  expect_move_keeps_build(tree, "cases/ebb -> cases/neap\n", run);
  expect_move_says(tree, "cases -> tests/cases\n", {"//go:embed tests/cases/*"}, run);
}

// A module that another one replaces by its folder goes where its go.mod goes.
TEST(GoShapes, a_module_inside_another_one) {
  Workspace tree(
      Files{{"go.mod",
             "module example.com/saltmarsh\n\ngo 1.19\n\nrequire example.com/saltmarsh/sea v0.0.0\n\nreplace "
             "example.com/saltmarsh/sea => ./sea\n"},
            {"main.go",
             "package main\n\nimport "
             "(\n\t\"fmt\"\n\n\t\"example.com/saltmarsh/level\"\n\t\"example.com/saltmarsh/sea/tide\"\n)\n\n"
             "func opts(o ...level.Option) []level.Option { return o }\n\nfunc main() { fmt.Print(tide.High, "
             "level.Of(opts()...)) }\n"},
            {"level/level.go",
             "package level\n\ntype Option func()\n\nfunc Of(o ...Option) int { return len(o) }\n"},
            {"sea/go.mod", "module example.com/saltmarsh/sea\n\ngo 1.19\n"},
            {"sea/tide/tide.go", "package tide\n\nconst High = 4\n"}});
  expect_move_keeps_build(tree, "sea/ -> parts/sea/\n", kRun);
  expect_move_keeps_build(tree, "sea/go.mod -> sea/tide/go.mod\n", kRun);
  expect_move_says(tree, "level/ -> heights/\n", {"...heights.Option"}, kRun);
  expect_move_keeps_build(tree, "level/ -> sea/level/\n", kRun);
}

}  // namespace
}  // namespace yc::test
