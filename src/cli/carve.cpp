#include "plan/carve.h"

#include "cli/finish.h"

namespace yc::cli {

namespace {

struct CarveCommand {
  std::string folder;
  bool fold = false;
  FinishOptions finish;
};

int run(const Options& options, const CarveCommand& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  auto folder = path_from_root(*session, own.folder);
  if (!folder) return fail(options, folder.error());
  auto plan = own.fold ? fold(*session->tree, *folder) : carve(*session->tree, *folder);
  if (!plan) return fail(options, plan.error());
  return finish(*session, *plan, own.finish);
}

}  // namespace

void add_carve(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<CarveCommand>();
  CLI::App* command =
      app.add_subcommand("carve", "Give a folder its own build script, taken out of the one above it");
  command->add_option("folder", own->folder, "The folder")->required()->type_name("DIR");
  command->add_flag("--fold", own->fold,
                    "The reverse: take the folder's script into the one that has it read");
  add_finish_options(*command, own->finish);
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
