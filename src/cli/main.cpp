// The program: options in, the core's results out. One file a command; see session.h for what they share.
#include <algorithm>
#include <csignal>
#include <cstdio>
#include <string_view>

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

}  // namespace

int main(int argc, char** argv) {
  std::signal(SIGPIPE, SIG_DFL);  // a reader that leaves ends the program quietly
  yc::cli::Options options;
  options.command_line = typed(argc, argv);
  int status = yc::cli::kDone;
  CLI::App app(
      "Moves files and folders of a source tree and keeps what names them pointing at the new places.",
      "yellow-compass");
  app.set_version_flag("--version", "yellow-compass " YELLOW_COMPASS_VERSION);
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
  yc::cli::add_survey(app, options, status);
  yc::cli::add_refs(app, options, status);
  yc::cli::add_move(app, options, status);
  yc::cli::add_catch_up(app, options, status);
  yc::cli::add_check(app, options, status);
  yc::cli::add_rehearse(app, options, status);
  yc::cli::add_carve(app, options, status);
  yc::cli::add_restyle(app, options, status);
  yc::cli::add_impact(app, options, status);
  yc::cli::add_undo(app, options, status);
  yc::cli::add_resume(app, options, status);
  yc::cli::add_history(app, options, status);

  // What follows "--" is a build command for rehearse, and paths for all others.
  int words = argc;
  auto commands = app.get_subcommands([](const CLI::App*) { return true; });
  auto is_command = [&](const char* word) {
    return std::any_of(commands.begin(), commands.end(),
                       [&](CLI::App* one) { return one->get_name() == word; });
  };
  char** command = std::find_if(argv + 1, argv + argc, is_command);
  for (int i = 1; i < argc && command != argv + argc && std::string_view(*command) == "rehearse"; ++i) {
    if (std::string_view(argv[i]) != "--") continue;
    words = i;
    options.after_dashes.assign(argv + i + 1, argv + argc);
    break;
  }

  try {
    app.parse(words, argv);
  } catch (const CLI::ParseError& error) {  // how the library reports usage, --help included
    return app.exit(error) == 0 ? yc::cli::kDone : yc::cli::kUsage;
  }
  return status;
}
