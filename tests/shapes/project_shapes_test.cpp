// Shapes of projects in XML and of the solutions that list them. Old-style C# is built by xbuild; what cannot
// be built here is checked by what stands in the files.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

void expect_lines(const Files& files, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build = "true") {
  expect_move_says(Workspace(files), sheet, lines, build);
}

std::string old_project(const std::string& content, const std::string& kind = "Exe") {
  return "\xEF\xBB\xBF<?xml version=\"1.0\" encoding=\"utf-8\"?>\r\n<Project DefaultTargets=\"Build\" "
         "ToolsVersion=\"4.0\" "
         "xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\r\n  <PropertyGroup>\r\n    "
         "<OutputType>" +
         kind +
         "</OutputType>\r\n    <RootNamespace>Saltmarsh.Office</RootNamespace>\r\n    "
         "<OutputPath>bin\\</OutputPath>\r\n  "
         "</PropertyGroup>\r\n  <ItemGroup>\r\n    <Reference Include=\"System\" />\r\n  </ItemGroup>\r\n" +
         content + "  <Import Project=\"$(MSBuildBinPath)\\Microsoft.CSharp.targets\" />\r\n</Project>\r\n";
}

const char* const kBuild =
    "xbuild /nologo /v:q /p:NoCompilerStandardLib=false office/Office.csproj >/dev/null && "
    "mono office/bin/Office.exe";

Files office(const std::string& items) {
  return {{"office/Office.csproj", old_project(items)},
          {"office/Program.cs",
           "using System;\r\nstatic class Program {\r\n  static int Main() {\r\n    var names = "
           "typeof(Program).Assembly.GetManifestResourceNames();\r\n    Console.WriteLine(Members.Count + \" "
           "\" + "
           "string.Join(\",\", names));\r\n    return 0;\r\n  }\r\n}\r\n"},
          {"office/Members.cs", "public static class Members { public const int Count = 3; }\n"},
          {"shared/Extra.cs", "public static class Extra { }\n"},
          {"office/letters/welcome.txt", "Welcome\n"}};
}

const std::string kItems =
    "  <ItemGroup>\r\n    <Compile Include=\"Program.cs\" />\r\n    <Compile Include=\"Members.cs\">\r\n     "
    " "
    "<SubType>Code</SubType>\r\n    </Compile>\r\n    <Compile Include=\"..\\shared\\Extra.cs\">\r\n      "
    "<Link>Extra.cs</Link>\r\n    </Compile>\r\n    <EmbeddedResource Include=\"letters\\welcome.txt\" "
    "/>\r\n  "
    "</ItemGroup>\r\n";

TEST(ProjectShapes, sources_of_an_old_style_project_with_backslashes_and_a_byte_order_mark) {
  expect_lines(
      office(kItems),
      "office/Members.cs -> office/people/Members.cs\nshared/Extra.cs -> lib/shared/Extra.cs\n",
      {"<Compile Include=\"people\\Members.cs\">", "<Compile Include=\"..\\lib\\shared\\Extra.cs\">"},
      kBuild);
}

// A program finds what is copied beside it, wherever that comes from.
TEST(ProjectShapes, what_is_copied_beside_a_program_stays_there) {
  Files files = office(
      "  <ItemGroup>\r\n    <Compile Include=\"Program.cs\" />\r\n    <Content "
      "Include=\"letters\\welcome.txt\">\r\n      "
      "<CopyToOutputDirectory>Always</CopyToOutputDirectory>\r\n    </Content>\r\n  "
      "</ItemGroup>\r\n");
  files[1].second =
      "using System;\nusing System.IO;\nstatic class Program {\n  static int Main() {\n    "
      "Console.WriteLine(File.ReadAllText(Path.Combine(AppDomain.CurrentDomain.BaseDirectory, "
      "\"letters/welcome.txt\")));\n    return 0;\n  }\n}\n";
  expect_lines(
      files, "office/letters -> shared/letters\n",
      {"<Content Include=\"..\\shared\\letters\\welcome.txt\">", "<Link>letters\\welcome.txt</Link>"},
      kBuild);
  expect_lines(files, "office/letters -> office/texts/letters\n",
               {"<Content Include=\"texts\\letters\\welcome.txt\">"}, kBuild);
}

TEST(ProjectShapes, an_embedded_resource_keeps_its_name) {
  expect_lines(office(kItems), "office/letters/welcome.txt -> office/texts/letters/welcome.txt\n",
               {"<EmbeddedResource "
                "Include=\"texts\\letters\\welcome.txt\"><LogicalName>Saltmarsh.Office.letters.welcome.txt</"
                "LogicalName></EmbeddedResource>"},
               kBuild);
}

// By an SDK's convention a list of resources is named after the class in the source beside it.
TEST(ProjectShapes, a_list_of_resources_that_leaves_its_source_keeps_its_name) {
  Files files = {{"office/Office.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\">\n</Project>\n"},
                 {"office/Cards/Card.cs", "namespace Saltmarsh.Members\n{\n  partial class Card { }\n}\n"},
                 {"office/Cards/Card.resx", "<root />\n"}};
  const std::string line = "LogicalName=\"Saltmarsh.Members.Card.resources\"";
  expect_lines(files, "office/Cards/Card.resx -> office/Texts/Card.resx\n",
               {"Update=\"Texts\\Card.resx\" " + line});
  expect_lines(files, "office/Cards/Card.cs -> office/Code/Card.cs\n",
               {"Update=\"Cards\\Card.resx\" " + line});
  Outcome both = expect_move_keeps_build(Workspace(files), "office/Cards/ -> office/Code/\n", "true");
  EXPECT_EQ(both.out.find("LogicalName"), std::string::npos) << both.told;
}

TEST(ProjectShapes, a_project_that_moves_alone_and_one_that_takes_its_folder_along) {
  expect_lines(office(kItems), "office -> src/office\n", {"<Compile Include=\"..\\..\\shared\\Extra.cs\">"},
               "cd src 2>/dev/null; xbuild /nologo /v:q /p:NoCompilerStandardLib=false "
               "office/Office.csproj >/dev/null && mono "
               "office/bin/Office.exe");
  expect_lines(office(kItems), "office/Office.csproj -> office/build/Office.csproj\n",
               {"<Compile Include=\"..\\Program.cs\" />", "<Compile Include=\"..\\..\\shared\\Extra.cs\">"},
               "xbuild /nologo /v:q /p:NoCompilerStandardLib=false office/*.csproj "
               "office/build/*.csproj >/dev/null 2>&1; xbuild "
               "/nologo /v:q /p:NoCompilerStandardLib=false $(ls office/*.csproj office/build/*.csproj "
               "2>/dev/null) >/dev/null");
}

TEST(ProjectShapes, wildcards_exclusions_and_files_that_leave_them) {
  std::string items =
      "  <ItemGroup>\r\n    <Compile Include=\"**\\*.cs\" Exclude=\"drafts\\**\" />\r\n    <EmbeddedResource "
      "Include=\"letters\\*.txt\" />\r\n  </ItemGroup>\r\n";
  Files files = office(items);
  files.push_back({"office/drafts/Program.cs", "no program at all\n"});
  expect_lines(files, "office/Members.cs -> shared/Members.cs\n", {"Include=\"..\\shared\\Members.cs\" />"},
               kBuild);
  expect_lines(files, "shared/Extra.cs -> office/Extra.cs\n", {"moves"}, kBuild);
}

TEST(ProjectShapes, references_between_projects_and_their_solution) {
  Files files =
      office(kItems +
             "  <ItemGroup>\r\n    <ProjectReference Include=\"..\\ledger\\Ledger.csproj\">\r\n      "
             "<Project>{11111111-2222-3333-4444-555555555555}</Project>\r\n      <Name>Ledger</Name>\r\n    "
             "</ProjectReference>\r\n  </ItemGroup>\r\n");
  files.push_back({"ledger/Ledger.csproj",
                   old_project("  <ItemGroup>\r\n    <Compile Include=\"Ledger.cs\" />\r\n  </ItemGroup>\r\n",
                               "Library")});
  files.push_back({"ledger/Ledger.cs", "public static class Ledger { public const int Paid = 2; }\n"});
  files.push_back(
      {"Saltmarsh.sln",
       "\xEF\xBB\xBF\r\nMicrosoft Visual Studio Solution File, Format Version 12.00\r\n"
       "Project(\"{2150E333-8FDC-42A3-9474-1A3956D46DE8}\") = \"money\", \"money\", "
       "\"{AAAAAAAA-0000-0000-0000-000000000001}\"\r\n\tProjectSection(SolutionItems) = "
       "preProject\r\n\t\tREADME.md = "
       "README.md\r\n\tEndProjectSection\r\nEndProject\r\n"
       "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"Office\", \"office\\Office.csproj\", "
       "\"{AAAAAAAA-0000-0000-0000-000000000002}\"\r\nEndProject\r\n"
       "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"Ledger\", \"ledger\\Ledger.csproj\", "
       "\"{11111111-2222-3333-4444-555555555555}\"\r\nEndProject\r\n"
       "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"Gone\", \"gone\\Gone.csproj\", "
       "\"{AAAAAAAA-0000-0000-0000-000000000009}\"\r\nEndProject\r\nGlobal\r\n\tGlobalSection(NestedProjects)"
       " = "
       "preSolution\r\n\t\t{AAAAAAAA-0000-0000-0000-000000000002} = "
       "{AAAAAAAA-0000-0000-0000-000000000001}\r\n"
       "\tEndGlobalSection\r\nEndGlobal\r\n"});
  files.push_back({"README.md", "Saltmarsh\n"});
  expect_lines(files, "ledger -> src/ledger\nREADME.md -> docs/README.md\n",
               {"<ProjectReference Include=\"..\\src\\ledger\\Ledger.csproj\">",
                "\"src\\ledger\\Ledger.csproj\"", "docs\\README.md = docs\\README.md"},
               kBuild);
}

TEST(ProjectShapes, solution_folders_that_mirror_the_disk_follow) {
  auto entry = [](const char* type, const char* name, const char* path, const char* id) {
    return std::string("Project(\"{") + type + "}\") = \"" + name + "\", \"" + path + "\", \"{" + id +
           "}\"\nEndProject\n";
  };
  const char* folder = "2150E333-8FDC-42A3-9474-1A3956D46DE8";
  const char* project = "FAE04EC0-301F-11D3-BF4B-00C04F79EFBC";
  std::string text = entry(folder, "tools", "tools", "F1") +
                     entry(project, "Office", "tools\\office\\Office.csproj", "P1") +
                     entry(project, "Ledger", "tools\\ledger\\Ledger.csproj", "P2") +
                     "Global\n\tGlobalSection(NestedProjects) = preSolution\n\t\t{P1} = {F1}\n\t\t{P2} = "
                     "{F1}\n\tEndGlobalSection\nEndGlobal\n";
  Files files = {{"all.sln", text},
                 {"tools/office/Office.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
                 {"tools/ledger/Ledger.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
                 {"tools/readme.txt", "\n"}};
  expect_lines(files, "tools/office -> apps/office\ntools/ledger -> apps/ledger\n",
               {"= \"apps\", \"apps\", \"{F1}\"", "\"apps\\office\\Office.csproj\""});
  expect_lines(files, "tools/office -> apps/office\n",
               {"= \"apps\", \"apps\", \"{", "\"apps\\office\\Office.csproj\"", "{P1} = {"});
  files[0].second =
      "<Solution>\n  <Folder Name=\"/tools/\">\n    <Project Path=\"tools/office/Office.csproj\" />\n  "
      "</Folder>\n</Solution>\n";
  files[0].first = "all.slnx";
  files.push_back(
      {"some.slnf",
       "{\"solution\": {\"path\": \"all.slnx\", \"projects\": [\"tools\\\\office\\\\Office.csproj\"]}}\n"});
  expect_lines(files, "tools/office -> apps/office\nsome.slnf -> lists/some.slnf\n",
               {"<Project Path=\"apps/office/Office.csproj\" />", "\"..\\\\all.slnx\"",
                "[\"apps\\\\office\\\\Office.csproj\"]"});
}

TEST(ProjectShapes, default_items_of_a_new_style_project) {
  Files files = {{"office/Office.csproj",
                  "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <PropertyGroup>\n    "
                  "<TargetFramework>net8.0</TargetFramework>\n "
                  " </PropertyGroup>\n</Project>\n"},
                 {"office/Program.cs", "\n"},
                 {"office/people/Members.cs", "\n"},
                 {"office/obj/Made.cs", "\n"},
                 {"shared/Extra.cs", "\n"},
                 {"old/Unused.cs", "\n"},
                 {"office/texts/Letters.resx", "<root/>\n"}};
  expect_lines(files, "office/people/Members.cs -> office/members/Members.cs\n", {"0 edits"});
  expect_lines(files, "office/people/Members.cs -> shared/Members.cs\n",
               {"<Compile Include=\"..\\shared\\Members.cs\" />"});
  expect_lines(files, "old/Unused.cs -> office/Unused.cs\n", {"<Compile Remove=\"Unused.cs\" />"});
  expect_lines(
      files, "office/texts/Letters.resx -> office/Letters.resx\n",
      {"<EmbeddedResource Update=\"Letters.resx\" LogicalName=\"Office.texts.Letters.resources\" />"});
  expect_lines(files, "office/Office.csproj -> office/Desk.csproj\n",
               {"<AssemblyName>Office</AssemblyName>", "<RootNamespace>Office</RootNamespace>"});
  files[0].second =
      "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n    <Compile Include=\"../shared/Extra.cs\" "
      "Link=\"Extra.cs\" />\n  </ItemGroup>\n</Project>\n";
  Files mails = {{"office/Office.csproj",
                  "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <ItemGroup>\n    <EmbeddedResource "
                  "Include=\"mails\\**\\*.txt\" />\n  </ItemGroup>\n</Project>\n"},
                 {"office/mails/new/hello.txt", "\n"},
                 {"office/mails/top.txt", "\n"}};
  expect_lines(
      mails, "office/mails/new -> office/mails/first\n",
      {"<EmbeddedResource Update=\"mails\\first\\hello.txt\" LogicalName=\"Office.mails.new.hello.txt\" />"});
  // What the defaults take in must not be named a second time.
  expect_lines(files, "shared/Extra.cs -> office/Extra.cs\n", {"moves"});
}

TEST(ProjectShapes, properties_imports_and_conditions) {
  Files files = {
      {"Directory.Build.props",
       "<Project>\n  <PropertyGroup>\n    <Top>$(MSBuildThisFileDirectory)</Top>\n    "
       "<Keys>$(Top)keys\\</Keys>\n  "
       "</PropertyGroup>\n</Project>\n"},
      {"build/common.targets",
       "<Project>\n  <ItemGroup Condition=\"Exists('$(MSBuildThisFileDirectory)..\\shared\\Extra.cs')\">\n   "
       " <Compile "
       "Include=\"$(MSBuildThisFileDirectory)..\\shared\\Extra.cs\" />\n  </ItemGroup>\n</Project>\n"},
      {"office/Office.csproj",
       "<Project Sdk=\"Microsoft.NET.Sdk\">\n  <PropertyGroup>\n    <LibDir>..\\lib</LibDir>\n    "
       "<AssemblyOriginatorKeyFile>$(Keys)office.snk</AssemblyOriginatorKeyFile>\n    <LibDir "
       "Condition=\"'$(Old)'=='1'\">..\\oldlib</LibDir>\n  </PropertyGroup>\n  <ItemGroup>\n    <Compile "
       "Include=\"$(LibDir)\\net\\Tide.cs\" />\n  </ItemGroup>\n  <Import "
       "Project=\"..\\build\\common.targets\" />\n  <Target "
       "Name=\"Show\" AfterTargets=\"Build\">\n    <Exec Command=\"copy &quot;$(ProjectDir)data\\a.csv&quot; "
       "out.csv\" />\n  </Target>\n</Project>\n"},
      {"keys/office.snk", "k\n"},
      {"lib/net/Tide.cs", "\n"},
      {"oldlib/net/Tide.cs", "\n"},
      {"lib/Other.cs", "\n"},
      {"office/data/a.csv", "1\n"},
      {"shared/Extra.cs", "\n"}};
  expect_lines(files, "keys/office.snk -> secrets/office.snk\n", {"<Keys>$(Top)secrets\\</Keys>"});
  expect_lines(files, "lib -> libs/lib\n", {"<LibDir>..\\libs\\lib</LibDir>"});
  expect_lines(files, "build/common.targets -> common.targets\n",
               {"<Import Project=\"..\\common.targets\" />", "$(MSBuildThisFileDirectory)shared\\Extra.cs"});
  expect_lines(files, "shared/Extra.cs -> shared/more/Extra.cs\n",
               {"Exists('$(MSBuildThisFileDirectory)..\\shared\\more\\Extra.cs')"});
  expect_lines(files, "office/data/a.csv -> office/tables/a.csv\n", {"$(ProjectDir)tables\\a.csv&quot;"});
  expect_lines(files, "Directory.Build.props -> office/Directory.Build.props\n", {"..\\keys\\"});
}

Files gauges(const std::string& more = "") {
  auto item = [](const char* type, const char* path, const char* inner = "") {
    std::string text(inner);
    return "    <" + std::string(type) + " Include=\"" + path + "\"" +
           (text.empty() ? " />\r\n" : ">\r\n      " + text + "\r\n    </" + type + ">\r\n");
  };
  std::string head =
      "<?xml version=\"1.0\" encoding=\"utf-8\"?>\r\n<Project DefaultTargets=\"Build\" "
      "xmlns=\"http://schemas.microsoft.com/developer/msbuild/2003\">\r\n";
  std::string project =
      head +
      "  <PropertyGroup Label=\"Globals\">\r\n    <LibSrcDir>..\\..\\src</LibSrcDir>\r\n  "
      "</PropertyGroup>\r\n  "
      "<ItemDefinitionGroup Condition=\"'$(Configuration)'=='Debug'\">\r\n    <ClCompile>\r\n      "
      "<AdditionalIncludeDirectories>..\\..\\include;%(AdditionalIncludeDirectories)</"
      "AdditionalIncludeDirectories>"
      "\r\n    </ClCompile>\r\n  </ItemDefinitionGroup>\r\n  <ItemGroup>\r\n" +
      item("ClCompile", "..\\..\\src\\net\\tide.c") + item("ClCompile", "$(LibSrcDir)\\main.c") +
      item("ClInclude", "..\\..\\include\\tide.h") + "  </ItemGroup>\r\n" + more + "</Project>\r\n";
  std::string filters =
      head +
      "  <ItemGroup>\r\n    <Filter Include=\"src\">\r\n      "
      "<UniqueIdentifier>{1}</UniqueIdentifier>\r\n    </Filter>\r\n    <Filter Include=\"src\\net\">\r\n    "
      "  "
      "<UniqueIdentifier>{2}</UniqueIdentifier>\r\n    </Filter>\r\n  </ItemGroup>\r\n  <ItemGroup>\r\n" +
      item("ClCompile", "..\\..\\src\\net\\tide.c", "<Filter>src\\net</Filter>") +
      item("ClCompile", "$(LibSrcDir)\\main.c", "<Filter>src</Filter>") +
      item("ClInclude", "..\\..\\include\\tide.h", "<Filter>Header Files</Filter>") +
      "  </ItemGroup>\r\n</Project>\r\n";
  return {{"win/vs/gauge.vcxproj", project},
          {"win/vs/gauge.vcxproj.filters", filters},
          {"src/net/tide.c", "#include \"tide.h\"\nint tide(void) { return TIDE; }\n"},
          {"src/main.c", "#include <tide.h>\nint main(void) { return TIDE - 4; }\n"},
          {"include/tide.h", "#define TIDE 4\n"},
          {"Makefile", "all:\n\t@cc -Iinclude src/main.c src/net/tide.c -o /dev/null\n"}};
}

TEST(ProjectShapes, a_project_of_c_with_its_filters) {
  expect_lines(gauges(), "src/net -> src/wire\n",
               {"<ClCompile Include=\"..\\..\\src\\wire\\tide.c\" />", "<Filter Include=\"src\\wire\">",
                "<Filter>src\\wire</Filter>"},
               "make");
  expect_lines(gauges(), "src/main.c -> src/app/main.c\n",
               {"$(LibSrcDir)\\app\\main.c", "<Filter Include=\"src\\app\">", "<Filter>src\\app</Filter>"},
               "make");
  expect_lines(gauges(), "src -> code\n", {"<LibSrcDir>..\\..\\code</LibSrcDir>"}, "make");
  expect_lines(gauges(), "win/vs -> build/windows/vs2022\n",
               {"<LibSrcDir>..\\..\\..\\src</LibSrcDir>", "..\\..\\..\\include;%(Add"}, "make");
}

TEST(ProjectShapes, search_roots_follow_and_are_added) {
  expect_lines(gauges(), "include -> api\n", {"..\\..\\api;%(AdditionalIncludeDirectories)", "-Iapi"},
               "make");
  Files files = gauges();
  files.push_back({"include/other.h", "\n"});
  expect_lines(files, "include/tide.h -> api/tide.h\n", {"<ClInclude Include=\"..\\..\\api\\tide.h\" />"},
               "make");
}

TEST(ProjectShapes, projects_of_the_time_before) {
  Files files = {{"win/gauge.vcproj",
                  "<?xml version=\"1.0\" encoding=\"Windows-1252\"?>\n<VisualStudioProject "
                  "Name=\"gauge\">\n\t<Configurations>\n\t\t"
                  "<Configuration Name=\"Debug|Win32\">\n\t\t\t<Tool Name=\"VCCLCompilerTool\" "
                  "AdditionalIncludeDirectories=\"..\\include, &quot;..\\src\\common&quot;;.\\\" "
                  "/>\n\t\t</Configuration>\n\t"
                  "</Configurations>\n\t<Files>\n\t\t<Filter Name=\"Source Files\">\n\t\t\t<File "
                  "RelativePath=\"..\\src\\tide.c\">\n\t\t\t</File>\n\t\t</Filter>\n\t</Files>\n</"
                  "VisualStudioProject>\n"},
                 {"src/tide.c", "#include <tide.h>\n#include \"common.h\"\n"},
                 {"src/common/common.h", "\n"},
                 {"include/tide.h", "\n"}};
  expect_lines(files, "include -> api\n", {"..\\api, &quot;..\\src\\common&quot;;.\\"});
  expect_lines(files, "src/common -> src/shared\n", {"&quot;..\\src\\shared&quot;"});
  expect_lines(files, "src/tide.c -> src/net/tide.c\n", {"RelativePath=\"..\\src\\net\\tide.c\""});
  expect_lines(files, "win/gauge.vcproj -> win/vs/gauge.vcproj\n",
               {"..\\..\\include, &quot;..\\..\\src\\common&quot;", "..\\..\\src\\tide.c"});
}

// Resource editors write UTF-16: paths are edited in it, and nothing else changes.
TEST(ProjectShapes, resource_scripts_in_utf16) {
  auto units = [](const std::u16string& text) {
    std::string out;
    for (char16_t unit : text) {
      out += static_cast<char>(unit & 0xFF);
      out += static_cast<char>(unit >> 8);
    }
    return out;
  };
  const std::u16string head = u"\uFEFF#include \"resource.h\"\r\nIDI_APP ICON ";
  const std::u16string rest = u"\r\nIDB_LOGO BITMAP logo.bmp\r\nCAPTION \"P\u00e4gel \U0001F30A res\"\r\n";
  Workspace tree(Files{{"win/app.rc", units(head + u"\"res\\\\app.ico\"" + rest)},
                       {"win/resource.h", ""},
                       {"win/logo.bmp", "B"},
                       {"win/res/app.ico", "I"}});
  Outcome moved = tree.run({"-v", "move", "win/res", "art"});
  EXPECT_EQ(moved.status, 0) << moved.told;
  EXPECT_NE(moved.out.find("- IDI_APP ICON \"res\\\\app.ico\"\n"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("+ IDI_APP ICON \"..\\\\art\\\\app.ico\"\n"), std::string::npos) << moved.told;
  EXPECT_EQ(tree.read("win/app.rc"), units(head + u"\"..\\\\art\\\\app.ico\"" + rest));
  Outcome again = tree.run({"move", "win/resource.h", "win/logo.bmp", "gen/"});
  EXPECT_EQ(again.status, 0) << again.told;
  EXPECT_NE(tree.read("win/app.rc").find(units(u"#include \"..\\gen\\resource.h\"")), std::string::npos)
      << tree.read("win/app.rc");
  EXPECT_NE(tree.read("win/app.rc").find(units(u"BITMAP ../gen/logo.bmp")), std::string::npos);
}

TEST(ProjectShapes, resource_scripts) {
  Files files = {{"win/app.rc",
                  "#include \"resource.h\"\r\n// ICON \"..\\\\res\\\\gauge.ico\"\r\nIDI_ICON1 ICON "
                  "\"..\\\\res\\\\gauge.ico\"\r\nIDB_POLE BITMAP ..\\res\\pole.bmp\r\nIDR_X RCDATA "
                  "\"..\\res\\data.bin\"\r\nSTRINGTABLE BEGIN 1 \"a\\\\b\" END\r\n"},
                 {"win/resource.h", "\n"},
                 {"res/gauge.ico", "i"},
                 {"res/pole.bmp", "b"},
                 {"res/data.bin", "d"}};
  expect_lines(files, "res -> assets/res\n",
               {"IDI_ICON1 ICON \"..\\\\assets\\\\res\\\\gauge.ico\"",
                "IDB_POLE BITMAP ..\\assets\\res\\pole.bmp", "RCDATA \"..\\assets\\res\\data.bin\""});
  expect_lines(files, "win/app.rc -> win/rc/app.rc\n", {"ICON \"..\\\\..\\\\res\\\\gauge.ico\""});
}

TEST(ProjectShapes, lists_of_resources) {
  Files files = {
      {"office/Office.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\" />\n"},
      {"office/Pictures.resx",
       "<root>\n  <data name=\"Gauge\" type=\"System.Resources.ResXFileRef, System.Windows.Forms\">\n    "
       "<value>..\\art\\gauge.png;System.Drawing.Bitmap, System.Drawing, Version=4.0.0.0</value>\n  "
       "</data>\n  <data "
       "name=\"Title\"><value>..\\art\\gauge.png</value></data>\n</root>\n"},
      {"art/gauge.png", "png"}};
  expect_lines(files, "art -> assets/art\n", {"<value>..\\assets\\art\\gauge.png;System.Drawing.Bitmap"});
}

TEST(ProjectShapes, shared_items_and_what_depends_on_a_file_beside_it) {
  Files files = {
      {"shared/Shared.projitems",
       "<Project>\n  <ItemGroup>\n    <Compile Include=\"$(MSBuildThisFileDirectory)Units.cs\" />\n  "
       "</ItemGroup>\n</Project>\n"},
      {"shared/Units.cs", "\n"},
      {"office/Form.cs", "\n"},
      {"office/Form.Designer.cs", "\n"},
      {"office/Office.csproj",
       old_project("  <ItemGroup>\r\n    <Compile Include=\"Form.cs\" />\r\n    <Compile "
                   "Include=\"Form.Designer.cs\">\r\n      <DependentUpon>Form.cs</DependentUpon>\r\n    "
                   "</Compile>\r\n  "
                   "</ItemGroup>\r\n  <Import Project=\"..\\shared\\Shared.projitems\" />\r\n")}};
  expect_lines(files, "shared/Units.cs -> shared/units/Units.cs\n",
               {"$(MSBuildThisFileDirectory)units\\Units.cs"});
  expect_lines(
      files,
      "office/Form.cs -> office/forms/Form.cs\noffice/Form.Designer.cs -> office/forms/Form.Designer.cs\n",
      {"<Compile Include=\"forms\\Form.Designer.cs\">"});
  expect_lines(files, "office/Form.cs -> office/forms/Form.cs\n",
               {"<DependentUpon>forms\\Form.cs</DependentUpon>"});
}

TEST(ProjectShapes, garbled_projects_are_told_of_and_left) {
  for (const std::string& text :
       {std::string("<Project><ItemGroup><Compile Include=\"a.cs\""),
        std::string("<<<<<<< ours\n<Project/>\n"),
        std::string(
            "<!DOCTYPE p [<!ENTITY a \"&b;&b;\"><!ENTITY b \"&a;&a;\">]><Project><X>&a;</X></Project>"),
        std::string("<Project><Import Project=\"a.csproj\" /></Project>\n")}) {
    Workspace tree({{"a.csproj", text}, {"a.cs", "\n"}, {"b.txt", "\n"}});
    Outcome moved = tree.run({"move", "b.txt", "c/b.txt"});
    EXPECT_EQ(moved.status, 0) << moved.told;
    EXPECT_EQ(tree.read("a.csproj"), text);
    bool cycle = text.find("Import") != std::string::npos;
    Outcome checked = tree.run({"check"});
    EXPECT_EQ(checked.out.find("imports a file that imports this one") != std::string::npos, cycle)
        << checked.told;
  }
}

}  // namespace
}  // namespace yc::test
