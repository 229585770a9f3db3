// A server that has read the tree before says what one says that reads it for the first time.
#include <gtest/gtest.h>

#include <fstream>
#include <random>

#include "session.h"

namespace yc::test {
namespace {

using Files = std::vector<std::pair<std::string, std::string>>;

const Files kStation = {
    {"Makefile",
     "SRC = gauge\nstation: $(SRC)/main.c $(SRC)/level.c\n\tcc -Iinc -o $@ $(SRC)/main.c $(SRC)/level.c\n"},
    {"gauge/main.c", "#include \"level.h\"\n#include \"ebb.h\"\nint main(void) { return level(); }\n"},
    {"gauge/level.c", "#include \"level.h\"\nint level(void) { return 0; }\n"},
    {"gauge/level.h", "int level(void);\n"},
    {"inc/ebb.h", "#include \"flood.h\"\n"},
    {"inc/flood.h", "#define FLOOD 1\n"},
    {"web/tsconfig.json",
     "{ \"compilerOptions\": { \"baseUrl\": \".\", \"paths\": { \"@/*\": [\"src/*\"] } }, \"include\": "
     "[\"src\"] }\n"},
    {"web/src/app.ts", "import { tide } from './tide';\nimport { chart } from '@/charts/chart';\n"},
    {"web/src/tide.ts", "export const tide = 1;\n"},
    {"web/src/charts/chart.ts", "import { tide } from '../tide';\nexport const chart = tide;\n"},
    {"web/index.html", "<script type=\"module\" src=\"src/app.ts\"></script>\n<img src=\"pole.svg\">\n"},
    {"web/pole.svg", "<svg></svg>\n"},
    {"lib/CMakeLists.txt",
     "add_library(water water.cpp)\ntarget_include_directories(water PUBLIC include)\n"},
    {"lib/water.cpp", "#include \"water/water.h\"\n"},
    {"lib/include/water/water.h", "\n"},
    {"ingest/__init__.py", ""},
    {"ingest/read.py", "from ingest import parse\nfrom .parse import line\n"},
    {"ingest/parse.py", "def line(): return open('ingest/data.csv')\n"},
    {"ingest/data.csv", "1\n"}};

struct Change {
  std::string path, text;
};

// Each makes a difference to some move.
const std::vector<Change> kChanges = {
    {"gauge/main.c", "#include \"flood.h\"\nint main(void) { return 0; }\n"},
    {"Makefile", "station:\n\tcc -Iinc -Igauge -o $@ gauge/main.c gauge/level.c\n"},
    {"web/src/app.ts", "import { chart } from './charts/chart';\n"},
    {"web/tsconfig.json", "{ \"compilerOptions\": {} }\n"},
    {"lib/CMakeLists.txt",
     "add_library(water water.cpp)\ntarget_include_directories(water PUBLIC include/water include)\n"},
    {"ingest/read.py", "import ingest.parse\n"},
    {"inc/tide.h", "#include \"ebb.h\"\n"}};

const std::vector<std::string> kMoved = {
    "gauge/level.h", "gauge",         "inc/flood.h",       "inc", "web/src/tide.ts", "web/src/charts",
    "web/pole.svg",  "lib/water.cpp", "lib/include/water", "lib", "ingest/parse.py", "ingest/data.csv"};

TEST(Warm, plans_are_those_of_a_server_that_reads_anew) {
  EditorSession warm(kStation);
  std::mt19937 random(11);
  std::size_t edits = 0;
  for (int round = 0; round < 24; ++round) {
    const Change& change = kChanges[random() % kChanges.size()];
    if (round % 3 == 0) {
      std::ofstream(warm.tree.path() + "/" + change.path) << change.text;
      // Every other time nobody tells: a program in a terminal did it.
      if (round % 2 == 0)
        warm.tell("workspace/didChangeWatchedFiles",
                  {{"changes", json::array({{{"uri", warm.uri(change.path)}, {"type", 2}}})}});
    } else if (round % 3 == 1) {
      warm.close(change.path);
      warm.open(change.path, change.text);
    } else {
      warm.close(change.path);
    }
    EditorSession fresh(warm.tree.path());
    // What the first editor has open and not saved.
    for (const auto& [path, text] : warm.opened) fresh.open(path, text);
    const std::string& from = kMoved[random() % kMoved.size()];
    std::string to = "moved/" + from.substr(from.rfind('/') + 1);
    json said = warm.rename(from, to), wanted = fresh.rename(from, to);
    said.erase("id"), wanted.erase("id");
    EXPECT_EQ(said, wanted) << "round " << round << ": " << from << " to " << to;
    edits += said.contains("result") && said["result"].is_object();
  }
  EXPECT_GT(edits, 8u);
}

}  // namespace
}  // namespace yc::test
