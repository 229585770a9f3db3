// The program: options in, the core's results out. One file a command; see session.h for what they share.
#include <algorithm>
#include <csignal>
#include <cstdio>
#include <string_view>

#include "cli/interrupts.h"
#include "cli/session.h"

namespace {

constexpr const char* kFooter =
    "Exit status: 0 done and verified; 1 findings; 2 usage or unreadable input;\n"
    "3 not carried out, nothing changed; 4 an I/O failure, rolled back.";

std::string typed(int argc, char** argv) {
  std::string out = "yellow-compass";
  for (int i = 1; i < argc; ++i) {
    std::string word = argv[i];
    bool plain = !word.empty() && word.find_first_of(" \t\n'\"$\\*?") == std::string::npos;
    out += plain ? " " + word : " '" + word + "'";
  }
  return out;
}

// Where the "--" stands that a build command follows; argc if none does. For rehearse it is the first one.
// For move it is the first one behind a sheet or two paths, for before that it only ends the options.
int build_begins(const CLI::App& app, int argc, char** argv) {
  const CLI::App* command = nullptr;
  int paths = 0;
  for (int i = 1; i < argc; ++i) {
    std::string_view word = argv[i];
    if (word == "--") {
      if (!command || command->get_name() == "rehearse" || paths > 1) return command ? i : argc;
      for (++i; i < argc && std::string_view(argv[i]) != "--"; ++i) ++paths;
      return paths > 1 ? i : argc;
    }
    if (!command && !word.starts_with('-')) {
      for (const CLI::App* one : app.get_subcommands([](const CLI::App*) { return true; })) {
        if (one->get_name() == word) command = one;
      }
      bool takes_build = command && (command->get_name() == "rehearse" || command->get_name() == "move");
      if (command && !takes_build) return argc;
    } else if (!word.starts_with('-') || word == "-") {
      ++paths;
    }
    if (word == "--sheet" || word.starts_with("--sheet=")) paths = 2;
    for (const CLI::App* owner : {command, &app}) {
      const CLI::Option* option = owner && word.starts_with('-') && word.find('=') == std::string_view::npos
                                      ? owner->get_option_no_throw(std::string(word))
                                      : nullptr;
      if (!option) continue;
      if (option->get_expected_max() > 0) ++i;  // its value
      break;
    }
  }
  return argc;
}

// The value of a flag is its own concern.
class Help : public CLI::Formatter {
 public:
  std::string make_option_name(const CLI::Option* option, bool is_positional) const override {
    std::string name = CLI::Formatter::make_option_name(option, is_positional);
    std::size_t open = name.find('{');
    return open == std::string::npos ? name : name.substr(0, open);
  }
};

}  // namespace

int main(int argc, char** argv) {
  std::signal(SIGPIPE, SIG_DFL);  // a reader that leaves ends the program quietly
  yc::cli::tell_interrupts();
  yc::cli::Options options;
  options.command_line = typed(argc, argv);
  int status = yc::cli::kDone;
  CLI::App app(
      "Moves files and folders of a source tree and keeps what names them pointing at the new places.",
      "yellow-compass");
  app.formatter(std::make_shared<Help>());
  app.set_version_flag("--version", [] { return yc::cli::version_text(); });
  app.require_subcommand(1);
  app.fallthrough();
  app.footer(kFooter);
  app.add_option("-C,--root", options.root, "Root of the tree; else found upwards from here")
      ->type_name("DIR");
  app.add_option("--format", options.format, "How results are printed")
      ->check(CLI::IsMember({"text", "json"}).description(""))
      ->type_name("text|json");
  app.add_option("--color", options.color, "When to use colours")
      ->check(CLI::IsMember({"auto", "always", "never"}).description(""))
      ->type_name("auto|always|never");
  app.add_flag("-q,--quiet", options.quiet, "Print results only");
  app.add_flag("-v,--verbose", options.verbose, "List everything, however long");
  options.timings = std::make_shared<yc::Timings>();
  app.add_flag("--stats", options.is_timed,
               "Tell on standard error where the time went, by phase and format");
  options.kept = yc::cli::user_part_store();
  app.add_flag_callback(
      "--no-cache", [&] { options.kept = nullptr; }, "Neither use nor keep what earlier runs read");
  yc::cli::add_survey(app, options, status);
  yc::cli::add_refs(app, options, status);
  yc::cli::add_move(app, options, status);
  yc::cli::add_catch_up(app, options, status);
  yc::cli::add_check(app, options, status);
  yc::cli::add_rehearse(app, options, status);
  yc::cli::add_carve(app, options, status);
  yc::cli::add_restyle(app, options, status);
  yc::cli::add_layout(app, options, status);
  yc::cli::add_impact(app, options, status);
  yc::cli::add_chart(app, options, status);
  yc::cli::add_serve(app, options, status);
  yc::cli::add_undo(app, options, status);
  yc::cli::add_resume(app, options, status);
  yc::cli::add_history(app, options, status);
  yc::cli::add_completion(app, status);
  yc::cli::add_manual(app, options, status);

  int words = build_begins(app, argc, argv);
  if (words < argc) options.after_dashes.assign(argv + words + 1, argv + argc);

  try {
    app.parse(words, argv);
  } catch (const CLI::ParseError& error) {  // how the library reports usage, --help included
    return app.exit(error) == 0 ? yc::cli::kDone : yc::cli::kUsage;
  }
  if (options.kept) options.kept->close();
  yc::cli::tell_timings(options);
  return status;
}
