// Files are compiled several at a time, so a function that a file keeps to itself must not be taken for one
// of another file or of a header: it has a name of its own in its namespace and in those around it.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <string>
#include <vector>

namespace yc::test {
namespace {

namespace fs = std::filesystem;

struct Functions {
  std::map<std::string, std::set<std::string>> own;  // the files, by the function's whole name
  std::set<std::string> public_ones;
};

// What each tells apart by the type that it takes, which its file makes itself.
const std::set<std::string> kOverloads = {"yc::cli::run", "yc::serialize"};

void take(const std::string& name, const std::vector<std::string>& lines, Functions& out) {
  static const std::regex space("namespace ([A-Za-z_:]+) \\{"), unnamed("namespace \\{.*"),
      end("\\}  // namespace.*"), head("[A-Za-z][^(=]*[ &*>]([a-z]\\w*)\\(.*");
  std::vector<std::string> spaces;
  std::smatch found;
  bool is_header = name.ends_with(".h");
  for (const std::string& line : lines) {
    if (std::regex_match(line, found, space)) {
      spaces.push_back(found[1].str() + "::");
    } else if (std::regex_match(line, unnamed)) {
      spaces.push_back("");
    } else if (std::regex_match(line, end) && !spaces.empty()) {
      spaces.pop_back();
    } else if (std::regex_match(line, found, head) && line.rfind("template", 0) != 0) {
      bool is_own = std::find(spaces.begin(), spaces.end(), "") != spaces.end();
      std::string whole;
      for (const std::string& part : spaces) whole += part;
      whole += found[1];
      if (is_own && !is_header) out.own[whole].insert(name);
      if (is_header && !is_own) out.public_ones.insert(whole);
    }
  }
}

// Whether a header declares the name in the function's namespace or one around it.
bool is_public(const Functions& functions, std::string whole) {
  std::string name = whole.substr(whole.rfind(':') + 1);
  while (!functions.public_ones.contains(whole)) {
    std::size_t last = whole.rfind("::");
    std::size_t before = last == std::string::npos || last == 0 ? last : whole.rfind("::", last - 1);
    if (before == std::string::npos) return false;
    whole = whole.substr(0, before + 2) + name;
  }
  return true;
}

std::vector<std::string> clashes_of(const Functions& functions) {
  std::vector<std::string> out;
  for (const auto& [whole, files] : functions.own) {
    if (kOverloads.contains(whole) || (files.size() == 1 && !is_public(functions, whole))) continue;
    std::string line = whole + " in";
    for (const std::string& file : files) line += " " + file;
    out.push_back(line);
  }
  return out;
}

TEST(House, a_function_that_a_file_keeps_to_itself_has_a_name_of_its_own) {
  Functions functions;
  const fs::path root = fs::path(SOURCES) / "src";
  for (const auto& entry : fs::recursive_directory_iterator(root)) {
    if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
    std::ifstream file(entry.path());
    std::vector<std::string> lines;
    for (std::string line; std::getline(file, line);) lines.push_back(line);
    take(fs::relative(entry.path(), root).generic_string(), lines, functions);
  }
  EXPECT_GT(functions.own.size(), 800u);
  EXPECT_GT(functions.public_ones.size(), 400u);
  for (const std::string& clash : clashes_of(functions)) ADD_FAILURE() << clash << ": give it another name";
}

TEST(House, a_name_that_two_files_keep_is_noticed) {
  Functions functions;
  take("text.h", {"namespace yc {", "inline bool is_blank(char c) {", "}  // namespace yc"}, functions);
  take("one.cpp",
       {"namespace yc::one {", "namespace {", "bool is_blank(char c) {", "int level() {", "}  // namespace"},
       functions);
  take("two.cpp",
       {"namespace yc::one {", "namespace {", "int level() {", "int depth() {", "}  // namespace",
        "bool is_open() {"},
       functions);
  EXPECT_EQ(clashes_of(functions),
            (std::vector<std::string>{"yc::one::is_blank in one.cpp", "yc::one::level in one.cpp two.cpp"}));
}

}  // namespace
}  // namespace yc::test
