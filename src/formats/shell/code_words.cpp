#include "formats/shell/code_words.h"

#include <string_view>

#include "words/shell.h"

namespace yc::shell {

namespace {

// awk takes its code as the first word that is no option, unless it is told of a file.
bool is_code_of_awk(const Command& command, std::size_t index) {
  for (std::size_t at = 1; at < index; ++at) {
    std::string word = command.words[at].text.text();
    if (word.starts_with("-f") || !word.starts_with("-")) return false;
    if (word == "-v" || word == "-F") ++at;  // its value is a word of its own
  }
  std::string before = command.words[index - 1].text.text();
  return !command.words[index].text.text().starts_with("-") && before != "-v" && before != "-F";
}

// Whether an interpreter was given a script before: what follows is for that. Some options have a word of
// their own: "-I lib".
bool is_past_script(const Command& command, std::size_t index) {
  for (std::size_t at = 1; at + 1 < index; ++at) {
    std::string word = command.words[at].text.text();
    if (word.size() == 2 && word[0] == '-' &&
        std::string_view("IMWX").find(word[1]) != std::string_view::npos)
      ++at;
    else if (!word.starts_with("-"))
      return true;
  }
  return false;
}

}  // namespace

bool is_code(const Command& command, const std::string& program, std::size_t index) {
  if (index == 0 || !words::shell::code_runners().contains(program)) return false;
  if (program.ends_with("awk")) return is_code_of_awk(command, index);
  std::string before = command.words[index - 1].text.text();
  if (before == "--eval") return true;
  bool is_option = before.size() > 1 && before[0] == '-' && before[1] != '-';
  return is_option && std::string_view("ceEr").find(before.back()) != std::string_view::npos &&
         !is_past_script(command, index);
}

std::vector<TracedText> strings_in_code(const TracedText& code) {
  std::vector<TracedText> out;
  std::string text = code.text();
  for (std::size_t at = text.find_first_of("'\""); at != std::string::npos;
       at = text.find_first_of("'\"", at + 1)) {
    std::size_t end = text.find(text[at], at + 1);
    if (end == std::string::npos) break;
    std::string_view inside = std::string_view(text).substr(at + 1, end - at - 1);
    bool may_be_path = inside.find_first_of("/.") != std::string_view::npos &&
                       inside.find_first_of("\\\n ") == std::string_view::npos && inside != "." &&
                       inside != "..";
    if (may_be_path) out.push_back(code.substr(at + 1, inside.size()));
    at = end;
  }
  return out;
}

}  // namespace yc::shell
