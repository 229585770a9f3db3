// Where specifiers lead, and what settings and manifests of web projects name.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::IsSupersetOf;
using ::testing::Not;

using Tree = std::vector<std::pair<std::string, std::string>>;

Tree with(Tree files, const Tree& more) {
  files.insert(files.end(), more.begin(), more.end());
  return files;
}

std::vector<std::string> modules_of(const Tree& files) {
  return dump(read(tree_of(files)), Role::module);
}

TEST(ModuleResolution, what_a_specifier_may_leave_out) {
  const Tree files = {{"src/tide.ts", ""},
                      {"src/gauge/index.tsx", ""},
                      {"src/old.js", ""},
                      {"src/old.d.ts", ""},
                      {"src/data.json", "{}"},
                      {"src/page.vue", ""},
                      {"src/m.mts", ""},
                      {"src/icon.svg", ""},
                      {"src/both.ts", ""},
                      {"src/both/index.ts", ""},
                      {"src/pole.ios.ts", ""},
                      {"src/pole.android.ts", ""},
                      {"pack/package.json", R"({"main": "lib/start"})"},
                      {"pack/lib/start.js", ""}};
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      {"./tide", {"./tide -> src/tide.ts"}},
      {"./tide.js", {"./tide.js -> src/tide.ts"}},
      {"./tide.ts", {"./tide.ts -> src/tide.ts"}},
      {"./gauge", {"./gauge -> src/gauge/index.tsx"}},
      {"./gauge/", {"./gauge/ -> src/gauge/index.tsx"}},
      {"./gauge/index", {"./gauge/index -> src/gauge/index.tsx"}},
      {"./old", {"./old -> src/old.d.ts src/old.js"}},
      {"./data", {"./data -> src/data.json"}},
      {"./page.vue", {"./page.vue -> src/page.vue"}},
      {"./m.mjs", {"./m.mjs -> src/m.mts"}},
      {"./icon.svg?inline", {"./icon.svg -> src/icon.svg"}},
      {"raw!./icon.svg", {"./icon.svg -> src/icon.svg"}},
      {"./both", {"./both -> src/both.ts"}},
      {"./pole", {"./pole -> src/pole.android.ts src/pole.ios.ts"}},
      {"../pack", {"../pack -> pack/lib/start.js"}},
      {"tide", {}},
      {"node:fs", {}},
      {"./missing", {}},
  };
  for (const auto& [text, wanted] : cases)
    EXPECT_EQ(modules_of(with(files, {{"src/main.ts", "import '" + text + "'"}})), wanted) << text;
}

TEST(ModuleResolution, the_index_of_the_own_folder_and_of_those_above) {
  const Tree files = {{"src/index.ts", ""}, {"src/gauge/index.ts", ""}};
  for (const char* text : {"..", "../", "../index", "../index.js"})
    EXPECT_THAT(modules_of(with(files, {{"src/gauge/a.ts", std::string("import '") + text + "'"}})),
                ElementsAre(std::string(text) + " -> src/index.ts"));
  EXPECT_THAT(modules_of(with(files, {{"src/gauge/a.ts", "import '.'"}})),
              ElementsAre(". -> src/gauge/index.ts"));
}

TEST(ModuleResolution, aliases_of_the_compiler) {
  const Tree files = {
      {"tsconfig.json",
       "{ // why\n \"extends\": \"./settings/base\",\n \"compilerOptions\": { \"outDir\": \"dist\" }, "
       "\"include\": [\"src\"], }"},
      {"settings/base.json",
       R"({"compilerOptions": {"baseUrl": "..", "paths": {"@/*": ["src/*"], "@gauge": ["src/gauge/index"], "two/*": ["no/*", "src/*"]}}})"},
      {"src/tide.ts", ""},
      {"src/gauge/index.ts", ""},
      {"common/types.ts", ""}};
  EXPECT_THAT(modules_of(with(
                  files, {{"src/deep/main.ts",
                           "import '@/tide'; import '@gauge'; import 'two/tide'; import 'common/types';"}})),
              ElementsAre("@/tide -> src/tide.ts", "@gauge -> src/gauge/index.ts",
                          "common/types -> common/types.ts", "two/tide -> src/tide.ts"));
  ReferenceGraph graph = read(tree_of(files));
  EXPECT_THAT(dump(graph, Role::script), ElementsAre("./settings/base.json -> settings/base.json"));
  EXPECT_THAT(dump(graph, Role::search_root), IsSupersetOf({"src -> src"}));
  EXPECT_THAT(dump(graph, Role::source), ElementsAre("src/gauge/index.ts -> src/gauge/index.ts"));
}

TEST(ModuleResolution, each_flavour_has_paths_of_its_own) {
  const Tree files = {{"tsconfig.web.json", R"({"compilerOptions": {"paths": {"@p/*": ["./web/*"]}}})"},
                      {"tsconfig.sea.json", R"({"compilerOptions": {"paths": {"@p/*": ["./sea/*"]}}})"},
                      {"web/draw.ts", ""},
                      {"sea/draw.ts", ""},
                      {"main.ts", "import '@p/draw'"}};
  EXPECT_THAT(modules_of(files), ElementsAre("@p/draw -> sea/draw.ts web/draw.ts"));
}

TEST(ModuleResolution, names_of_packages) {
  const Tree files = {
      {"package.json", R"({"name": "saltmarsh", "workspaces": ["packages/*"]})"},
      {"packages/level/package.json",
       R"({"name": "@saltmarsh/level", "exports": {".": "./src/index.ts", "./parts/*": {"dev": "./src/parts/*.ts"}}, "imports": {"#own/*": "./src/*.ts"}})"},
      {"packages/level/src/index.ts", "import '#own/parts/a'; import '@saltmarsh/level/parts/a'"},
      {"packages/level/src/parts/a.ts", ""},
      {"packages/old/package.json", R"({"name": "old", "main": "start.js"})"},
      {"packages/old/start.js", ""},
      {"packages/old/lib/b.js", ""},
      {"app/main.ts",
       "import '@saltmarsh/level'; import 'old'; import 'old/lib/b'; import '#own/parts/a'; import "
       "'left-pad'"}};
  EXPECT_THAT(modules_of(files),
              ElementsAre("#own/parts/a -> packages/level/src/parts/a.ts",
                          "@saltmarsh/level -> packages/level/src/index.ts",
                          "@saltmarsh/level/parts/a -> packages/level/src/parts/a.ts",
                          "old -> packages/old/start.js", "old/lib/b -> packages/old/lib/b.js"));
  EXPECT_THAT(dump(read(tree_of(files)), Role::pattern),
              ElementsAre("packages/* -> packages/level packages/old"));
}

TEST(ModuleResolution, globs_folders_and_joined_parts) {
  const Tree files = {{"src/charts/a.ts", ""},
                      {"src/charts/b.ts", ""},
                      {"src/main.ts",
                       "import.meta.glob('./charts/*.ts'); require.context('./charts'); path.join(__dirname, "
                       "'..', 'data', 'x.json')"},
                      {"data/x.json", "{}"}};
  ReferenceGraph graph = read(tree_of(files));
  EXPECT_THAT(dump(graph, Role::pattern), ElementsAre("./charts/*.ts -> src/charts/a.ts src/charts/b.ts"));
  EXPECT_THAT(dump(graph, Role::argument),
              IsSupersetOf({"../data/x.json -> data/x.json", "./charts -> src/charts"}));
}

TEST(ModuleResolution, what_is_put_together_is_a_hole_only_if_it_is_relative) {
  ReferenceGraph graph = read(tree_of(
      {{"src/charts/a.js", ""},
       {"src/main.js",
        "import(`./charts/${name}.js`); import(`pkg/${name}`); import(name); require('./charts/' + n)"}}));
  EXPECT_THAT(holes(graph), ElementsAre("./charts/*", "./charts/*.js"));
}

TEST(PackageManifests, fields_scripts_and_lists) {
  const Tree files = {{"package.json", R"({
  "name": "tide", "main": "lib/main.js", "bin": {"tide": "./bin/tide.js"}, "files": ["lib", "!lib/no.js"],
  "sideEffects": ["./src/style.css"],
  "scripts": {"test": "node --test tests/a.js 'lib/**/*.js' && cd bin && node tide.js", "style": "sass scss/:public/"},
  "dependencies": {"pole": "file:./pole"},
  "jest": {"setupFiles": ["<rootDir>/tests/setup.js"], "roots": ["lib"]}
})"},
                      {"lib/main.js", ""},
                      {"lib/no.js", ""},
                      {"bin/tide.js", ""},
                      {"src/style.css", ""},
                      {"tests/a.js", ""},
                      {"tests/setup.js", ""},
                      {"pole/package.json", "{}"},
                      {"scss/a.scss", ""},
                      {"public/x", ""}};
  ReferenceGraph graph = read(tree_of(files));
  EXPECT_THAT(dump(graph, Role::source),
              IsSupersetOf({"lib/main.js -> lib/main.js", "./bin/tide.js -> bin/tide.js"}));
  EXPECT_THAT(dump(graph, Role::listed),
              IsSupersetOf({"lib/no.js -> lib/no.js", "./src/style.css -> src/style.css"}));
  EXPECT_THAT(dump(graph, Role::pattern), ElementsAre("lib -> lib/main.js"));
  EXPECT_THAT(dump(graph, Role::subfolder), ElementsAre("./pole -> pole"));
  EXPECT_THAT(dump(graph, Role::argument),
              IsSupersetOf({"tests/a.js -> tests/a.js ?", "lib -> lib", "tide.js -> bin/tide.js ?",
                            "scss -> scss", "public -> public", "tests/setup.js -> tests/setup.js ?"}));
}

TEST(PackageManifests, what_is_made_is_known_by_its_source) {
  ReferenceGraph graph =
      read(tree_of({{"package.json", R"({"main": "./dist/index.js", "types": "./dist/index.d.ts",
       "browser": "./dist/never.js", "scripts": {"start": "node dist/cli.js"}})"},
                    {"tsconfig.json", R"({"compilerOptions": {"outDir": "dist"}, "include": ["src"]})"},
                    {"src/index.ts", ""},
                    {"src/cli.ts", ""}}));
  std::vector<std::string> made;
  for (const Reference& reference : graph.references) {
    for (const Target& target : reference.targets) {
      if (target.kind == Target::Kind::made)
        made.push_back(reference.text.text() + " of " + target.path.str());
    }
  }
  EXPECT_THAT(made, ElementsAre("./dist/index.js of src/index.ts", "./dist/index.d.ts of src/index.ts",
                                "dist/cli.js of src/cli.ts"));
}

TEST(CompilerSettings, the_inferred_folder_of_sources) {
  auto sources = [](const std::string& settings, const Tree& more = {}) {
    ReferenceGraph graph = read(
        tree_of(with({{"app/tsconfig.json", settings}, {"app/src/a.ts", ""}, {"app/src/b/c.ts", ""}}, more)));
    return graph.outputs.empty()
               ? "none"
               : graph.outputs.front().sources.str() + " -> " + graph.outputs.front().outputs.str();
  };
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out"}})"), "app/src -> app/out");
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out", "rootDir": "."}})"), "app -> app/out");
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out"}})", {{"app/test/t.ts", ""}}), "app -> app/out");
  EXPECT_EQ(
      sources(R"({"compilerOptions": {"outDir": "out"}, "exclude": ["test"]})", {{"app/test/t.ts", ""}}),
      "app/src -> app/out");
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out"}, "include": ["src/b/**/*"]})"),
            "app/src/b -> app/out");
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out", "composite": true}})"), "app -> app/out");
  EXPECT_EQ(sources(R"({"compilerOptions": {"outDir": "out", "noEmit": true}})"), "none");
}

}  // namespace
}  // namespace yc::test
