#include "tree/text_signatures.h"

#include <gtest/gtest.h>

#include <random>

#include "base/name_search.h"

namespace yc {
namespace {

const RelPath kFile = RelPath::from_normal("src/tide.ts");

bool rules_out(const std::string& text, const std::vector<std::string>& names) {
  TextSignatures signatures;
  signatures.keep(kFile, TextSignatures::of(text));
  return signatures.rules_out(kFile, NameSearch(names));
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
  EXPECT_FALSE(signatures.rules_out(kFile, NameSearch({"tide"})));
  signatures.keep(kFile, TextSignatures::of("level"));
  EXPECT_TRUE(signatures.rules_out(kFile, NameSearch({"tide"})));
  signatures.forget(kFile);
  EXPECT_FALSE(signatures.rules_out(kFile, NameSearch({"tide"})));
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
