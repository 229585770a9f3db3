// A tree that is read again after some files changed comes out as if it were read for the first time.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "formats/format.h"
#include "support/dump.h"
#include "support/generated_tree.h"

namespace yc::test {
namespace {

using ::testing::ElementsAreArray;

// Another version of a file: a line less, twice, or another include.
std::string changed(const std::string& bytes, std::mt19937& random, const std::vector<RelPath>& files) {
  std::size_t at = bytes.empty() ? 0 : bytes.find('\n', random() % bytes.size());
  if (at == std::string::npos) at = bytes.empty() ? 0 : bytes.size() - 1;
  switch (random() % 4) {
    case 0:
      return bytes.substr(0, at + 1) + "#include \"" + files[random() % files.size()].str() + "\"\n" +
             bytes.substr(std::min(at + 1, bytes.size()));
    case 1:
      return bytes.substr(0, at + 1);
    case 2:
      return "#define OTHER \"" + files[random() % files.size()].str() + "\"\n#include OTHER\n" + bytes;
    default:
      return bytes + "\n";
  }
}

class Rereading : public ::testing::TestWithParam<BuildKind> {};

TEST_P(Rereading, gives_the_same_graph_as_a_first_reading) {
  for (unsigned seed = 1; seed <= 25; ++seed) {
    GeneratedProject project = generate(seed, GetParam());
    std::mt19937 random(seed);
    FactsCache cache;
    GraphReader reader;
    reader.read(project.tree, cache, [](const RelPath&) { return false; });
    std::vector<RelPath> all = project.tree.files();
    for (int turn = 0; turn < 5; ++turn) {
      std::set<RelPath> touched;
      for (int i = 0; i < 2; ++i) {
        const RelPath& path = all[random() % all.size()];
        auto bytes = project.tree.read(path);
        touched.insert(path);
        project.tree.write(path, std::make_shared<std::string>(changed(**bytes, random, project.files)));
      }
      ReferenceGraph again =
          reader.read(project.tree, cache, [&](const RelPath& path) { return !touched.contains(path); });
      EXPECT_THAT(everything(again), ElementsAreArray(everything(read(project.tree))))
          << "seed " << seed << ", turn " << turn;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Kinds, Rereading, ::testing::Values(BuildKind::make, BuildKind::cmake),
                         [](const auto& param) { return param.param == BuildKind::make ? "make" : "cmake"; });

}  // namespace
}  // namespace yc::test
