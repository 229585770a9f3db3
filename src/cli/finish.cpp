#include "cli/finish.h"

#include <cstdio>

#include "carry/carry_out.h"
#include "carry/recovery.h"
#include "cli/input.h"
#include "cli/interrupts.h"
#include "cli/progress.h"
#include "formats/format.h"
#include "report/json.h"
#include "report/pages/result_pages.h"
#include "report/patch.h"
#include "report/proof.h"
#include "report/tree_view.h"

namespace yc::cli {

namespace {

// The page of a plan, where one is asked for.
Status write_page(const Session& session, const Plan& plan, const FinishOptions& own,
                  const Evidence* evidence) {
  if (own.report.empty()) return {};
  if (Status ok = check_page_name(own.report); !ok) return ok;
  bool writes = !own.preview && own.patch.empty();
  std::string outcome =
      plan.verified
          ? report::outcome_text(plan, writes, evidence) + report::summary_text(plan)
          : "Not carried out: " +
                report::count(plan.blockers.size(), "reference stands", "references stand") + " in the way";
  FactsCache cache(session.options.timings, session.parts);
  ReferenceGraph graph = read_graph(*session.tree, cache);
  return write_output(own.report, report::plan_page(plan, *session.tree, graph, outcome + "."));
}

int show_unsettled(const Session& session, const Plan& plan) {
  if (session.json()) {
    print(report::plan_json(plan, *session.tree, report::Outcome::unsettled, 0));
  } else {
    std::string text;
    if (session.options.verbose) text = report::plan_text(plan, *session.tree, session.style());
    text += report::unsettled_text(plan, *session.tree, session.style());
    tell(text);
  }
  return kUnsettled;
}

}  // namespace

void add_finish_options(CLI::App& command, FinishOptions& own) {
  command.add_flag("--preview", own.preview, "Show the plan, write nothing");
  command
      .add_option(
          "--patch", own.patch,
          "Write the plan as a diff that git apply takes, change nothing else (- for standard output)")
      ->type_name("FILE");
}

void add_page_option(CLI::App& command, std::string& report, const std::string& what) {
  command.add_option("--report", report, "Write " + what + " as a page for a browser as well")
      ->type_name("FILE.html");
}

Status check_page_name(const std::string& file) {
  if (file.empty() || ending_of(file) == ".html") return {};
  return Error{Failure::usage, file, "is no kind of report", "end its name in .html"};
}

Status check_finished(const Session& session) {
  Records records = records_of(session.root);
  auto state = State::open(records.disk, records.place);
  if (!state) return state.error();
  auto open = unfinished(records.disk, *state);
  if (!open) return open.error();
  if (*open) return unfinished_error(**open);
  return {};
}

int finish(const Session& session, const Plan& plan, const FinishOptions& own, const Evidence* evidence,
           const std::function<void()>& carried_out) {
  const Options& options = session.options;
  if (Status ok = write_page(session, plan, own, evidence); !ok) return fail(options, ok.error());
  if (!plan.verified) return show_unsettled(session, plan);
  auto patch = report::patch_text(plan, *session.tree);
  if (!own.patch.empty()) {
    if (!patch) return fail(options, patch.error());
    if (Status ok = write_output(own.patch, *patch); !ok) return fail(options, ok.error());
  }
  bool writes = !own.preview && own.patch.empty();
  int journal = 0;
  if (writes) {
    Records records = records_of(session.root);
    CarryOptions carry{options.command_line, patch ? *patch : "", !own.no_stage};
    stop_progress();
    HeldOff signals;
    auto stored = carry_out(records.disk, *session.tree, plan, records.place, carry);
    if (!stored) return fail(options, stored.error());
    journal = stored->number;
    if (carried_out) carried_out();
  }
  if (session.json()) {
    print(report::plan_json(plan, *session.tree,
                            writes ? report::Outcome::carried_out : report::Outcome::previewed, journal,
                            evidence));
    leave(session.options, kDone);
  }
  std::string text;
  if (own.preview) text += report::trees_text(plan, *session.tree, session.style(), terminal_width());
  // What the trees show need not be listed at length.
  if (own.preview || options.verbose)
    text += report::plan_text(plan, *session.tree, session.style(), own.preview ? 8 : report::kMostMoves);
  if (!options.quiet) text += report::notices_text(plan, *session.tree, session.style());
  const std::string& problem = session.tree->repository_problem();
  if (!writes && !own.no_stage && !problem.empty() && !plan.moves.files().empty())
    text += "This needs --no-stage: the repository cannot be kept in step (" + report::printable(problem) +
            ").\n";
  if (own.patch != "-" && !options.quiet) {
    if (evidence) text += report::doubts_text(*evidence, *session.tree, session.style());
    text += report::outcome_text(plan, writes, evidence) + report::summary_text(plan) + ".\n";
  }
  if (own.patch == "-") {
    tell(text);
  } else {
    print(text);
  }
  leave(session.options, kDone);
}

}  // namespace yc::cli
