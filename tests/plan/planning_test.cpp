// Plans on small trees in memory: what is edited, what is refused and why, what is only told.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "plan/config.h"
#include "plan/plan.h"
#include "support/dump.h"
#include "support/plans.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

using Files = TreeFiles;

const std::string kRule = "p: main.o\n\t$(CC) -o $@ $^\n";

TEST(Planning, include_policy_prefers_a_root_then_relative_then_a_new_root) {
  Files files = {{"Makefile", "CPPFLAGS = -Iinc\n" + kRule},
                 {"main.c", "#include \"x.h\"\n"},
                 {"x.h", ""},
                 {"inc/y.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"x.h", "inc/sub/x.h"}})), ElementsAre("main.c: x.h -> sub/x.h"));
  EXPECT_THAT(edits(planned(files, {{"x.h", "other/x.h"}})), ElementsAre("main.c: x.h -> other/x.h"));
  PlanOptions roots;
  roots.include_order = {IncludeForm::new_root};
  EXPECT_THAT(edits(planned(files, {{"x.h", "other/x.h"}}, roots)), ElementsAre("Makefile:  ->  -Iother"));
  PlanOptions relative;
  relative.include_order = {IncludeForm::relative, IncludeForm::root};
  EXPECT_THAT(edits(planned(files, {{"x.h", "inc/sub/x.h"}}, relative)),
              ElementsAre("main.c: x.h -> inc/sub/x.h"));
}

TEST(Planning, includes_keep_their_habit_or_take_a_named_one) {
  Files files = {{"Makefile", "CPPFLAGS = -I. -Iinc\n" + std::string("p: src/main.o\n\t$(CC) -o $@ $^\n")},
                 {"src/main.c", "#include \"../lib/x.h\"\n#include \"lib/y.h\"\n#include \"z.h\"\n"},
                 {"lib/x.h", ""},
                 {"lib/y.h", ""},
                 {"src/z.h", ""}};
  std::vector<std::pair<std::string, std::string>> moves = {
      {"lib/x.h", "inc/x.h"}, {"lib/y.h", "inc/y.h"}, {"src/z.h", "inc/z.h"}};
  auto with = [&](const std::string& order) {
    PlanOptions options;
    options.include_order = *parse_include_order(order, "");
    return edits(planned(files, moves, options));
  };
  std::vector<std::string> kept = {"src/main.c: ../lib/x.h -> ../inc/x.h", "src/main.c: lib/y.h -> inc/y.h"};
  EXPECT_EQ(with("keep"), kept) << "a plain name goes against a search root where one has it";
  EXPECT_EQ(edits(planned(files, moves)), kept) << "and that is what is done where nothing is said";
  EXPECT_THAT(with("relative"),
              ElementsAre("src/main.c: ../lib/x.h -> ../inc/x.h", "src/main.c: lib/y.h -> ../inc/y.h"));
  EXPECT_THAT(with("rooted"), ElementsAre("src/main.c: ../lib/x.h -> x.h", "src/main.c: lib/y.h -> inc/y.h"));
  EXPECT_EQ(include_order_text(*parse_include_order("usual", "")), "usual");
  EXPECT_EQ(include_order_text(*parse_include_order("rooted", "")), "rooted");
  EXPECT_EQ(include_order_text(*parse_include_order("root,relative", "")), "root,relative");
  EXPECT_FALSE(parse_include_order("sideways", ""));
  EXPECT_EQ(parse_config("includes = \"relative\"\n", "f")->include_order.size(), 3U);
  EXPECT_EQ(parse_config("includes = [\"relative\"]\n", "f")->include_order.size(), 1U)
      << "a list is taken as it is";
}

TEST(Planning, a_guessed_header_that_may_be_an_installed_one_is_a_doubt) {
  Files files = {{"Makefile", "p: main.o\n\tcc -o $@ $^\n"},
                 {"main.c", ""},
                 {"include/tide/level.h", ""},
                 {"examples/use.c", "#include <tide/level.h>\n"},
                 {"examples/own.c", "#include \"tide/level.h\"\n"}};
  Plan plan = planned(files, {{"include/tide/level.h", "core/water.h"}});
  EXPECT_FALSE(plan.verified);
  ASSERT_EQ(plan.blockers.size(), 1U);
  EXPECT_EQ(plan.blockers[0].id, "unfollowed");
  EXPECT_TRUE(plan.blockers[0].is_doubt);
  EXPECT_EQ(plan.blockers[0].reason,
            "<tide/level.h> may mean include/tide/level.h, which moves; nothing here compiles this file, so "
            "it is not rewritten");
}

TEST(Planning, a_command_that_takes_all_there_is_may_take_more) {
  Files files = {
      {"check.sh", "scan -- * > report\n"}, {"a.c", ""}, {"b.c", ""}, {"c/d.c", ""}, {"c/e.c", ""}};
  EXPECT_TRUE(planned(files, {{"c/d.c", "d.c"}}).verified);
}

TEST(Planning, a_pattern_rule_of_two_sources_is_told_apart_for_one_product) {
  Files files = {
      {"Makefile", "D = lib\np: main.o level.o\n\tcc -o $@ $^\n%.o: $(D)/%.c $(D)/%.h\n\tcc -c -o $@ $<\n"},
      {"lib/main.c", ""},
      {"lib/main.h", ""},
      {"lib/level.c", ""},
      {"lib/level.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"lib/level.h", "level.h"}})),
              ElementsAre("Makefile:  -> \nlevel.o: $(D)/level.c level.h\n\tcc -c -o $@ $<\n"));
  EXPECT_THAT(edits(planned(files, {{"lib/level.h", "inc/level.h"}, {"lib/level.c", "src/level.c"}})),
              ElementsAre("Makefile:  -> \nlevel.o: src/level.c inc/level.h\n\tcc -c -o $@ $<\n"));
}

TEST(Planning, a_database_follows_and_one_that_a_build_made_is_not_edited) {
  std::string entry =
      "[{\"directory\": \"/t/tide/build\", \"command\": \"cc -I/t/tide/inc -c /t/tide/a.c\", \"file\": "
      "\"/t/tide/a.c\"}]\n";
  Files files = {{"compile_commands.json", entry}, {"a.c", "#include \"x.h\"\n"}, {"inc/x.h", ""}};
  EXPECT_THAT(
      edits(planned(files, {{"a.c", "src/a.c"}})),
      ElementsAre("compile_commands.json: /a.c -> /src/a.c", "compile_commands.json: /a.c -> /src/a.c"));
  EXPECT_THAT(edits(planned(files, {{"inc", "include"}})),
              ElementsAre("compile_commands.json: /inc -> /include"));
  PlanOptions roots;
  roots.include_order = {IncludeForm::new_root};
  Files kept = {
      {"compile_commands.json", entry}, {"a.c", "#include \"x.h\"\n"}, {"inc/x.h", ""}, {"inc/y.h", ""}};
  EXPECT_THAT(edits(planned(kept, {{"inc/x.h", "new/x.h"}}, roots)),
              ElementsAre("compile_commands.json:  ->  -I/t/tide/new"));
}

TEST(Planning, whole_search_root_moves_and_includes_stay) {
  Files files = {{"Makefile", "CPPFLAGS = -Iinc\n" + kRule},
                 {"main.c", "#include <a.h>\n#include <b.h>\n"},
                 {"inc/a.h", ""},
                 {"inc/b.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"inc", "api/public"}})), ElementsAre("Makefile: inc -> api/public"));
}

TEST(Planning, search_root_left_empty_goes) {
  Files files = {{"Makefile", "CPPFLAGS = -Ilib -Iinc\n" + kRule},
                 {"main.c", "#include <a.h>\n"},
                 {"inc/a.h", ""},
                 {"lib/b.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"inc/a.h", "lib/a.h"}})), ElementsAre("Makefile:  -Iinc -> "));
}

TEST(Planning, same_named_headers_are_told_apart) {
  Files files = {{"Makefile", "CPPFLAGS = -Ione -Itwo\n" + kRule},
                 {"main.c", "#include <x.h>\n"},
                 {"one/x.h", "1"},
                 {"two/x.h", "2"}};
  // Were one/x.h to leave its root, <x.h> would silently become two/x.h.
  Plan plan = planned(files, {{"one/x.h", "one/sub/x.h"}});
  EXPECT_THAT(edits(plan), ElementsAre("Makefile: one -> one/sub"));
  Plan capture = planned({{"Makefile", "CPPFLAGS = -Iinc\n" + kRule},
                          {"main.c", "#include <zlib.h>\n"},
                          {"inc/a.h", ""},
                          {"own/zlib.h", ""}},
                         {{"own/zlib.h", "inc/zlib.h"}});
  EXPECT_THAT(reasons(capture), ElementsAre("captured main.c"));
}

TEST(Planning, quoting_and_style_of_a_path_stay) {
  EXPECT_THAT(edits(planned({{"Makefile", "p: ./main.c\n\tcat \"./main.c\" './main.c'\n"}, {"main.c", ""}},
                            {{"main.c", "src/main.c"}})),
              ElementsAre("Makefile: ./main.c -> ./src/main.c", "Makefile: ./main.c -> ./src/main.c ?",
                          "Makefile: ./main.c -> ./src/main.c ?"));
  EXPECT_THAT(
      edits(planned({{"Makefile", "p:\n\tcp -r data/ /tmp\n"}, {"data/x", ""}}, {{"data", "tables"}})),
      ElementsAre("Makefile: data/ -> tables/ ?"));
}

TEST(Planning, byte_order_mark_and_line_ends_stay) {
  Plan plan =
      planned({{"Makefile", kRule}, {"main.c", "\xEF\xBB\xBF#include \"x.h\"\r\nint x;\r\n"}, {"x.h", ""}},
              {{"x.h", "net/x.h"}});
  ASSERT_TRUE(plan.verified);
  EXPECT_EQ(plan.edits.at(at("main.c")).apply("\xEF\xBB\xBF#include \"x.h\"\r\nint x;\r\n"),
            "\xEF\xBB\xBF#include \"net/x.h\"\r\nint x;\r\n");
}

TEST(Planning, folder_whose_files_part_is_refused_where_it_is_named) {
  Files files = {{"Makefile", "all:\n\tcp -r data /tmp\n"}, {"data/a", ""}, {"data/b", ""}};
  EXPECT_THAT(reasons(planned(files, {{"data/a", "x/a"}, {"data/b", "y/b"}})),
              ElementsAre("scattered Makefile"));
}

TEST(Planning, hole_matters_only_if_it_could_reach_what_moves) {
  Files files = {{"Makefile", "V := $(shell uname)\nall:\n\tcp icons/$(V).png out\n"},
                 {"icons/a.png", ""},
                 {"notes/b.txt", ""}};
  EXPECT_THAT(edits(planned(files, {{"notes/b.txt", "notes/c.txt"}})), IsEmpty());
  EXPECT_THAT(reasons(planned(files, {{"icons/a.png", "icons/b.png"}})), ElementsAre("unseen Makefile"));
  PlanOptions accepted;
  accepted.accept_unseen = true;
  EXPECT_TRUE(planned(files, {{"icons/a.png", "icons/b.png"}}, accepted).verified);
  EXPECT_THAT(edits(planned(files, {{"icons", "images"}})), ElementsAre("Makefile: icons -> images ?"));
}

TEST(Planning, a_path_behind_a_variable_in_a_file_of_an_unread_kind_holds_back) {
  Files files = {
      {"deploy.zed", "level = file(\"${path.module}/files/a.txt\") $HERE/files/b.txt ${X}/c.txt\n"},
      {"files/a.txt", ""},
      {"files/b.txt", ""},
      {"c.txt", ""}};
  EXPECT_THAT(reasons(planned(files, {{"files/a.txt", "data/a.txt"}})),
              ElementsAre("unread-mention deploy.zed"));
  EXPECT_THAT(reasons(planned(files, {{"files/b.txt", "data/b.txt"}})),
              ElementsAre("unread-mention deploy.zed"));
  EXPECT_TRUE(planned(files, {{"c.txt", "data/c.txt"}}).verified) << "a name may be any";
}

// As a list of test cases names them. Whether it names them at all, nobody here knows.
TEST(Planning, a_file_of_an_unread_kind_that_names_its_neighbours_holds_back) {
  Files files = {{"test/cases/list.zed", "case <low.nq> <deep/high.nq>; <gone.nq>\n"},
                 {"test/cases/low.nq", ""},
                 {"test/cases/deep/high.nq", ""},
                 {"test/cases/notes.md", "see low.nq\n"},
                 {"test/cases/other.nq", ""},
                 {"top.zed", "case <top.nq>\n"},
                 {"top.nq", ""}};
  for (auto [from, to] : {std::pair("test/cases/low.nq", "test/low.nq"),
                          {"test/cases/low.nq", "test/cases/ebb.nq"},
                          {"test/cases/deep/high.nq", "test/cases/high.nq"},
                          {"test/cases/deep", "test/cases/deeper"}})
    EXPECT_THAT(reasons(planned(files, {{from, to}})), ElementsAre("unread-mention test/cases/list.zed"))
        << to;
  EXPECT_THAT(reasons(planned(files, {{"test/cases/list.zed", "test/list.zed"}})),
              ElementsAre("unread-mention test/cases/list.zed"));
  EXPECT_TRUE(planned(files, {{"test/cases", "test/samples"}}).verified);
  EXPECT_TRUE(planned(files, {{"test/cases/other.nq", "test/other.nq"}}).verified);
  EXPECT_TRUE(planned(files, {{"top.nq", "data/top.nq"}}).verified) << "at the top a name may be any";
}

TEST(Planning, mentions_are_found_for_few_moves_and_for_many) {
  MemoryTree tree = tree_of({{"Makefile", "p: a1.c\n"}, {"a1.c", ""}});
  std::vector<Move> many;
  std::string notes;
  for (int i = 1; i <= 6; ++i) {
    std::string from = "doc" + std::to_string(i) + "/guide.txt";
    tree.write(from, "");
    notes += "see (./" + from + "), not x" + from + " nor " + from + "x\n";
    many.push_back({RelPath::from_normal(from), RelPath::from_normal("to/" + std::to_string(i))});
  }
  tree.write("NOTES", notes);
  for (std::size_t count : {std::size_t{1}, many.size()}) {
    auto moves = MoveSet::make(tree, {many.begin(), many.begin() + static_cast<std::ptrdiff_t>(count)});
    Plan plan = make_plan(tree, std::move(*moves), {});
    std::size_t mentions = 0;
    for (const Notice& notice : plan.notices) mentions += notice.id == "mention";
    EXPECT_EQ(mentions, count);
  }
}

TEST(Planning, file_that_leaves_or_joins_a_folder_installed_whole_is_told) {
  MemoryTree tree = tree_of({{"CMakeLists.txt", "install(DIRECTORY include/ DESTINATION include)\n"},
                             {"include/tide.h", ""},
                             {"include/gauge.h", ""},
                             {"src/own.h", ""}});
  auto told = [&](const std::string& from, const std::string& to) {
    auto moves = MoveSet::make(tree, {{RelPath::from_normal(from), RelPath::from_normal(to)}});
    std::vector<std::string> out;
    for (const Notice& notice : make_plan(tree, std::move(*moves), {}).notices)
      out.push_back(notice.id + " " + notice.message);
    return out;
  };
  EXPECT_THAT(told("include/tide.h", "src/tide.h"), IsEmpty()) << "that is a doubt";
  EXPECT_THAT(told("src/own.h", "include/own.h"),
              ElementsAre("joins-folder takes what is in include; include/own.h joins it"));
  EXPECT_THAT(told("include/tide.h", "include/sub/tide.h"), IsEmpty());
  EXPECT_THAT(told("include", "inc"), IsEmpty());
}

TEST(Planning, a_folder_that_is_copied_under_another_name_is_told) {
  MemoryTree tree =
      tree_of({{"Makefile", "install:\n\tcp -R conf doc $(DESTDIR)/share\n\tcp -R web/. $(DESTDIR)/web\n"},
               {"conf/names.txt", ""},
               {"doc/tide.txt", ""},
               {"web/a.html", ""}});
  auto told = [&](const std::string& from, const std::string& to) {
    auto moves = MoveSet::make(tree, {{RelPath::from_normal(from), RelPath::from_normal(to)}});
    std::vector<std::string> out;
    for (const Notice& notice : make_plan(tree, std::move(*moves), {}).notices)
      out.push_back(notice.id + " " + notice.message);
    return out;
  };
  EXPECT_THAT(told("conf", "settings"),
              ElementsAre("copied-as copies or packs conf under its name, which is settings from now on"));
  EXPECT_THAT(told("conf", "etc/conf"), IsEmpty());
  EXPECT_THAT(told("web", "site"), IsEmpty());
}

TEST(Planning, data_in_a_folder_that_a_script_hands_to_a_program_is_a_doubt) {
  Files files = {{"CMakeLists.txt",
                  "add_executable(t t.c)\nadd_test(NAME t COMMAND t ${CMAKE_CURRENT_SOURCE_DIR}/cases)\n"
                  "add_test(NAME u COMMAND t ${CMAKE_CURRENT_SOURCE_DIR})\n"},
                 {"t.c", ""},
                 {"cases/x.dat", ""},
                 {"cases/y.dat", ""},
                 {"cases/notes.md", ""},
                 {"other/z.dat", ""}};
  auto ids = [&](const std::string& from, const std::string& to) {
    std::vector<std::string> out;
    for (const Blocker& one : planned(files, {{from, to}}).blockers) out.push_back(one.id);
    return out;
  };
  EXPECT_THAT(ids("cases/x.dat", "cases/named.dat"), ElementsAre("handed-folder"));
  EXPECT_THAT(ids("cases/x.dat", "data/x.dat"), ElementsAre("handed-folder"));
  EXPECT_THAT(ids("cases", "data"), IsEmpty()) << "the word follows";
  EXPECT_THAT(ids("cases/notes.md", "docs/notes.md"), IsEmpty()) << "no program opens that";
  EXPECT_THAT(ids("other/z.dat", "data/z.dat"), IsEmpty()) << "all of the tree is in the script's own folder";
}

TEST(Planning, file_that_would_not_be_installed_any_more_is_a_doubt) {
  Files files = {{"CMakeLists.txt",
                  "install(DIRECTORY include/ DESTINATION include PATTERN internal EXCLUDE)\n"
                  "install(DIRECTORY data DESTINATION share FILES_MATCHING PATTERN *.txt REGEX [.]csv$)\n"},
                 {"include/tide.h", ""},
                 {"include/internal/own.h", ""},
                 {"data/a/gauges.txt", ""},
                 {"data/levels.csv", ""},
                 {"data/notes.md", ""}};
  auto leaves = [&](const std::string& path) {
    Plan plan = planned(files, {{path, "src/" + path.substr(path.rfind('/') + 1)}});
    return std::any_of(plan.blockers.begin(), plan.blockers.end(),
                       [](const Blocker& one) { return one.id == "uninstalled" && one.is_doubt; });
  };
  EXPECT_TRUE(leaves("include/tide.h"));
  EXPECT_FALSE(leaves("include/internal/own.h")) << "that was not installed";
  EXPECT_TRUE(leaves("data/a/gauges.txt"));
  EXPECT_TRUE(leaves("data/levels.csv"));
  EXPECT_FALSE(leaves("data/notes.md"));
  EXPECT_TRUE(planned(files, {{"include/tide.h", "include/tide/tide.h"}}).verified);
}

TEST(Planning, script_that_somebody_starts_is_told_when_it_moves) {
  MemoryTree tree = tree_of({{"Makefile", "p: main.c\n\t$(MAKE) -C sub\n"},
                             {"main.c", ""},
                             {"sub/Makefile", "q: x.c\n"},
                             {"sub/x.c", ""}});
  auto told = [&](const std::string& from, const std::string& to) {
    auto moves = MoveSet::make(tree, {{RelPath::from_normal(from), RelPath::from_normal(to)}});
    std::vector<std::string> out;
    for (const Notice& notice : make_plan(tree, std::move(*moves), {}).notices)
      out.push_back(notice.id + " " + notice.file.str() + " " + notice.message);
    return out;
  };
  EXPECT_THAT(
      told("Makefile", "build/Makefile"),
      ElementsAre(
          "start-moves Makefile is read by no other script; what starts it must name build/Makefile"));
  EXPECT_THAT(told("sub", "lower"), IsEmpty());
}

TEST(Planning, mentions_are_told_and_left) {
  Plan plan = planned({{"README", "See docs/guide.txt, or ./docs/guide.txt.\nNot mydocs/guide.txt.old."},
                       {"docs/guide.txt", ""}},
                      {{"docs/guide.txt", "manual/guide.txt"}});
  EXPECT_THAT(edits(plan), IsEmpty());
  EXPECT_THAT(told(plan), ElementsAre("mention README mentions docs/guide.txt",
                                      "mention README mentions docs/guide.txt"));
}

TEST(Planning, several_moves_are_one_plan) {
  Files files = {{"Makefile", "p: a.o b.o\n\t$(CC) -o $@ $^\n"},
                 {"a.c", "#include \"b.h\"\n"},
                 {"b.c", "#include \"b.h\"\n"},
                 {"b.h", ""}};
  EXPECT_THAT(edits(planned(files, {{"a.c", "src/a.c"}, {"b.c", "src/b.c"}, {"b.h", "src/b.h"}})),
              ElementsAre("Makefile: a -> src/a", "Makefile: b -> src/b"));
}

TEST(Planning, explanation_tells_the_rounds) {
  std::string text;
  PlanOptions options;
  options.explain = [&](const std::string& line) { text += line + "\n"; };
  planned({{"Makefile", kRule}, {"main.c", ""}}, {{"main.c", "src/main.c"}}, options);
  EXPECT_THAT(text, ::testing::HasSubstr("round 1: 0 edits in force"));
  EXPECT_THAT(text, ::testing::HasSubstr("Makefile bytes 3-7: \"src/main\""));
}

// All trees of two headers and one source in three folders, and all moves of one of them to any of the
// folders.
TEST(Planning, every_move_in_a_small_world_keeps_every_include) {
  const std::vector<std::string> folders = {"", "d/", "d/e/"};
  int moved = 0;
  for (const std::string& source : folders) {
    for (const std::string& header : folders) {
      for (const std::string root : {".", "d"}) {
        for (const char* moving : {"s.c", "h.h"}) {
          for (const std::string& to : folders) {
            std::string from = (std::string(moving) == "s.c" ? source : header) + moving;
            if (from == to + moving) continue;
            std::string relative = relative_text(at(source + "s.c").parent(), at(header + "h.h"));
            Files files = {
                {"Makefile", "SRC = " + source + "s.c\np: $(SRC)\n\t$(CC) -I" + root + " -o $@ $(SRC)\n"},
                {source + "s.c", "#include \"" + relative + "\"\n"},
                {header + "h.h", ""},
                {"d/keep", ""}};
            Plan plan = planned(files, {{from, to + moving}});
            ASSERT_TRUE(plan.verified) << from << " -> " << to;
            MemoryTree tree = tree_of(files);
            RelPath new_source = plan.moves.map_file(at(source + "s.c"));
            auto edited = plan.edits.find(at(source + "s.c"));
            std::string text =
                edited == plan.edits.end() ? files[1].second : edited->second.apply(files[1].second);
            std::string path = text.substr(10, text.size() - 12);
            RelPath wanted = plan.moves.map_file(at(header + "h.h"));
            bool found = RelPath::resolve(new_source.parent(), path) == wanted ||
                         RelPath::resolve(at(root == "." ? "" : root), path) == wanted;
            EXPECT_TRUE(found) << from << " -> " << to << ": " << text;
            ++moved;
          }
        }
      }
    }
  }
  EXPECT_EQ(moved, 72);
}

TEST(Config, keys_and_errors) {
  auto good =
      parse_config("protected = [\"vendor\", \"./a/../b\"]\nincludes = [\"new-root\", \"root\"]\n", "f");
  ASSERT_TRUE(good);
  EXPECT_EQ(good->guarded, (std::vector<RelPath>{at("vendor"), at("b")}));
  EXPECT_EQ(include_order_text(good->include_order), "new-root,root");
  const std::vector<std::pair<std::string, std::string>> bad = {{"x = 1", "f:1:5"},
                                                                {"protected = 1", "f:1:13"},
                                                                {"protected = [1]", "f:1:13"},
                                                                {"includes = [\"sideways\"]", "f:1:12"},
                                                                {"protected = [\"../x\"]", "f:1:13"},
                                                                {"= broken", "f:1:1"}};
  for (const auto& [text, place] : bad) {
    auto config = parse_config(text, "f");
    ASSERT_FALSE(config) << text;
    EXPECT_EQ(config.error().place, place) << text;
  }
}

TEST(Planning, what_a_command_took_as_one_of_all_is_taken_with_its_folder) {
  Files files = {{"check.sh", "scan -- * > report\n"}, {"a.c", ""}, {"b.c", ""}, {"c/d.c", ""}};
  Plan plan = planned(files, {{"a.c", "parts/a.c"}, {"c/d.c", "parts/c/d.c"}});
  EXPECT_TRUE(plan.verified);
  EXPECT_THAT(told(plan), ElementsAre("goes-deeper check.sh \"*\" took a.c by itself, and takes it with the "
                                      "folder that it goes into from now on"));
  // A command that passes over folders would leave it out.
  TreeFiles copied = {{"install.sh", "cp * /srv/tide\n"}, {"a.c", ""}, {"b.c", ""}};
  EXPECT_THAT(reasons(planned(copied, {{"a.c", "parts/a.c"}})), ElementsAre("drift install.sh"));
  copied[0].second = "cp -r * /srv/tide\n";
  EXPECT_TRUE(planned(copied, {{"a.c", "parts/a.c"}}).verified);
  // What such a pattern does not reach at all any more is named beside it.
  Plan beside =
      planned({{"tools/check.sh", "cd tools\nscan -- * > report\n"}, {"tools/a.c", ""}, {"tools/b.c", ""}},
              {{"tools/a.c", "src/a.c"}});
  EXPECT_TRUE(beside.verified);
  ASSERT_EQ(beside.edit_list.size(), 1U);
  EXPECT_EQ(beside.edit_list[0].after, " ../src/*");
}

}  // namespace
}  // namespace yc::test
