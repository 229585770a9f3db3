// What a server answers, what it leaves alone, and what it records.
#include "serve/server.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>

#include "carry/recovery.h"
#include "serve/framing.h"
#include "session.h"
#include "support/own_state.h"

namespace yc::test {
namespace {

using Files = std::vector<std::pair<std::string, std::string>>;

const Files kStation = {{"Makefile", "station: main.c level.c\n\tcc -o $@ main.c level.c\n"},
                        {"main.c", "#include \"level.h\"\nint main(void) { return level(); }\n"},
                        {"level.c", "#include \"level.h\"\nint level(void) { return 0; }\n"},
                        {"level.h", "int level(void);\n"}};

std::string text_of(const EditorSession& session, const std::string& path) {
  std::ifstream file(session.tree.path() + "/" + path, std::ios::binary);
  return {(std::istreambuf_iterator<char>(file)), {}};
}

json place(int line, int character) {
  return {{"line", line}, {"character", character}};
}

json at(const EditorSession& session, const std::string& path, int line, int character) {
  return {{"textDocument", {{"uri", session.uri(path)}}}, {"position", place(line, character)}};
}

Result<Recovered> undo_in(const EditorSession& session) {
  const std::string& root = session.tree.path();
  DiskFileSystem disk(writable_folders(root));
  return undo(disk, {root, state_folder(root), own_state()});
}

TEST(Serving, a_rename_edits_who_names_the_file_and_can_be_undone) {
  EditorSession session(kStation);
  auto before = session.tree.contents();
  json answer = session.rename("level.h", "include/level.h");
  ASSERT_TRUE(answer.contains("result")) << answer;
  ASSERT_TRUE(answer["result"].is_object()) << answer;
  session.apply(answer["result"]);
  session.move_on_disk("level.h", "include/level.h");
  EXPECT_EQ(text_of(session, "main.c"), "#include \"include/level.h\"\nint main(void) { return level(); }\n");
  session.tell(
      "workspace/didRenameFiles",
      {{"files",
        json::array({{{"oldUri", session.uri("level.h")}, {"newUri", session.uri("include/level.h")}}})}});
  EXPECT_TRUE(session.end());
  auto undone = undo_in(session);
  ASSERT_TRUE(undone) << undone.error().place << undone.error().message;
  EXPECT_EQ(session.tree.contents(), before);
}

TEST(Serving, a_folder_moves_whole) {
  EditorSession session(Files{{"Makefile", "all:\n\tcc -Isrc/net -c src/net/radio.c\n"},
                              {"src/net/radio.c", "#include <radio.h>\n"},
                              {"src/net/radio.h", "\n"}});
  json answer = session.rename("src/net", "src/link");
  ASSERT_TRUE(answer["result"].is_object()) << answer;
  const json& steps = answer["result"]["documentChanges"];
  ASSERT_EQ(steps.size(), 1u);
  EXPECT_EQ(steps[0]["edits"].size(), 2u) << steps;
  EXPECT_EQ(steps[0]["edits"][0]["annotationId"], "certain");
}

TEST(Serving, unsaved_texts_are_what_counts) {
  EditorSession session(kStation);
  // The editor has the include on another line, and one character further, than the disk has.
  session.open("main.c", "\n #include \"level.h\"\nint main(void) { return level(); }\n");
  json answer = session.rename("level.h", "include/level.h");
  ASSERT_TRUE(answer["result"].is_object()) << answer;
  bool any = false;
  for (const json& step : answer["result"]["documentChanges"]) {
    if (step["textDocument"]["uri"] != session.uri("main.c")) continue;
    any = true;
    EXPECT_EQ(step["textDocument"]["version"], 1);
    EXPECT_EQ(step["edits"][0]["range"]["start"], place(1, 11));
  }
  EXPECT_TRUE(any) << answer;
  EXPECT_EQ(text_of(session, "main.c"), kStation[1].second);
}

TEST(Serving, the_record_waits_until_all_is_saved) {
  EditorSession session(kStation);
  session.open("main.c", kStation[1].second);
  json edit = session.rename("level.h", "include/level.h")["result"];
  session.move_on_disk("level.h", "include/level.h");
  session.tell(
      "workspace/didRenameFiles",
      {{"files",
        json::array({{{"oldUri", session.uri("level.h")}, {"newUri", session.uri("include/level.h")}}})}});
  session.ask("textDocument/hover", at(session, "main.c", 0, 0));
  EXPECT_FALSE(undo_in(session));  // nothing is recorded yet
  session.apply(edit);
  session.tell("textDocument/didSave", {{"textDocument", {{"uri", session.uri("main.c")}}}});
  EXPECT_TRUE(session.end());
  EXPECT_TRUE(undo_in(session));
}

TEST(Serving, what_does_not_verify_is_refused_with_the_place) {
  EditorSession session(Files{{"Makefile", "SRC = $(shell ./list)\nall:\n\tcc -o station parts/$(SRC).c\n"},
                              {"parts/ebb.c", "int main(void) { return 1; }\n"},
                              {"parts/level.c", "int main(void) { return 0; }\n"}});
  json answer = session.rename("parts/level.c", "other/level.c");
  ASSERT_TRUE(answer.contains("error")) << answer;
  EXPECT_THAT(answer["error"]["message"].get<std::string>(), testing::HasSubstr("Makefile:3"));
  json told = session.wait_for("window/showMessageRequest");
  ASSERT_TRUE(told.is_object());
  session.answer(told, told["params"]["actions"][0]);
  json shown = session.wait_for("window/showDocument");
  ASSERT_TRUE(shown.is_object());
  EXPECT_THAT(shown["params"]["uri"].get<std::string>(), testing::HasSubstr("-why.txt"));
}

TEST(Serving, files_out_of_the_tree_and_unknown_ones_are_left_alone) {
  EditorSession session(kStation);
  EXPECT_TRUE(session.rename("nothing.c", "src/nothing.c")["result"].is_null());
  EXPECT_TRUE(session.rename("level.h", "../level.h").contains("error"));
  EXPECT_TRUE(session.rename("level.h", "main.c").contains("error"));
}

TEST(Serving, links_definitions_references_and_hovers) {
  EditorSession session(kStation);
  json links = session.ask("textDocument/documentLink",
                           {{"textDocument", {{"uri", session.uri("main.c")}}}})["result"];
  ASSERT_EQ(links.size(), 1u);
  EXPECT_EQ(links[0]["target"], session.uri("level.h"));
  EXPECT_EQ(links[0]["range"], json({{"start", place(0, 10)}, {"end", place(0, 17)}}));
  json found = session.ask("textDocument/definition", at(session, "Makefile", 0, 18))["result"];
  ASSERT_EQ(found.size(), 1u) << found;
  EXPECT_EQ(found[0]["uri"], session.uri("level.c"));
  json params = at(session, "level.h", 0, 0);
  params["context"] = {{"includeDeclaration", true}};
  json users = session.ask("textDocument/references", params)["result"];
  ASSERT_EQ(users.size(), 2u) << users;
  json hover = session.ask("textDocument/hover", at(session, "main.c", 0, 12))["result"];
  EXPECT_THAT(hover["contents"]["value"].get<std::string>(), testing::HasSubstr("leads to level.h")) << hover;
  EXPECT_TRUE(session.ask("textDocument/hover", at(session, "main.c", 1, 2))["result"].is_null());
}

TEST(Serving, findings_come_by_themselves_and_go_with_their_cause) {
  EditorSession session(Files{{"Makefile", "all:\n\tcc -c src/main.c\n"},
                              {"src/main.c", "#include \"lib/level.h\"\n"},
                              {"src/level.h", "\n"}});
  json told = session.wait_for("textDocument/publishDiagnostics");
  ASSERT_TRUE(told.is_object());
  EXPECT_EQ(told["params"]["uri"], session.uri("src/main.c"));
  EXPECT_EQ(told["params"]["diagnostics"][0]["code"], "dangling");
  session.open("src/main.c", "#include \"level.h\"\n");
  told = session.wait_for("textDocument/publishDiagnostics");
  ASSERT_TRUE(told.is_object());
  EXPECT_TRUE(told["params"]["diagnostics"].empty()) << told;
}

TEST(Serving, a_finding_is_mended_by_a_code_action) {
  EditorSession session(Files{{"Makefile", "all:\n\tcc -c src/main.c\n"},
                              {"src/main.c", "#include \"lib/level.h\"\n"},
                              {"src/level.h", "\n"}});
  json params = {{"textDocument", {{"uri", session.uri("src/main.c")}}},
                 {"range", {{"start", place(0, 12)}, {"end", place(0, 12)}}},
                 {"context", {{"diagnostics", json::array()}}}};
  json actions = session.ask("textDocument/codeAction", params)["result"];
  ASSERT_FALSE(actions.empty());
  EXPECT_EQ(actions[0]["kind"], "quickfix");
  session.ask("workspace/executeCommand", actions[0]["command"]);
  json applied = session.wait_for("workspace/applyEdit");
  ASSERT_TRUE(applied.is_object());
  session.apply(applied["params"]["edit"]);
  EXPECT_EQ(text_of(session, "src/main.c"), "#include \"level.h\"\n");
}

TEST(Serving, a_specifier_is_spelled_by_its_alias_and_back) {
  EditorSession session(
      Files{{"tsconfig.json",
             "{ \"compilerOptions\": { \"baseUrl\": \".\", \"paths\": { \"@/*\": [\"src/*\"] } } }\n"},
            {"src/charts/tide.ts", "import { level } from '../level';\nimport { ebb } from './ebb';\n"},
            {"src/charts/ebb.ts", "export const ebb = 1;\n"},
            {"src/level.ts", "export const level = 1;\n"}});
  json params = {{"textDocument", {{"uri", session.uri("src/charts/tide.ts")}}},
                 {"range", {{"start", place(0, 25)}, {"end", place(0, 25)}}},
                 {"context", {{"diagnostics", json::array()}}}};
  json actions = session.ask("textDocument/codeAction", params)["result"];
  ASSERT_EQ(actions.size(), 1u) << actions;
  EXPECT_EQ(actions[0]["title"], "Spell by an alias");
  session.ask("workspace/executeCommand", actions[0]["command"]);
  json applied = session.wait_for("workspace/applyEdit");
  ASSERT_TRUE(applied.is_object());
  session.answer(applied, {{"applied", true}});
  session.apply(applied["params"]["edit"]);
  EXPECT_EQ(text_of(session, "src/charts/tide.ts"),
            "import { level } from '@/level';\nimport { ebb } from './ebb';\n");
}

TEST(Serving, paths_are_completed_as_the_place_spells_them) {
  EditorSession session(Files{{"Makefile", "all: src/ma\n\tcc src/main.c\n"},
                              {"src/main.c", "#include \"net/\"\n#include \"level.h\"\n"},
                              {"src/level.h", "\n"},
                              {"src/net/radio.h", "\n"},
                              {"src/net/radio.c", "\n"},
                              {"web/app.ts", "import { a } from './a';\nimport { b } from './';\n"},
                              {"web/a.ts", "export const a = 1;\n"},
                              {"web/b.ts", "export const b = 1;\n"}});
  json found = session.ask("textDocument/completion", at(session, "src/main.c", 0, 14))["result"];
  ASSERT_TRUE(found.is_object());
  ASSERT_EQ(found["items"].size(), 1u) << found;
  EXPECT_EQ(found["items"][0]["textEdit"]["newText"], "radio.h");
  EXPECT_EQ(found["items"][0]["textEdit"]["range"], json({{"start", place(0, 14)}, {"end", place(0, 14)}}));
  found = session.ask("textDocument/completion", at(session, "web/app.ts", 1, 21))["result"];
  ASSERT_TRUE(found.is_object());
  std::set<std::string> labels;
  for (const json& item : found["items"]) labels.insert(item["label"]);
  EXPECT_EQ(labels, (std::set<std::string>{"a", "b"})) << found;
}

TEST(Serving, a_move_that_nobody_asked_about_is_offered_to_be_mended) {
  EditorSession session(kStation);
  session.ask("textDocument/hover", at(session, "main.c", 0, 12));  // it has been read
  session.move_on_disk("level.h", "include/level.h");
  session.tell("workspace/didChangeWatchedFiles",
               {{"changes", json::array({{{"uri", session.uri("level.h")}, {"type", 3}},
                                         {{"uri", session.uri("include/level.h")}, {"type", 1}}})}});
  json offered = session.wait_for("window/showMessageRequest");
  ASSERT_TRUE(offered.is_object());
  EXPECT_THAT(offered["params"]["message"].get<std::string>(),
              testing::HasSubstr("level.h went to include/level.h"));
  session.answer(offered, {{"title", "Mend"}});
  json applied = session.wait_for("workspace/applyEdit");
  ASSERT_TRUE(applied.is_object());
  session.apply(applied["params"]["edit"]);
  session.answer(applied, {{"applied", true}});
  EXPECT_EQ(text_of(session, "level.c"), "#include \"include/level.h\"\nint level(void) { return 0; }\n");
}

TEST(Serving, a_cancelled_request_is_answered_as_such) {
  EditorSession session(kStation);
  session.tell("$/cancelRequest", {{"id", 1002}});  // the next one
  json answer = session.rename("level.h", "include/level.h");
  EXPECT_EQ(answer["error"]["code"], -32800) << answer;
  EXPECT_TRUE(session.rename("level.h", "include/level.h").contains("result"));
}

TEST(Serving, what_is_no_request_is_answered_as_such) {
  EditorSession session(kStation);
  EXPECT_EQ(session.ask("tide/level", json::object())["error"]["code"], -32601);
  EXPECT_EQ(session.ask("textDocument/hover", json::object())["error"]["code"], -32602);
  EXPECT_EQ(session.ask("textDocument/hover", {{"textDocument", 7}})["error"]["code"], -32602);
  EXPECT_EQ(session.ask("initialize", json::object())["error"]["code"], -32600);
  session.send("garbage\r\n\r\n");
  session.send(serve::framed("{"));
  session.send(serve::framed("[]"));
  session.tell("textDocument/didChange", {{"textDocument", "no"}});
  EXPECT_TRUE(session.ask("textDocument/hover", at(session, "main.c", 0, 12))["result"].is_object());
  EXPECT_TRUE(session.end());
}

TEST(Serving, folders_come_and_go) {
  EditorSession session(kStation);
  ScratchFolder more;
  more.write("a.c", "#include \"b.h\"\n");
  more.write("b.h", "\n");
  std::string folder = "file://" + more.path();
  json params = {{"textDocument", {{"uri", folder + "/a.c"}}}};
  EXPECT_TRUE(session.ask("textDocument/documentLink", params)["result"].is_null());
  session.tell(
      "workspace/didChangeWorkspaceFolders",
      {{"event",
        {{"added", json::array({{{"uri", folder}, {"name", "more"}}})}, {"removed", json::array()}}}});
  EXPECT_EQ(session.ask("textDocument/documentLink", params)["result"].size(), 1u);
  session.tell(
      "workspace/didChangeWorkspaceFolders",
      {{"event",
        {{"removed", json::array({{{"uri", folder}, {"name", "more"}}})}, {"added", json::array()}}}});
  EXPECT_TRUE(session.ask("textDocument/documentLink", params)["result"].is_null());
}

TEST(Serving, an_editor_that_can_do_little_is_served_too) {
  EditorSession session(kStation, {{"workspace", json::object()}});
  json edit = session.rename("level.h", "include/level.h")["result"];
  ASSERT_TRUE(edit.contains("changes")) << edit;
  EXPECT_EQ(edit["changes"][session.uri("main.c")][0]["newText"], "include/level.h") << edit;
}

TEST(Serving, what_others_wrote_without_a_word_is_read_before_a_rename) {
  EditorSession session(
      Files{{"web/app.ts", "export const a = 1;\n"}, {"web/tide.ts", "export const tide = 1;\n"}});
  session.ask("textDocument/documentLink", {{"textDocument", {{"uri", session.uri("web/app.ts")}}}});
  EXPECT_TRUE(session.rename("web/tide.ts", "web/water/tide.ts")["result"].is_null());
  std::ofstream(session.tree.path() + "/web/app.ts")
      << "import { tide } from './tide';\nexport const a = tide;\n";
  json edit = session.rename("web/tide.ts", "web/water/tide.ts")["result"];
  ASSERT_TRUE(edit.is_object());
  EXPECT_EQ(edit["documentChanges"][0]["edits"][0]["newText"], "./water/tide");
}

}  // namespace
}  // namespace yc::test
