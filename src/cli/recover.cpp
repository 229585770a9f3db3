// undo and resume: back to the old tree, or on to the new one.
#include "carry/recovery.h"
#include "cli/interrupts.h"
#include "cli/session.h"
#include "report/history.h"

namespace yc::cli {

namespace {

using Recover = Result<Recovered> (*)(FileSystem&, const StatePlace&);

int run(const Options& options, Recover way, bool is_undo) {
  auto root = root_of(options);
  if (!root) return fail(options, root.error());
  Records records = records_of(*root);
  auto recovered = [&] {
    HeldOff signals;
    return way(records.disk, records.place);
  }();
  if (!recovered) return fail(options, recovered.error());
  if (options.format == "json") {
    print(report::recovered_json(*recovered, is_undo));
  } else if (!options.quiet || !recovered->kept.empty()) {
    print(report::recovered_text(*recovered, is_undo));
  }
  return kDone;
}

}  // namespace

void add_undo(CLI::App& app, const Options& options, int& status) {
  CLI::App* command = app.add_subcommand("undo", "Take the latest move back, or one that was not finished");
  command->callback([&options, &status] { status = run(options, undo, true); });
}

void add_resume(CLI::App& app, const Options& options, int& status) {
  CLI::App* command = app.add_subcommand("resume", "Finish a move that was interrupted");
  command->callback([&options, &status] { status = run(options, resume, false); });
}

}  // namespace yc::cli
