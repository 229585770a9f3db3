// Every reader under a coverage-guided fuzzer (libFuzzer). What is read is chosen by --as=NAME:
//   the path of a snippet   the bytes are that file, beside the files that it names: all formats read the
//   tree, and a
//                           move is planned in it
//   journal, sheet, config  the bytes are such a text
//   tree                    the bytes choose a generated project and moves in it; a plan that verifies must
//   keep what
//                           it promises
// With --seeds=FOLDER the snippets are written there, a folder for each NAME, and nothing else happens.
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <string>

#include "carry/journal.h"
#include "formats/format.h"
#include "plan/config.h"
#include "plan/move_sheet.h"
#include "plan/plan.h"
#include "support/snippets.h"
#include "tree/memory_tree.h"
#include "whole_tree.h"

namespace yc::fuzz {

namespace {

std::string g_kind = "tree";  // the fuzzer has no other way to hand it on

std::string file_name(std::string name) {
  for (char& c : name) c = c == '/' ? '+' : c;
  return name;
}

MemoryTree tree_with(const std::string& path, const std::string& bytes) {
  MemoryTree tree;
  for (const auto& [name, content] : test::companions()) tree.write(name, content);
  tree.write(path, bytes);
  return tree;
}

void require(bool holds, const char* what) {
  if (holds) return;
  std::fprintf(stderr, "does not hold: %s\n", what);
  std::abort();
}

// Every edit lies in its file and replaces what it says it does.
void require_sound(const Plan& plan, const TreeReader& tree) {
  require(plan.verified || !plan.unsettled.empty(), "a plan that does not verify says why");
  for (const PlannedEdit& edit : plan.edit_list) {
    auto bytes = tree.read(edit.file);
    require(static_cast<bool>(bytes) && edit.span.end <= (*bytes)->size(), "an edit lies in its file");
    require((*bytes)->substr(edit.span.begin, edit.span.size()) == edit.before,
            "an edit replaces what it says");
  }
}

void read_file(const std::string& bytes) {
  MemoryTree tree = tree_with(g_kind, bytes);
  // A plan reads the tree many times; most inputs are only read once.
  constexpr std::size_t kPlanned = 10;
  if (std::hash<std::string>{}(bytes) % kPlanned != 0) {
    FactsCache cache;
    (void)read_graph(tree, cache);
    return;
  }
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  auto moves = MoveSet::make(
      tree, {{at("src/a.c"), at("core/a.c")}, {at("inc"), at("api")}, {at("data"), at("tables")}});
  require(static_cast<bool>(moves), "the move can be asked for");
  require_sound(make_plan(tree, std::move(*moves), {}), tree);
}

void read_sheet(const std::string& bytes) {
  MemoryTree tree = tree_with("README.md", "");
  if (auto moves = parse_sheet(bytes, "sheet", tree)) (void)MoveSet::make(tree, std::move(*moves));
}

}  // namespace

int run(const std::string& bytes) {
  if (g_kind == "journal") {
    (void)journal_from_text(bytes);
  } else if (g_kind == "sheet") {
    read_sheet(bytes);
  } else if (g_kind == "config") {
    (void)parse_config(bytes, "yellow-compass.toml");
  } else if (g_kind == "tree") {
    move_in_generated_tree(bytes);
  } else {
    read_file(bytes);
  }
  return 0;
}

void write_seeds(const std::filesystem::path& folder) {
  auto write = [&](const std::string& name, const std::string& bytes) {
    std::filesystem::create_directories(folder / file_name(name));
    std::ofstream(folder / file_name(name) / "seed", std::ios::binary) << bytes;
  };
  for (const auto& [name, bytes] : test::snippets()) write(name, bytes);
  write("journal",
        R"({"command":"move a b","time":1,"requested":[{"from":"a","to":"b"}],"items":[{"from":"a",)"
        R"("to":"b","inode":2,"before":"x","after":"y","staged":3,"original":4,"blob":"z","link":true}],)"
        R"("nested":[],"made":[{"path":"c"}],"removed":[{"path":"d","mode":493}],)"
        R"("made_files":[{"path":"e","hash":"f"}],"dropped_files":[{"path":"g%20h","hash":"i"}]})");
  write("sheet", "# notes\nsrc/a.c -> core/a.c\n\"inc/\" -> \"a\\\"p\\ni/\"\n");
  write("config",
        "protected = [\"data\"]\nincludes = \"keep\"\nbuilds = ['make']\nsidecars = [\"NAME.meta\"]\n"
        "modules = { alias-from-steps = 3 }\n[[routes]]\nfolder = \"src\"\nendings = [\".c\"]\n"
        "[[references]]\nfiles = [\"*.ini\"]\npattern = 'f = (?<path>\\S+)'\n");
  write("tree", std::string("\x01\x02\x03\x04\x05\x06\x07\x08\x09\x0a\x0b\x0c", 12));
}

}  // namespace yc::fuzz

extern "C" int LLVMFuzzerInitialize(int* count, char*** words) {
  for (int i = 1; i < *count; ++i) {
    const char* word = (*words)[i];
    if (std::strncmp(word, "--as=", 5) == 0) yc::fuzz::g_kind = word + 5;
    if (std::strncmp(word, "--seeds=", 8) == 0) {
      yc::fuzz::write_seeds(word + 8);
      std::exit(0);
    }
  }
  return 0;
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  return yc::fuzz::run(std::string(reinterpret_cast<const char*>(data), size));
}
