// Shapes of trees where the nearest file upwards decides which unit a source belongs to, and what impact says
// of units.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/workspace.h"

namespace yc::test {
namespace {

std::string definition(const std::string& name, const std::string& references, const std::string& more = "") {
  return "{\n    \"name\": \"" + name + "\",\n    \"references\": [" + references + "]" + more + "\n}\n";
}

Files office() {
  return {
      {"Core/Core.asmdef", definition("Saltmarsh.Core", "")},
      {"Core/Units.cs", "namespace Saltmarsh {\n  public class Units { public const int Metre = 1; }\n}\n"},
      {"Core/Tide.cs",
       "namespace Saltmarsh {\n  // Members is no part of this\n  public class Tide { }\n}\n"},
      {"Desk/Desk.asmdef", definition("Saltmarsh.Desk", "\n        \"Saltmarsh.Core\"\n    ")},
      {"Desk/Members.cs",
       "using Saltmarsh;\nnamespace Saltmarsh.Desk {\n  public class Members { Units u; }\n}\n"},
      {"Desk/Letters.cs", "namespace Saltmarsh.Desk {\n  public class Letters { Members m; }\n}\n"},
      {"Tools/Tools.asmdef",
       definition("Saltmarsh.Tools", "", ",\n    \"includePlatforms\": [\n        \"Editor\"\n    ]")}};
}

TEST(BoundaryShapes, a_move_says_which_unit_is_left_and_joined_and_needs_references) {
  Workspace tree(office());
  expect_refusal(tree, "Desk/Members.cs -> Tools/Members.cs\n",
                 {"lacks a reference to Saltmarsh.Core: Tools/Members.cs uses Saltmarsh",
                  "lacks a reference to Saltmarsh.Tools", "add --link-units"});
  Outcome moved = tree.run({"move", "--link-units", "Desk/Members.cs", "Tools/Members.cs"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("leaves Saltmarsh.Desk and joins Saltmarsh.Tools, which is only built for Editor"),
            std::string::npos)
      << moved.told;
  EXPECT_NE(tree.read("Tools/Tools.asmdef").find("\"references\": [\"Saltmarsh.Core\"]"), std::string::npos)
      << moved.told;
  EXPECT_NE(tree.read("Desk/Desk.asmdef").find("\"Saltmarsh.Core\",\n        \"Saltmarsh.Tools\"\n    ]"),
            std::string::npos)
      << tree.read("Desk/Desk.asmdef");
  EXPECT_EQ(tree.run({"undo"}).status, 0);
  for (const auto& [path, bytes] : office()) EXPECT_EQ(tree.read(path), bytes);
}

TEST(BoundaryShapes, cycles_are_refused_and_what_is_not_used_needs_nothing) {
  Files files = office();
  files[2].second = "namespace Saltmarsh {\n  public class Tide { Units u; }\n}\n";
  Workspace tree(files);
  // Desk refers to Core, so Core cannot refer to Desk.
  expect_refusal(tree, "Core/Units.cs -> Desk/Units.cs\n",
                 {"which already refers to Saltmarsh.Core: a cycle"});
  Workspace other(office());
  Outcome moved = other.run({"move", "Core/Tide.cs", "Tools/Tide.cs"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("leaves Saltmarsh.Core and joins Saltmarsh.Tools"), std::string::npos)
      << moved.told;
  EXPECT_NE(moved.out.find("0 edits"), std::string::npos) << moved.told;
}

TEST(BoundaryShapes, identifiers_and_reference_files) {
  Files files = office();
  files.push_back({"Core/Core.asmdef.meta", "guid: 0a1b2c\n"});
  files.push_back({"Tools/Tools.asmdef.meta", "guid: 3d4e5f\n"});
  files[3].second = definition("Saltmarsh.Desk", "\"GUID:0a1b2c\"");
  files.push_back({"Extra/Extra.asmref", "{ \"reference\": \"GUID:3d4e5f\" }\n"});
  files.push_back({"Extra/More.cs", "namespace Saltmarsh.Extra { }\n"});
  Workspace tree(files);
  Outcome moved = tree.run({"move", "--link-units", "Desk/Members.cs", "Extra/Members.cs"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("joins Saltmarsh.Tools"), std::string::npos) << moved.told;
  EXPECT_NE(tree.read("Desk/Desk.asmdef").find("[\"GUID:0a1b2c\", \"GUID:3d4e5f\"]"), std::string::npos)
      << tree.read("Desk/Desk.asmdef");
}

Files gauges() {
  return {{"CMakeLists.txt",
           "cmake_minimum_required(VERSION 3.16)\nproject(gauges C)\nadd_library(core src/tide.c)\n"
           "target_include_directories(core PUBLIC include)\nadd_executable(viewer "
           "app/main.c)\ntarget_link_libraries(viewer "
           "core)\nadd_executable(check app/check.c)\n"},
          {"src/tide.c", "#include \"tide.h\"\n"},
          {"include/tide.h", "\n"},
          {"app/main.c", "#include <tide.h>\nint main(void) { return 0; }\n"},
          {"app/check.c", "int main(void) { return 0; }\n"}};
}

TEST(Impact, units_that_are_rebuilt) {
  Workspace tree(gauges());
  Outcome all = tree.run({"impact"});
  EXPECT_EQ(all.status, 0) << all.told;
  EXPECT_NE(all.out.find("uses core"), std::string::npos) << all.told;
  Outcome header = tree.run({"impact", "include/tide.h"});
  EXPECT_NE(header.out.find("core    cmake  includes include/tide.h"), std::string::npos) << header.told;
  EXPECT_NE(header.out.find("viewer  cmake  includes include/tide.h"), std::string::npos) << header.told;
  EXPECT_EQ(header.out.find("check"), std::string::npos) << header.told;
  Outcome source = tree.run({"impact", "src"});
  EXPECT_NE(source.out.find("core    cmake  builds src/tide.c"), std::string::npos) << source.told;
  EXPECT_NE(source.out.find("viewer  cmake  uses core"), std::string::npos) << source.told;
}

TEST(Impact, owners_that_a_sheet_changes) {
  Files files = office();
  files.push_back({"to.sheet", "Desk/Letters.cs -> Tools/Letters.cs\n"});
  Workspace tree(files);
  Outcome told = tree.run({"impact", "--sheet", "to.sheet"});
  EXPECT_EQ(told.status, 0) << told.told;
  EXPECT_NE(told.out.find("Desk/Letters.cs -> Tools/Letters.cs: Saltmarsh.Desk -> Saltmarsh.Tools"),
            std::string::npos)
      << told.told;
  Outcome data = tree.run({"--format", "json", "impact", "--sheet", "to.sheet", "--figure", "units.svg"});
  auto json = nlohmann::json::parse(data.out);
  EXPECT_EQ(json["changes"][0]["after"][0], "Saltmarsh.Tools") << data.told;
  EXPECT_EQ(json["units"].size(), 3U) << data.told;
  EXPECT_NE(tree.read("units.svg").find("Saltmarsh.Desk"), std::string::npos);
}

}  // namespace
}  // namespace yc::test
