#include "base/libraries.h"
#include "cli/self_description.h"
#include "cli/session.h"
#include "report/figures/canvas.h"

namespace yc::cli {

std::string version_text() {
  std::string out = "yellow-compass " YELLOW_COMPASS_VERSION "\nwith CLI11 " CLI11_VERSION;
  for (const auto& versions : {library_versions(), report::drawing_versions()}) {
    for (const auto& [name, version] : versions) out += ", " + name + " " + version;
  }
  return out;
}

void add_completion(CLI::App& app, int& status) {
  CLI::App* command =
      app.add_subcommand("completion", "Print a script with which a shell completes commands and options");
  auto shell = std::make_shared<std::string>();
  command->add_option("shell", *shell, "The shell")
      ->required()
      ->type_name("bash|zsh|fish")
      ->check(CLI::IsMember({"bash", "zsh", "fish"}).description(""));
  command->callback([&app, shell, &status] {
    print(completion_script(app, *shell).value_or(""));
    status = kDone;
  });
}

void add_manual(CLI::App& app, const Options& options, int& status) {
  CLI::App* command =
      app.add_subcommand("manual", "Print the manual page of the program, or of one of its commands");
  auto about = std::make_shared<std::string>();
  command->add_option("command", *about, "The command")->type_name("COMMAND");
  auto markdown = std::make_shared<bool>(false), formats = std::make_shared<bool>(false);
  CLI::Option* all =
      command->add_flag("--markdown", *markdown, "Print all commands as one page in Markdown instead");
  command->add_flag("--formats", *formats, "Print what is read of which format, in Markdown, instead")
      ->excludes(all);
  command->callback([&app, &options, about, markdown, formats, &status] {
    if (*markdown || *formats) {
      print(*markdown ? commands_page(app) : formats_page());
      status = kDone;
      return;
    }
    const CLI::App* one = nullptr;
    for (const CLI::App* each : app.get_subcommands([](const CLI::App*) { return true; })) {
      if (each->get_name() == *about) one = each;
    }
    if (!about->empty() && !one) {
      status =
          fail(options, Error{Failure::usage, *about, "is no command", "yellow-compass --help lists them"});
      return;
    }
    print(manual_page(app, one, YELLOW_COMPASS_VERSION));
    status = kDone;
  });
}

}  // namespace yc::cli
