#include "carry/carry_out.h"
#include "cli/session.h"
#include "report/json.h"

namespace yc::cli {

namespace {

int run(const Options& options) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  DiskFileSystem disk;
  auto undone = undo_latest(disk, session->root, state_folder(session->root));
  if (!undone) return fail(options, undone.error());
  if (session->json()) {
    print(report::undo_json(undone->journal));
  } else if (!options.quiet) {
    print(report::undo_text(undone->journal));
  }
  return kDone;
}

}  // namespace

void add_undo(CLI::App& app, const Options& options, int& status) {
  CLI::App* command = app.add_subcommand("undo", "Take the latest move back");
  command->callback([&options, &status] { status = run(options); });
}

}  // namespace yc::cli
