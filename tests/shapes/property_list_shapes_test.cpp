// Shapes of projects in property lists. Their builds cannot run here: a stand-in loads the project, resolves
// every path, and must list the same before and after, under the move.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kProject = R"PBX(// !$*UTF8*$!
{
	archiveVersion = 1;
	classes = {
	};
	objectVersion = 46;
	objects = {

/* Begin PBXBuildFile section */
		B1 /* tide.c in Sources */ = {isa = PBXBuildFile; fileRef = F1 /* tide.c */; };
		B2 /* pole.c in Sources */ = {isa = PBXBuildFile; fileRef = F2 /* pole.c */; };
		B3 /* main.m in Sources */ = {isa = PBXBuildFile; fileRef = F3 /* main.m */; };
/* End PBXBuildFile section */

/* Begin PBXFileReference section */
		F1 /* tide.c */ = {isa = PBXFileReference; lastKnownFileType = sourcecode.c.c; path = tide.c; sourceTree = "<group>"; };
		F2 /* pole.c */ = {isa = PBXFileReference; lastKnownFileType = sourcecode.c.c; name = pole.c; path = "pole.c"; sourceTree = "<group>"; };
		F3 /* main.m */ = {isa = PBXFileReference; path = App/main.m; sourceTree = SOURCE_ROOT; };
		F4 /* tide.h */ = {isa = PBXFileReference; name = tide.h; path = ../include/tide.h; sourceTree = SOURCE_ROOT; };
		F5 /* Gauges.app */ = {isa = PBXFileReference; path = Gauges.app; sourceTree = BUILT_PRODUCTS_DIR; };
		F6 /* en */ = {isa = PBXFileReference; name = en; path = en.lproj/Texts.strings; sourceTree = "<group>"; };
		F7 /* Info.plist */ = {isa = PBXFileReference; path = Info.plist; sourceTree = "<group>"; };
/* End PBXFileReference section */

/* Begin PBXGroup section */
		G0 = {
			isa = PBXGroup;
			children = (
				G1 /* src */,
				G3 /* App */,
				F4 /* tide.h */,
				G4 /* Products */,
			);
			sourceTree = "<group>";
		};
		G1 /* src */ = {
			isa = PBXGroup;
			children = (
				G2 /* net */,
				F2 /* pole.c */,
			);
			name = src;
			path = ../src;
			sourceTree = "<group>";
		};
		G2 /* net */ = {
			isa = PBXGroup;
			children = (
				F1 /* tide.c */,
			);
			path = net;
			sourceTree = "<group>";
		};
		G3 /* App */ = {
			isa = PBXGroup;
			children = (
				F3 /* main.m */,
				V1 /* Texts.strings */,
				F7 /* Info.plist */,
			);
			path = App;
			sourceTree = "<group>";
		};
		G4 /* Products */ = {
			isa = PBXGroup;
			children = (
				F5 /* Gauges.app */,
			);
			name = Products;
			sourceTree = "<group>";
		};
		V1 /* Texts.strings */ = {
			isa = PBXVariantGroup;
			children = (
				F6 /* en */,
			);
			name = Texts.strings;
			sourceTree = "<group>";
		};
/* End PBXGroup section */

		P1 /* Project object */ = {
			isa = PBXProject;
			buildConfigurationList = L1;
			mainGroup = G0;
			projectDirPath = "";
			projectRoot = "";
			targets = (
				T1 /* Gauges */,
			);
		};
		T1 /* Gauges */ = {
			isa = PBXNativeTarget;
			buildConfigurationList = L2;
			buildPhases = (
				S1 /* Sources */,
				S2 /* Check */,
			);
			name = Gauges;
			productName = Gauges;
		};
		S1 /* Sources */ = {
			isa = PBXSourcesBuildPhase;
			files = (
				B1 /* tide.c in Sources */,
				B2 /* pole.c in Sources */,
				B3 /* main.m in Sources */,
			);
		};
		S2 /* Check */ = {
			isa = PBXShellScriptBuildPhase;
			inputPaths = (
				"$(SRCROOT)/../tools/check.sh",
			);
			shellScript = "set -e\nsh \"${SRCROOT}/../tools/check.sh\" ../tools/limits.txt\n";
		};
		L1 = {
			isa = XCConfigurationList;
			buildConfigurations = (
				C1,
			);
		};
		L2 = {
			isa = XCConfigurationList;
			buildConfigurations = (
				C2,
			);
		};
		C1 = {
			isa = XCBuildConfiguration;
			buildSettings = {
				HEADER_SEARCH_PATHS = ../include;
			};
			name = Debug;
		};
		C2 = {
			isa = XCBuildConfiguration;
			buildSettings = {
				HEADER_SEARCH_PATHS = (
					"$(inherited)",
					"$(SRCROOT)/../include",
				);
				INFOPLIST_FILE = App/Info.plist;
				PRODUCT_NAME = "$(TARGET_NAME)";
			};
			name = Debug;
		};
	};
	rootObject = P1 /* Project object */;
}
)PBX";

Files phone() {
  return {
      {"mac/Gauges.xcodeproj/project.pbxproj", kProject},
      {"mac/Gauges.xcworkspace/contents.xcworkspacedata",
       "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<Workspace\n   version = \"1.0\">\n   <FileRef\n      "
       "location = "
       "\"group:Gauges.xcodeproj\">\n   </FileRef>\n</Workspace>\n"},
      {"mac/Gauges.xcodeproj/xcshareddata/xcschemes/Gauges.xcscheme",
       "<Scheme>\n  <BuildableReference ReferencedContainer = \"container:Gauges.xcodeproj\"/>\n</Scheme>\n"},
      {"mac/App/main.m", "int main(void) { return 0; }\n"},
      {"mac/App/Info.plist", "<plist/>\n"},
      {"mac/App/en.lproj/Texts.strings", "\"a\" = \"b\";\n"},
      {"src/net/tide.c", "#include \"tide.h\"\n"},
      {"src/pole.c", "#include \"tide.h\"\n"},
      {"include/tide.h", "#define TIDE 4\n"},
      {"tools/check.sh", "true\n"},
      {"tools/limits.txt", "4\n"}};
}

// What the stand-in lists, as many lines, none of them missing.
const std::string kStandIn =
    std::string("python3 ") + STANDINS +
    "/property_list_project.py . > /tmp/standin.$$; status=$?; ! grep missing /tmp/standin.$$ && "
    "wc -l < /tmp/standin.$$; rm /tmp/standin.$$; exit $status";

Outcome expect_lines(const std::string& sheet, const std::vector<std::string>& lines) {
  return expect_move_says(Workspace(phone()), sheet, lines, kStandIn);
}

TEST(PropertyListShapes, a_file_that_goes_to_the_folder_of_another_group) {
  Outcome moved = expect_lines("src/net/tide.c -> src/tide.c\n",
                               {"41 + \t\t\t\tF1 /* tide.c */,", "49 - \t\t\t\tF1 /* tide.c */,"});
  EXPECT_EQ(moved.out.find("path ="), std::string::npos) << moved.told;
}

TEST(PropertyListShapes, a_file_whose_folder_no_group_stands_for) {
  expect_lines("src/pole.c -> src/marks/pole.c\n", {"/* marks */ = {", "path = marks;"});
  expect_lines("include/tide.h -> api/v1/tide.h\n", {"path = ../api/v1/tide.h"});
}

TEST(PropertyListShapes, folders_of_groups_and_of_the_project) {
  expect_lines("src/net -> src/wire\n", {"path = wire;"});
  expect_lines("src -> code/src\n", {"path = ../code/src;"});
  expect_lines("mac/App -> mac/Phone\n",
               {"path = Phone;", "path = Phone/main.m;", "INFOPLIST_FILE = Phone/Info.plist;"});
  expect_lines("mac -> apps/mac\n", {"path = ../../src;", "HEADER_SEARCH_PATHS = ../../include;",
                                     "\"$(SRCROOT)/../../include\"", "\"$(SRCROOT)/../../tools/check.sh\""});
  expect_lines("mac/Gauges.xcodeproj -> apps/Gauges.xcodeproj\n",
               {"location = \"group:../apps/Gauges.xcodeproj\"", "path = ../mac/App;"});
}

TEST(PropertyListShapes, renamed_files_are_shown_by_their_new_names) {
  expect_lines("src/pole.c -> src/mark.c\n", {"name = mark.c; path = \"mark.c\""});
}

TEST(PropertyListShapes, search_roots_and_scripts) {
  expect_lines("include -> api\n", {"HEADER_SEARCH_PATHS = ../api;", "\"$(SRCROOT)/../api\""});
  expect_lines("tools -> scripts\n", {"\"$(SRCROOT)/../scripts/check.sh\"", "../scripts/limits.txt"});
}

TEST(PropertyListShapes, a_project_is_known_by_its_bundle) {
  Workspace tree(phone());
  expect_refusal(tree, "mac/Gauges.xcodeproj/project.pbxproj -> mac/project.pbxproj\n",
                 {"whose name must end in .xcodeproj"});
  expect_refusal(tree, "mac/Gauges.xcodeproj -> mac/Gauges.bundle\n", {"whose name must end in .xcodeproj"});
}

TEST(PropertyListShapes, garbled_projects_are_told_of_and_left) {
  for (const std::string& text :
       {std::string(kProject).substr(0, 900), "<<<<<<< ours\n" + std::string(kProject),
        std::string(100'000, '('), std::string("{ a = \"\\")}) {
    Workspace tree({{"G.xcodeproj/project.pbxproj", text}, {"b.txt", "\n"}});
    Outcome moved = tree.run({"move", "b.txt", "c/b.txt"});
    EXPECT_EQ(moved.status, 0) << moved.told;
    EXPECT_EQ(tree.read("G.xcodeproj/project.pbxproj"), text);
    // What it names cannot be told, so what it may name does not move.
    if (text.find("tide.c") != std::string::npos) {
      tree.write("src/tide.c", "\n");
      expect_refusal(tree, "src/tide.c -> code/tide.c\n", {"G.xcodeproj/project.pbxproj", "cannot be read"});
    }
    Outcome checked = tree.run({"check"});
    EXPECT_EQ(checked.status, 1) << checked.told;
    EXPECT_NE(checked.out.find("is no property list from here on"), std::string::npos) << checked.told;
  }
}

TEST(SketchShapes, a_sketch_and_its_folder_bear_one_name) {
  Files files = {{"pole/pole.ino", "#include \"reed.h\"\nvoid setup() {}\nvoid loop() { reed(); }\n"},
                 {"pole/reed.h", "void reed();\n"},
                 {"pole/reed.cpp", "#include \"reed.h\"\nvoid reed() {}\n"},
                 {"notes.txt", "\n"}};
  const std::string build =
      "f=$(ls */*.ino) && d=$(dirname $f) && cp $f sketch.cpp && avr-g++ -mmcu=atmega328p -I$d -c sketch.cpp "
      "$(find $d -name "
      "'*.cpp')";
  Workspace tree(files);
  expect_refusal(tree, "pole -> gauge\n", {"must bear the name of its folder", "gauge/gauge.ino"});
  expect_refusal(tree, "pole/reed.cpp -> shared/reed.cpp\n", {"would not be a part of it"});
  expect_move_keeps_build(Workspace(files), "pole/ -> gauge/\npole/pole.ino -> gauge/gauge.ino\n", build);
  expect_move_keeps_build(Workspace(files), "pole/reed.cpp -> pole/src/reed.cpp\n", build);
}

}  // namespace
}  // namespace yc::test
