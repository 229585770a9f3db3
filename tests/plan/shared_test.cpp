#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/restyle.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::Pair;
using ::testing::UnorderedElementsAre;

// The tree with what a plan changes in it.
TreeFiles changed(const TreeFiles& files, const Plan& plan) {
  MemoryTree tree = tree_of(files);
  OverlayTree after(tree, plan.moves, plan.changes);
  after.set_edits(&plan.edits);
  TreeFiles out;
  for (const RelPath& path : after.files()) out.emplace_back(path.str(), **after.read(path));
  return out;
}

// What a change leaves of a file.
std::string one(const TreeFiles& files, const std::string& name) {
  for (const auto& [path, bytes] : files) {
    if (path == name) return bytes;
  }
  return "missing";
}

TreeFiles shared(const TreeFiles& files) {
  return changed(files, share_definitions(tree_of(files), {}, true));
}
TreeFiles unshared(const TreeFiles& files) {
  return changed(files, share_definitions(tree_of(files), {}, false));
}

TreeFiles crates(const std::string& tide, const std::string& decode) {
  return {{"Cargo.toml", "[workspace]\nmembers = [\"crates/*\"]\n"},
          {"crates/frame/Cargo.toml", "[package]\nname = \"frame\"\n"},
          {"crates/frame/src/lib.rs", ""},
          {"crates/tide/Cargo.toml", "[package]\nname = \"tide\"\n" + tide},
          {"crates/tide/src/lib.rs", ""},
          {"crates/decode/Cargo.toml", "[package]\nname = \"decode\"\n" + decode},
          {"crates/decode/src/main.rs", ""}};
}

TEST(SharedDefinitions, crates_inherit_and_name_again) {
  TreeFiles files = crates(
      "\n[dependencies]\nframe = { path = \"../frame\", version = \"0.1\", features = [\"x\"] }\nserde = "
      "\"1\"\n",
      "\n[dependencies.frame]\npath = \"../frame\"\nversion = \"0.1\"\n\n[dev-dependencies]\nserde = "
      "\"1\"\n");
  TreeFiles now = shared(files);
  EXPECT_EQ(one(now, "Cargo.toml"),
            "[workspace]\nmembers = [\"crates/*\"]\n\n[workspace.dependencies]\nframe = { path = "
            "\"crates/frame\", version = "
            "\"0.1\" }\nserde = \"1\"\n");
  EXPECT_EQ(one(now, "crates/tide/Cargo.toml"),
            "[package]\nname = \"tide\"\n\n[dependencies]\nframe = { workspace = true, features = [\"x\"] "
            "}\nserde = { "
            "workspace = true }\n");
  EXPECT_EQ(one(now, "crates/decode/Cargo.toml"),
            "[package]\nname = \"decode\"\n\n[dependencies.frame]\nworkspace = "
            "true\n\n[dev-dependencies]\nserde = { "
            "workspace = true }\n");
  TreeFiles back = unshared(now);
  EXPECT_EQ(one(back, "Cargo.toml"), one(files, "Cargo.toml"));
  EXPECT_EQ(one(back, "crates/decode/Cargo.toml"),
            "[package]\nname = \"decode\"\n\n[dependencies.frame]\npath = \"../frame\"\nversion = \"0.1\"\n\n"
            "[dev-dependencies]\nserde = { version = \"1\" }\n");
}

TEST(SharedDefinitions, what_crates_say_differently_is_left) {
  TreeFiles apart = crates("\n[dependencies]\nframe = { path = \"../frame\" }\n", "");
  apart[0].second = "[workspace]\nmembers = [\"crates/*\"]\nexclude = [\"crates/tide\"]\n";
  EXPECT_THAT(share_definitions(tree_of(apart), {}, true).edits, IsEmpty()) << "it is not of the workspace";
  for (const auto& [tide, decode] :
       {std::pair("\n[dependencies]\nserde = \"1\"\n", "\n[dependencies]\nserde = \"2\"\n"),
        std::pair("\n[dependencies]\nserde = \"1\"\n", ""),
        std::pair("\n[dependencies]\nframe = { path = \"../frame\", default-features = false }\n", ""),
        std::pair("\n[dependencies]\nx = { path = \"../frame\", package = \"frame\" }\n", "")}) {
    EXPECT_THAT(share_definitions(tree_of(crates(tide, decode)), {}, true).edits, IsEmpty())
        << tide << decode;
  }
}

TEST(SharedDefinitions, packages_depend_on_members_of_their_workspace) {
  TreeFiles files = {{"package.json", "{ \"workspaces\": [\"packages/*\"] }\n"},
                     {"packages/level/package.json", "{ \"name\": \"level\" }\n"},
                     {"packages/chart/package.json",
                      "{ \"name\": \"chart\", \"dependencies\": { \"level\": \"file:../level\", \"far\": "
                      "\"file:../far\" } }\n"}};
  TreeFiles now = shared(files);
  EXPECT_EQ(one(now, "packages/chart/package.json"),
            "{ \"name\": \"chart\", \"dependencies\": { \"level\": \"*\", \"far\": \"file:../far\" } }\n");
  EXPECT_EQ(unshared(now), changed(files, Plan()));
  files[0] = {"package.json", "{}\n"};
  files.push_back({"pnpm-workspace.yaml", "packages:\n  - packages/*\n"});
  EXPECT_THAT(one(shared(files), "packages/chart/package.json"),
              ::testing::HasSubstr("\"level\": \"workspace:*\""));
}

TEST(SharedDefinitions, projects_of_python_depend_on_members_of_their_workspace) {
  TreeFiles files = {{"pyproject.toml", "[tool.uv.workspace]\nmembers = [\"packages/*\"]\n"},
                     {"packages/tide_level/pyproject.toml", "[project]\nname = \"tide-level\"\n"},
                     {"packages/board/pyproject.toml",
                      "[project]\nname = \"board\"\n[tool.uv.sources]\ntide_level = { path = "
                      "\"../tide_level\", editable = true "
                      "}\nfar = { path = \"../far\" }\n"}};
  TreeFiles now = shared(files);
  EXPECT_EQ(one(now, "packages/board/pyproject.toml"),
            "[project]\nname = \"board\"\n[tool.uv.sources]\ntide_level = { workspace = true }\nfar = { path "
            "= \"../far\" }\n");
  EXPECT_EQ(unshared(now), changed(files, Plan()));
}

TEST(SharedDefinitions, projects_take_versions_from_above) {
  auto project = [](const std::string& items) {
    return "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n" + items + "  </ItemGroup>\n</Project>\n";
  };
  TreeFiles files = {
      {"A/A.csproj", project("    <PackageReference Include=\"Tides\" Version=\"1.0\" />\n")},
      {"B/B.csproj", project("    <PackageReference Include=\"Tides\" Version=\"1.0\" />\n"
                             "    <!-- <PackageReference Include=\"Old\" Version=\"1.0\" /> -->\n")},
      {"C/C.csproj",
       project("    <PackageReference Include=\"Tides\" Version=\"1.1\"></PackageReference>\n")}};
  TreeFiles now = shared(files);
  EXPECT_THAT(one(now, "Directory.Packages.props"),
              ::testing::HasSubstr("<PackageVersion Include=\"Tides\" Version=\"1.0\" />"));
  EXPECT_THAT(one(now, "A/A.csproj"), ::testing::HasSubstr("<PackageReference Include=\"Tides\" />"));
  EXPECT_THAT(one(now, "C/C.csproj"), ::testing::HasSubstr("Include=\"Tides\" VersionOverride=\"1.1\">"));
  EXPECT_EQ(unshared(now), changed(files, Plan()));
}

TreeFiles targets(const std::string& viewer) {
  return {{"CMakeLists.txt",
           "project(tides)\nadd_subdirectory(libs/units)\nadd_subdirectory(libs/level)\n"
           "add_subdirectory(viewer)\n"},
          {"libs/units/CMakeLists.txt",
           "add_library(units INTERFACE)\nadd_library(Saltmarsh::units ALIAS units)\n"
           "target_include_directories(units INTERFACE include)\n"},
          {"libs/units/include/units.h", ""},
          {"libs/level/CMakeLists.txt",
           "add_library(level level.c)\nadd_library(Saltmarsh::level ALIAS level)\n"
           "target_include_directories(level PUBLIC ${CMAKE_CURRENT_SOURCE_DIR}/include)\n"},
          {"libs/level/level.c", ""},
          {"libs/level/include/level.h", ""},
          {"viewer/CMakeLists.txt", "add_executable(viewer main.c)\n" + viewer},
          {"viewer/main.c", "#include \"units.h\"\n#include \"level.h\"\n"}};
}

TEST(SharedDefinitions, targets_inherit_folders_from_libraries_with_an_alias) {
  TreeFiles files = targets(
      "target_include_directories(viewer PRIVATE ../libs/units/include ../libs/level/include)\n"
      "target_include_directories(viewer PUBLIC\n  . PRIVATE ../libs/level/include)\n"
      "target_link_libraries(viewer PRIVATE level)\n");
  TreeFiles now = shared(files);
  EXPECT_EQ(one(now, "viewer/CMakeLists.txt"),
            "add_executable(viewer main.c)\ntarget_link_libraries(viewer PRIVATE Saltmarsh::units)\n"
            "target_include_directories(viewer PUBLIC\n  .)\ntarget_link_libraries(viewer PRIVATE level)\n");
  EXPECT_EQ(one(unshared(now), "viewer/CMakeLists.txt"),
            "add_executable(viewer main.c)\ntarget_include_directories(viewer PRIVATE "
            "../libs/units/include)\ntarget_include_directories(viewer PUBLIC\n  .)\n"
            "target_link_libraries(viewer PRIVATE level)\n");
}

TEST(SharedDefinitions, folders_of_targets_stay_where_others_would_lack_them) {
  for (const std::string viewer :
       {"target_include_directories(viewer PRIVATE ../libs/level/include)\n",
        "target_include_directories(viewer PUBLIC ../libs/level/include)\n"
        "target_link_libraries(viewer PRIVATE level)\n",
        "target_include_directories(viewer PRIVATE ../libs/level/include)\nif(LIVE)\n"
        "target_link_libraries(viewer PRIVATE level)\nendif()\n",
        "target_include_directories(viewer PRIVATE ../libs/units/include)\ntarget_link_libraries(viewer "
        "m)\n"}) {
    EXPECT_THAT(share_definitions(tree_of(targets(viewer)), {}, true).edits, IsEmpty()) << viewer;
  }
  TreeFiles apart = targets("target_include_directories(viewer PRIVATE ../libs/units/include)\n");
  apart[0].second =
      "project(tides)\nif(UNITS)\nadd_subdirectory(libs/units)\nendif()\nadd_subdirectory(viewer)\n";
  EXPECT_THAT(share_definitions(tree_of(apart), {}, true).edits, IsEmpty()) << "no such target without UNITS";
}

TEST(SharedDefinitions, it_is_confined_to_what_is_named) {
  TreeFiles files = crates("\n[dependencies]\nframe = { path = \"../frame\" }\n", "");
  EXPECT_THAT(share_definitions(tree_of(files), {at("crates/decode")}, true).edits, IsEmpty());
}

}  // namespace
}  // namespace yc::test
