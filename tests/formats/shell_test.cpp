// Command lines: words, the working folder, and which words are paths.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/shell/command_line.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

MemoryTree tree() {
  return tree_of({{"main.c", ""},
                  {"src/a.c", ""},
                  {"src/b.c", ""},
                  {"src/sub/c.c", ""},
                  {"inc/x.h", ""},
                  {"tools/gen.sh", ""},
                  {"out/keep", ""},
                  {"notes", ""}});
}

shell::CommandLine read(const std::string& line, const MemoryTree& here) {
  Span span{0, static_cast<std::uint32_t>(line.size())};
  return shell::read(TracedText::literal(line, 0, span), Base{}, here);
}

// Words of each command, "folder: word|word".
std::vector<std::string> words(const std::string& line) {
  MemoryTree here = tree();
  std::vector<std::string> out;
  for (const shell::Command& command : read(line, here).commands) {
    std::string text = (command.base_known ? command.base.folder.str() : "?") + ":";
    for (const shell::Word& word : command.words) {
      text += (text.back() == ':' ? " " : "|");
      for (char c : word.text.text()) text += c == kHoleMark ? "*" : std::string(1, c);
    }
    out.push_back(text);
  }
  return out;
}

TEST(ShellWords, quoting_separators_and_variables) {
  EXPECT_THAT(words("cc -c 'a b.c' \"x y\" z\\ w"), ElementsAre(": cc|-c|a b.c|x y|z w"));
  EXPECT_THAT(words("a; b && c || d | e & f"), ElementsAre(": a", ": b", ": c", ": d", ": e", ": f"));
  EXPECT_THAT(words("x=src; cat $x/a.c ${x}/b.c"), ElementsAre(": cat|src/a.c|src/b.c"));
  EXPECT_THAT(words("cat $unknown/a.c `pwd`/b $(ls)/c"), ElementsAre(": cat|*/a.c|*/b|*/c", ": pwd", ": ls"));
  EXPECT_THAT(words("x=$(cat src/a.c) && cat ${1:-src/b.c} ${y:=src/c.c} \"$(sort \"$(cat src/d.c)\")\""),
              ElementsAre(": cat|src/a.c", ": cat|src/b.c|src/c.c|*", ": sort|*", ": cat|src/d.c"));
  EXPECT_THAT(words("cat a # not this"), ElementsAre(": cat|a"));
  EXPECT_THAT(words("if test -f a; then b; else c; fi"), ElementsAre(": test|-f|a", ": b", ": c"));
  EXPECT_THAT(words("cat 'never closed"), ElementsAre(": cat|never closed"));
  EXPECT_THAT(words("for f in a b; do cat $f.c; done"), ElementsAre(": for|a|b", ": cat|a.c|b.c"));
}

TEST(ShellWords, a_line_may_end_anywhere) {
  EXPECT_THAT(words("cat \"a \\"), ElementsAre(": cat|a \\"));
  std::string line = "for x in \"a\\ $b${c}`d`\" 'e' \\f; do cat <<EOF >g 2>&1 $(h \"i\") | j; done\nEOF\n";
  for (std::size_t size = 0; size <= line.size(); ++size) {
    for (const char* end : {"", "\\", "\"\\", "'", "`", "$", "${", "$(", "\"$(\\"})
      words(line.substr(0, size) + end);
  }
}

TEST(ShellWords, working_folder_is_followed) {
  EXPECT_THAT(words("cd src && cat a.c"), ElementsAre(": cd|src", "src: cat|a.c"));
  EXPECT_THAT(words("(cd src; cat a.c); cat main.c"),
              ElementsAre(": cd|src", "src: cat|a.c", ": cat|main.c"));
  EXPECT_THAT(words("cd src && cd sub && cd ../.. && cat main.c"),
              ElementsAre(": cd|src", "src: cd|sub", "src/sub: cd|../..", ": cat|main.c"));
  EXPECT_THAT(words("cd $where && cat a.c"), ElementsAre(": cd|*", "?: cat|a.c"));
  EXPECT_THAT(words("cd /etc && cat a.c"), ElementsAre(": cd|/etc", "?: cat|a.c"));
}

// References of a line: "role text".
std::vector<std::string> paths(const std::string& line) {
  MemoryTree here = tree();
  std::vector<std::string> out;
  for (const shell::Command& command : read(line, here).commands) {
    for (const Reference& reference : shell::pick(command, here).references) {
      bool output = !reference.targets.empty() && reference.targets.front().kind == Target::Kind::output;
      out.push_back(std::string(output ? "output" : name_of(reference.role)) + " " + reference.text.text());
    }
  }
  return out;
}

TEST(ShellPaths, arguments_options_and_redirections) {
  EXPECT_THAT(paths("cc -Iinc -I src -c main.c -o main.o"),
              ElementsAre("search root inc", "search root src", "source main.c"));
  EXPECT_THAT(paths("tools/gen.sh < notes > out/new.txt"),
              ElementsAre("argument tools/gen.sh", "argument notes", "output out/new.txt"));
  EXPECT_THAT(paths("ld -Tsrc/a.c --script=src/b.c -Wl,--map,inc/x.h"),
              ElementsAre("argument src/a.c", "argument src/b.c", "argument inc/x.h"));
  EXPECT_THAT(paths("cat src/*.c"), ElementsAre("pattern src/*.c"));
  EXPECT_THAT(paths("cat 'src/*.c'"), IsEmpty());
  EXPECT_THAT(paths("echo main.c src/a.c"), IsEmpty());
  EXPECT_THAT(paths("DIR=src/sub tool"), ElementsAre("argument src/sub"));
  EXPECT_THAT(paths("tool --data=src/a.c,src/b.c"), ElementsAre("argument src/a.c", "argument src/b.c"));
  EXPECT_THAT(paths("install src out"), ElementsAre("argument src", "argument out"));
  EXPECT_THAT(paths("tool src"), IsEmpty()) << "a bare word is no folder to a program nobody knows";
  EXPECT_THAT(paths("cat /etc/passwd ../outside nothing.c"), IsEmpty());
}

TEST(ShellPaths, compile_calls_tell_sources_and_roots) {
  MemoryTree here = tree();
  auto line = read("arm-none-eabi-gcc -Iinc -include inc/x.h -DNAME='\"src/a.c\"' -c src/b.c", here);
  auto picked = shell::pick(line.commands.at(0), here);
  ASSERT_TRUE(picked.compile);
  ASSERT_EQ(picked.compile->sources.size(), 1u);
  EXPECT_EQ(picked.compile->sources[0].str(), "src/b.c");
  ASSERT_EQ(picked.compile->roots.size(), 1u);
  EXPECT_EQ(picked.compile->roots[0].place.path.str(), "inc");
  ASSERT_EQ(picked.compile->forced.size(), 1u);
  ASSERT_EQ(picked.compile->macros.size(), 1u);
  EXPECT_EQ(picked.compile->macros[0].name, "NAME");
  EXPECT_EQ(picked.compile->macros[0].value.text(), "src/a.c");
  EXPECT_FALSE(picked.compile->open);
  auto open = read("cc $(FLAGS) -c src/b.c", here);
  EXPECT_TRUE(shell::pick(open.commands.at(0), here).compile->open);
}

TEST(ShellPaths, commands_that_list_files) {
  MemoryTree here = tree();
  auto listed = [&](const std::string& line) {
    std::vector<std::string> out;
    auto found = shell::listed_files(read(line, here).commands.at(0), here, [](Reference) {});
    if (!found) return std::vector<std::string>{"unknown"};
    for (const TracedText& word : *found) out.push_back(word.text());
    return out;
  };
  EXPECT_THAT(listed("find src -name '*.c'"), ElementsAre("src/a.c", "src/b.c", "src/sub/c.c"));
  EXPECT_THAT(listed("ls src/*.c"), ElementsAre("src/a.c", "src/b.c"));
  EXPECT_THAT(listed("find src -newer x"), ElementsAre("unknown"));
  EXPECT_THAT(listed("date"), ElementsAre("unknown"));
}

}  // namespace
}  // namespace yc::test
