// The shape of the house: which floor may include which, and that no format knows another.
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

struct Include {
  std::string file, included;  // relative to src/
};

std::vector<Include> includes() {
  std::vector<Include> out;
  const fs::path root = fs::path(SOURCES) / "src";
  const std::regex line_form("#include \"([^\"]+)\"");
  for (const auto& entry : fs::recursive_directory_iterator(root)) {
    if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
    std::ifstream file(entry.path());
    std::smatch found;
    for (std::string line; std::getline(file, line);) {
      if (std::regex_search(line, found, line_form))
        out.push_back({fs::relative(entry.path(), root).generic_string(), found[1]});
    }
  }
  return out;
}

// "formats/make/make_reader.cpp" gives "make" for the part 1; nothing if there is no such folder.
std::string folder_of(const std::string& path, int part) {
  std::size_t begin = 0;
  for (; part > 0; --part) {
    begin = path.find('/', begin);
    if (begin == std::string::npos) return "";
    ++begin;
  }
  std::size_t end = path.find('/', begin);
  return end == std::string::npos ? "" : path.substr(begin, end - begin);
}

TEST(House, floors_include_only_what_is_below) {
  const std::map<std::string, std::set<std::string>> below = {
      {"base", {}},
      {"tree", {"base"}},
      {"model", {"base", "tree"}},
      {"formats", {"base", "tree", "model", "words"}},
      {"plan", {"base", "tree", "model", "formats", "observe", "words"}},
      {"carry", {"base", "tree", "plan"}},
      {"inspect", {"base", "tree", "model", "formats", "plan", "observe", "words"}},
      {"observe", {"base", "tree", "words"}},
      {"rehearse", {"base", "tree", "formats", "plan", "carry", "observe", "words"}},
      {"report", {"base", "tree", "plan", "carry", "inspect", "observe", "rehearse", "words"}},
      {"serve", {"base", "tree", "formats", "plan", "carry", "inspect", "observe", "report"}},
      {"cli",
       {"base", "tree", "formats", "plan", "carry", "inspect", "observe", "rehearse", "report", "serve",
        "words"}},
  };
  std::size_t seen = 0;
  for (const Include& one : includes()) {
    std::string from = folder_of(one.file, 0), to = folder_of(one.included, 0);
    if (from == to || to.empty()) continue;
    ++seen;
    ASSERT_TRUE(below.contains(from)) << one.file;
    EXPECT_TRUE(below.at(from).contains(to)) << one.file << " includes " << one.included;
  }
  EXPECT_GT(seen, 200u);
}

TEST(House, no_format_includes_another) {
  // What several formats are built from.
  const std::set<std::string> shared = {"capabilities", "shell",       "json",        "values",
                                        "xml",          "glued_paths", "csharp_names"};
  // Still to be taken apart: what one of these says should reach the other through the graph.
  const std::set<std::pair<std::string, std::string>> known = {{"make", "autoconf"},
                                                               {"pages", "styles"},
                                                               {"documented_modules", "python"},
                                                               {"python_settings", "python"},
                                                               {"web_settings", "modules"}};
  std::set<std::pair<std::string, std::string>> met;
  for (const Include& one : includes()) {
    if (folder_of(one.file, 0) != "formats" || folder_of(one.included, 0) != "formats") continue;
    std::string from = folder_of(one.file, 1), to = folder_of(one.included, 1);
    if (from.empty() || to.empty() || from == to || shared.contains(to)) continue;
    EXPECT_TRUE(known.contains({from, to})) << one.file << " includes " << one.included;
    met.emplace(from, to);
  }
  EXPECT_EQ(met, known) << "one that is gone must leave this list";
}

}  // namespace
}  // namespace yc::test
