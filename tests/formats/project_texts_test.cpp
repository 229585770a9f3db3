// The texts of project files of all kinds: escapes, expressions, lists, and where the parts stand.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/containers/container_file.h"
#include "formats/csharp_names/csharp_names.h"
#include "formats/mirrored_folders.h"
#include "formats/msbuild/project_text.h"
#include "formats/property_lists/plist_text.h"
#include "formats/property_lists/project_settings.h"
#include "formats/solutions/solution_text.h"

namespace yc {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::UnorderedElementsAre;

Span whole(std::string_view bytes) {
  return {0, static_cast<std::uint32_t>(bytes.size())};
}

std::vector<std::string> texts(const std::vector<TracedText>& all) {
  std::vector<std::string> out;
  for (const TracedText& text : all) out.push_back(text.text());
  return out;
}

TEST(ProjectText, entities_separators_and_percent_signs) {
  auto decoded = [](std::string_view bytes) {
    return msbuild::decoded(bytes, whole(bytes), 0, msbuild::kBackslash).text();
  };
  EXPECT_EQ(decoded("src\\net\\a.c"), "src/net/a.c");
  EXPECT_EQ(decoded("src/net/a.c"), "src/net/a.c");
  EXPECT_EQ(decoded("a&amp;b\\c&lt;d"), "a&b/c<d");
  EXPECT_EQ(decoded("a%20b.c"), "a b.c");
  EXPECT_EQ(decoded("100%"), "100%");
}

TEST(ProjectText, is_written_as_it_was) {
  using msbuild::written;
  EXPECT_EQ(written("src/net/a.c", msbuild::kBackslash), "src\\net\\a.c");
  EXPECT_EQ(written("src/net/a.c", msbuild::kSlash), "src/net/a.c");
  EXPECT_EQ(written("a&b.c", msbuild::kSlash), "a&amp;b.c");
  for (const char* text : {"src/a b.c", "a&b/c'd.c", "a;b.c", "100%.c", "(a).c"}) {
    auto there = written(text, msbuild::kBackslash);
    if (!there) continue;  // what cannot be said is not written
    EXPECT_EQ(msbuild::decoded(*there, whole(*there), 0, msbuild::kBackslash).text(), text);
  }
}

TEST(ProjectText, expressions_have_the_values_that_are_given) {
  std::string_view bytes = "$(Root)\\a.c;%(Inherited);@(Items)";
  auto value_of = [](char sign, std::string_view inner) -> std::optional<msbuild::Texts> {
    if (sign == '$' && inner == "Root")
      return msbuild::Texts{TracedText::plain("../lib"), TracedText::plain("../core")};
    return std::nullopt;
  };
  msbuild::Texts all =
      msbuild::expanded(msbuild::decoded(bytes, whole(bytes), 0, msbuild::kBackslash), value_of);
  ASSERT_EQ(all.size(), 2U) << "one for each value";
  std::vector<TracedText> words = msbuild::list_words(all[0]);
  ASSERT_EQ(words.size(), 3U);
  EXPECT_EQ(words[0].text(), "../lib/a.c");
  EXPECT_TRUE(words[1].has_hole());
  EXPECT_TRUE(words[2].has_hole());
}

TEST(ProjectText, values_that_multiply_are_given_up) {
  std::string bytes;
  for (int i = 0; i < 20; ++i) bytes += "$(A)";
  auto two = [](char, std::string_view) -> std::optional<msbuild::Texts> {
    return msbuild::Texts{TracedText::plain("x"), TracedText::plain("y")};
  };
  EXPECT_LE(msbuild::expanded(msbuild::decoded(bytes, whole(bytes), 0, msbuild::kSlash), two).size(),
            msbuild::kMostTexts);
}

TEST(ProjectText, lists_lose_blanks_and_quotes) {
  EXPECT_THAT(texts(msbuild::list_words(TracedText::literal(" a ;\"b c\"; ;d", 0, {0, 13}))),
              ElementsAre("a", "b c", "d"));
}

TEST(ProjectText, patterns) {
  using msbuild::takes_in;
  EXPECT_TRUE(takes_in("src/*.cs", "src/a.cs"));
  EXPECT_TRUE(takes_in("SRC/*.CS", "src/a.cs")) << "letters are alike in both cases";
  EXPECT_FALSE(takes_in("src/*.cs", "src/net/a.cs"));
  EXPECT_TRUE(takes_in("src/**/*.cs", "src/net/tide/a.cs"));
  EXPECT_TRUE(takes_in("**/*.cs", "a.cs"));
  EXPECT_FALSE(takes_in("src/?.cs", "src/ab.cs"));
}

TEST(PropertyListText, values_with_their_places) {
  std::string text =
      "// !$*UTF8*$!\n{ a = b; \"c d\" = ( 1, \"e\\\"f\", ); /* note */ g = { h = <0a>; }; }\n";
  plist::Parsed parsed = plist::parse(text);
  ASSERT_TRUE(parsed.value);
  EXPECT_EQ(parsed.value->get_text("a"), "b");
  const plist::Value* list = parsed.value->get("c d");
  ASSERT_TRUE(list);
  ASSERT_EQ(list->elements.size(), 2U);
  EXPECT_EQ(list->elements[1].text, "e\"f");
  EXPECT_TRUE(list->elements[1].quoted);
  const plist::Value* first = parsed.value->get("a");
  EXPECT_EQ(text.substr(first->span.begin, first->span.size()), "b");
}

TEST(PropertyListText, garbled_ones_tell_where) {
  for (const char* text : {"{ a = ; }", "{ a = b", "( 1, 2", "{ \"a = b; }", "<<<<<<< HEAD\n{ }\n"}) {
    plist::Parsed parsed = plist::parse(text);
    EXPECT_FALSE(parsed.value) << text;
    EXPECT_LE(parsed.stopped, std::string(text).size());
  }
  EXPECT_FALSE(plist::parse(std::string(100000, '(')).value) << "nested too deep";
}

TEST(PropertyListText, is_written_with_quotes_where_it_needs_them) {
  EXPECT_EQ(plist::written("src/a.c", plist::kBare), "src/a.c");
  EXPECT_EQ(plist::written("a b.c", plist::kBare), "\"a b.c\"");
  EXPECT_EQ(plist::written("a\"b", plist::kQuoted), "a\\\"b");
}

TEST(ProjectSettings, words_and_variables) {
  auto words = [](const std::string& text) {
    return texts(
        plist::setting_words(TracedText::literal(text, 0, {0, static_cast<std::uint32_t>(text.size())})));
  };
  EXPECT_THAT(words("a \"b c\" d"), ElementsAre("a", "b c", "d"));
  EXPECT_THAT(words(""), IsEmpty());
  EXPECT_EQ(plist::setting_kind("HEADER_SEARCH_PATHS"), plist::SettingKind::header_roots);
  EXPECT_EQ(plist::setting_kind("INFOPLIST_FILE"), plist::SettingKind::path);
}

TEST(SolutionText, entries_and_nestings) {
  std::string text =
      "Microsoft Visual Studio Solution File, Format Version 12.00\r\n"
      "Project(\"{2150E333-8FDC-42A3-9474-1A3956D46DE8}\") = \"src\", \"src\", "
      "\"{AAAAAAAA-0000-0000-0000-000000000000}\"\r\nEndProject\r\n"
      "Project(\"{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}\") = \"Tide\", \"src\\Tide\\Tide.csproj\", "
      "\"{bbbbbbbb-0000-0000-0000-000000000000}\"\r\nEndProject\r\n"
      "Global\r\n\tGlobalSection(NestedProjects) = preSolution\r\n"
      "\t\t{BBBBBBBB-0000-0000-0000-000000000000} = "
      "{AAAAAAAA-0000-0000-0000-000000000000}\r\n\tEndGlobalSection\r\nEndGlobal\r\n";
  solutions::Solution found = solutions::read_solution(text);
  ASSERT_EQ(found.entries.size(), 2U);
  EXPECT_TRUE(found.entries[0].is_folder());
  EXPECT_FALSE(found.entries[1].is_folder());
  EXPECT_EQ(text.substr(found.entries[1].path_span.begin, found.entries[1].path_span.size()),
            "src\\Tide\\Tide.csproj");
  ASSERT_EQ(found.nestings.size(), 1U);
  EXPECT_EQ(found.nestings[0].child, "{BBBBBBBB-0000-0000-0000-000000000000}");
  EXPECT_EQ(found.nestings[0].parent, "{AAAAAAAA-0000-0000-0000-000000000000}");
  EXPECT_GT(found.nestings_end, 0U);
  EXPECT_THAT(solutions::read_solution("no solution at all").entries, IsEmpty());
  EXPECT_THAT(solutions::read_solution("Project(\"{").entries, IsEmpty());
}

TEST(ContainerFile, sources_runs_and_what_is_none) {
  std::string text =
      "FROM base AS build\nCOPY --chown=a:b a.txt \\\n  b/ /app/\nADD https://x.example/y.tgz /\nADD [\"c "
      "d.txt\", \"/x\"]\n"
      "COPY --from=build /out /in\nRUN --mount=type=bind,source=tools,target=/t make -C b\nCMD [\"sh\", "
      "\"b/run.sh\"]\n# COPY e.txt /\n";
  containers::ContainerFile found = containers::read_container_file(text, 0);
  std::vector<std::string> sources;
  for (const containers::Source& source : found.sources) sources.push_back(source.text.text());
  EXPECT_THAT(sources, UnorderedElementsAre("a.txt", "b/", "c d.txt", "tools"));
  EXPECT_TRUE(containers::is_container_file("Dockerfile"));
  EXPECT_TRUE(containers::is_container_file("Dockerfile.dev"));
  EXPECT_FALSE(containers::is_container_file("Dockerfiles"));
}

TEST(Namespaces, declared_and_used) {
  csharp::Namespaces found = csharp::namespaces_of(
      "using Saltmarsh.Tides;\nusing static Saltmarsh.Units.Metre;\n// using Other;\nnamespace "
      "Saltmarsh.Desk {\n"
      "  public class Members { string s = \"namespace No { }\"; }\n}\n");
  EXPECT_THAT(found.declared, ElementsAre("Saltmarsh.Desk"));
  EXPECT_TRUE(found.used.contains("Saltmarsh.Tides"));
  EXPECT_FALSE(found.used.contains("Other"));
  EXPECT_TRUE(found.types.contains("Members"));
}

TEST(MirroredFolders, follow_where_they_mirrored) {
  auto now = [](const std::string& shown, const std::string& from, const std::string& to) {
    return mirrored(shown, RelPath::from_normal(from), RelPath::from_normal(to));
  };
  EXPECT_EQ(now("net", "src/net/a.c", "src/water/a.c"), "water");
  EXPECT_EQ(now("Source Files", "src/net/a.c", "src/water/a.c"), "Source Files") << "it mirrored nothing";
  EXPECT_EQ(now("net\\tide", "src/net/tide/a.c", "src/net/wave/a.c"), "net\\wave");
  EXPECT_EQ(identifier_of("water"), identifier_of("water"));
  EXPECT_NE(identifier_of("water"), identifier_of("wave"));
  EXPECT_EQ(identifier_of("water").size(), 38U);
}

}  // namespace
}  // namespace yc
