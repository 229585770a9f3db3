// Which words of a command that are not fully known may name what is there.
#include <algorithm>

#include "formats/shell/command_line.h"
#include "formats/shell/programs.h"
#include "words/shell.h"

namespace yc::shell {

namespace {

// test "x$folder" != "x": texts that are compared.
bool is_compared(const Command& command, std::size_t index) {
  auto compares = [&](std::size_t i) {
    if (i >= command.words.size()) return false;
    std::string text = command.words[i].text.text();
    return text == "=" || text == "==" || text == "!=" || text == "=~";
  };
  return compares(index + 1) || (index > 0 && compares(index - 1));
}

// Whether a word names what a command makes, in a folder of which nothing is known: "cp a.c $dist/a.c".
bool is_made_elsewhere(const Command& command, std::size_t i) {
  if (command.words[i].text.text()[0] != kHoleMark) return false;
  std::string name = command.name();
  if (name == "mkdir" || name == "touch") return true;
  // In a loop the last word stands there once for each round.
  std::size_t last = command.words.size() - 1;
  while (last > 0 && command.words[last].is_next) --last;
  return i > 1 && i >= last && (name == "cp" || name == "mv" || name == "ln" || name == "install");
}

}  // namespace

std::vector<TracedText> words_with_holes(const Command& command) {
  std::vector<TracedText> out;
  if (!command.base_known || words::shell::text_programs().contains(command.name())) return out;
  auto look = [&](const Word& word) {
    if (word.text.has_hole() && !word.text.is_only_holes()) out.push_back(word.text);
  };
  // "$top/tests/run.sh" is started from the tree, "$(CROSS)gcc" is not.
  std::string program = command.words.empty() ? "" : command.words.front().text.text();
  if (program.find('/', program.rfind(kHoleMark) + 1) != std::string::npos) look(command.words.front());
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    if (is_output_option(command.words[i].text.text())) {
      ++i;
      continue;
    }
    bool is_path = command.words[i].text.has_hole() && !is_made_elsewhere(command, i);
    if (is_path && !is_compared(command, i)) look(command.words[i]);
  }
  for (const Word& word : command.redirects) look(word);
  return out;
}

}  // namespace yc::shell
