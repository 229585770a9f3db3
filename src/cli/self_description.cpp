#include "cli/self_description.h"

#include <fmt/format.h>

#include <algorithm>
#include <vector>

#include "formats/format.h"
#include "words/report.h"

namespace yc::cli {

namespace {

constexpr const char* kProgram = "yellow-compass";

std::vector<const CLI::App*> commands_of(const CLI::App& app) {
  std::vector<const CLI::App*> out = app.get_subcommands([](const CLI::App*) { return true; });
  std::erase_if(out, [](const CLI::App* one) { return one->get_group().empty(); });
  return out;
}

std::vector<const CLI::Option*> options_of(const CLI::App& app) {
  std::vector<const CLI::Option*> out = app.get_options();
  std::erase_if(out,
                [](const CLI::Option* one) { return one->get_positional() || one->get_group().empty(); });
  return out;
}

std::vector<const CLI::Option*> positionals_of(const CLI::App& app) {
  std::vector<const CLI::Option*> out = app.get_options();
  std::erase_if(out, [](const CLI::Option* one) { return !one->get_positional() || one->nonpositional(); });
  return out;
}

bool takes_value(const CLI::Option& option) {
  return option.get_items_expected_max() > 0;
}

// The words that an option takes, where it takes one of some: "text|json".
std::vector<std::string> choices_of(const CLI::Option& option) {
  std::vector<std::string> out;
  std::string type = option.get_type_name();
  if (type.find('|') == std::string::npos) return out;
  for (std::size_t at = 0; at <= type.size();) {
    std::size_t end = std::min(type.find('|', at), type.size());
    out.push_back(type.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

std::vector<std::string> spellings_of(const CLI::Option& option) {
  std::vector<std::string> out;
  for (const std::string& name : option.get_snames()) out.push_back("-" + name);
  for (const std::string& name : option.get_lnames()) out.push_back("--" + name);
  return out;
}

std::string joined(const std::vector<std::string>& words, const std::string& between) {
  std::string out;
  for (const std::string& word : words) out += (out.empty() ? "" : between) + word;
  return out;
}

// Descriptions of help text stand on lines of its width.
std::string one_line(std::string text) {
  std::replace(text.begin(), text.end(), '\n', ' ');
  return text;
}

std::string all_spellings(const CLI::App& app) {
  std::vector<std::string> out;
  for (const CLI::Option* option : options_of(app)) {
    for (const std::string& name : spellings_of(*option)) out.push_back(name);
  }
  return joined(out, " ");
}

std::string names_of(const std::vector<const CLI::App*>& commands, const std::string& between) {
  std::vector<std::string> out;
  for (const CLI::App* command : commands) out.push_back(command->get_name());
  return joined(out, between);
}

// What stands in single quotes in a shell.
std::string quoted(const std::string& text) {
  std::string out = "'";
  for (char c : text) out += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return out + "'";
}

std::string bash_values(const CLI::App& app) {
  std::string out;
  for (const CLI::Option* option : options_of(app)) {
    std::vector<std::string> words = choices_of(*option);
    if (!takes_value(*option)) continue;
    std::string reply =
        words.empty() ? "compopt -o default; return"
                      : fmt::format("COMPREPLY=($(compgen -W '{}' -- \"$cur\")); return", joined(words, " "));
    out += fmt::format("    {}) {} ;;\n", joined(spellings_of(*option), "|"), reply);
  }
  return out;
}

std::string bash_script(const CLI::App& app) {
  std::vector<const CLI::App*> commands = commands_of(app);
  std::string out =
      "# Completion of yellow-compass for bash: source it, or put it where bash-completion looks.\n"
      "_yellow_compass() {\n"
      "  local cur=${COMP_WORDS[COMP_CWORD]} prev=${COMP_WORDS[COMP_CWORD-1]} command= word\n"
      "  for word in \"${COMP_WORDS[@]:1:COMP_CWORD-1}\"; do\n"
      "    case $word in\n";
  out += fmt::format("    {}) command=$word; break ;;\n", names_of(commands, "|"));
  out += "    esac\n  done\n  case $prev in\n" + bash_values(app) + "  esac\n  case $command in\n";
  for (const CLI::App* command : commands) {
    std::string values = bash_values(*command);
    out += fmt::format("  {})\n", command->get_name());
    if (!values.empty()) out += "    case $prev in\n" + values + "    esac\n";
    out += fmt::format(
        "    [[ $cur == -* ]] && COMPREPLY=($(compgen -W '{} {}' -- \"$cur\")) && return\n"
        "    compopt -o default ;;\n",
        all_spellings(*command), all_spellings(app));
  }
  out += fmt::format("  *) COMPREPLY=($(compgen -W '{} {}' -- \"$cur\")) ;;\n", names_of(commands, " "),
                     all_spellings(app));
  return out + "  esac\n}\ncomplete -F _yellow_compass yellow-compass\n";
}

// What a bracket or a colon means to _arguments is taken from it.
std::string zsh_plain(const std::string& text) {
  std::string out;
  for (char c : one_line(text))
    out += c == '[' || c == ']' || c == ':' ? std::string("\\") + c : std::string(1, c);
  return out;
}

std::string zsh_options(const CLI::App& app, const std::string& indent) {
  std::string out;
  for (const CLI::Option* option : options_of(app)) {
    std::vector<std::string> words = choices_of(*option);
    std::string value = !takes_value(*option) ? ""
                        : words.empty()       ? ":value:_files"
                                              : ":value:(" + joined(words, " ") + ")";
    for (const std::string& name : spellings_of(*option))
      out += indent + quoted(name + "[" + zsh_plain(option->get_description()) + "]" + value) + " \\\n";
  }
  return out;
}

std::string zsh_script(const CLI::App& app) {
  std::string out =
      "#compdef yellow-compass\n_yellow_compass() {\n  local line state\n  _arguments -C \\\n" +
      zsh_options(app, "    ") +
      "    '1: :->command' '*:: :->rest'\n  case $state in\n  command)\n    local -a commands=(\n";
  for (const CLI::App* command : commands_of(app))
    out += "      " + quoted(command->get_name() + ":" + zsh_plain(command->get_description())) + "\n";
  out += "    )\n    _describe command commands ;;\n  rest)\n    case $line[1] in\n";
  for (const CLI::App* command : commands_of(app))
    out += fmt::format("    {})\n      _arguments \\\n{}        '*:file:_files' ;;\n", command->get_name(),
                       zsh_options(*command, "        "));
  return out + "    esac ;;\n  esac\n}\n_yellow_compass \"$@\"\n";
}

std::string fish_options(const CLI::App& app, const std::string& when) {
  std::string out;
  for (const CLI::Option* option : options_of(app)) {
    std::string line = fmt::format("complete -c {}{}", kProgram, when);
    for (const std::string& name : option->get_snames()) line += " -s " + name;
    for (const std::string& name : option->get_lnames()) line += " -l " + name;
    std::vector<std::string> words = choices_of(*option);
    if (!words.empty()) line += " -x -a " + quoted(joined(words, " "));
    if (words.empty() && takes_value(*option)) line += " -r";
    out += line + " -d " + quoted(one_line(option->get_description())) + "\n";
  }
  return out;
}

std::string fish_script(const CLI::App& app) {
  std::string out = "# Completion of yellow-compass for fish.\n" + fish_options(app, "");
  for (const CLI::App* command : commands_of(app)) {
    out += fmt::format("complete -c {} -n __fish_use_subcommand -f -a {} -d {}\n", kProgram,
                       command->get_name(), quoted(one_line(command->get_description())));
    out += fish_options(*command, fmt::format(" -n '__fish_seen_subcommand_from {}'", command->get_name()));
  }
  return out;
}

// Text for roff: a hyphen stands for itself, no line begins with a mark of its own, and all is ASCII.
std::string roff(std::string text) {
  constexpr std::string_view kMore = "…";
  for (std::size_t at; (at = text.find(kMore)) != std::string::npos;) text.replace(at, kMore.size(), "...");
  std::string out;
  for (char c : text) {
    if (c == '\\') out += "\\e";
    if (c == '-') out += "\\-";
    if (c != '\\' && c != '-') out += c;
  }
  return out.starts_with(".") || out.starts_with("'") ? "\\&" + out : out;
}

std::string roff_options(const CLI::App& app) {
  std::string out;
  for (const CLI::Option* option : options_of(app)) {
    std::vector<std::string> names;
    for (const std::string& name : spellings_of(*option)) names.push_back("\\fB" + roff(name) + "\\fR");
    std::string value = takes_value(*option) ? " \\fI" + roff(option->get_type_name()) + "\\fR" : "";
    out += ".TP\n" + joined(names, ", ") + value + "\n" + roff(one_line(option->get_description())) + "\n";
  }
  return out;
}

std::string synopsis(const CLI::App& app, const CLI::App* command) {
  std::string out = ".B " + std::string(roff(kProgram)) + "\n";
  if (!command) return out + "[\\fIoptions\\fR] \\fIcommand\\fR [\\fIarguments\\fR]\n";
  out += ".B " + roff(command->get_name()) + "\n[\\fIoptions\\fR]";
  for (const CLI::Option* one : positionals_of(*command))
    out += " \\fI" + roff(one->get_type_name()) + "\\fR";
  (void)app;
  return out + "\n";
}

}  // namespace

std::optional<std::string> completion_script(const CLI::App& app, const std::string& shell) {
  if (shell == "bash") return bash_script(app);
  if (shell == "zsh") return zsh_script(app);
  if (shell == "fish") return fish_script(app);
  return std::nullopt;
}

std::string manual_page(const CLI::App& app, const CLI::App* command, const std::string& version) {
  const CLI::App& about = command ? *command : app;
  std::string name = command ? std::string(kProgram) + "-" + command->get_name() : kProgram;
  std::string title = name;
  std::transform(title.begin(), title.end(), title.begin(), [](unsigned char c) { return std::toupper(c); });
  std::string out =
      fmt::format(".TH {} 1 \"\" \"Yellow Compass {}\"\n.SH NAME\n{} \\- {}\n.SH SYNOPSIS\n{}", roff(title),
                  version, roff(name), roff(one_line(about.get_description())), synopsis(app, command));
  if (!command) {
    out += ".SH COMMANDS\n";
    for (const CLI::App* one : commands_of(app))
      out += ".TP\n\\fB" + roff(one->get_name()) + "\\fR\n" + roff(one_line(one->get_description())) + "\n";
  }
  out += ".SH OPTIONS\n" + roff_options(about);
  if (command) out += ".SH OPTIONS OF ALL COMMANDS\n" + roff_options(app);
  std::string statuses = one_line(app.get_footer());
  constexpr std::string_view kHeading = "Exit status: ";
  if (statuses.starts_with(kHeading)) statuses.erase(0, kHeading.size());
  out += ".SH EXIT STATUS\n" + roff(statuses) + "\n.SH SEE ALSO\n";
  std::vector<std::string> others = {kProgram};
  for (const CLI::App* one : commands_of(app))
    others.push_back(std::string(kProgram) + "-" + one->get_name());
  std::erase(others, name);
  for (std::string& other : others) other = "\\fB" + roff(other) + "\\fR(1)";
  return out + joined(others, ",\n") + "\n";
}

namespace {

// Nothing in a cell of a table may end it.
std::string cell(std::string text) {
  text = one_line(std::move(text));
  for (std::size_t at = text.find('|'); at != std::string::npos; at = text.find('|', at + 2))
    text.insert(at, "\\");
  return text;
}

std::string option_rows(const CLI::App& app) {
  std::string out;
  for (const CLI::Option* option : options_of(app)) {
    std::string value = takes_value(*option) ? " " + option->get_type_name() : option->get_type_name();
    std::string name = joined(spellings_of(*option), ", ") + value;
    out += "| `" + cell(name) + "` | " + cell(option->get_description()) + " |\n";
  }
  return out.empty() ? "" : "| option | |\n|---|---|\n" + out + "\n";
}

}  // namespace

std::string commands_page(const CLI::App& app) {
  std::string out =
      "# Commands\n\nMade by `yellow-compass manual --markdown`; [what each is for](guide.md).\n\n";
  for (const CLI::App* command : commands_of(app)) {
    std::string words;
    for (const CLI::Option* one : positionals_of(*command)) words += " " + one->get_type_name();
    out += "## `" + std::string(kProgram) + " " + command->get_name() + words + "`\n\n" +
           one_line(command->get_description()) + ".\n\n";
    for (const CLI::Option* one : positionals_of(*command))
      out += "- `" + one->get_type_name() + "`: " + one_line(one->get_description()) + "\n";
    if (!positionals_of(*command).empty()) out += "\n";
    out += option_rows(*command);
  }
  out += "## Options of all commands\n\n" + option_rows(app);
  return out + "## Exit status\n\n" + one_line(app.get_footer()) + "\n";
}

std::string formats_page() {
  std::string out =
      "# What is read\n\nMade by `yellow-compass manual --formats`. A tree may have several side by "
      "side.\n\n| | |\n|---|---|\n";
  std::vector<std::string> names;
  for (const auto& format : formats()) names.emplace_back(format->name());
  std::sort(names.begin(), names.end());
  for (const std::string& name : names)
    out += "| " + name + " | " + std::string(words::report::formats().find(name).value_or("")) + " |\n";
  return out;
}

}  // namespace yc::cli
