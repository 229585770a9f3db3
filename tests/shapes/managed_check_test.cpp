// What check finds in projects that keep a tree of their own, and how it is mended.
#include <gtest/gtest.h>

#include <filesystem>

#include "support/workspace.h"

namespace yc::test {
namespace {

std::string item(const std::string& path, const std::string& filter = "") {
  std::string head = "    <ClCompile Include=\"" + path + "\"";
  return filter.empty() ? head + " />\r\n"
                        : head + ">\r\n      <Filter>" + filter + "</Filter>\r\n    </ClCompile>\r\n";
}

std::string around(const std::string& items) {
  return "<?xml version=\"1.0\" encoding=\"utf-8\"?>\r\n<Project>\r\n  <ItemGroup>\r\n" + items +
         "  </ItemGroup>\r\n</Project>\r\n";
}

Files gauge() {
  return {{"win/gauge.vcxproj",
           around(item("..\\src\\net\\a.c") + item("..\\src\\net\\b.c") + item("..\\src\\net\\c.c") +
                  item("..\\SRC\\net\\d.c") + item("..\\src\\net\\gone.c") + item("..\\src\\net\\a.c"))},
          {"win/gauge.vcxproj.filters",
           around(item("..\\src\\net\\a.c", "src\\net") + item("..\\src\\net\\b.c", "src\\net") +
                  item("..\\src\\net\\c.c", "src\\net") + item("..\\src\\net\\gone.c", "src\\net") +
                  item("..\\SRC\\net\\d.c", "src\\net") + item("..\\src\\net\\f.c", "old"))},
          {"src/net/a.c", "\n"},
          {"src/net/b.c", "\n"},
          {"src/net/c.c", "\n"},
          {"src/net/d.c", "\n"},
          {"src/net/e.c", "\n"},
          {"src/net/f.c", "\n"}};
}

TEST(ManagedCheck, finds_where_a_project_and_the_disk_differ) {
  Files files = gauge();
  files.push_back({".gitmodules", "[submodule \"lib\"]\n\tpath = lib/ogg\n"});
  files[0].second = around(item("..\\src\\net\\a.c") + item("..\\src\\net\\b.c") + item("..\\src\\net\\c.c") +
                           item("..\\SRC\\net\\d.c") + item("..\\src\\net\\f.c") +
                           item("..\\src\\net\\gone.c") + item("..\\src\\net\\a.c"));
  Outcome found = Workspace(files).run({"check"});
  EXPECT_EQ(found.status, 1) << found.told;
  for (const char* text : {"win/gauge.vcxproj: does not list src/net/e.c", "lists src/net/a.c a second time",
                           "../SRC/net/d.c is src/net/d.c on disk", "../src/net/gone.c leads nowhere",
                           "shows src/net/f.c in old, while the others mirror the disk",
                           "the nested repository lib/ogg is not checked out"})
    EXPECT_NE(found.out.find(text), std::string::npos) << text << "\n" << found.told;
}

TEST(ManagedCheck, files_outside_of_the_tree_are_not_in_a_clone) {
  Outcome found = Workspace({{"a/a.vcxproj", around(item("..\\..\\elsewhere\\a.c"))}}).run({"check"});
  EXPECT_EQ(found.status, 1) << found.told;
  EXPECT_NE(found.out.find("names ../../elsewhere/a.c, which lies outside of the tree"), std::string::npos)
      << found.told;
}

TEST(ManagedCheck, mends_one_kind_at_a_time) {
  Files files = gauge();
  files.erase(files.begin() + 7);  // f.c
  Workspace tree(files);
  EXPECT_EQ(tree.run({"check", "--mend", "unlisted"}).status, 0);
  EXPECT_NE(tree.read("win/gauge.vcxproj").find("    <ClCompile Include=\"..\\src\\net\\e.c\" />\r\n"),
            std::string::npos)
      << tree.read("win/gauge.vcxproj");
  EXPECT_NE(tree.read("win/gauge.vcxproj.filters")
                .find("<ClCompile Include=\"..\\src\\net\\e.c\">\r\n      <Filter>src\\net</Filter>\r\n    "
                      "</ClCompile>\r\n"),
            std::string::npos)
      << tree.read("win/gauge.vcxproj.filters");
  EXPECT_EQ(tree.run({"check", "--mend", "dangling"}).status, 0);
  EXPECT_EQ(tree.read("win/gauge.vcxproj").find("gone.c"), std::string::npos);
  EXPECT_EQ(tree.read("win/gauge.vcxproj.filters").find("gone.c"), std::string::npos);
  EXPECT_EQ(tree.run({"check", "--mend", "listed-twice"}).status, 0);
  std::string project = tree.read("win/gauge.vcxproj");
  EXPECT_NE(project.find("net\\a.c"), std::string::npos);
  EXPECT_EQ(project.find("net\\a.c", project.find("net\\a.c") + 1), std::string::npos) << project;
  Outcome last = tree.run({"check", "--mend", "wrong-case"});
  EXPECT_EQ(last.status, 0) << last.told;
  EXPECT_EQ(tree.read("win/gauge.vcxproj").find("SRC"), std::string::npos);
  Outcome clean = tree.run({"check"});
  EXPECT_EQ(clean.status, 0) << clean.told;
  EXPECT_NE(tree.run({"check", "--mend", "unlisted"}).out.find("nothing of that kind"), std::string::npos);
  for (int i = 0; i < 4; ++i) EXPECT_EQ(tree.run({"undo"}).status, 0);
  for (const auto& [path, bytes] : files) EXPECT_EQ(tree.read(path), bytes) << path;
}

TEST(ManagedCheck, lists_a_file_in_a_property_list) {
  std::string project = "// !$*UTF8*$!\n{\n\tobjects = {\n";
  std::string children, built, lines;
  for (const char* name : {"a", "b", "c"}) {
    std::string n(name);
    lines += "\t\tB" + n + " /* " + n + ".c in Sources */ = {isa = PBXBuildFile; fileRef = F" + n + " /* " +
             n + ".c */; };\n";
    lines += "\t\tF" + n + " /* " + n + ".c */ = {isa = PBXFileReference; path = " + n +
             ".c; sourceTree = \"<group>\"; };\n";
    children += "\t\t\t\tF" + n + " /* " + n + ".c */,\n";
    built += "\t\t\t\tB" + n + " /* " + n + ".c in Sources */,\n";
  }
  project += lines + "\t\tG = {\n\t\t\tisa = PBXGroup;\n\t\t\tchildren = (\n" + children +
             "\t\t\t);\n\t\t\tpath = src;\n\t\t\tsourceTree = \"<group>\";\n\t\t};\n\t\tS = {\n\t\t\tisa = "
             "PBXSourcesBuildPhase;\n\t\t\tfiles = (\n" +
             built +
             "\t\t\t);\n\t\t};\n\t\tT = {isa = PBXNativeTarget; name = gauge; buildPhases = (S); };\n\t\tP = "
             "{isa = PBXProject; "
             "mainGroup = G; targets = (T); };\n\t};\n\trootObject = P;\n}\n";
  Workspace tree({{"gauge.xcodeproj/project.pbxproj", project},
                  {"src/a.c", "\n"},
                  {"src/b.c", "\n"},
                  {"src/c.c", "\n"},
                  {"src/more.c", "\n"}});
  std::string compiled =
      std::string("python3 ") + STANDINS + "/property_list_project.py . | grep -c compiled";
  EXPECT_EQ(tree.shell(compiled).out, "3\n");
  Outcome mended = tree.run({"check", "--mend", "unlisted"});
  EXPECT_EQ(mended.status, 0) << mended.told;
  Outcome after = tree.shell(compiled);
  EXPECT_EQ(after.out, "4\n") << after.told << tree.read("gauge.xcodeproj/project.pbxproj");
  std::filesystem::remove(tree.root() + "/src/b.c");
  EXPECT_EQ(tree.run({"check", "--mend", "dangling"}).status, 0);
  EXPECT_EQ(tree.read("gauge.xcodeproj/project.pbxproj").find("b.c"), std::string::npos);
  EXPECT_EQ(tree.shell(compiled).out, "3\n");
}

}  // namespace
}  // namespace yc::test
