// Plans of trees with container files and pipelines: what lies in a container, and where one shell runs.
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using Lines = std::vector<std::string>;

TEST(ContainerPlans, commands_name_what_was_copied_by_its_place_in_the_container) {
  const TreeFiles files = {
      {"Dockerfile",
       "FROM node:20\nWORKDIR /site\nCOPY package.json web/tsconfig.json ./\nCOPY run.sh bin/\n"
       "COPY web/src ./src\nRUN test -f package.json && sh bin/run.sh && cat /site/tsconfig.json\n"
       "CMD [\"node\", \"src/main.js\"]\n"},
      {"package.json", "{}\n"},
      {"run.sh", "true\n"},
      {"web/tsconfig.json", "{}\n"},
      {"web/src/main.js", "\n"}};
  expect_edits({
      {"which stays where only the source goes elsewhere",
       files,
       {{"web/tsconfig.json", "config/tsconfig.json"}, {"run.sh", "tools/run.sh"}},
       {"Dockerfile: web/tsconfig.json -> config/tsconfig.json ?", "Dockerfile: run.sh -> tools/run.sh ?"}},
      {"and is called as its source is",
       files,
       {{"run.sh", "start.sh"}, {"web/src/main.js", "web/src/site.js"}},
       {"Dockerfile: run.sh -> start.sh ?", "Dockerfile: bin/run.sh -> bin/start.sh ?",
        "Dockerfile: src/main.js -> src/site.js ?"}},
      {"by a whole path",
       files,
       {{"web/tsconfig.json", "web/tsconfig.app.json"}},
       {"Dockerfile: web/tsconfig.json -> web/tsconfig.app.json ?",
        "Dockerfile: /site/tsconfig.json -> /site/tsconfig.app.json ?"}},
  });
}

TEST(ContainerPlans, one_shell_runs_the_commands_of_a_list) {
  const TreeFiles files = {
      {".gitlab-ci.yml",
       "test:\n  script:\n    - cd ingest\n    - python3 src/load.py\n    - cat ../conf/site.conf\n"},
      {"ingest/src/load.py", "\n"},
      {"conf/site.conf", "\n"}};
  expect_edits({{"from the folder that the first goes to",
                 files,
                 {{"ingest/src/load.py", "ingest/load.py"}, {"conf", "etc"}},
                 {".gitlab-ci.yml: src/load.py -> load.py ?",
                  ".gitlab-ci.yml: ../conf/site.conf -> "
                  "../etc/site.conf ?"}}});
}

TEST(ContainerPlans, what_runs_first_goes_to_a_folder) {
  const TreeFiles kTree = {{"ingest/src/load.py", "\n"}, {"ingest/conf/site.conf", "\n"}};
  const TreeMoves kMoves = {{"ingest/src/load.py", "ingest/load.py"}};
  const std::vector<std::string> kEdits = {".gitlab-ci.yml: src/load.py -> load.py ?"};
  for (const char* text : {"test:\n  before_script:\n    - cd ingest\n  script:\n    - python3 src/load.py\n",
                           "before_script: [cd ingest]\ntest:\n  script: python3 src/load.py\n",
                           "default:\n  before_script:\n    - cd ingest\ntest:\n  script:\n    - python3 "
                           "src/load.py\n"}) {
    TreeFiles files = kTree;
    files.emplace_back(".gitlab-ci.yml", text);
    expect_edits({{text, files, kMoves, kEdits}});
  }
}

TEST(ContainerPlans, actions_patterns_of_what_is_kept_and_expressions) {
  const TreeFiles files = {
      {".github/actions/prepare/action.yml",
       "runs:\n  using: composite\n  steps:\n    - run: cat conf/site.conf\n      shell: bash\n"},
      {".github/workflows/ci.yml",
       "jobs:\n  a:\n    steps:\n      - uses: actions/upload-artifact@v4\n        with:\n          path: |\n"
       "            docs/index.md\n            docs/img/*.png\n      - uses: actions/cache@v4\n        "
       "with:\n"
       "          path: docs\n"},
      {".pre-commit-config.yaml",
       "repos:\n  - repo: local\n    hooks:\n      - id: a\n        files: ^docs/.*\\.md$\n"},
      {"conf/site.conf", "\n"},
      {"docs/index.md", "\n"},
      {"docs/img/a.png", "p"}};
  expect_edits({{"all from the root",
                 files,
                 {{"docs", "manual"}, {"conf", "etc"}},
                 {".github/actions/prepare/action.yml: conf/site.conf -> etc/site.conf ?",
                  ".github/workflows/ci.yml: docs/index.md -> manual/index.md ?",
                  ".github/workflows/ci.yml: docs/img -> manual/img",
                  ".github/workflows/ci.yml: docs -> manual", ".pre-commit-config.yaml: docs -> manual"}}});
}

}  // namespace
}  // namespace yc::test
