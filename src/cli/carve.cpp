#include "plan/carve.h"

#include "cli/finish.h"

namespace yc::cli {

namespace {

struct CarveCommand {
  std::string folder;
  bool fold = false;
  std::string unit;  // to join
  FinishOptions finish;
};

int run(const Options& options, const CarveCommand& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  auto folder = path_from_root(*session, own.folder);
  if (!folder) return fail(options, folder.error());
  auto plan = own.fold           ? fold(*session->tree, *folder)
              : own.unit.empty() ? carve(*session->tree, *folder)
                                 : join(*session->tree, *folder, own.unit);
  if (!plan) return fail(options, plan.error());
  return finish(*session, *plan, own.finish);
}

}  // namespace

void add_carve(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<CarveCommand>();
  CLI::App* command = app.add_subcommand(
      "carve", "Give a folder its own build script, taken out of the one above it, or its own unit");
  command->add_option("folder", own->folder, "The folder")->required()->type_name("DIR");
  CLI::Option* fold = command->add_flag(
      "--fold", own->fold,
      "The reverse: take the folder's script into the one that has it read, its unit into the outer");
  command
      ->add_option("--join", own->unit,
                   "Have the folder's sources belong to the unit of this name, by a reference file")
      ->type_name("UNIT")
      ->excludes(fold);
  add_finish_options(*command, own->finish);
  add_page_option(*command, own->finish.report, "the plan");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
