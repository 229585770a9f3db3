#include <algorithm>

#include "carry/journal.h"
#include "cli/session.h"
#include "report/history.h"

namespace yc::cli {

namespace {

int run(const Options& options, int patch) {
  auto root = root_of(options);
  if (!root) return fail(options, root.error());
  Records records = records_of(*root);
  DiskFileSystem& disk = records.disk;
  auto state = State::open(disk, records.place);
  if (!state) return fail(options, state.error());
  auto journals = read_journals(disk, *state);
  if (!journals) return fail(options, journals.error());
  if (patch > 0) {
    auto at = std::find_if(journals->begin(), journals->end(),
                           [&](const StoredJournal& stored) { return stored.number == patch; });
    if (at == journals->end())
      return fail(options, Error{Failure::usage, "", "there is no move " + std::to_string(patch),
                                 "history lists those there are"});
    auto text = disk.read(at->folder + "/patch");
    if (!text) return fail(options, text.error());
    print(*text);
    return kDone;
  }
  print(options.format == "json" ? report::history_json(*journals)
                                 : report::history_text(*journals, options.verbose));
  return kDone;
}

}  // namespace

void add_history(CLI::App& app, const Options& options, int& status) {
  auto patch = std::make_shared<int>(0);
  CLI::App* command = app.add_subcommand("history", "List the moves that were made, latest first");
  command->add_option("--patch", *patch, "Print move N as a diff instead")
      ->type_name("N")
      ->check(CLI::PositiveNumber.description(""));
  command->callback([&options, patch, &status] { status = run(options, *patch); });
}

}  // namespace yc::cli
