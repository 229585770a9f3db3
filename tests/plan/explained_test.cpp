// Reads of an observed build that references, names or the folders of packages explain, and the rest.
#include "plan/explained.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/format.h"
#include "support/plans.h"
#include "tree/memory_tree.h"

namespace yc::test {
namespace {

std::vector<std::string> unexplained(const std::string& program, const std::vector<std::string>& read) {
  MemoryTree tree;
  tree.write("go.mod", "module example.com/tide\n");
  tree.write("level/level.go", "package level\n");
  tree.write("level/level_test.go", "package level\n");
  tree.write("level/marks.txt", "");
  FactsCache cache;
  Observation observation;
  ObservedProcess& process = observation.processes.emplace_back();
  process.is_started = true;
  process.program = program;
  process.arguments = {program};
  process.folder = RelPath();
  for (const std::string& path : read) process.read.push_back(at(path));
  std::vector<std::string> out;
  for (const UnexplainedRead& one : explain_reads(tree, read_graph(tree, cache), {observation}).none)
    out.push_back(one.path.str());
  return out;
}

TEST(Explained, sources_of_a_folder_are_read_by_what_takes_them_all) {
  EXPECT_THAT(unexplained("/usr/bin/go", {"go.mod", "level/level.go", "level/level_test.go"}),
              ::testing::IsEmpty());
  EXPECT_THAT(unexplained("/usr/bin/go", {"level/marks.txt"}), ::testing::ElementsAre("level/marks.txt"));
  EXPECT_THAT(unexplained("/usr/bin/wc", {"level/level_test.go"}),
              ::testing::ElementsAre("level/level_test.go"));
}

}  // namespace
}  // namespace yc::test
