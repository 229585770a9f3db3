#include "tree/text_signatures.h"

#include <gtest/gtest.h>

#include <map>
#include <random>

#include "base/name_search.h"

namespace yc {
namespace {

const RelPath kFile = RelPath::from_normal("src/tide.ts");

bool rules_out(const std::string& text, const std::vector<std::string>& names) {
  TextSignatures signatures;
  signatures.keep(kFile, TextSignatures::of(text));
  return signatures.ruled_out({kFile}, NameSearch(names))[0] != 0;
}

TEST(TextSignatures, rule_out_what_is_not_there) {
  std::string text = "import { level } from './level';\nexport const tide = level + 1;\n";
  EXPECT_TRUE(rules_out(text, {"gauge"}));
  EXPECT_TRUE(rules_out(text, {"gauge", "m00007"}));
  EXPECT_FALSE(rules_out(text, {"gauge", "level"}));
  EXPECT_FALSE(rules_out(text, {"ti"})) << "too short to be told";
  EXPECT_FALSE(rules_out(text, {""}));
  EXPECT_TRUE(rules_out("", {"tide"}));
}

TEST(TextSignatures, of_a_file_that_is_not_known_rule_out_nothing) {
  TextSignatures signatures;
  const NameSearch tide({"tide"});
  EXPECT_FALSE(signatures.ruled_out({kFile}, tide)[0]);
  signatures.keep(kFile, TextSignatures::of("level"));
  EXPECT_TRUE(signatures.ruled_out({kFile}, tide)[0]);
  signatures.forget(kFile);
  EXPECT_FALSE(signatures.ruled_out({kFile}, tide)[0]);
  EXPECT_EQ(signatures.unknown({kFile}), std::vector<RelPath>{kFile});
}

// Many files of all sizes, kept, forgotten and kept again with another text, against a plain search.
TEST(TextSignatures, agree_with_a_plain_search_of_many_files) {
  std::mt19937 random(11);
  std::map<RelPath, std::string> texts;
  TextSignatures signatures;
  auto text_of = [&](std::size_t words) {
    std::string out;
    for (std::size_t i = 0; i < words; ++i) out += "gauge" + std::to_string(random() % 5000) + " ";
    return out;
  };
  std::vector<std::pair<RelPath, TextSignatures::Signature>> first;
  for (int i = 0; i < 300; ++i) {
    RelPath path = RelPath::from_normal("src/m" + std::to_string(1000 + i) + ".ts");
    texts[path] = text_of(1U << random() % 12U);
    first.emplace_back(path, TextSignatures::of(texts[path]));
  }
  signatures.keep_all(std::move(first));
  for (int i = 0; i < 200; ++i) {
    RelPath path = RelPath::from_normal("src/m" + std::to_string(1000 + random() % 330) + ".ts");
    if (random() % 3 == 0) {
      signatures.forget(path);
      texts.erase(path);
    } else {
      texts[path] = text_of(1U << random() % 12U);
      signatures.keep(path, TextSignatures::of(texts[path]));
    }
  }
  std::vector<RelPath> files;
  for (int i = 0; i < 330; ++i)
    files.push_back(RelPath::from_normal("src/m" + std::to_string(1000 + i) + ".ts"));
  std::size_t spared = 0, could_be = 0;
  for (int round = 0; round < 50; ++round) {
    std::vector<std::string> names = {"gauge" + std::to_string(random() % 5000),
                                      "level" + std::to_string(random() % 10)};
    std::vector<char> ruled_out = signatures.ruled_out(files, NameSearch(names));
    for (std::size_t i = 0; i < files.size(); ++i) {
      auto text = texts.find(files[i]);
      bool holds = text != texts.end() && (text->second.find(names[0]) != std::string::npos ||
                                           text->second.find(names[1]) != std::string::npos);
      ASSERT_FALSE(ruled_out[i] && (holds || text == texts.end())) << files[i].str();
      if (text == texts.end() || text->second.size() > 200 || holds) continue;
      ++could_be;
      spared += ruled_out[i] != 0 ? 1 : 0;
    }
  }
  EXPECT_GT(spared, could_be / 2) << "of short texts most are";
}

TEST(TextSignatures, never_rule_out_what_is_there) {
  std::mt19937 random(5);
  for (std::size_t size : {3, 64, 500, 5'000, 200'000}) {
    std::string text;
    for (std::size_t i = 0; i < size; ++i) text += static_cast<char>(random() % 256);
    for (int i = 0; i < 200; ++i) {
      std::size_t at = random() % (size - 2), length = 1 + random() % 20;
      std::string name = text.substr(at, length);
      ASSERT_FALSE(rules_out(text, {name}));
    }
  }
}

}  // namespace
}  // namespace yc
