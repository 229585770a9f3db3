// Plans for trees with project files that keep a tree of their own, a table.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

const std::string kOld = "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n";

TEST(ProjectPlans, items) {
  expect_edits({
      {"backslashes stay",
       {{"a.csproj", kOld + "<ItemGroup><Compile Include=\"src\\Gauge.cs\" /></ItemGroup></Project>\n"},
        {"src/Gauge.cs", ""}},
       {{"src/Gauge.cs", "src/Net/Gauge.cs"}},
       {"a.csproj: src\\Gauge.cs -> src\\Net\\Gauge.cs"}},
      {"a source compiled from another project's folder",
       {{"app/a.csproj",
         kOld +
             "<ItemGroup><Compile "
             "Include=\"..\\lib\\Tide.cs\"><Link>Shared\\Tide.cs</Link></Compile></ItemGroup></Project>\n"},
        {"lib/Tide.cs", ""}},
       {{"lib/Tide.cs", "lib/Water/Tide.cs"}},
       {"app/a.csproj: ..\\lib\\Tide.cs -> ..\\lib\\Water\\Tide.cs"}},
      {"a folder in a property of its own",
       {{"win/a.vcxproj", kOld + "<PropertyGroup><LibSrc>..\\lib</LibSrc></PropertyGroup>\n"
                                 "<ItemGroup><ClCompile Include=\"$(LibSrc)\\a.c\" /><ClCompile "
                                 "Include=\"$(LibSrc)\\b.c\" /></ItemGroup></Project>\n"},
        {"lib/a.c", ""},
        {"lib/b.c", ""}},
       {{"lib", "core/lib"}},
       {"win/a.vcxproj: ..\\lib -> ..\\core\\lib"}},
      {"search paths with what is inherited",
       {{"a.vcxproj", kOld + "<ItemDefinitionGroup><ClCompile><AdditionalIncludeDirectories>inc;src\\net;%("
                             "AdditionalIncludeDirectories)"
                             "</AdditionalIncludeDirectories></ClCompile></ItemDefinitionGroup>\n"
                             "<ItemGroup><ClCompile Include=\"a.c\" /></ItemGroup></Project>\n"},
        {"a.c", ""},
        {"inc/a.h", ""},
        {"src/net/b.h", ""}},
       {{"inc", "include"}, {"src/net", "net"}},
       {"a.vcxproj: inc -> include", "a.vcxproj: src\\net -> net"}},
      {"a command quoted with entities",
       {{"a.vcxproj", kOld + "<ItemDefinitionGroup><PostBuildEvent><Command>copy "
                             "&quot;$(ProjectDir)data\\a.txt&quot; &quot;$(OutDir)&quot;"
                             "</Command></PostBuildEvent></ItemDefinitionGroup></Project>\n"},
        {"data/a.txt", ""}},
       {{"data", "tables"}},
       {"a.vcxproj: data\\a.txt -> tables\\a.txt ?"}},
      {"a path that the filters file repeats",
       {{"a.vcxproj", kOld + "<ItemGroup><ClCompile Include=\"src\\a.c\" /></ItemGroup></Project>\n"},
        {"a.vcxproj.filters", kOld + "<ItemGroup><Filter Include=\"Sources\" /><ClCompile "
                                     "Include=\"src\\a.c\"><Filter>Sources</Filter></ClCompile>"
                                     "</ItemGroup></Project>\n"},
        {"src/a.c", ""}},
       {{"src/a.c", "src/net/a.c"}},
       {"a.vcxproj: src\\a.c -> src\\net\\a.c", "a.vcxproj.filters: src\\a.c -> src\\net\\a.c"}},
      {"old and new projects for the same sources are kept in step",
       {{"old.csproj", kOld + "<ItemGroup><Compile Include=\"src\\A.cs\" /></ItemGroup></Project>\n"},
        {"new/new.csproj",
         "<Project Sdk=\"Microsoft.NET.Sdk\"><ItemGroup><Compile Include=\"../src/A.cs\" "
         "/></ItemGroup></Project>\n"},
        {"src/A.cs", ""}},
       {{"src/A.cs", "lib/A.cs"}},
       {"new/new.csproj: ../src/A.cs -> ../lib/A.cs", "old.csproj: src\\A.cs -> lib\\A.cs"}},
      {"what was not there before is left alone",
       {{"a.csproj", kOld + "<ItemGroup><Compile Include=\"src\\Gone.cs\" /><Compile Include=\"src\\A.cs\" "
                            "/></ItemGroup></Project>\n"},
        {"src/A.cs", ""}},
       {{"src/A.cs", "lib/A.cs"}},
       {"a.csproj: src\\A.cs -> lib\\A.cs"}},
  });
}

TEST(ProjectPlans, solutions) {
  const std::string solution =
      "Microsoft Visual Studio Solution File, Format Version 12.00\r\n"
      "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"a\", \"a\\a.csproj\", "
      "\"{11111111-1111-1111-1111-111111111111}\"\r\nEndProject\r\n"
      "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"gone\", \"gone\\gone.csproj\", "
      "\"{22222222-2222-2222-2222-222222222222}\"\r\nEndProject\r\n";
  expect_edits({
      {"a project goes to a source folder, and one that is not there stays listed",
       {{"s.sln", solution}, {"a/a.csproj", kOld + "</Project>\n"}},
       {{"a", "src/a"}},
       {"s.sln: a\\a.csproj -> src\\a\\a.csproj"}},
      {"references between projects",
       {{"a/a.csproj",
         kOld + "<ItemGroup><ProjectReference Include=\"..\\b\\b.csproj\" /></ItemGroup></Project>\n"},
        {"b/b.csproj", kOld + "</Project>\n"}},
       {{"b", "src/b"}},
       {"a/a.csproj: ..\\b\\b.csproj -> ..\\src\\b\\b.csproj"}},
  });
}

TEST(ProjectPlans, containers_and_compositions) {
  expect_edits({
      {"sources of copies are relative to the context",
       {{"Dockerfile", "FROM x\nCOPY --chown=a:b src/a.txt conf/ /app/\nADD [\"b c.txt\", \"/app/\"]\n"},
        {"src/a.txt", ""},
        {"conf/c.txt", ""},
        {"b c.txt", ""}},
       {{"src/a.txt", "in/a.txt"}, {"b c.txt", "in/b c.txt"}},
       {"Dockerfile: src/a.txt -> in/a.txt ?", "Dockerfile: b c.txt -> in/b c.txt ?"}},
      {"a composition names contexts, files and volumes",
       {{"compose.yaml",
         "services:\n  office:\n    build:\n      context: ./office\n      dockerfile: Dockerfile\n    "
         "env_file: office/a.env\n"
         "    volumes:\n      - ./data:/data:ro\n"},
        {"office/Dockerfile", "FROM x\n"},
        {"office/a.env", ""},
        {"data/x.txt", ""}},
       {{"office", "src/office"}, {"data", "tables"}},
       {"compose.yaml: ./office -> ./src/office", "compose.yaml: office/a.env -> src/office/a.env",
        "compose.yaml: ./data -> ./tables"}},
  });
}

TEST(ProjectPlans, workflows) {
  expect_edits({
      {"filters of paths, a folder to work in, and a script",
       {{".github/workflows/a.yml",
         "on:\n  push:\n    paths:\n      - 'lib/**'\njobs:\n  a:\n    steps:\n      - run: ./tools/x.sh\n"
         "      - run: make\n        working-directory: lib\n"},
        {"lib/a.c", ""},
        {"tools/x.sh", "#!/bin/sh\n"}},
       {{"lib", "core"}, {"tools", "scripts"}},
       {".github/workflows/a.yml: lib -> core", ".github/workflows/a.yml: ./tools/x.sh -> ./scripts/x.sh ?",
        ".github/workflows/a.yml: lib -> core"}},
  });
}

TEST(ProjectPlans, what_a_new_style_project_leaves_out) {
  const TreeFiles files = {
      {"a.csproj",
       "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n    <Compile Remove=\"old\\**\" "
       "/>\n    <Compile Remove=\"gen/**/*.cs\" />\n  </ItemGroup>\n</Project>\n"},
      {"old/A.cs", ""},
      {"old/B.cs", ""},
      {"net/C.cs", ""},
      {"gen/E.cs", ""}};
  auto added = [](const std::string& item) {
    return "a.csproj:  ->   <ItemGroup>\n    <Compile " + item + " />\n  </ItemGroup>\n";
  };
  expect_edits({
      {"a folder that is left out goes elsewhere",
       files,
       {{"old", "net/old"}},
       {"a.csproj: old -> net\\old"}},
      {"a file comes into it", files, {{"net/C.cs", "old/C.cs"}}, {added("Include=\"old\\C.cs\"")}},
      {"a file leaves it", files, {{"old/A.cs", "net/A.cs"}}, {added("Remove=\"net\\A.cs\"")}},
      {"the only file leaves it", files, {{"gen/E.cs", "net/E.cs"}}, {added("Remove=\"net\\E.cs\"")}},
  });
}

TEST(ProjectPlans, imports_by_a_wildcard) {
  TreeFiles files = {
      {"app/a.csproj",
       kOld + "<Import Project=\"..\\props\\*.props\" /><ItemGroup><Compile Include=\"$(Lib)\\Tide.cs\" "
              "/></ItemGroup></Project>\n"},
      {"props/a.props", kOld + "<PropertyGroup><Lib>..\\lib</Lib></PropertyGroup></Project>\n"},
      {"props/b.props", kOld + "</Project>\n"},
      {"other/c.props", kOld + "</Project>\n"},
      {"lib/Tide.cs", ""}};
  // What they say counts in the project.
  EXPECT_THAT(edits(planned(files, {{"lib", "core/lib"}})),
              testing::ElementsAre("props/a.props: ..\\lib -> ..\\core\\lib"));
  EXPECT_THAT(edits(planned(files, {{"props", "build/props"}})),
              testing::ElementsAre("app/a.csproj: ..\\props\\*.props -> ..\\build\\props\\*.props"));
  EXPECT_THAT(reasons(planned(files, {{"props/a.props", "other/a.props"}})),
              testing::Contains("lost app/a.csproj"));
  EXPECT_THAT(reasons(planned(files, {{"other/c.props", "props/c.props"}})),
              testing::Contains("drift app/a.csproj"));
}

TEST(ProjectPlans, paths_out_of_the_tree) {
  expect_edits({
      {"of a project that goes deeper",
       {{"win/a.vcxproj",
         kOld + "<ItemDefinitionGroup><ClCompile><AdditionalIncludeDirectories>..\\inc; "
                "..\\..\\ogg\\include;..\\..;%(AdditionalIncludeDirectories)</AdditionalIncludeDirectories></"
                "ClCompile></ItemDefinitionGroup><ItemGroup><ClCompile Include=\"..\\a.c\" "
                "/></ItemGroup></Project>\n"},
        {"a.c", ""},
        {"inc/a.h", ""}},
       {{"win/a.vcxproj", "win/new/a.vcxproj"}},
       {"win/a.vcxproj: ..\\inc -> ..\\..\\inc",
        "win/a.vcxproj: ..\\..\\ogg\\include -> ..\\..\\..\\ogg\\include",
        "win/a.vcxproj: ..\\.. -> ..\\..\\..", "win/a.vcxproj: ..\\a.c -> ..\\..\\a.c"}},
      {"of a source that climbs",
       {{"src/net/a.c", "#include \"../../../ogg/a.h\"\n#include \"../b.h\"\n"}, {"src/b.h", ""}},
       {{"src/net/a.c", "src/a.c"}},
       {"src/net/a.c: ../../../ogg/a.h -> ../../ogg/a.h", "src/net/a.c: ../b.h -> b.h"}},
      {"beside is as deep",
       {{"src/net/a.c", "#include \"../../../ogg/a.h\"\n"}, {"src/b.h", ""}},
       {{"src/net/a.c", "src/io/a.c"}},
       {}},
  });
}

// A solution in XML that shows three projects of tools/ in a folder of that name, and what becomes of it.
std::string solution_after(const TreeMoves& moves, const std::string& before) {
  TreeFiles files = {{"all.slnx", before},
                     {"tools/a/a.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
                     {"tools/b/b.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
                     {"tools/c/c.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
                     {"apps/d/d.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"}};
  Plan plan = planned(files, moves);
  EXPECT_TRUE(plan.verified);
  auto edits = plan.edits.find(at("all.slnx"));
  return edits == plan.edits.end() ? before : edits->second.apply(before);
}

std::string folder_of(const std::string& name, const std::vector<std::string>& paths) {
  std::string out = "  <Folder Name=\"/" + name + "/\">\n";
  for (const std::string& path : paths) out += "    <Project Path=\"" + path + "\" />\n";
  return out + "  </Folder>\n";
}

TEST(ProjectPlans, virtual_folders_of_a_solution_in_xml) {
  const std::string a = "tools/a/a.csproj", b = "tools/b/b.csproj", c = "tools/c/c.csproj",
                    d = "apps/d/d.csproj";
  auto solution = [](const std::string& folders) { return "<Solution>\n" + folders + "</Solution>\n"; };
  std::string before = solution(folder_of("tools", {a, b, c}));
  // All go: the folder takes the new name.
  EXPECT_EQ(solution_after({{"tools", "kit"}}, before),
            solution(folder_of("kit", {"kit/a/a.csproj", "kit/b/b.csproj", "kit/c/c.csproj"})));
  // The last ones go: the folder is parted.
  EXPECT_EQ(solution_after({{"tools/b", "kit/b"}, {"tools/c", "kit/c"}}, before),
            solution(folder_of("tools", {a}) + folder_of("kit", {"kit/b/b.csproj", "kit/c/c.csproj"})));
  // One in the middle goes to a folder that is made.
  EXPECT_EQ(solution_after({{"tools/b", "kit/b"}}, before),
            solution(folder_of("tools", {a, c}) + folder_of("kit", {"kit/b/b.csproj"})));
  // One or two go to a folder that is there.
  before = solution(folder_of("tools", {a, b, c}) + folder_of("apps", {d}));
  EXPECT_EQ(solution_after({{"tools/b", "apps/b"}}, before),
            solution(folder_of("tools", {a, c}) + folder_of("apps", {d, "apps/b/b.csproj"})));
  EXPECT_EQ(solution_after({{"tools/a", "apps/a"}, {"tools/c", "apps/c"}}, before),
            solution(folder_of("tools", {b}) + folder_of("apps", {d, "apps/a/a.csproj", "apps/c/c.csproj"})));
  // A folder that mirrors nothing shows what it showed.
  before = solution(folder_of("Everything", {a, b, c}));
  EXPECT_EQ(solution_after({{"tools/b", "kit/b"}}, before),
            solution(folder_of("Everything", {a, "kit/b/b.csproj", c})));
}

// What a project has copied beside its program keeps its place there.
TEST(ProjectPlans, copies_beside_a_program) {
  const std::string old_style =
      "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n  <ItemGroup>\n    <Compile "
      "Include=\"Main.cs\" />\n    <Content Include=\"data\\tides.csv\">\n      "
      "<CopyToOutputDirectory>Always</CopyToOutputDirectory>\n    </Content>\n  </ItemGroup>\n</Project>\n";
  const char* const opens =
      "class M { string a = Read(\"data/tides.csv\"), b = Path.Combine(root, \"data\", "
      "\"tides.csv\"); }\n";
  const TreeFiles files = {{"office/office.csproj", old_style},
                           {"office/Main.cs", opens},
                           {"office/data/tides.csv", ""},
                           {"shared/keep", ""}};
  const TreeFiles linked = {
      {"office/office.csproj",
       "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n    <None Include=\"..\\shared\\tides.csv\" "
       "CopyToOutputDirectory=\"Always\" />\n    <None Include=\"..\\shared\\levels.csv\" "
       "Link=\"data\\levels.csv\" CopyToOutputDirectory=\"Always\" />\n  </ItemGroup>\n</Project>\n"},
      {"office/Main.cs", "class M { string a = Read(\"tides.csv\"), b = Read(\"data/levels.csv\"); }\n"},
      {"office/data/keep", ""},
      {"shared/tides.csv", ""},
      {"shared/levels.csv", ""}};
  expect_edits({
      {"below the folder, where the program's texts follow",
       files,
       {{"office/data", "office/assets/data"}},
       {"office/Main.cs: data/tides.csv -> assets/data/tides.csv ?", "office/Main.cs: data -> assets/data ?",
        "office/office.csproj: data\\tides.csv -> assets\\data\\tides.csv"}},
      {"out of the folder, by a link",
       files,
       {{"office/data", "shared/data"}},
       {"office/office.csproj: data\\tides.csv -> ..\\shared\\data\\tides.csv",
        "office/office.csproj:  -> \n      <Link>data\\tides.csv</Link>"}},
      {"into the folder, by a link to where it was",
       linked,
       {{"shared/tides.csv", "office/data/tides.csv"}},
       {"office/office.csproj: ..\\shared\\tides.csv -> data\\tides.csv",
        "office/office.csproj:  ->  Link=\"tides.csv\""}},
      {"a link that is there",
       linked,
       {{"shared/levels.csv", "tables/levels.csv"}},
       {"office/office.csproj: ..\\shared\\levels.csv -> ..\\tables\\levels.csv"}},
      {"another name outside of the folder",
       linked,
       {{"shared/tides.csv", "tables/water.csv"}},
       {"office/office.csproj: ..\\shared\\tides.csv -> ..\\tables\\water.csv",
        "office/office.csproj:  ->  Link=\"tides.csv\""}},
  });
}

TEST(ProjectPlans, copies_of_what_a_pattern_finds) {
  auto project = [](const std::string& pattern) {
    return TreeFiles{{"office/office.csproj",
                      "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n    <Content Include=\"" +
                          pattern + "\" CopyToOutputDirectory=\"Always\" />\n  </ItemGroup>\n</Project>\n"},
                     {"office/data/low.csv", ""},
                     {"office/data/deep/high.csv", ""},
                     {"shared/data/mid.csv", ""}};
  };
  expect_edits({
      {"that goes out of the project's folder",
       project("data\\**\\*.csv"),
       {{"office/data", "tables"}},
       {"office/office.csproj: data -> ..\\tables",
        "office/office.csproj:  ->  Link=\"data\\%(RecursiveDir)%(Filename)%(Extension)\""}},
      {"of one folder alone",
       project("data\\*.csv"),
       {{"office/data", "tables"}},
       {"office/office.csproj: data\\*.csv -> ..\\tables\\*.csv",
        "office/office.csproj:  ->  Link=\"data\\%(Filename)%(Extension)\""}},
      {"that comes into it",
       project("..\\shared\\data\\*.csv"),
       {{"shared/data", "office/tables"}},
       {"office/office.csproj: ..\\shared\\data\\*.csv -> tables\\*.csv",
        "office/office.csproj:  ->  Link=\"%(Filename)%(Extension)\""}},
      {"that stays in it",
       project("data\\*.csv"),
       {{"office/data", "office/tables"}},
       {"office/office.csproj: data\\*.csv -> tables\\*.csv"}},
  });
}

// A library that is checked out beside the tree, whatever else the tree's scripts leave open.
TEST(ProjectPlans, paths_out_of_the_tree_follow) {
  std::string script = "noinst_PROGRAMS =";
  for (int i = 0; i < 12; ++i) script += " p" + std::to_string(i);
  for (int i = 0; i < 12; ++i)
    script += "\np" + std::to_string(i) + "_LDADD = $(top_builddir)/lib/libtide" + std::to_string(i) + ".la";
  const TreeFiles files = {{"configure.ac",
                            "AC_INIT([tide], [1])\nAM_INIT_AUTOMAKE([foreign])\nAC_CONFIG_FILES([Makefile "
                            "examples/Makefile])\nAC_OUTPUT\n"},
                           {"Makefile.am", "SUBDIRS = examples\n"},
                           {"lib/tide.c", ""},
                           {"examples/Makefile.am", script + "\n"},
                           {"win32/VS9/tide/tide.vcproj",
                            "<VisualStudioProject><Configurations><Configuration Name=\"Debug|Win32\"><Tool "
                            "Name=\"VCCLCompilerTool\" "
                            "AdditionalIncludeDirectories=\"..\\..\\..\\include;..\\..\\..\\.."
                            "\\wave\\include\"/></Configuration></"
                            "Configurations></VisualStudioProject>\n"},
                           {"include/tide.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"win32/VS9/tide/tide.vcproj", "win32/VS9/tide.vcproj"}})),
              testing::ElementsAre("win32/VS9/tide/tide.vcproj: ..\\..\\..\\include -> ..\\..\\include",
                                   "win32/VS9/tide/tide.vcproj: ..\\..\\..\\..\\wave\\include -> "
                                   "..\\..\\..\\wave\\include"));
}

// Settings that projects share, whose paths each of them finds from its own folder.
TEST(ProjectPlans, shared_paths_out_of_the_tree) {
  auto project = [](const std::string& more) {
    return "<Project xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n  <Import "
           "Project=\"..\\wave.props\" />\n" +
           more + "</Project>\n";
  };
  const TreeFiles files = {
      {"win/wave.props",
       "<Project "
       "xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\n<ItemDefinitionGroup><ClCompile>"
       "<AdditionalIncludeDirectories>..\\..\\..\\wave\\include;%(AdditionalIncludeDirectories)</"
       "AdditionalIncludeDirectories></ClCompile></ItemDefinitionGroup>\n</Project>\n"},
      {"win/tide/tide.vcxproj", project("")},
      {"win/pole/pole.vcxproj", project("")}};
  EXPECT_THAT(edits(planned(files, {{"win", "code/win"}})),
              testing::ElementsAre("win/wave.props: ..\\..\\..\\wave\\include -> "
                                   "..\\..\\..\\..\\wave\\include"));
  Plan plan = planned(files, {{"win/tide/tide.vcxproj", "win/tide/deep/tide.vcxproj"}});
  EXPECT_THAT(edits(plan),
              testing::ElementsAre("win/tide/tide.vcxproj: ..\\wave.props -> ..\\..\\wave.props"));
  EXPECT_THAT(told(plan), testing::Contains(testing::StartsWith("outside-root win/wave.props")));
}

}  // namespace
}  // namespace yc::test
