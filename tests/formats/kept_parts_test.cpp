// Parts of a reading that are kept come out as if they were read again.
#include "formats/kept_parts.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "formats/format.h"
#include "support/dump.h"
#include "support/snippets.h"

namespace yc::test {
namespace {

using ::testing::ElementsAreArray;
using Files = std::map<std::string, std::string>;

// Keeps bytes in memory, as a database would on disk.
class Shelf : public PartShelf {
 public:
  std::uint64_t seed() const override { return 17; }
  std::vector<std::string> load(const std::string& key) override {
    auto at = kept.find(key);
    return at == kept.end() ? std::vector<std::string>() : at->second;
  }
  void save(const std::string& key, const std::string& bytes) override {
    kept[key].insert(kept[key].begin(), bytes);
  }
  std::map<std::string, std::vector<std::string>> kept;
};

MemoryTree tree_of(const Files& files) {
  return test::tree_of({files.begin(), files.end()});
}

ReferenceGraph read_by(const Files& files, FactsCache& cache) {
  return GraphReader().read(tree_of(files), cache, [](const RelPath&) { return false; });
}

std::vector<std::string> fresh(const Files& files) {
  return everything(read(tree_of(files)));
}

std::size_t count(const Timings& timings, const std::string& format, const std::string& what) {
  for (const Timings::Line& line : timings.lines()) {
    auto at = line.counts.find(what);
    if (line.part == format && at != line.counts.end()) return at->second;
  }
  return 0;
}

// Build scripts of three tools, with conditionals, wildcards, search paths, fragments and folders of their
// own.
Files station() {
  return {
      {"Makefile",
       "include common.mk\nSRCS := $(wildcard src/*.c)\nOBJS = $(SRCS:.c=.o)\nifdef DEBUG\nFLAGS = "
       "-Isrc/debug\nendif\nVPATH = src\nall: gauge\n\t$(MAKE) -C tools LEVEL=../src\ngauge: "
       "$(OBJS)\n\tcc $(FLAGS) -Iinclude -o $@ $^\n%.o: %.c\n\tcc -c $(FLAGS) -o $@ $<\n"},
      {"common.mk", "UNUSED = include/level.h src/tide.c\nDOCS = doc/a.txt\n"},
      {"tools/Makefile", "include ../common.mk\nprobe: probe.c $(LEVEL)/tide.c\n\tcc -I$(LEVEL) -o $@ $^\n"},
      {"tools/probe.c", "#include \"tide.h\"\n"},
      {"src/tide.c", "#include \"level.h\"\n"},
      {"src/tide.h", ""},
      {"src/level.c", "#include <level.h>\n"},
      {"include/level.h", ""},
      {"doc/a.txt", ""},
      {"board/CMakeLists.txt",
       "project(board)\nif(LIVE)\n  set(more live.cpp)\nendif()\nadd_executable(board main.cpp ${more})\n"
       "add_subdirectory(parts)\nconfigure_file(version.h.in version.h)\n"},
      {"board/main.cpp", "#include \"part.h\"\n#include \"version.h\"\n"},
      {"board/live.cpp", ""},
      {"board/version.h.in", ""},
      {"board/parts/CMakeLists.txt", "target_include_directories(board PRIVATE .)\n"},
      {"board/parts/part.h", ""},
      {"probe/configure.ac",
       "AC_INIT([probe],[1])\nAM_INIT_AUTOMAKE([subdir-objects])\nAC_CONFIG_HEADERS([config.h])\n"
       "AC_CONFIG_FILES([Makefile])\nAC_OUTPUT\n"},
      {"probe/Makefile.am", "bin_PROGRAMS = probe\nprobe_SOURCES = probe.c\nBUILT_SOURCES = table.h\n"},
      {"probe/probe.c", "#include \"config.h\"\n"},
      {"buoy/meson.build",
       "project('buoy', 'c')\nfoo = get_option('foo')\nif foo\n  subdir('sub')\nendif\nexecutable('buoy', "
       "'buoy.c', include_directories: include_directories('inc'))\n"},
      {"buoy/buoy.c", "#include \"buoy.h\"\n"},
      {"buoy/inc/buoy.h", ""},
      {"buoy/sub/meson.build", "more = files('more.c')\n"},
      {"buoy/sub/more.c", ""}};
}

Files all_snippets() {
  Files out = station();
  for (const auto& [path, bytes] : companions()) out.emplace("near/" + path, bytes);
  for (const auto& [path, bytes] : snippets()) out.insert_or_assign("near/" + path, bytes);
  return out;
}

TEST(KeptParts, what_did_not_change_is_not_read_again) {
  auto timings = std::make_shared<Timings>();
  FactsCache cache(timings);
  Files files = station();
  read_by(files, cache);
  EXPECT_EQ(count(*timings, "make", "parts read"), 3u) << "the makefiles, and that which one starts";
  EXPECT_EQ(count(*timings, "make", "parts kept"), 0u);
  files["board/main.cpp"] += "\n";
  EXPECT_THAT(everything(read_by(files, cache)), ElementsAreArray(fresh(files)));
  EXPECT_EQ(count(*timings, "make", "parts read"), 3u);
  EXPECT_EQ(count(*timings, "cmake", "parts read"), 1u) << "no script asks what is in a source";
  files["src/new.c"] = "";
  EXPECT_THAT(everything(read_by(files, cache)), ElementsAreArray(fresh(files)));
  EXPECT_EQ(count(*timings, "make", "parts read"), 4u) << "$(wildcard src/*.c)";
  EXPECT_EQ(count(*timings, "meson", "parts read"), 1u);
}

// Files come, go and change; each reading has what all before it kept.
void expect_same_as_fresh(const Files& first, unsigned seed, std::shared_ptr<PartShelf> shelf) {
  std::mt19937 random(seed);
  Files files = first;
  auto cache = std::make_unique<FactsCache>(nullptr, std::make_shared<KeptParts>(shelf));
  for (int turn = 0; turn < 12; ++turn) {
    if (shelf) cache = std::make_unique<FactsCache>(nullptr, std::make_shared<KeptParts>(shelf));
    EXPECT_THAT(everything(read_by(files, *cache)), ElementsAreArray(fresh(files)))
        << "seed " << seed << ", turn " << turn;
    auto at = std::next(files.begin(), static_cast<std::ptrdiff_t>(random() % files.size()));
    switch (random() % 4) {
      case 0:
        at->second.insert(at->second.size() / 2, "\n");
        break;
      case 1:
        files["moved/" + at->first] = at->second;
        files.erase(at);
        break;
      case 2:
        files[at->first + ".c"] = at->second;
        break;
      default:
        files = first;
    }
  }
}

TEST(KeptParts, come_out_as_if_read_again) {
  for (unsigned seed = 1; seed <= 12; ++seed) expect_same_as_fresh(station(), seed, nullptr);
  expect_same_as_fresh(all_snippets(), 1, nullptr);
}

TEST(KeptParts, come_out_of_bytes_as_they_were) {
  for (unsigned seed = 1; seed <= 6; ++seed) expect_same_as_fresh(station(), seed, std::make_shared<Shelf>());
  expect_same_as_fresh(all_snippets(), 2, std::make_shared<Shelf>());
}

TEST(KeptParts, are_found_in_a_later_run) {
  auto shelf = std::make_shared<Shelf>();
  FactsCache first(nullptr, std::make_shared<KeptParts>(shelf));
  read_by(station(), first);
  ASSERT_GE(shelf->kept.size(), 4u);
  auto timings = std::make_shared<Timings>();
  FactsCache later(timings, std::make_shared<KeptParts>(shelf));
  EXPECT_THAT(everything(read_by(station(), later)), ElementsAreArray(fresh(station())));
  for (const char* format : {"make", "cmake", "meson"}) {
    EXPECT_EQ(count(*timings, format, "parts read"), 0u) << format;
    EXPECT_GE(count(*timings, format, "parts kept"), 1u) << format;
  }
}

TEST(KeptParts, bytes_that_are_cut_off_are_passed_over) {
  auto shelf = std::make_shared<Shelf>();
  FactsCache first(nullptr, std::make_shared<KeptParts>(shelf));
  read_by(station(), first);
  auto whole = shelf->kept;
  for (std::size_t step = 0; step < 40; ++step) {
    shelf->kept = whole;
    for (auto& [key, all] : shelf->kept) all.front().resize(all.front().size() * step / 40);
    FactsCache later(nullptr, std::make_shared<KeptParts>(shelf));
    EXPECT_THAT(everything(read_by(station(), later)), ElementsAreArray(fresh(station()))) << step;
  }
}

}  // namespace
}  // namespace yc::test
