#include "formats/shell/launchers.h"
#include "words/shell.h"

#include <algorithm>
#include <string_view>

namespace yc::shell {

namespace {

bool is_option(const std::string& text) {
  return text.size() > 1 && text[0] == '-';
}

// Runs packages or scripts: its first word that is no option is a verb or the name itself.
bool is_package_runner(std::string_view name) {
  return words::shell::package_runners().contains(name);
}

bool is_verb(std::string_view word) {
  return words::shell::runner_verbs().contains(word);
}

// Sets the environment, then runs what follows.
bool is_wrapper(std::string_view name) {
  return words::shell::wrappers().contains(name);
}

// Runs each of its words as a command line, or as the name of a script.
bool is_line_runner(std::string_view name) {
  return words::shell::line_runners().contains(name);
}

}  // namespace

Launched launched(const Command& command) {
  Launched out;
  const std::vector<Word>& words = command.words;
  std::size_t at = 0;
  auto text_at = [&](std::size_t i) { return words[i].text.text(); };
  while (at < words.size()) {
    std::string text = text_at(at);
    if (text.find('/') != std::string::npos) return out;
    out.names.insert(at);
    std::size_t next = at + 1;
    if (is_line_runner(text)) {
      for (; next < words.size(); ++next) {
        if (is_option(text_at(next))) continue;
        bool is_line = text_at(next).find(' ') != std::string::npos;
        (is_line ? out.lines : out.names).insert(next);
      }
      return out;
    }
    if (is_package_runner(text)) {
      while (next < words.size() && (is_option(text_at(next)) || is_verb(text_at(next)))) {
        // yarn workspace NAME run SCRIPT
        if (text_at(next) == "workspace" && next + 1 < words.size()) out.names.insert(++next);
        ++next;
      }
      if (next < words.size() && text_at(next).find('/') == std::string::npos) out.names.insert(next);
      // What it starts may start something itself.
      bool goes_on = next < words.size() && (is_line_runner(text_at(next)) || is_wrapper(text_at(next)) ||
                                             is_package_runner(text_at(next)));
      if (!goes_on) return out;
      at = next;
      continue;
    }
    if (!is_wrapper(text)) return out;
    while (next < words.size() && (is_option(text_at(next)) || text_at(next).find('=') != std::string::npos))
      ++next;
    at = next;
  }
  return out;
}

}  // namespace yc::shell
