// Shapes of container files, compositions, pipelines and editor settings. Compositions are read by
// docker-compose where a test says so; no container is built.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

void expect_lines(const Files& files, const std::string& sheet, const std::vector<std::string>& lines,
                  const std::string& build = "true") {
  expect_move_says(Workspace(files), sheet, lines, build);
}

const char* const kDockerfile = R"(# syntax=docker/dockerfile:1
FROM debian:12 AS build
ARG MODE=full
COPY --chown=1:1 package.json \
     tsconfig.json ./
COPY ["src/tide.c", "src/pole.c", "/app/"]
COPY conf/${MODE}.toml /etc/gauge.toml
ADD https://saltmarsh.invalid/x.tar.gz /tmp/
RUN --mount=type=bind,source=tools/check.sh,target=/check.sh sh /check.sh
COPY <<EOF /app/src/tide.c
src/tide.c
EOF
FROM debian:12
COPY --from=build /app/src/tide.c /app/
copy public /srv/public
)";

Files web() {
  return {{"web/Dockerfile", kDockerfile},
          {"web/package.json", "{}\n"},
          {"web/tsconfig.json", "{}\n"},
          {"web/src/tide.c", "\n"},
          {"web/src/pole.c", "\n"},
          {"web/conf/full.toml", "a = 1\n"},
          {"web/tools/check.sh", "true\n"},
          {"web/public/index.html", "<p>\n"},
          {"web/public/help.html", "<p>\n"},
          {"web/conf/small.toml", "a = 2\n"},
          {"web/.dockerignore", "# not needed\nsrc/drafts\n!src/drafts/keep.c\n*.log\n"},
          {"web/src/drafts/keep.c", "\n"},
          {"deploy/gauge.env", "A=1\n"},
          {"deploy/docker-compose.yml",
           "version: \"3.4\"\nservices:\n  web:\n    build:\n      context: ../web\n      dockerfile: "
           "Dockerfile\n    "
           "env_file: gauge.env\n    volumes:\n      - ../web/public:/srv/public:ro\n      - data:/data\n    "
           "secrets:\n      "
           "- key\nvolumes:\n  data: {}\nsecrets:\n  key:\n    file: ./secret.txt\n"},
          {"deploy/secret.txt", "s\n"}};
}

const std::string kConfig =
    "f=$(ls */docker-compose.yml */*/docker-compose.yml 2>/dev/null | head -1) && cd $(dirname $f) && "
    "docker-compose config >/dev/null && grep -oE 'context: .*|file: .*' docker-compose.yml | sed 's/.*: "
    "//' | while read p; do test -e $p || test -e $(grep -oE 'context: .*' docker-compose.yml | sed "
    "'s/.*: //')/$p || exit 1; done";

TEST(ContainerShapes, sources_of_copies_in_all_their_forms) {
  expect_lines(web(), "web/src/tide.c -> web/src/net/tide.c\nweb/tsconfig.json -> web/conf/tsconfig.json\n",
               {"COPY [\"src/net/tide.c\", \"src/pole.c\", \"/app/\"]", "     conf/tsconfig.json ./"},
               kConfig);
  expect_lines(web(), "web/tools -> web/scripts\n", {"source=scripts/check.sh,target"}, kConfig);
  expect_lines(web(), "web/public -> web/static\n",
               {"copy static /srv/public", "- ../web/static:/srv/public:ro"}, kConfig);
  expect_lines(web(), "web/src/drafts -> web/drafts\n", {"drafts\n", "!drafts/keep.c"}, kConfig);
}

TEST(ContainerShapes, what_lies_in_the_container_as_in_the_context_follows_with_it) {
  Files files = {
      {"Dockerfile",
       "FROM python:3\nWORKDIR /app\nCOPY intake ./intake\nCOPY setup/base.txt setup/\nRUN pip install -r "
       "setup/base.txt \\\n  && python intake/make.py\nCOPY other /opt/other\nCMD [\"python\", "
       "\"intake/main.py\"]\n"},
      {"intake/make.py", "\n"},
      {"intake/main.py", "\n"},
      {"other/x.py", "\n"},
      {"setup/base.txt", "\n"}};
  expect_lines(files, "intake -> src/intake\nsetup -> src/setup\nother -> more\n",
               {"COPY src/intake ./src/intake", "COPY src/setup/base.txt src/setup/",
                "RUN pip install -r src/setup/base.txt", "python src/intake/make.py", "COPY more /opt/other",
                "CMD [\"python\", \"src/intake/main.py\"]"});
  files[0].second = "FROM python:3\nWORKDIR /app\nCOPY . /app\nENTRYPOINT python intake/main.py\n";
  expect_lines(files, "intake -> src/intake\n", {"ENTRYPOINT python src/intake/main.py"});
}

TEST(ContainerShapes, compositions_name_contexts_and_files) {
  expect_lines(web(), "web -> apps/web\n", {"context: ../apps/web", "- ../apps/web/public:/srv/public:ro"},
               kConfig);
  expect_lines(web(), "deploy -> ops/deploy\n", {"context: ../../web"}, kConfig);
  expect_lines(web(), "web/Dockerfile -> web/build/Dockerfile\ndeploy/gauge.env -> deploy/env/gauge.env\n",
               {"dockerfile: build/Dockerfile", "env_file: env/gauge.env"}, kConfig);
  expect_lines(web(), "deploy/secret.txt -> secrets/secret.txt\n", {"file: ../secrets/secret.txt"}, kConfig);
}

TEST(ContainerShapes, what_leaves_the_context_of_a_build_is_refused) {
  Workspace tree(web());
  expect_refusal(tree, "web/src/tide.c -> shared/tide.c\n",
                 {"built from its context web", "shared/tide.c lies outside"});
  expect_refusal(tree, "web/public/index.html -> shared/index.html\n",
                 {"web/public/index.html is in", "--accept-unseen if the container does not need it"});
  expect_refusal(tree, "web/conf/full.toml -> web/full.toml\n", {"conf/…"});
}

TEST(PipelineShapes, commands_folders_and_patterns_of_a_workflow) {
  Files files = {
      {".github/workflows/build.yml",
       "on:\n  push:\n    paths:\n      - 'web/**'\n      - \"!docs/*.md\"\ndefaults:\n  run:\n    "
       "working-directory: web\njobs:\n  build:\n    steps:\n      - uses: ./.github/actions/setup\n        "
       "with:\n "
       "         key: ${{ hashFiles('web/package-lock.json') }}\n      - run: node scripts/build.js\n      - "
       "run: "
       "|\n          cd scripts\n          node \\\n            build.js\n      - run: sh "
       "${{ github.workspace }}/ci/check.sh\n      - working-directory: ci\n        run: sh check.sh\n"},
      {".github/actions/setup/action.yml", "runs:\n  using: composite\n  steps: []\n"},
      {".github/dependabot.yml", "version: 2\nupdates:\n  - package-ecosystem: npm\n    directory: /web\n"},
      {".gitlab-ci.yml",
       "include:\n  - local: /ci/more.yml\nbuild:\n  script:\n    - sh ci/check.sh\n  rules:\n    - "
       "changes:\n        - "
       "web/**/*\n"},
      {"ci/more.yml", "a: 1\n"},
      {"ci/check.sh", "true\n"},
      {"docs/a.md", "\n"},
      {"web/package-lock.json", "{}\n"},
      {"web/scripts/build.js", "\n"}};
  expect_lines(files, "web -> apps/web\n",
               {"- 'apps/web/**'", "working-directory: apps/web", "hashFiles('apps/web/package-lock.json')",
                "directory: /apps/web", "- apps/web/**/*"});
  expect_lines(files, "web/scripts -> web/tools\n", {"- run: node tools/build.js", "cd tools"});
  expect_lines(files, "ci -> build/ci\n",
               {"sh ${{ github.workspace }}/build/ci/check.sh", "- working-directory: build/ci",
                "local: /build/ci/more.yml", "- sh build/ci/check.sh"});
  expect_lines(files, ".github/actions/setup -> .github/steps/setup\ndocs -> texts\n",
               {"uses: ./.github/steps/setup", "!texts/*.md"});
}

TEST(PipelineShapes, a_workflow_stays_where_it_is_looked_for) {
  Workspace tree(
      Files{{".github/workflows/tides.yml", "on: push\njobs: {}\n"}, {".github/notes.yml", "a: 1\n"}});
  expect_refusal(tree, ".github/workflows/tides.yml -> .github/workflows/old/tides.yml\n",
                 {".github/workflows/tides.yml: is run because it lies in a folder workflows"});
  expect_move_keeps_build(tree, ".github/workflows/tides.yml -> .github/workflows/levels.yml\n", "true");
  expect_move_keeps_build(tree, ".github/notes.yml -> .github/old/notes.yml\n", "true");
}

TEST(EditorShapes, tasks_and_launches) {
  Files files = {{".vscode/launch.json",
                  "{\n  // comment\n  \"configurations\": [{\n    \"program\": "
                  "\"${workspaceFolder}/tools/run.py\",\n    "
                  "\"args\": [\"--data=${workspaceFolder}/data/tide.csv\"],\n    \"cwd\": "
                  "\"${workspaceFolder}/tools\",\n  }]\n}\n"},
                 {".vscode/settings.json", "{\"C_Cpp.includePath\": [\"${workspaceFolder}/include/**\"]}\n"},
                 {".vscode/tasks.json", "{\"tasks\": [{\"command\": \"python3 tools/run.py\"}]}\n"},
                 {"tools/run.py", "\n"},
                 {"data/tide.csv", "1\n"},
                 {"include/tide.h", "\n"}};
  expect_lines(files, "tools -> scripts\ndata -> tables/data\ninclude -> api\n",
               {"\"${workspaceFolder}/scripts/run.py\"", "--data=${workspaceFolder}/tables/data/tide.csv",
                "\"${workspaceFolder}/scripts\"", "${workspaceFolder}/api/**", "\"python3 scripts/run.py\""});
}

}  // namespace
}  // namespace yc::test
