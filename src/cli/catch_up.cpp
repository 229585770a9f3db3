#include "plan/catch_up.h"

#include <fmt/format.h>
#include <unistd.h>

#include <iostream>

#include "carry/carry_out.h"
#include "carry/recovery.h"
#include "cli/finish.h"
#include "cli/input.h"
#include "cli/interrupts.h"
#include "cli/session.h"
#include "plan/move_sheet.h"
#include "plan/whereabouts.h"
#include "report/catch_up.h"
#include "report/json.h"
#include "report/patch.h"

namespace yc::cli {

namespace {

struct CatchUpOptions {
  std::string since = "HEAD";
  std::string sheet;
  bool accept_unseen = false;
  FinishOptions finish;
};

// Which of several a file became, asked on the terminal; nothing if none of them is.
std::optional<RelPath> ask(const Unclear& unclear) {
  std::string text = fmt::format("{} could have become\n", report::printable(unclear.from.str()));
  for (std::size_t i = 0; i < unclear.candidates.size(); ++i)
    text += fmt::format("  {}  {}\n", i + 1, report::printable(unclear.candidates[i].str()));
  print(text + "Which one? A number, or Enter for none: ");
  std::string answer;
  std::getline(std::cin, answer);
  std::size_t number = static_cast<std::size_t>(std::atoi(answer.c_str()));
  if (number < 1 || number > unclear.candidates.size()) return std::nullopt;
  return unclear.candidates[number - 1];
}

// Lines of a sheet come first; what it does not name is found by content.
Result<Whereabouts> settle_catch_up(const Session& session, const CommitTree& before,
                                    const CatchUpOptions& own) {
  Whereabouts found = find_moved(before, *session.tree);
  std::vector<Move> told;
  if (!own.sheet.empty()) {
    auto text = read_input(own.sheet);
    if (!text) return text.error();
    auto moves = parse_sheet(*text, own.sheet, before);
    if (!moves) return moves.error();
    // A folder in the sheet stands for the files that it had.
    for (const Move& move : *moves) {
      for (const RelPath& path : before.files()) {
        if (path.is_within(move.from) && !session.tree->find(path))
          told.push_back({path, path == move.from ? move.to : move.to / path.below(move.from)});
      }
    }
  } else if (!session.json() && isatty(STDIN_FILENO) && isatty(STDOUT_FILENO)) {
    for (const Unclear& unclear : found.unclear) {
      if (auto to = ask(unclear)) told.push_back({unclear.from, *to});
    }
    found.unclear.clear();
  }
  for (const Move& move : told) {
    auto clashes = [&](const FoundMove& other) {
      return other.move.from == move.from || other.move.to == move.to;
    };
    std::erase_if(found.moves, clashes);
    std::erase_if(found.unclear, [&](const Unclear& unclear) { return unclear.from == move.from; });
    std::erase(found.gone, move.from);
    std::erase(found.fresh, move.to);
    found.moves.push_back({move, -1});
  }
  return found;
}

// Carries the mending out, or shows it.
int finish_catch_up(const Options& options, const CatchUpOptions& own, const Session& session,
                    const Whereabouts& found, const std::vector<Move>& folders, const CaughtUp& caught) {
  const Plan& mending = caught.mending;
  auto tell = [&](report::Outcome outcome, int journal) {
    print(report::catch_up_json(found, folders, caught, *session.tree, outcome, journal));
  };
  if (!mending.verified && !mending.in_part) {
    if (session.json()) {
      tell(report::Outcome::unsettled, 0);
    } else {
      std::string text = report::unsettled_text(mending, *session.tree, session.style());
      cli::tell(text);
    }
    return kUnsettled;
  }
  auto patch = report::patch_text(mending, *session.tree);
  if (!patch) return fail(options, patch.error());
  if (!own.finish.patch.empty()) {
    if (Status ok = write_output(own.finish.patch, *patch); !ok) return fail(options, ok.error());
  }
  bool writes = !own.finish.preview && own.finish.patch.empty() && !mending.edit_list.empty();
  int journal = 0;
  if (writes) {
    Records records = records_of(session.root);
    HeldOff signals;
    auto stored =
        carry_out(records.disk, *session.tree, mending, records.place, {options.command_line, *patch, false});
    if (!stored) return fail(options, stored.error());
    journal = stored->number;
  }
  if (session.json()) {
    tell(!writes           ? report::Outcome::previewed
         : mending.in_part ? report::Outcome::in_part
                           : report::Outcome::carried_out,
         journal);
  } else if (own.finish.patch != "-") {
    std::string text;
    if (own.finish.preview || options.verbose)
      text += report::edits_text(mending, *session.tree, session.style());
    if (!options.quiet) text += report::notices_text(mending, *session.tree, session.style());
    text += report::caught_up_text(caught, writes);
    print(text);
    if (mending.in_part) {
      text = report::left_text(mending, *session.tree, session.style());
      cli::tell(text);
    }
  }
  return mending.in_part ? kFindings : kDone;
}

int run(const Options& options, const CatchUpOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  auto before = CommitTree::of(session->root, own.since);
  if (!before) return fail(options, before.error());
  auto found = settle_catch_up(*session, **before, own);
  if (!found) return fail(options, found.error());
  std::vector<Move> folders = by_folder(found->moves, **before, *session->tree);
  bool quiet = options.quiet || session->json();
  if (!quiet) print(report::whereabouts_text(*found, folders, **before, session->style()));
  if (!found->unclear.empty()) {
    return fail(options,
                Error{Failure::unsettled, "",
                      fmt::format("of {} it is not clear what became of it",
                                  report::count(found->unclear.size(), "file", "files")),
                      "say so in a sheet, one a line: old/path -> new/path, and give it with --sheet"});
  }
  std::vector<Move> moves;
  for (const FoundMove& item : found->moves) moves.push_back(item.move);
  if (moves.empty()) {
    if (session->json())
      print(report::catch_up_json(*found, folders, {}, *session->tree, report::Outcome::previewed, 0));
    return kDone;
  }
  PlanOptions plan_options;
  plan_options.timings = session->options.timings;
  plan_options.parts = session->parts;
  plan_options.include_order = session->config.include_order;
  plan_options.accept_unseen = own.accept_unseen;
  auto caught = catch_up(*session->tree, moves, plan_options);
  if (!caught) return fail(options, caught.error());
  return finish_catch_up(options, own, *session, *found, folders, *caught);
}

}  // namespace

void add_catch_up(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<CatchUpOptions>();
  CLI::App* command = app.add_subcommand(
      "catch-up", "Find where files went that were moved without this program, and mend what names them");
  command->add_option("--since", own->since, "The commit that has them at their old places (HEAD)")
      ->type_name("REV");
  command
      ->add_option("--sheet", own->sheet,
                   "What content cannot tell, one a line: old/path -> new/path (- for standard input)")
      ->type_name("FILE");
  add_finish_options(*command, own->finish);
  add_page_option(*command, own->finish.report, "the plan");
  command->add_flag("--accept-unseen", own->accept_unseen,
                    "Carry out although a text that is only known at run time could name what moved");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
