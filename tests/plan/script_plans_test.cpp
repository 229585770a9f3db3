// Plans for trees of scripts, containers and pipelines, a table: what moves, and every edit that follows.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

TEST(ScriptPlans, shell) {
  expect_edits({
      {"from the folder of the script, however it is started",
       {{"tools/run.sh", "#!/bin/sh\ncd \"$(dirname \"$0\")\"\n./load.sh ../data/tides.csv\n"},
        {"tools/load.sh", "#!/bin/sh\ncat \"$1\"\n"},
        {"data/tides.csv", ""},
        {"data/other.csv", ""}},
       {{"data/tides.csv", "data/sea/tides.csv"}, {"tools/load.sh", "tools/lib/load.sh"}},
       {"tools/run.sh: ./load.sh -> ./lib/load.sh ?",
        "tools/run.sh: ../data/tides.csv -> ../data/sea/tides.csv ?"}},
      {"a folder kept in a variable",
       {{"tools/run.sh",
         "#!/bin/sh\nHERE=$(cd \"$(dirname \"$0\")\" && pwd)\nDATA=\"$HERE/../data\"\ncat "
         "\"$DATA/tides.csv\"\n"},
        {"data/tides.csv", ""}},
       {{"data", "assets/data"}},
       {"tools/run.sh: /../data -> /../assets/data ?"}},
      {"what another script says is read as its own",
       {{"run.sh", "#!/bin/sh\n. ./lib/paths.sh\ncat \"$TIDES\"\n"},
        {"lib/paths.sh", "TIDES=data/tides.csv\n"},
        {"data/tides.csv", ""},
        {"data/a.csv", ""}},
       {{"data/tides.csv", "tables/tides.csv"}},
       {"lib/paths.sh: data/tides.csv -> tables/tides.csv ?"}},
      {"options, redirections and lists of words",
       {{"run.sh",
         "#!/bin/sh\ncc -Iinclude -o out src/a.c 2> log.txt\nfor f in data/a.csv data/b.csv; do cat $f; "
         "done\nsort < data/a.csv\n"},
        {"include/a.h", ""},
        {"src/a.c", ""},
        {"data/a.csv", ""},
        {"data/b.csv", ""}},
       {{"data/a.csv", "tables/a.csv"}, {"include", "api"}},
       {"run.sh: include -> api ?", "run.sh: data/a.csv -> tables/a.csv ?",
        "run.sh: data/a.csv -> tables/a.csv ?"}},
      {"into a folder and back",
       {{"run.sh", "#!/bin/sh\npushd web\ncat page.html\npopd\ncat web/page.html\n"},
        {"web/page.html", "<p>"},
        {"web/b", ""}},
       {{"web/page.html", "web/pages/page.html"}},
       {"run.sh: page.html -> pages/page.html ?", "run.sh: web/page.html -> web/pages/page.html ?"}},
      {"back to the folder before",
       {{"run.sh", "#!/bin/sh\ncd web\ncat page.html\ncd -\ncat web/page.html\n"},
        {"web/page.html", "<p>"},
        {"web/b", ""}},
       {{"web/page.html", "web/pages/page.html"}},
       {"run.sh: page.html -> pages/page.html ?", "run.sh: web/page.html -> web/pages/page.html ?"}},
      {"folders by their bare names, where a program asks for one",
       {{"run.sh",
         "#!/bin/sh\nmake -C api all\nninja --directory=api\nnpm --prefix api run x\npip install -e api\n"
         "pip install api\ndocker build --pull api\ndocker run api\npytest api\n"},
        {"api/Makefile", "all:\n"}},
       {{"api", "src/api"}},
       {"run.sh: api -> src/api ?", "run.sh: api -> src/api ?", "run.sh: api -> src/api ?",
        "run.sh: api -> src/api ?", "run.sh: api -> src/api ?", "run.sh: api -> src/api ?"}},
      {"what is written to a folder that may be made first",
       {{"run.sh", "#!/bin/sh\ncd src/api\ncc -o ../../out/tide tide.c\n"},
        {"src/api/tide.c", ""},
        {"src/other.c", ""}},
       {{"src/api", "src/web/api"}},
       {"run.sh: src/api -> src/web/api ?", "run.sh: ../../out/tide -> ../../../out/tide ?"}},
      {"a name that comes to the top is still a path",
       {{"run.sh", "#!/bin/sh\nDATA=data/tables\ncat $DATA/tides.csv\n"}, {"data/tables/tides.csv", ""}},
       {{"data/tables", "tables"}},
       {"run.sh: data/tables -> ./tables ?"}},
      {"a text that another command is handed",
       {{"run.sh", "#!/bin/bash\nset -e\nbash -c 'cat data/a.csv'\nfind data -name '*.csv' | xargs cat\n"},
        {"data/a.csv", ""}},
       {{"data", "tables"}},
       {"run.sh: data/a.csv -> tables/a.csv ?", "run.sh: data -> tables ?"}},
      {"a here-document that is a script",
       {{"run.sh", "#!/bin/sh\nsh <<END\ncat data/a.csv\nEND\n"}, {"data/a.csv", ""}},
       {{"data", "tables"}},
       {"run.sh: data/a.csv -> tables/a.csv ?"}},
      {"a here-document that is a text, with prose and an address in it",
       {{"run.sh",
         "#!/bin/sh\ncat > pole.ini <<'END'\nfile = data/a.csv\nhome = https://tide.example/data/a.csv\nThe "
         "data is good.\nEND\ncat data/a.csv\n"},
        {"data/a.csv", ""}},
       {{"data", "tables"}},
       {"run.sh: data/a.csv -> tables/a.csv ?", "run.sh: data/a.csv -> tables/a.csv ?"}},
      {"paths with blanks, in quotes",
       {{"run.sh", "#!/bin/sh\ncat \"tide data/a b.csv\" 'tide data/c.csv' tide\\ data/c.csv\n"},
        {"tide data/a b.csv", ""},
        {"tide data/c.csv", ""}},
       {{"tide data", "sea data"}},
       {"run.sh: tide data/a b.csv -> sea data/a b.csv ?", "run.sh: tide data/c.csv -> sea data/c.csv ?",
        "run.sh: tide -> sea ?"}},
      {"a folder of which all is taken",
       {{"run.sh", "#!/bin/sh\ntar cf all.tar data/*.csv\n"}, {"data/a.csv", ""}, {"data/b.csv", ""}},
       {{"data", "tables"}},
       {"run.sh: data/*.csv -> tables/*.csv ?"}},
      {"the script itself goes deeper, and counts from its own folder",
       {{"run.sh", "#!/bin/sh\ncd \"$(dirname \"$0\")\"\ncat data/tides.csv\n"}, {"data/tides.csv", ""}},
       {{"run.sh", "tools/run.sh"}},
       {"run.sh: data/tides.csv -> ../data/tides.csv ?"}},
  });
}

TEST(ScriptPlans, the_folder_that_a_script_is_started_in) {
  expect_edits({
      {"programs that it starts there tell nothing",
       {{"tests/all.sh", "#!/bin/sh\n./bootstrap\n./configure\ncmake .\nrm -rf tests/run-suite\n"},
        {"tests/a.c", ""},
        {"bootstrap", "#!/bin/sh\n"}},
       {{"tests", "nested/tests"}},
       {"tests/all.sh: tests/run-suite -> nested/tests/run-suite ?"}},
  });
}

TEST(ScriptPlans, words_that_only_a_shell_sees_through) {
  auto follows = [](const std::string& line, const std::vector<std::string>& wanted) {
    expect_edits({{line,
                   {{"run.sh", "#!/bin/sh\n" + line + "\n"}, {"lib/in", ""}, {"lib/more", ""}},
                   {{"lib", "nested/lib"}},
                   wanted}});
  };
  const std::string in = "run.sh: lib/in -> nested/lib/in ?", out = "run.sh: lib/out -> nested/lib/out ?";
  follows("level=$(cat lib/in)", {in});
  follows("level=`cat lib/in`; echo $level", {in});
  follows("echo \"$(sort \"$(ls lib/in)\")\"", {in});
  follows("f=${1:-lib/in}\ncat \"$f\"", {in});
  follows(": ${LEVELS:=lib/in}\ncat $LEVELS", {in});
  follows("set -- lib/in lib/out\ncat $1 > $2", {in, out});
  follows("dd if=lib/in of=lib/out", {in, out});
  follows("awk '{ print > \"lib/out\" }' lib/in", {out, in});
  follows("perl -ne 'open(F, \"lib/in\")'", {in});
  follows("mkdir -p lib/gen\ncp lib/in lib/gen/out",
          {"run.sh: lib/gen -> nested/lib/gen ?", in, "run.sh: lib/gen/out -> nested/lib/gen/out ?"});
}

TEST(ScriptPlans, folders_above_that_of_the_script) {
  expect_edits({{"dirname of dirname",
                 {{"test/run.sh", "#!/bin/sh\ntop=$(dirname \"$(dirname \"$0\")\")\ncat \"$top/data/a\"\n"},
                  {"data/a", ""},
                  {"test/data/a", ""}},
                 {{"data", "tables"}},
                 {"test/run.sh: /data/a -> /tables/a ?"}}});
}

// Parentheses without end nest no deeper than is looked at.
TEST(ScriptPlans, commands_in_commands_without_end) {
  std::string line = "#!/bin/sh\n";
  for (int i = 0; i < 50'000; ++i) line += "$(cat ";
  EXPECT_TRUE(planned({{"run.sh", line}, {"a/b", ""}}, {{"a/b", "c/b"}}).verified);
}

TEST(ScriptPlans, a_new_folder_that_a_script_has_a_word_for_changes_nothing) {
  expect_edits({{"folders of a name that a test makes for itself",
                 {{"t/run.sh", "#!/bin/sh\n. ./lib.sh\nmkdir sub\ncd sub\ncp sub sub/again\nls sub\n"},
                  {"t/lib.sh", ""},
                  {"level.h", ""}},
                 {{"level.h", "sub/level.h"}},
                 {}}});
}

TEST(ScriptPlans, loops) {
  expect_edits({
      {"what leaves the reach of a loop's wildcard is named beside it",
       {{"ci/run.sh", "#!/bin/sh\nfor i in tests/test-*.c; do\n  cc \"$i\"\ndone\n"},
        {"tests/test-a.c", ""},
        {"tests/test-b.c", ""}},
       {{"tests/test-b.c", "more/test-b.c"}},
       {"ci/run.sh:  ->  more/test-*.c ?"}},
      {"beside the other words of the list",
       {{"ci/run.sh", "#!/bin/sh\nfor i in tests/test-*.c other.c; do cc \"$i\"; done\n"},
        {"tests/test-a.c", ""},
        {"tests/test-b.c", ""},
        {"other.c", ""}},
       {{"tests/test-b.c", "more/test-b.c"}, {"other.c", "more/other.c"}},
       {"ci/run.sh:  ->  more/test-*.c ?", "ci/run.sh: other.c -> more/other.c ?"}},
  });
}

TEST(ScriptPlans, options_that_get_another_folder_in_each_round) {
  const TreeFiles folders = {{"lib/Makefile", "l: l.c\n\tcc -o l l.c\n"},
                             {"lib/l.c", ""},
                             {"client/Makefile", "c: c.c\n\tcc -o c c.c\n"},
                             {"client/c.c", ""}};
  for (const char* script : {"#!/bin/sh\nfor d in lib client; do make -C $d; done\n",
                             "#!/bin/sh\nfor d in lib client; do\n  make -C \"$d\" all\ndone\n",
                             "#!/bin/sh\nfor d in lib client; do tar -c -C $d .; done\n"}) {
    SCOPED_TRACE(script);
    TreeFiles files = folders;
    files.emplace_back("build.sh", script);
    EXPECT_THAT(edits(planned(files, {{"client", "tools"}})),
                testing::ElementsAre("build.sh: client -> tools ?"));
  }
}

// "$run" is cd in one round, and has no folder to go to in any.
TEST(ScriptPlans, programs_that_a_loop_names) {
  TreeFiles files = {{"run.sh",
                      "#!/bin/sh\nfor run in cd ls; do $run; done\nfor run in cd pushd; do $run lib; done\n"
                      "for d in lib; do cd $d; for e in $d $d/x; do cd $e; done; done\n"},
                     {"lib/a.txt", ""}};
  EXPECT_TRUE(planned(files, {{"lib/a.txt", "lib/b.txt"}}).verified);
}

TEST(ScriptPlans, wildcards_at_any_depth) {
  const TreeFiles files = {{"run.sh", "#!/bin/bash\nshopt -s globstar && check **/*.py tools/**/*.sh\n"},
                           {"pole/a.py", ""},
                           {"pole/sea/b.py", ""},
                           {"tools/x/c.sh", ""},
                           {"tools/x/d.sh", ""}};
  expect_edits({
      {"all there is, wherever it stands", files, {{"pole/a.py", "pole/deep/er/a.py"}}, {}},
      {"within a folder", files, {{"tools/x/c.sh", "tools/y/z/c.sh"}}, {}},
      {"the folder goes elsewhere", files, {{"tools", "kit/tools"}}, {"run.sh: tools -> kit/tools ?"}},
  });
}

TEST(ScriptPlans, ignore_lists) {
  expect_edits({
      {"a line that would have to climb goes to the list above",
       {{".gitignore", "*.o\n"},
        {"test/.gitignore", "logs\nbin/reader\nsuites/api\n"},
        {"test/bin/reader.c", ""},
        {"test/suites/x", ""}},
       {{"test/bin", "tools/bin"}},
       {".gitignore:  -> /tools/bin/reader\n", "test/.gitignore: bin/reader\n -> "}},
      {"to the nearest one, and behind a last line without an end",
       {{".gitignore", "*.o\n"},
        {"tools/.gitignore", "*.tmp"},
        {"test/.gitignore", "bin/reader/"},
        {"test/bin/reader.c", ""}},
       {{"test/bin", "tools/bin"}},
       {"test/.gitignore: bin/reader/ -> ", "tools/.gitignore:  -> \n/bin/reader/\n"}},
      {"a line stays in its list where it can",
       {{".gitignore", "*.o\n"}, {"test/.gitignore", "bin/reader\n"}, {"test/bin/reader.c", ""}},
       {{"test/bin", "test/tools/bin"}},
       {"test/.gitignore: bin/reader -> tools/bin/reader"}},
  });
}

TEST(ScriptPlans, names_of_which_little_is_known_are_told) {
  // Of whose folder and ending nothing is known.
  Plan plan = planned({{"test/run.sh", "#!/bin/sh\ncmp \"$1/error.$2\" log\n"}, {"src/error.c", ""}},
                      {{"src/error.c", "core/error.c"}});
  EXPECT_THAT(edits(plan), testing::IsEmpty());
  EXPECT_THAT(told(plan), testing::Contains(testing::HasSubstr("could name src/error.c")));
  // The script and all that it could mean stay where they are to one another.
  plan = planned({{"test/run.sh", "#!/bin/sh\ncat tides.csv \"$1/output\"\n"},
                  {"tides.csv", ""},
                  {"test/api/output", ""}},
                 {{"test", "checks"}});
  EXPECT_THAT(edits(plan), testing::IsEmpty());
  EXPECT_THAT(told(plan), testing::Contains(testing::HasSubstr("could name test/api/output")));
  // One that goes along does not hide one that moves alone.
  plan = planned({{"test/run.sh", "#!/bin/sh\ncat tides.csv \"$1/output\"\n"},
                  {"tides.csv", ""},
                  {"test/api/output", ""},
                  {"zone/output", ""}},
                 {{"test", "checks"}, {"zone/output", "zone/expected"}});
  EXPECT_THAT(reasons(plan), testing::ElementsAre("unseen test/run.sh"));
  // A whole name of something that moves alone may well be meant.
  plan = planned({{"test/run.sh", "#!/bin/sh\ncat \"$1/output\"\n"}, {"test/api/output", ""}},
                 {{"test/api/output", "test/api/expected"}});
  EXPECT_THAT(reasons(plan), testing::ElementsAre("unseen test/run.sh"));
}

TEST(ScriptPlans, batch) {
  expect_edits({
      {"a command of another system by the same ending",
       {{"os400/gauge.cmd", "/*  GAUGE command.  */\n  CMD PROMPT('Gauge')\n  /* Input: src\\ all. */\n"},
        {"src/a.c", ""},
        {"b.c", ""}},
       {{"b.c", "code/b.c"}},
       {}},
      {"from the folder of the script, with backslashes",
       {{"tools/run.bat", "@echo off\r\ncall \"%~dp0load.bat\" \"%~dp0..\\data\\tides.csv\"\r\n"},
        {"tools/load.bat", ""},
        {"data/tides.csv", ""}},
       {{"data/tides.csv", "data/sea/tides.csv"}},
       {"tools/run.bat: ..\\data\\tides.csv -> ..\\data\\sea\\tides.csv"}},
      {"a variable for a folder",
       {{"run.cmd", "set DATA=data\\tables\r\ntype %DATA%\\tides.csv\r\n"}, {"data/tables/tides.csv", ""}},
       {{"data/tables", "tables"}},
       {"run.cmd: data\\tables -> .\\tables ?"}},
  });
}

TEST(ScriptPlans, containers) {
  TreeFiles image = {
      {"Dockerfile",
       "FROM debian:12\nCOPY intake/ /app/intake/\nCOPY conf/pole.ini /etc/pole.ini\n"
       "CMD [\"python3\", \"/app/intake/main.py\"]\n"},
      {"intake/main.py", ""},
      {"conf/pole.ini", ""},
      {"conf/other.ini", ""},
      {"compose.yaml", "services:\n  intake:\n    build: .\n    volumes:\n      - ./conf:/conf\n"}};
  expect_edits({
      {"a source of a copy",
       image,
       {{"conf/pole.ini", "etc/pole.ini"}},
       {"Dockerfile: conf/pole.ini -> etc/pole.ini"}},
      {"a folder that is copied and mounted",
       image,
       {{"conf", "deploy/conf"}},
       {"Dockerfile: conf/pole.ini -> deploy/conf/pole.ini", "compose.yaml: ./conf -> ./deploy/conf"}},
      {"the composition goes elsewhere",
       image,
       {{"compose.yaml", "deploy/compose.yaml"}},
       {"compose.yaml: . -> ..", "compose.yaml: ./conf -> ../conf"}},
  });
}

TEST(ScriptPlans, container_files) {
  expect_edits({
      {"stages, working folders and several sources",
       {{"Dockerfile",
         "FROM gcc AS build\nWORKDIR /src\nCOPY firmware/Makefile firmware/*.c ./\nRUN make\n"
         "FROM debian\nCOPY --from=build /src/pole /bin/pole\nADD [\"conf/a.ini\", \"/etc/\"]\n"},
        {"firmware/Makefile", "pole: a.c\n\tcc -o pole a.c\n"},
        {"firmware/a.c", ""},
        {"conf/a.ini", ""}},
       {{"firmware", "gauges/firmware"}, {"conf/a.ini", "etc/a.ini"}},
       {"Dockerfile: firmware/Makefile -> gauges/firmware/Makefile ?",
        "Dockerfile: firmware/*.c -> gauges/firmware/*.c ?", "Dockerfile: conf/a.ini -> etc/a.ini ?"}},
      {"one that is called after what it builds",
       {{"Dockerfile.go", "FROM debian\nCOPY decoder/ /src/\n"}, {"decoder/a.c", ""}},
       {{"decoder", "packets/decoder"}},
       {"Dockerfile.go: decoder -> packets/decoder ?"}},
      {"all uses of what was copied to where it lies in the tree",
       {{"Dockerfile",
         "FROM gcc AS build\nWORKDIR /app\nCOPY api/ api/\nRUN make -C api && api/gauge --test && apt "
         "install api\n"
         "WORKDIR /app/api\nFROM debian\nCOPY --from=build /app/api/gauge /bin/gauge\nCMD "
         "[\"/app/api/gauge\"]\n"},
        {"api/Makefile", "gauge: gauge.c\n"},
        {"api/gauge.c", ""}},
       {{"api", "src/api"}},
       {"Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?",
        "Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?",
        "Dockerfile: api -> src/api ?"}},
      {"the whole context was copied",
       {{"Dockerfile",
         "FROM gcc AS build\nWORKDIR /app\nCOPY . .\nRUN make -C api\nWORKDIR /app/api\nFROM debian\n"
         "COPY --from=build /app/api/out/gauge /bin/gauge\nCMD [\"/var/app/api\"]\n"},
        {"api/Makefile", "gauge: gauge.c\n"},
        {"api/gauge.c", ""}},
       {{"api", "src/api"}},
       {"Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?", "Dockerfile: api -> src/api ?"}},
      {"what stays out of the context",
       {{"Dockerfile", "FROM debian\nCOPY . /app\n"},
        {".dockerignore", "docs/\n*.md\n!docs/keep.txt\n"},
        {"docs/keep.txt", ""},
        {"docs/a.txt", ""},
        {"main.py", ""}},
       {{"docs", "manual"}},
       {".dockerignore: docs -> manual", ".dockerignore: docs/keep.txt -> manual/keep.txt"}},
      {"files of a composition, in a folder of its own",
       {{"deploy/compose.yaml",
         "services:\n  web:\n    build:\n      context: ..\n      dockerfile: deploy/web.Dockerfile\n    "
         "env_file: ./web.env\n"
         "configs:\n  pole:\n    file: ../conf/pole.ini\n"},
        {"deploy/web.Dockerfile", "FROM debian\nCOPY web/ /srv/\n"},
        {"deploy/web.env", "A=1\n"},
        {"web/index.html", ""},
        {"conf/pole.ini", ""}},
       {{"deploy", "ops/deploy"}, {"web", "site"}},
       {"deploy/compose.yaml: .. -> ../..",
        "deploy/compose.yaml: deploy/web.Dockerfile -> ops/deploy/web.Dockerfile",
        "deploy/compose.yaml: ../conf/pole.ini -> ../../conf/pole.ini",
        "deploy/web.Dockerfile: web -> site"}},
  });
}

TEST(ScriptPlans, more_pipelines) {
  expect_edits({
      {"scripts that go into folders, caches and includes",
       {{".gitlab-ci.yml",
         "include:\n  - local: /ci/common.yml\nbuild:\n  script:\n    - cd firmware\n    - make\n    - "
         "./tools/flash.sh\n  cache:\n    key:\n      files:\n        - web/package-lock.json\n"},
        {"ci/common.yml", "stages: [build]\n"},
        {"firmware/Makefile", "all:\n\t:\n"},
        {"firmware/tools/flash.sh", "#!/bin/sh\n"},
        {"web/package-lock.json", "{}"}},
       {{"firmware", "gauges/firmware"},
        {"web/package-lock.json", "site/package-lock.json"},
        {"ci/common.yml", ".ci/common.yml"}},
       {".gitlab-ci.yml: ci/common.yml -> .ci/common.yml", ".gitlab-ci.yml: firmware -> gauges/firmware ?",
        ".gitlab-ci.yml: web/package-lock.json -> site/package-lock.json"}},
      {"what a job keeps, of what it makes",
       {{".gitlab-ci.yml", "build:\n  artifacts:\n    paths:\n      - web/made/*.js\n      - web/log.txt\n"},
        {"web/a.js", ""},
        {"web/b.js", ""}},
       {{"web", "apps/web"}},
       {".gitlab-ci.yml: web -> apps/web ?", ".gitlab-ci.yml: web -> apps/web ?"}},
      {"a matrix and hashes of files",
       {{".github/workflows/a.yaml",
         "jobs:\n  t:\n    steps:\n      - uses: actions/cache@v4\n        with:\n          path: web/made\n "
         "         key: k-${{ hashFiles('web/package-lock.json') }}\n"
         "      - run: |\n          cd web\n          npm run build --prefix ../site\n"},
        {"web/package-lock.json", "{}"},
        {"web/a.js", ""},
        {"site/package.json", "{}"}},
       {{"web", "apps/web"}},
       {".github/workflows/a.yaml: web -> apps/web ?",
        ".github/workflows/a.yaml: web/package-lock.json -> apps/web/package-lock.json ?",
        ".github/workflows/a.yaml: web -> apps/web ?", ".github/workflows/a.yaml: ../site -> ../../site ?"}},
  });
}

TEST(ScriptPlans, pipelines) {
  expect_edits({
      {"filters, working folders and steps",
       {{".github/workflows/build.yml",
         "on:\n  push:\n    paths:\n      - 'firmware/**'\njobs:\n  build:\n    steps:\n      - run: "
         "./scripts/build.sh\n"
         "        working-directory: firmware\n      - uses: ./actions/pole\n"},
        {"firmware/scripts/build.sh", "#!/bin/sh\n"},
        {"firmware/a.c", ""},
        {"actions/pole/action.yml", "runs:\n  using: composite\n  steps: []\n"}},
       {{"firmware", "gauges/firmware"}, {"actions/pole", ".github/actions/pole"}},
       {".github/workflows/build.yml: firmware -> gauges/firmware",
        ".github/workflows/build.yml: firmware -> gauges/firmware",
        ".github/workflows/build.yml: ./actions/pole -> ./.github/actions/pole"}},
      {"owners of a folder",
       {{"CODEOWNERS", "/firmware/ @pole\n*.md @words\n"}, {"firmware/a.c", ""}},
       {{"firmware", "gauges/firmware"}},
       {"CODEOWNERS: firmware -> gauges/firmware"}},
  });
}

TEST(ScriptPlans, editors) {
  expect_edits({
      {"where compiled styles go, counted from each style file",
       {{".vscode/settings.json",
         "{ \"liveSassCompile.settings.formats\": [ { \"savePath\": \"~/../css\" }, { \"savePath\": "
         "\"../css\" } ] }\n"},
        {"web/scss/main.scss", "a { b: c }\n"},
        {"web/css/main.css", ""},
        {"css/other.css", ""}},
       {{"web/scss", "web/styles/scss"}},
       {".vscode/settings.json: ../css -> ../../css", ".vscode/settings.json: ../css -> ../../css"}},
      {"tasks and launches, from the folder of the workspace",
       {{".vscode/launch.json",
         "{ // how the viewer is started\n  \"configurations\": [ { \"program\": "
         "\"${workspaceFolder}/viewer/main.py\", \"cwd\": \"${workspaceFolder}/viewer\" } ] }\n"},
        {"viewer/main.py", ""}},
       {{"viewer", "apps/viewer"}},
       {".vscode/launch.json: /viewer/main.py -> /apps/viewer/main.py",
        ".vscode/launch.json: /viewer -> /apps/viewer"}},
      {"lists of what is left out",
       {{".gitignore", "/data/made/\n*.o\nviewer/cache.db\n"}, {"viewer/main.py", ""}, {"data/a", ""}},
       {{"viewer", "apps/viewer"}, {"data", "tables"}},
       {".gitignore: data/made -> tables/made", ".gitignore: viewer/cache.db -> apps/viewer/cache.db"}},
  });
}

// What a script cannot name, whatever stands in its variables.
TEST(ScriptPlans, texts_that_are_only_compared_and_names_that_would_climb) {
  const TreeFiles files = {
      {"autogen.sh",
       "#!/bin/sh\nif test x$OBJ_DIR != x; then\n  mkdir -p \"$OBJ_DIR\"\nfi\n[ \"x$1\" = \"x\" ] && exit\n"},
      {"docs/Makefile", "list.xml: $(shell cat names)\n\tpack $(PAGES:=.x)\nPAGES = $(shell cat names)\n"},
      {"xlink.x", ""},
      {"docs/page.x", ""}};
  EXPECT_THAT(edits(planned(files, {{"xlink.x", "src/xlink.x"}})), testing::IsEmpty());
  EXPECT_THAT(told(planned(files, {{"xlink.x", "src/xlink.x"}})),
              testing::Contains(testing::StartsWith("unseen docs/Makefile")));
  EXPECT_THAT(reasons(planned(files, {{"docs/page.x", "src/page.x"}})),
              testing::ElementsAre("unseen docs/Makefile"));
}

}  // namespace
}  // namespace yc::test
