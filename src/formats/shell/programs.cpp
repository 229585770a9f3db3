#include "formats/shell/programs.h"

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

bool starts_by_path(const Command& command) {
  for (std::size_t i = 0; i < command.words.size(); ++i) {
    std::string text = command.words[i].text.text();
    bool is_option = text.starts_with("-") || text.find('=') != std::string::npos;
    if (i == 0 ? text.find('/') != std::string::npos : text.starts_with("./") || text.starts_with("../"))
      return true;
    if (!is_option && !words::shell::program_runners().contains(text)) return false;
  }
  return false;
}

bool stands_before_folder(std::string_view word) {
  return word == "cd" || word == "pushd" || takes_folder("", word);
}

}  // namespace yc::shell
