// Formats say what they tell others and what they need of them: they are read in that order, give nothing
// else, and what was made of unchanged files is kept.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <atomic>
#include <map>
#include <mutex>

#include "formats/format.h"
#include "formats/kept_parts.h"
#include "support/dump.h"
#include "support/snippets.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAreArray;
using ::testing::Not;

MemoryTree all_snippets() {
  MemoryTree tree;
  for (const auto& [path, bytes] : companions()) tree.write(path, bytes);
  for (const auto& [path, bytes] : snippets()) tree.write(path, bytes);
  return tree;
}

TEST(Scopes, each_format_is_read_behind_those_that_give_what_it_needs) {
  const std::vector<std::uint8_t>& order = reading_order();
  ASSERT_EQ(order.size(), formats().size());
  for (std::size_t i = 0; i < order.size(); ++i) {
    for (std::size_t j = i + 1; j < order.size(); ++j)
      EXPECT_TRUE((format_at(order[j]).gives() & format_at(order[i]).needs()).empty())
          << format_at(order[i]).name() << " is read before " << format_at(order[j]).name();
  }
}

TEST(Scopes, formats_give_only_what_they_say) {
  MemoryTree tree = all_snippets();
  ClaimedFiles claimed = claimed_files(tree);
  const Scopes nothing;
  std::size_t givers = 0;
  for (std::size_t i = 0; i < formats().size(); ++i) {
    FactsCache cache;
    GraphBuilder builder(cache.parts().files());
    formats()[i]->read({tree, cache, static_cast<std::uint8_t>(i), builder, claimed[i], nothing});
    ScopeSet gives = formats()[i]->gives(), held = held_by(builder.graph());
    if (!(gives & kAllNames).empty()) gives = gives | kAllNames;  // whose names they are does not show
    EXPECT_EQ(held & gives, held) << formats()[i]->name();
    givers += !held.empty();
  }
  EXPECT_GT(givers, 5u);
}

// Counts how often each file is read.
class CountingTree : public TreeReader {
 public:
  explicit CountingTree(const TreeReader& tree) : tree_(tree) {}
  const Entry* find(const RelPath& path) const override { return tree_.find(path); }
  std::vector<std::string> children(const RelPath& folder) const override { return tree_.children(folder); }
  const FileList& listing() const override { return tree_.listing(); }
  Result<Bytes> read(const RelPath& path) const override {
    std::lock_guard lock(mutex_);
    ++counts_[path.str()];
    return tree_.read(path);
  }
  std::map<std::string, int> take() { return std::exchange(counts_, {}); }

 private:
  const TreeReader& tree_;
  mutable std::mutex mutex_;
  mutable std::map<std::string, int> counts_;
};

TEST(Scopes, a_changed_script_costs_its_own_format_and_those_that_need_it) {
  MemoryTree tree;
  tree.write("lib/CMakeLists.txt", "add_library(tide tide.c)\n");
  tree.write("fw/meson.build", "project('fw', 'c')\nexecutable('fw', 'fw.c')\n");
  tree.write("office/office.sln", "\n");
  tree.write("office/office.csproj", "<Project Sdk=\"Microsoft.NET.Sdk\"></Project>\n");
  for (const char* source : {"lib/tide.c", "fw/fw.c", "office/a.cs"}) tree.write(source, "\n");
  CountingTree counting(tree);
  FactsCache cache;
  GraphReader reader;
  reader.read(counting, cache, [](const RelPath&) { return false; });
  EXPECT_EQ(counting.take()["fw/meson.build"] > 0, true);
  auto read_again_after = [&](const std::string& changed) {
    reader.read(counting, cache, [&](const RelPath& path) { return path.str() != changed; });
    std::vector<std::string> out;
    for (const auto& [path, count] : counting.take()) out.push_back(path);
    return out;
  };
  std::vector<std::string> cmake = read_again_after("lib/CMakeLists.txt");
  EXPECT_THAT(cmake, Contains("lib/CMakeLists.txt"));
  EXPECT_THAT(cmake, Not(Contains("fw/meson.build")));
  EXPECT_THAT(cmake, Not(Contains("office/office.csproj")));
  // Projects are read with what solutions say of them.
  std::vector<std::string> solution = read_again_after("office/office.sln");
  EXPECT_THAT(solution, Contains("office/office.csproj"));
  EXPECT_THAT(solution, Not(Contains("lib/CMakeLists.txt")));
}

TEST(Scopes, a_changed_file_of_any_format_gives_the_graph_of_a_first_reading) {
  MemoryTree tree = all_snippets();
  FactsCache cache;
  GraphReader reader;
  reader.read(tree, cache, [](const RelPath&) { return false; });
  for (int turn = 0; turn < 2; ++turn) {
    for (const auto& [name, bytes] : snippets()) {
      const RelPath path = RelPath::from_normal(name);
      // Half of it, and back again.
      tree.write(path, std::make_shared<std::string>(turn == 0 ? bytes.substr(0, bytes.size() / 2) : bytes));
      ReferenceGraph again = reader.read(tree, cache, [&](const RelPath& other) { return other != path; });
      ASSERT_THAT(everything(again), ElementsAreArray(everything(read(tree)))) << name;
      ASSERT_THAT(notices(again), ElementsAreArray(notices(read(tree)))) << name;
    }
  }
}

}  // namespace
}  // namespace yc::test
