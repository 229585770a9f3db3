// What formats find by a look at the whole tree: references between units, and what projects have twice.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "inspect/mend.h"
#include "inspect/reviewed.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

std::vector<std::string> reviewed(const TreeFiles& files) {
  MemoryTree tree = tree_of(files);
  std::vector<std::string> out;
  for (const Remark& one : review(tree, read(tree)))
    out.push_back(one.notice.id + " " + one.notice.file.str() + ": " + one.notice.message);
  return out;
}

TreeFiles units(const std::string& references, const std::string& body) {
  return {{"Core/Core.asmdef", "{ \"name\": \"Salt.Core\", \"references\": [] }\n"},
          {"Core/Tide.cs", "namespace Salt.Core { public class Tide { } }\n"},
          {"Desk/Desk.asmdef", "{ \"name\": \"Salt.Desk\", \"references\": [" + references + "] }\n"},
          {"Desk/Members.cs", "using Salt.Core;\nnamespace Salt.Desk { class Members { " + body + " } }\n"}};
}

TEST(Reviewed, references_between_assemblies) {
  EXPECT_THAT(reviewed(units("\"Salt.Core\"", "Tide t;")), IsEmpty());
  EXPECT_THAT(reviewed(units("", "Tide t;")),
              ElementsAre("missing-unit-reference Desk/Members.cs: uses Salt.Core.Tide, and Salt.Desk has no "
                          "reference to Salt.Core"));
  EXPECT_THAT(
      reviewed(units("\"Salt.Core\", \"Salt.Kernel\", \"Others.Package\"", "Tide t;")),
      ElementsAre(
          "unknown-unit Desk/Desk.asmdef: refers to Salt.Kernel, and no definition here is called so"));
  EXPECT_THAT(reviewed(units("\"Salt.Core\"", "")),
              ElementsAre("unused-unit-reference Desk/Desk.asmdef: refers to Salt.Core, and no source of "
                          "Salt.Desk is seen to use it"));
}

TEST(Reviewed, a_type_of_several_assemblies_proves_nothing) {
  TreeFiles files = units("", "Tide t;");
  files.push_back({"Old/Old.asmdef", "{ \"name\": \"Salt.Old\" }\n"});
  files.push_back({"Old/Tide.cs", "namespace Salt.Core { public class Tide { } }\n"});
  EXPECT_THAT(reviewed(files), IsEmpty());
}

TEST(Reviewed, missing_references_are_mended) {
  auto mended = [](const std::string& kind, const TreeFiles& files) {
    return edits(mend(tree_of(files), kind));
  };
  EXPECT_THAT(mended("missing-unit-reference", units("", "Tide t;")),
              ElementsAre("Desk/Desk.asmdef:  -> \"Salt.Core\""));
  EXPECT_THAT(mended("unknown-unit", units("\"Salt.Core\", \"Salt.Kernel\"", "Tide t;")),
              ElementsAre("Desk/Desk.asmdef: , \"Salt.Kernel\" -> "));
}

TreeFiles projects(const std::string& import, const std::string& more) {
  const std::string open = "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n";
  return {{"shared/Shared.projitems",
           open + "<ItemGroup><Compile Include=\"$(MSBuildThisFileDirectory)Packet.cs\" "
                  "/></ItemGroup>\n</Project>\n"},
          {"shared/Packet.cs", "namespace Salt.Shared { public class Packet { } }\n"},
          {"App/App.csproj", open + import + "<ItemGroup><Compile Include=\"Main.cs\" />" + more +
                                 "</ItemGroup>\n</Project>\n"},
          {"App/Main.cs", "using Salt.Shared;\nnamespace App { class Main { Packet p; } }\n"},
          {"App/Copy.cs", "namespace Salt.Shared { public class Packet { } }\n"}};
}

TEST(Reviewed, shared_sources) {
  const std::string import = "<Import Project=\"..\\shared\\Shared.projitems\" />\n";
  TreeFiles files = projects("", "");
  files.pop_back();
  EXPECT_THAT(reviewed(files), ElementsAre("missing-shared-import App/Main.cs: uses Salt.Shared.Packet of "
                                           "shared/Shared.projitems, which App/App.csproj does not import"));
  EXPECT_THAT(reviewed(projects(import, "")), IsEmpty());
  EXPECT_THAT(
      reviewed(projects(import, "<Compile Include=\"Copy.cs\" />")),
      ElementsAre("declared-twice App/App.csproj: Salt.Shared.Packet is declared by App/Copy.cs and by "
                  "shared/Packet.cs, and App/App.csproj has both"));
}

}  // namespace
}  // namespace yc::test
