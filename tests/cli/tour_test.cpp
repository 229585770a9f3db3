// The tour in docs/ shows what the program prints.
#include <gtest/gtest.h>

#include <fstream>
#include <sstream>

#include "support/workspace.h"

namespace yc::test {
namespace {

TEST(Tour, shows_what_the_program_prints) {
  std::ifstream file(SOURCES "/docs/tour.md");
  std::stringstream read;
  read << file.rdbuf();
  std::string text = read.str();
  Workspace tree(Files{});
  tree.shell("mkdir saltmarsh && cp -R " SOURCES "/demo/saltmarsh/. saltmarsh && grep '^viewer' " SOURCES
             "/demo/tidy.sheet > viewer.sheet && cd saltmarsh && git init -q . && git add -A && git -c "
             "user.name=a -c "
             "user.email=a@b commit -qm a && mkdir ../bin && ln -s " YELLOW_COMPASS_PROGRAM
             " ../bin/yellow-compass");
  std::size_t shown = 0;
  const std::string open = "```\n$ ", root = tree.root() + "/saltmarsh";
  for (std::size_t at = text.find(open); at != std::string::npos; at = text.find(open, at + 1)) {
    std::size_t command = at + open.size(), line = text.find('\n', command), end = text.find("\n```\n", line);
    std::string typed = text.substr(command, line - command);
    std::string said = tree.shell("cd saltmarsh && PATH=$PWD/../bin:$PATH COLUMNS=110 " + typed).out;
    for (std::size_t place = said.find(root); place != std::string::npos; place = said.find(root))
      said.replace(place, root.size(), "/home/ada/saltmarsh");
    EXPECT_EQ(said, text.substr(line + 1, end - line)) << typed;
    ++shown;
  }
  EXPECT_EQ(shown, 4U);
}

}  // namespace
}  // namespace yc::test
