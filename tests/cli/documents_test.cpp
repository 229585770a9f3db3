// Documents and the program agree: what --help lists is described, and what documents link is there.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <regex>
#include <sstream>

#include "support/workspace.h"

namespace yc::test {
namespace {

namespace fs = std::filesystem;

std::string text_of(const fs::path& path) {
  std::ifstream file(path);
  std::stringstream out;
  out << file.rdbuf();
  return out.str();
}

// README and all pages of docs/.
std::string documents() {
  std::string out = text_of(fs::path(SOURCES) / "README.md");
  for (const auto& page : fs::directory_iterator(fs::path(SOURCES) / "docs")) {
    if (page.path().extension() == ".md") out += text_of(page.path());
  }
  return out;
}

std::vector<std::string> commands() {
  std::string help = Workspace().run({"--help"}).out;
  help = help.substr(help.find("Subcommands:"));
  std::regex line("\n  ([a-z-]+) ");
  std::vector<std::string> out;
  for (std::sregex_iterator at(help.begin(), help.end(), line), end; at != end; ++at) out.push_back((*at)[1]);
  return out;
}

TEST(Documents, describe_every_command_and_option) {
  std::string all = documents();
  std::vector<std::string> names = commands();
  ASSERT_GT(names.size(), 8U);
  for (const std::string& command : names) {
    EXPECT_NE(all.find("`yellow-compass " + command), std::string::npos) << command;
    std::string help = Workspace().run({command, "--help"}).out;
    std::regex option("--[a-z][a-z-]+");
    for (std::sregex_iterator at(help.begin(), help.end(), option), end; at != end; ++at) {
      if (at->str() == "--help") continue;
      EXPECT_NE(all.find(at->str()), std::string::npos) << command << " " << at->str();
    }
  }
}

TEST(Documents, tell_the_statuses_that_help_tells) {
  std::string help = Workspace().run({"--help"}).out;
  for (const char* part :
       {"0 done and verified", "1 findings", "2 usage", "3 not carried out", "4 an I/O failure"})
    EXPECT_NE(help.find(part), std::string::npos) << part;
}

// Identifiers of what stands in the way and of findings are stable, so they are listed.
TEST(Documents, list_every_identifier) {
  std::string all = documents();
  std::regex assigned("\\bid = \"([a-z-]+)\"");
  std::size_t found = 0;
  for (const auto& file : fs::recursive_directory_iterator(fs::path(SOURCES) / "src")) {
    if (file.path().extension() != ".cpp") continue;
    std::string text = text_of(file.path());
    for (std::sregex_iterator at(text.begin(), text.end(), assigned), end; at != end; ++at) {
      EXPECT_NE(all.find("`" + (*at)[1].str() + "`"), std::string::npos) << (*at)[1] << " in " << file.path();
      ++found;
    }
  }
  EXPECT_GT(found, 10U);
}

TEST(Documents, link_only_what_is_there) {
  std::regex link("\\]\\(([^)#:]+)[)#]");
  std::size_t links = 0;
  for (const char* page :
       {"README.md", "ARCHITECTURE.md", "docs/guide.md", "docs/commands.md", "docs/formats.md",
        "docs/tour.md", "docs/checks.md", "docs/configuration.md", "docs/json.md", "docs/journal.md",
        "docs/move-sheet.md", "bench/README.md", "bench/field-trial.md"}) {
    fs::path path = fs::path(SOURCES) / page;
    ASSERT_TRUE(fs::exists(path)) << page;
    std::string text = text_of(path);
    for (std::sregex_iterator at(text.begin(), text.end(), link), end; at != end; ++at) {
      EXPECT_TRUE(fs::exists(path.parent_path() / (*at)[1].str())) << page << " " << (*at)[1];
      ++links;
    }
  }
  EXPECT_GT(links, 20U);
}

// What is made of the program's tables is as the program makes it now.
TEST(Documents, made_by_the_program_are_as_it_makes_them) {
  EXPECT_EQ(text_of(fs::path(SOURCES) / "docs/commands.md"), Workspace().run({"manual", "--markdown"}).out)
      << "run: yellow-compass manual --markdown > docs/commands.md";
  std::string formats = Workspace().run({"manual", "--formats"}).out;
  EXPECT_EQ(text_of(fs::path(SOURCES) / "docs/formats.md"), formats)
      << "run: yellow-compass manual --formats > docs/formats.md";
  EXPECT_EQ(formats.find(" |  |\n"), std::string::npos) << "a format is not described in data/report.words";
}

TEST(Documents, link_every_picture) {
  std::string readme = text_of(fs::path(SOURCES) / "README.md");
  for (const auto& picture : fs::directory_iterator(fs::path(SOURCES) / "docs/screenshots"))
    EXPECT_NE(readme.find(picture.path().filename().string()), std::string::npos) << picture.path();
}

// A folder of the house is described, and none is described that is gone.
TEST(Documents, describe_the_house) {
  std::string architecture = text_of(fs::path(SOURCES) / "ARCHITECTURE.md");
  for (const auto& format : fs::directory_iterator(fs::path(SOURCES) / "src/formats")) {
    if (!format.is_directory()) continue;
    std::string name = "formats/" + format.path().filename().string();
    EXPECT_NE(architecture.find(name), std::string::npos) << name;
  }
  std::regex folder("`(src/)?formats/([a-z_]+)/`");
  for (std::sregex_iterator at(architecture.begin(), architecture.end(), folder), end; at != end; ++at)
    EXPECT_TRUE(fs::is_directory(fs::path(SOURCES) / "src/formats" / (*at)[2].str())) << (*at)[2];
}

// The tests that hold the invariants are there.
TEST(Documents, name_tests_that_exist) {
  std::string tests;
  for (const auto& entry : fs::recursive_directory_iterator(fs::path(SOURCES) / "tests")) {
    if (entry.path().extension() == ".cpp") tests += text_of(entry.path());
  }
  std::size_t named = 0;
  for (const char* document : {"ARCHITECTURE.md", "docs/security.md"}) {
    std::string text = text_of(fs::path(SOURCES) / document);
    std::regex form("`([A-Z][A-Za-z]+)\\.(\\*|[a-z0-9_]+)`");
    for (std::sregex_iterator at(text.begin(), text.end(), form), end; at != end; ++at) {
      std::string suite = (*at)[1], name = (*at)[2];
      std::regex test("TEST(_[FP])?\\(" + suite + "," + (name == "*" ? "" : "\\s*" + name + "\\)"));
      EXPECT_TRUE(std::regex_search(tests, test)) << document << ": " << at->str();
      ++named;
    }
  }
  EXPECT_GT(named, 15u);
}

}  // namespace
}  // namespace yc::test
