// Folders of C# sources that get projects of their own, and are taken back.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/carve.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

const char* const kNewStyle =
    "<Project Sdk=\"Microsoft.NET.Sdk\">\n"
    "  <PropertyGroup>\n"
    "    <TargetFramework>net8.0</TargetFramework>\n"
    "    <OutputType>Exe</OutputType>\n"
    "    <AssemblyOriginatorKeyFile>../salt.snk</AssemblyOriginatorKeyFile>\n"
    "  </PropertyGroup>\n"
    "  <ItemGroup>\n"
    "    <PackageReference Include=\"Tides\" Version=\"2.0.0\" />\n"
    "  </ItemGroup>\n"
    "</Project>\n";

TreeFiles office() {
  return {
      {"Office/Office.csproj", kNewStyle},
      {"Office/Program.cs",
       "namespace Salt { class Program { static void Main() { Desk.Seat.Take(); } } }\n"},
      {"Office/Desk/Seat.cs", "namespace Salt.Desk { public class Seat { public static void Take() {} } }\n"},
      {"Salt.slnx",
       "<Solution>\n  <Folder Name=\"/desks/\">\n    <Project Path=\"Office/Office.csproj\" />\n  "
       "</Folder>\n</Solution>\n"}};
}

std::string made_by(const Plan& plan) {
  std::string out;
  for (const auto& [path, bytes] : plan.changes.made) out += path.str() + ":\n" + bytes;
  return out;
}

TEST(ProjectCarving, a_new_style_project_leaves_the_folder_out_and_refers_to_its_project) {
  auto plan = carve(tree_of(office()), at("Office/Desk"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
  EXPECT_EQ(made_by(*plan),
            "Office/Desk/Office.Desk.csproj:\n"
            "<Project Sdk=\"Microsoft.NET.Sdk\">\n"
            "  <PropertyGroup>\n"
            "    <TargetFramework>net8.0</TargetFramework>\n"
            "    <AssemblyOriginatorKeyFile>../../salt.snk</AssemblyOriginatorKeyFile>\n"
            "    <RootNamespace>Office.Desk</RootNamespace>\n"
            "    <AssemblyName>Office.Desk</AssemblyName>\n"
            "  </PropertyGroup>\n"
            "  <ItemGroup>\n"
            "    <PackageReference Include=\"Tides\" Version=\"2.0.0\" />\n"
            "  </ItemGroup>\n"
            "</Project>\n");
  TreeFiles after = carried_out(office(), *plan);
  EXPECT_THAT(after[0].second, HasSubstr("<Compile Remove=\"Desk/**\" />"));
  EXPECT_THAT(after[0].second, HasSubstr("<ProjectReference Include=\"Desk/Office.Desk.csproj\" />"));
  EXPECT_THAT(after[3].second, HasSubstr("    <Project Path=\"Office/Office.csproj\" />\n"
                                         "    <Project Path=\"Office/Desk/Office.Desk.csproj\" />\n"));
}

TEST(ProjectCarving, folding_gives_the_tree_as_it_was) {
  auto plan = carve(tree_of(office()), at("Office/Desk"));
  ASSERT_TRUE(plan);
  TreeFiles carved = carried_out(office(), *plan);
  auto back = fold(tree_of(carved), at("Office/Desk"));
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_THAT(in_the_way(*back), IsEmpty());
  EXPECT_EQ(carried_out(carved, *back), office());
}

TEST(ProjectCarving, what_other_assemblies_may_not_name_is_made_public_first) {
  TreeFiles files = office();
  files[2].second = "namespace Salt.Desk { class Seat { public static void Take() {} } }\n";
  auto plan = carve(tree_of(files), at("Office/Desk"));
  ASSERT_TRUE(plan);
  EXPECT_FALSE(plan->verified);
  EXPECT_THAT(in_the_way(*plan),
              Contains("Office/Desk/Seat.cs keeps Seat to its own assembly, and Office/Program.cs uses it"));
  files[2].second = "namespace Salt.Desk { public class Seat { internal static void Take() {} } }\n";
  EXPECT_THAT(in_the_way(*carve(tree_of(files), at("Office/Desk"))),
              Contains("Office/Desk/Seat.cs keeps Take to its own assembly, and Office/Program.cs uses it"));
}

TEST(ProjectCarving, an_assembly_that_is_signed_by_an_attribute_refers_to_signed_ones_alone) {
  TreeFiles files = office();
  files.push_back({"Office/Info.cs", "[assembly: System.Reflection.AssemblyKeyFile(\"salt.snk\")]\n"});
  EXPECT_THAT(in_the_way(*carve(tree_of(files), at("Office/Desk"))),
              Contains(HasSubstr("Office/Info.cs signs the assembly of Office/Office.csproj")));
}

TEST(ProjectCarving, a_circle_is_refused_with_those_who_make_it) {
  TreeFiles files = office();
  files.push_back({"Office/Clock.cs", "namespace Salt { public class Clock { } }\n"});
  files[2].second = "namespace Salt.Desk { public class Seat { Clock c; public static void Take() {} } }\n";
  auto plan = carve(tree_of(files), at("Office/Desk"));
  ASSERT_TRUE(plan);
  EXPECT_FALSE(plan->verified);
  EXPECT_THAT(in_the_way(*plan),
              Contains(HasSubstr("Office.Desk -> Office -> Office.Desk: Office/Desk/Seat.cs uses Clock of "
                                 "Office/Clock.cs, and Office/Program.cs uses Seat of Office/Desk/Seat.cs")));
}

TEST(ProjectCarving, what_only_the_folder_uses_of_others_is_referred_to) {
  TreeFiles files = office();
  files[0].second.replace(files[0].second.find("</Project>"), 0,
                          "  <ItemGroup>\n    <ProjectReference Include=\"..\\Levels\\Levels.csproj\" />\n"
                          "  </ItemGroup>\n");
  files.push_back({"Levels/Levels.csproj", kNewStyle});
  files.push_back({"Levels/Level.cs", "namespace Salt.Levels { public class Level { } }\n"});
  files[2].second =
      "using Salt.Levels;\nnamespace Salt.Desk { public class Seat { Level l; public static void Take() {} } "
      "}\n";
  auto plan = carve(tree_of(files), at("Office/Desk"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
  EXPECT_THAT(made_by(*plan), HasSubstr("<ProjectReference Include=\"..\\..\\Levels\\Levels.csproj\" />"));
}

TEST(ProjectCarving, what_is_embedded_in_the_outer_assembly_stays_within_reach) {
  TreeFiles files = office();
  files[0].second.replace(files[0].second.find("</Project>"), 0,
                          "  <ItemGroup>\n    <EmbeddedResource Include=\"chart.txt\" />\n  </ItemGroup>\n");
  files.push_back({"Office/chart.txt", "chart\n"});
  files[2].second =
      "namespace Salt.Desk { public class Seat { public static void Take() { "
      "typeof(Seat).Assembly.GetManifestResourceStream(\"chart.txt\"); } } }\n";
  EXPECT_THAT(in_the_way(*carve(tree_of(files), at("Office/Desk"))),
              Contains("Office/Desk/Seat.cs asks its assembly for what is embedded in Office/Office.csproj"));
}

TEST(ProjectCarving, an_old_pattern_leaves_the_folder_out) {
  TreeFiles files = {
      {"Office/Office.csproj",
       "<Project>\r\n  <PropertyGroup>\r\n    <ProjectGuid>{A}</ProjectGuid>\r\n    "
       "<OutputPath>..\\out\\</OutputPath>\r\n  </PropertyGroup>\r\n  <ItemGroup>\r\n    <Compile "
       "Include=\"**\\*.cs\" />\r\n  </ItemGroup>\r\n</Project>\r\n"},
      {"Office/Program.cs", "class Program { static void Main() { Desk.Seat.Take(); } }\n"},
      {"Office/Desk/Seat.cs", "namespace Desk { public class Seat { public static void Take() {} } }\n"}};
  auto plan = carve(tree_of(files), at("Office/Desk"));
  ASSERT_TRUE(plan) << plan.error().message;
  EXPECT_THAT(in_the_way(*plan), IsEmpty());
  TreeFiles after = carried_out(files, *plan);
  EXPECT_THAT(after[0].second, HasSubstr("Include=\"**\\*.cs\" Exclude=\"Desk\\**\" />\r\n"));
  EXPECT_THAT(after[0].second, HasSubstr("<ProjectReference Include=\"Desk\\Office.Desk.csproj\">\r\n"));
  EXPECT_THAT(after[3].second, HasSubstr("<OutputPath>..\\..\\out\\</OutputPath>\r\n"));
  EXPECT_THAT(after[3].second, HasSubstr("<Compile Include=\"**\\*.cs\" Exclude=\"bin\\**;obj\\**\" />\r\n"));
  auto back = fold(tree_of(after), at("Office/Desk"));
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_THAT(in_the_way(*back), IsEmpty());
  EXPECT_EQ(carried_out(after, *back), files);
}

TEST(ProjectCarving, projects_that_are_built_otherwise_are_not_folded) {
  TreeFiles files = office();
  files.push_back({"Office/Desk/Desk.csproj",
                   "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <PropertyGroup>\n    "
                   "<TargetFramework>net6.0</TargetFramework>\n  </PropertyGroup>\n</Project>\n"});
  auto plan = fold(tree_of(files), at("Office/Desk"));
  ASSERT_TRUE(plan);
  EXPECT_THAT(in_the_way(*plan), ElementsAre(HasSubstr("sets targetframework to \"net6.0\"")));
}

}  // namespace
}  // namespace yc::test
