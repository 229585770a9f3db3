// No function is longer than a screen. Formatting makes that easy to see: a function ends at the first brace
// that stands as far left as the line which it begins with.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <regex>
#include <set>
#include <string>
#include <vector>

namespace yc::test {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t kMostLines = 60;

// Longer ones, each with its reason; none now.
const std::set<std::string> kExceptions = {};

std::size_t indent_of(const std::string& line) {
  return std::min(line.find_first_not_of(' '), line.size());
}

// The line with which the function begins whose body opens at the end of line `at`; npos if none does.
std::size_t beginning(const std::vector<std::string>& lines, std::size_t at) {
  static const std::regex other(
      "^(if|for|while|switch|else|do|namespace|class|struct|enum|union|return|case|default|try|catch|static "
      "const|"
      "constexpr|const auto|auto |\\}|\\[|[A-Za-z_.>-]+ = ).*");
  if (!lines[at].ends_with('{') || lines[at].find(')') == std::string::npos) return std::string::npos;
  // What is told in several lines begins with the one that stands farthest left.
  std::size_t first = at;
  while (first > 0 && indent_of(lines[first]) > 2) --first;
  const std::string& line = lines[first];
  bool is_end = first != at && (line.empty() || std::string(";{}:").find(line.back()) != std::string::npos);
  bool is_other = std::regex_match(line.substr(indent_of(line)), other);
  return is_end || is_other ? std::string::npos : first;
}

struct Function {
  std::string place;
  std::size_t lines = 0;
};

std::vector<Function> functions_of(const std::string& name, const std::vector<std::string>& lines) {
  std::vector<Function> out;
  for (std::size_t i = 0; i < lines.size(); ++i) {
    std::size_t first = beginning(lines, i);
    if (first == std::string::npos) continue;
    std::string end(indent_of(lines[first]), ' ');
    std::size_t last = i + 1;
    while (last < lines.size() && !lines[last].starts_with(end + "}")) ++last;
    out.push_back({name + ":" + std::to_string(first + 1), last - i - 1});
  }
  return out;
}

TEST(House, functions_fit_on_a_screen) {
  std::size_t seen = 0;
  const fs::path root = fs::path(SOURCES) / "src";
  for (const auto& entry : fs::recursive_directory_iterator(root)) {
    if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
    std::ifstream file(entry.path());
    std::vector<std::string> lines;
    for (std::string line; std::getline(file, line);) lines.push_back(line);
    std::string name = fs::relative(entry.path(), root).generic_string();
    for (const Function& one : functions_of(name, lines)) {
      ++seen;
      EXPECT_TRUE(one.lines <= kMostLines || kExceptions.contains(name))
          << one.place << " has a function of " << one.lines << " lines; split it";
    }
  }
  EXPECT_GT(seen, 3000u);
}

TEST(House, long_functions_are_noticed) {
  for (const std::vector<std::string>& head : {std::vector<std::string>{"int level(int a) {"},
                                               {"int level(int a,", "          int b) {"},
                                               {"  Level(int a)", "      : a_(a) {"}}) {
    std::vector<std::string> lines = {"namespace yc {", ""};
    lines.insert(lines.end(), head.begin(), head.end());
    lines.insert(lines.end(), 61, "    if (a) {");
    lines.push_back(std::string(indent_of(head.front()), ' ') + "}");
    std::vector<Function> found = functions_of("a.cpp", lines);
    ASSERT_FALSE(found.empty()) << head.front();
    EXPECT_EQ(found[0].lines, 61u) << head.front();
    EXPECT_EQ(found[0].place, "a.cpp:3");
  }
}

}  // namespace
}  // namespace yc::test
