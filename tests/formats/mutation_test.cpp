// Readers survive anything: real scripts with bytes cut out, doubled, swapped and replaced, by a fixed seed.
#include <gtest/gtest.h>

#include <random>

#include "plan/plan.h"
#include "support/dump.h"
#include "support/snippets.h"

namespace yc::test {
namespace {

constexpr std::ptrdiff_t kAlways = 4;  // build scripts, settings and a source

std::string mutated(std::string text, std::mt19937& random) {
  for (unsigned i = 0, count = 1 + static_cast<unsigned>(random() % 4); i < count && !text.empty(); ++i) {
    std::size_t at = random() % text.size(), size = random() % 12;
    static const std::string odd("\0\xff$(){}[]\"'\\\n\t:;=<>#%", 22);
    switch (random() % 4) {
      case 0:
        text.erase(at, size);
        break;
      case 1:
        text.insert(at, text.substr(random() % text.size(), size));
        break;
      case 2:
        text[at] = odd[random() % odd.size()];
        break;
      default:
        text.resize(at);
        break;
    }
  }
  return text;
}

TEST(Mutation, no_reader_crashes_and_no_plan_edits_outside_of_its_files) {
  std::mt19937 random(20);
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  for (int i = 0; i < 900; ++i) {
    // Of the first four there is always one; one more of the others every other time.
    std::vector<Snippet> files = companions();
    std::erase_if(files, [](const Snippet& file) { return file.first == "src/a.c"; });
    files.insert(files.end(), snippets().begin(), snippets().begin() + kAlways);
    std::size_t victim = files.size() - 1 - random() % kAlways;
    if (i % 2 == 1) {
      victim = files.size();
      files.push_back(snippets()[kAlways + static_cast<std::size_t>(i / 2) % (snippets().size() - kAlways)]);
    }
    files[victim].second = mutated(files[victim].second, random);
    MemoryTree tree = tree_of(files);
    Plan plan = make_plan(
        tree,
        *MoveSet::make(tree,
                       {{at("src/a.c"), at("core/a.c")}, {at("inc"), at("api")}, {at("data"), at("tables")}}),
        {});
    EXPECT_TRUE(plan.verified || !plan.blockers.empty()) << "at " << i;
    for (const PlannedEdit& edit : plan.edit_list) {
      auto bytes = tree.read(edit.file);
      ASSERT_TRUE(bytes);
      ASSERT_LE(edit.span.end, (*bytes)->size());
      EXPECT_EQ((*bytes)->substr(edit.span.begin, edit.span.size()), edit.before);
    }
  }
}

// A reader that waits for what ends a text must also stop at the end of the file.
TEST(Mutation, files_may_end_anywhere) {
  static const std::vector<std::string> ends = {"",   "\\", "\"\\", "'",  "$", "${",
                                                "$(", "{",  "<",    "/*", "`", "["};
  std::size_t turn = 0, read_files = 0;
  for (const Snippet& snippet : snippets()) {
    for (std::size_t size = 0; size <= snippet.second.size(); size += 3) {
      for (int twice = 0; twice < 2; ++twice) {
        std::vector<Snippet> files = companions();
        files.emplace_back(snippet.first, snippet.second.substr(0, size) + ends[turn++ % ends.size()]);
        try {
          read_files += read(tree_of(files)).files_by_format.size();
        } catch (const std::exception& error) {
          ADD_FAILURE() << snippet.first << " cut off as \"" << files.back().second << "\": " << error.what();
        }
      }
    }
  }
  EXPECT_GT(read_files, 1000u);
}

TEST(Mutation, a_file_may_be_one_value) {
  std::size_t read_files = 0;
  for (const Snippet& snippet : snippets()) {
    for (const char* text : {"\"../level.c\"", "../level.c", "[\"../level.c\"]", "'a'\n", "{}", "[]", "null",
                             "1", "- ../level.c\n", "[[]]\n", "<a/>", "\xEF\xBB\xBF\"a\""}) {
      std::vector<Snippet> files = companions();
      files.emplace_back(snippet.first, text);
      read_files += read(tree_of(files)).files_by_format.size();
    }
  }
  EXPECT_GT(read_files, 1000u);
}

}  // namespace
}  // namespace yc::test
