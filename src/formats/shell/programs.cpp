#include "formats/shell/programs.h"

#include <algorithm>
#include <cctype>

#include "words/shell.h"

namespace yc::shell {

bool is_source_name(std::string_view name) {
  std::size_t dot = name.rfind('.');
  return dot != std::string_view::npos && words::shell::source_endings().contains(name.substr(dot));
}

bool is_output_option(std::string_view text) {
  return text == "-o" || text == "-MF" || text == "-MT" || text == "-MQ" || text == "--output";
}

// By what is known of the name's end, but for a version.
bool is_compiler(std::string_view name) {
  name = name.substr(name.rfind(kHoleMark) + 1);
  // In templates: "@CC@", less the mark in front, which make takes for its own, and "@ECHO_CC@gcc".
  if (name.ends_with("CC@") || name.ends_with("CXX@")) return true;
  name = name.substr(name.rfind('@') + 1);
  std::size_t end = name.find_last_not_of("0123456789.");
  std::size_t size = end == std::string_view::npos ? 0 : end + 1;
  if (size < name.size() && size > 0 && name[size - 1] == '-') --size;
  for (std::string_view known : {name, name.substr(0, size)}) {
    if (words::shell::compilers().contains(known)) return true;
    for (std::string_view tail : {"-gcc", "-g++", "-cc", "-clang", "-clang++", "-c++", "-as"}) {
      if (known.ends_with(tail)) return true;
    }
  }
  return name.starts_with("gcc-") || name.starts_with("g++-") || name.starts_with("clang-");
}

bool takes_text(std::string_view name) {
  return words::shell::text_programs().contains(name);
}

bool takes_folders(std::string_view name) {
  return words::shell::folder_programs().contains(name);
}

bool takes_folder(std::string_view program, std::string_view option) {
  if (option == "-e" || option == "--editable") return program == "pip" || program == "pip3";
  if (option == "-p" || option == "--project") return program == "tsc" || program == "dotnet";
  if (option == "-S") return program == "cmake";
  return words::shell::folder_options().contains(option);
}

bool is_shell(std::string_view name) {
  return name == "sh" || name == "bash" || name == "dash" || name == "ksh" || name == "zsh";
}

namespace {

// "10", "5m": what a program that starts others is told beside its options, as timeout and nice are.
bool is_amount(std::string_view text) {
  std::size_t digits = std::min(text.find_first_not_of("0123456789."), text.size());
  return digits > 0 && (digits == text.size() || (digits + 1 == text.size() && std::isalpha(text[digits])));
}

// Whether a word only leads to the one that names what is started.
bool stands_before_started(std::string_view text) {
  std::string_view name = text.substr(text.rfind('/') + 1);
  return text.starts_with("-") || text.find('=') != std::string_view::npos || is_shell(name) ||
         words::shell::program_runners().contains(name) || words::shell::code_runners().contains(name) ||
         name == "." || name == "source";
}

}  // namespace

bool may_start_own(std::string_view first_word) {
  return first_word.find('/') != std::string_view::npos || is_shell(first_word) ||
         words::shell::program_runners().contains(first_word) ||
         words::shell::code_runners().contains(first_word);
}

std::optional<std::size_t> started_word(const Command& command) {
  for (std::size_t i = 0; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    // "$(PYTHON) tools/gen.py", whatever that runs with.
    bool is_unknown = i == 0 && word.has_hole() && text.find('/') == std::string::npos;
    if (word.has_hole() && !is_unknown) return std::nullopt;
    if (is_unknown || stands_before_started(text) || (i > 0 && is_amount(text))) continue;
    return i;
  }
  return std::nullopt;
}

bool starts_own_program(const Command& command, const TreeReader& tree) {
  // In a folder that is not known: "$(bindir)/show cases".
  bool is_by_path = !command.words.empty() && command.words[0].text.has_hole() &&
                    command.words[0].text.text().find('/') != std::string::npos;
  auto at = is_by_path ? std::nullopt : started_word(command);
  if (!at) return is_by_path;
  std::string text = command.words[*at].text.text();
  if (text.starts_with("./") || text.starts_with("../")) return true;
  if (*at == 0) return text.find('/') != std::string::npos && !text.starts_with("/");
  Place place = place_of(command.base.folder, text, command.base.space);
  return place.space == Space::tree && tree.is_file(place.path);
}

bool stands_before_folder(std::string_view word) {
  return word == "cd" || word == "pushd" || takes_folder("", word);
}

}  // namespace yc::shell
