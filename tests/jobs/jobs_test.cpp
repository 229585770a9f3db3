// Whole jobs as people do them, each on a small project of its own with its real tools: what the program is
// to do at once, and the usual mistakes of doing it by hand, each of which `check` must find. A job is a
// folder here: the tree, how it is built, and scripts made of the words in steps.sh; `run` runs them without
// these tests.
#include <gtest/gtest.h>

#include <filesystem>
#include <ostream>

#include "support/workspace.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

struct JobScript {
  std::string job, script;
};
void PrintTo(const JobScript& one, std::ostream* out) {
  *out << one.job << " " << one.script;
}

std::vector<JobScript> scripts() {
  std::vector<JobScript> out;
  for (const auto& folder : fs::directory_iterator(fs::path(SOURCES) / "tests/jobs")) {
    for (const char* script : {"job", "mistakes"}) {
      if (fs::exists(folder.path() / (std::string(script) + ".sh")))
        out.push_back({folder.path().filename().string(), script});
    }
  }
  std::sort(out.begin(), out.end(), [](const JobScript& a, const JobScript& b) {
    return std::tie(a.job, a.script) < std::tie(b.job, b.script);
  });
  return out;
}

class Jobs : public testing::TestWithParam<JobScript> {};

TEST_P(Jobs, is_done_and_mistakes_are_found) {
  Workspace place;
  Outcome said = place.shell("PROGRAM='" YELLOW_COMPASS_PROGRAM "' WEB_TOOLS='" WEB_TOOLS
                             "' TMPDIR=. sh '" SOURCES "/tests/jobs/run' '" YELLOW_COMPASS_PROGRAM "' " +
                             GetParam().job + ":" + GetParam().script);
  EXPECT_EQ(said.status, 0) << said.out << said.err;
}

INSTANTIATE_TEST_SUITE_P(, Jobs, testing::ValuesIn(scripts()),
                         [](const auto& one) { return one.param.job + "_" + one.param.script; });

TEST(JobList, has_fourteen) {
  EXPECT_EQ(scripts().size(), 28U);
}

}  // namespace
}  // namespace yc::test
