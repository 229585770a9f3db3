// Every reader under a coverage-guided fuzzer (libFuzzer). What is read is chosen by --as=NAME:
//   the path of a snippet   the bytes are that file, beside the files that it names: the formats that read
//                           such a file read the tree, and now and then a move is planned in it
//   journal, sheet, config,
//   layout                  the bytes are such a text
//   crate                   the bytes are the first source of a crate
//   tree                    the bytes choose a generated project and moves in it; a plan that verifies must
//                           keep what it promises
// With --seeds=FOLDER the snippets are written there, a folder for each NAME, and nothing else happens.
#include <atomic>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <string>

#include "carry/journal.h"
#include "formats/format.h"
#include "formats/kept_parts.h"
#include "plan/config.h"
#include "plan/layout.h"
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

std::string seed_of(const std::string& path) {
  for (const auto& [name, bytes] : test::snippets()) {
    if (name == path) return bytes;
  }
  return "";
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
  require(plan.verified || !plan.blockers.empty(), "a plan that does not verify says why");
  for (const PlannedEdit& edit : plan.edit_list) {
    auto bytes = tree.read(edit.file);
    require(static_cast<bool>(bytes) && edit.span.end <= (*bytes)->size(), "an edit lies in its file");
    require((*bytes)->substr(edit.span.begin, edit.span.size()) == edit.before,
            "an edit replaces what it says");
  }
}

const Scopes nothing;  // of other formats

// Tells whether one file was read.
class WatchedTree : public TreeReader {
 public:
  WatchedTree(const TreeReader& tree, RelPath file) : tree_(tree), file_(std::move(file)) {}
  const Entry* find(const RelPath& path) const override { return tree_.find(path); }
  std::vector<std::string> children(const RelPath& folder) const override { return tree_.children(folder); }
  const FileList& listing() const override { return tree_.listing(); }
  Result<Bytes> read(const RelPath& path) const override {
    if (path == file_) was_read_ = true;
    return tree_.read(path);
  }
  bool was_read() const { return was_read_; }

 private:
  const TreeReader& tree_;
  RelPath file_;
  mutable std::atomic<bool> was_read_ = false;  // formats read with several threads
};

// The formats that read the file which the fuzzer makes.
std::vector<std::uint8_t> readers_of(const MemoryTree& tree) {
  std::vector<std::uint8_t> out;
  ClaimedFiles claimed = claimed_files(tree);
  for (std::size_t i = 0; i < formats().size(); ++i) {
    auto self = static_cast<std::uint8_t>(i);
    WatchedTree watched(tree, RelPath::from_normal(g_kind));
    FactsCache cache;
    GraphBuilder graph(cache.parts().files());
    formats()[i]->read({watched, cache, self, graph, claimed[i], nothing});
    if (watched.was_read()) out.push_back(self);
  }
  require(!out.empty(), "the file is read by some format");
  return out;
}

void read_file(const std::string& bytes) {
  MemoryTree tree = tree_with(g_kind, bytes);
  // A plan reads the tree many times, with all formats; most inputs are only read once.
  constexpr std::size_t kPlanned = 200;
  if (std::hash<std::string>{}(bytes) % kPlanned != 0) {
    static const std::vector<std::uint8_t> readers = readers_of(tree_with(g_kind, seed_of(g_kind)));
    static const ClaimedFiles claimed = claimed_files(tree);  // of every such tree
    FactsCache cache;
    GraphBuilder graph(cache.parts().files());
    for (std::uint8_t format : readers)
      format_at(format).read({tree, cache, format, graph, claimed[format], nothing});
    (void)graph.finish();
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

// The first source of a crate, beside modules that it may name; now and then one of these moves.
void read_crate(const std::string& bytes) {
  MemoryTree tree;
  tree.write("Cargo.toml", "[package]\nname = \"p\"\nedition = \"2021\"\n");
  tree.write("src/lib.rs", bytes);
  tree.write("src/a.rs", "use super::*;\nuse crate::b::c;\npub(super) fn f() { c::g() }\n");
  tree.write("src/b/mod.rs", "pub mod c;\nmacro_rules! m { () => {} }\n");
  tree.write("src/b/c.rs", "pub fn g() { crate::a::f() }\n");
  constexpr std::size_t kPlanned = 8;
  if (std::hash<std::string>{}(bytes) % kPlanned != 0) {
    FactsCache cache;
    (void)read_graph(tree, cache);
    return;
  }
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  auto moves = MoveSet::make(tree, {{at("src/a.rs"), at("src/b/a.rs")}, {at("src/b/c.rs"), at("src/d.rs")}});
  require(static_cast<bool>(moves), "the move can be asked for");
  require_sound(make_plan(tree, std::move(*moves), {}), tree);
}

}  // namespace

int run(const std::string& bytes) {
  if (g_kind == "journal") {
    (void)journal_from_text(bytes);
  } else if (g_kind == "sheet") {
    read_sheet(bytes);
  } else if (g_kind == "config") {
    (void)parse_config(bytes, "yellow-compass.toml");
  } else if (g_kind == "layout") {
    if (auto rules = parse_layout(bytes, "layout.toml")) {
      FactsCache cache;
      MemoryTree tree = tree_with("README.md", "");
      (void)sheet_of(lay_out(tree, read_graph(tree, cache), *rules), *rules);
      require(static_cast<bool>(parse_layout(layout_text(*rules), "again")), "what is written can be read");
    }
  } else if (g_kind == "crate") {
    read_crate(bytes);
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
  write("layout",
        "[[place]]\nholds = \"library\"\nmatch = [\"src/**\", \"lib/*\"]\nexcept = 'lib/x*'\nto = "
        "\"libs/{1}/\"\n"
        "[[place]]\nof = \"file\"\nholds = \"header\"\nmatch = \"inc/*.h\"\nto = \"api/{stem}.hpp\"\n");
  write("crate",
        "//! use p::a;\n#[path = \"b/mod.rs\"]\npub mod e { mod c; }\nmod a;\n#[cfg(unix)] pub(in crate) mod "
        "b;\n"
        "use self::b::{c as d, *};\nm!(a::f, x); fn h<'x>() -> ::std::result::Result<(), ()> { r#\"\"#; "
        "b::c::g() }\n");
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
