// Command lines of a POSIX shell (IEEE Std 1003.1, "Shell Command Language"), as build scripts use them:
// split into commands and words with their trace, the working folder followed, and the words that name paths
// picked out.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::shell {

// Writing styles of literals that the lexer has seen quotes around.
inline constexpr WritingStyle kBare = 16, kDouble = 17, kSingle = 18;

struct Word {
  TracedText text;
  bool quoted = false;   // no wildcard in it is one
  bool written = false;  // what is printed goes there
  bool is_next = false;  // stands in the place of the word before it in another round of a loop
};

struct Command {
  std::vector<Word> words;
  std::vector<Word> redirects;                            // files read or written through < and >
  std::vector<std::pair<std::string, Word>> environment;  // NAME=value before the command
  Base base;                                              // working folder
  bool base_known = true;
  bool deep_globs = false;  // "**" stands for folders at any depth (bash's globstar)
  // What it prints is read by a command that may care for its order, or kept in a file.
  bool handed_on = false;
  std::string name() const;  // of the program, without its folder
  // The command of each round of the loops that it stands in; itself, if it stands in none.
  std::vector<Command> by_round() const;
};

struct CommandLine {
  std::vector<Command> commands;
};

CommandLine read(const TracedText& line, const Base& base, const TreeReader& tree);

// A script that is a file.
struct Script {
  Base place;                     // its folder, which $(dirname "$0") and its kin mean
  bool is_read_in_place = false;  // by other scripts, and not started: "$0" means one of them
  bool runs_tests = false;        // it is a file of tests that bats runs
};
// The same for a whole script. The body of a here-document for a shell is read as its commands, of others
// words that may be paths are kept as those of a command "<<"; commands that only set variables are kept,
// too.
CommandLine read_script(const TracedText& text, const Base& start, const Script& script,
                        const TreeReader& tree);

// Words in which a hole touches known text and that may name what is there, not what is made elsewhere.
std::vector<TracedText> words_with_holes(const Command& command);

// What a compiler call compiles, and where it looks for includes.
struct CompileCall {
  std::vector<RelPath> sources;
  std::vector<SearchRoot> roots;
  std::vector<TracedText> root_words;
  std::vector<RelPath> forced;
  std::vector<PathMacro> macros;  // key and format of their definitions are left to the caller
  Place start;                    // where the compiler is started
  bool open = false;              // a word is unknown and could bring more of either
};
// The path that a definition such as NAME="a/b.h" or NAME=<b.h> gives a macro (without "-D"); nothing for
// other values.
std::optional<PathMacro> path_macro(const TracedText& definition);

// What the words of a command are.
struct LinkerCall {
  std::vector<RelPath> scripts;  // given with -T
  std::vector<Base> folders;     // where they look for what they name
};
struct Picked {
  // Arguments that name something in the tree; key and format are left to the caller.
  std::vector<Reference> references;
  std::vector<TracedText> others;      // that could name something the build makes
  std::optional<CompileCall> compile;  // if it calls a compiler
  LinkerCall linker;
};
// Words that `is_known` says yes to are passed over: whoever asks knows already what they name.
using IsKnown = std::function<bool(const TracedText&)>;
Picked pick(const Command& command, const TreeReader& tree, const IsKnown& is_known = nullptr);

// Words of a command that does nothing but list files of the tree ("find src -name '*.c'", "ls *.c"); the
// patterns it uses are handed to `found`. Nothing if the command is another one.
std::optional<std::vector<TracedText>> listed_files(const Command& command, const TreeReader& tree,
                                                    const std::function<void(Reference)>& found);
// Whether what a command prints may depend on which files are in a folder that it names.
bool lists_files(const Command& command);

}  // namespace yc::shell
