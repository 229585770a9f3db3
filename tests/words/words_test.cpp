// The lists of names in data/: each word stands once in its list, and each list is asked for somewhere.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <set>
#include <sstream>
#include <string>

#include "base/word_list.h"
#include "words/shell.h"
#include "words/unread_languages.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

std::string text_of(const fs::path& path) {
  std::ifstream file(path);
  return {std::istreambuf_iterator<char>(file), {}};
}

TEST(Words, lists_and_tables_hold_what_their_files_say) {
  EXPECT_TRUE(words::shell::folder_programs().contains("["));
  EXPECT_FALSE(words::shell::folder_programs().contains("@list"));
  EXPECT_EQ(words::unread_languages::sources().find(".rs"), "Rust");
  EXPECT_EQ(words::unread_languages::sources().find(".zz"), std::nullopt);
  WordList list(" a\nb  c\n");
  EXPECT_EQ(list.size(), 3u);
  WordTable table("a b: c: d\nno value\n");
  EXPECT_EQ(table.find("a b"), "c: d");
  EXPECT_EQ(table.size(), 1u);
}

TEST(Words, each_stands_once_and_each_list_is_used) {
  std::string sources;
  for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCES) / "src")) {
    if (entry.path().extension() == ".cpp") sources += text_of(entry.path());
  }
  std::size_t lists = 0;
  for (const auto& entry : fs::directory_iterator(fs::path(SOURCES) / "data")) {
    if (entry.path().extension() != ".words") continue;
    std::istringstream lines(text_of(entry.path()));
    std::string name;
    std::set<std::string> seen;
    bool is_table = false;
    for (std::string line; std::getline(lines, line);) {
      if (line.starts_with("#") || line.empty()) continue;
      if (line.starts_with("@")) {
        is_table = line.starts_with("@table ");
        EXPECT_TRUE(is_table || line.starts_with("@list ")) << line;
        name = entry.path().stem().string() + "::" + line.substr(line.find(' ') + 1);
        EXPECT_NE(sources.find("words::" + name + "()"), std::string::npos)
            << name << " is asked for nowhere";
        seen.clear();
        ++lists;
        continue;
      }
      if (is_table) {
        std::string key = line.substr(0, line.find(": "));
        EXPECT_TRUE(seen.insert(key).second) << key << " twice in " << name;
        continue;
      }
      std::istringstream words(line);
      for (std::string word; words >> word;)
        EXPECT_TRUE(seen.insert(word).second) << word << " twice in " << name;
    }
  }
  EXPECT_GT(lists, 60u);
}

}  // namespace
}  // namespace yc::test
