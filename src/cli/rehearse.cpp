#include <algorithm>

#include "cli/finish.h"
#include "cli/input.h"
#include "cli/requested.h"
#include "cli/session.h"
#include "cli/trial.h"
#include "formats/format.h"
#include "inspect/clone.h"
#include "rehearse/evidence.h"
#include "rehearse/rehearsal.h"
#include "report/json.h"
#include "report/pages/result_pages.h"
#include "report/proof.h"
#include "report/rehearsal.h"

namespace yc::cli {

namespace {

struct RehearseOptions {
  std::vector<std::string> paths;
  std::string sheet, report;
  bool fresh_clone = false;
  bool accept_unseen = false;
  TrialOptions trial;
};

int run(const Options& options, const RehearseOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_page_name(own.report); !ok) return fail(options, ok.error());
  tell_unfinished(*session);
  TrialOptions trial = own.trial;
  trial.commands = build_commands(*session);
  if (trial.commands.empty())
    return fail(options, Error{Failure::usage, "", "rehearse needs a build command: … -- COMMAND",
                               "or name some as builds in yellow-compass.toml"});
  std::unique_ptr<CommitTree> committed;
  if (own.fresh_clone) {
    auto commit = CommitTree::of(session->root, "HEAD");
    if (!commit) return fail(options, commit.error());
    committed = std::move(*commit);
  }
  const TreeReader& start = committed ? static_cast<const TreeReader&>(*committed) : *session->tree;
  std::optional<Plan> plan;
  if (!own.paths.empty() || !own.sheet.empty()) {
    auto moves = requested_moves(*session, start, "rehearse", own.paths, own.sheet);
    if (!moves) return fail(options, moves.error());
    auto set = MoveSet::make(start, *moves);
    if (!set) return fail(options, set.error());
    PlanOptions plan_options;
    plan_options.timings = session->options.timings;
    plan_options.include_order = session->config.include_order;
    plan_options.accept_unseen = own.accept_unseen;
    plan_options.builds_judge = own.trial.watch;
    plan_options.routes = session->config.routes;
    plan_options.allow_routes = true;  // a build does not mind, and the site itself is not touched
    plan = make_plan(start, std::move(*set), plan_options);
    if (!plan->verified) {
      std::string text = report::unsettled_text(*plan, start, session->style());
      tell(text);
      if (session->json()) print(report::plan_json(*plan, start, report::Outcome::unsettled, 0));
      return kUnsettled;
    }
  }
  auto results = try_builds(*session, start, plan ? &*plan : nullptr, trial);
  if (!results) return fail(options, results.error());
  if (!committed) keep_observed(*session, *results, false);
  std::vector<Finding> lacking;
  bool all_built = std::all_of(results->begin(), results->end(),
                               [](const Rehearsed& item) { return item.verdict == Verdict::built; });
  if (committed && !all_built) {
    FactsCache cache(options.timings);
    lacking = check_clone(*session->tree, read_graph(*session->tree, cache), *committed);
  }
  if (!own.report.empty()) {
    std::string page = report::rehearsal_page(*results, lacking, plan ? &*plan : nullptr, start);
    if (Status ok = write_output(own.report, page); !ok) return fail(options, ok.error());
  }
  if (session->json()) {
    print(report::rehearsal_json(*results, lacking, *session->tree));
  } else {
    std::string text = report::rehearsal_text(*results, lacking, *session->tree, session->style());
    if (plan) text += report::doubts_text(weigh(*plan, *results), start, session->style());
    print(text);
  }
  return all_built ? kDone : kFindings;
}

}  // namespace

void add_rehearse(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<RehearseOptions>();
  CLI::App* command = app.add_subcommand(
      "rehearse", "Build the project in clean copies, before a move and after it: … -- BUILD COMMAND");
  command
      ->add_option("paths", own->paths, "What to move, then where to; without any the tree is built as it is")
      ->type_name("FROM… TO");
  command->add_option("--sheet", own->sheet, "Take the moves from a file")->type_name("FILE");
  command->add_flag("--fresh-clone", own->fresh_clone, "Start from what is committed alone");
  command->add_flag("--watch", own->trial.watch,
                    "Observe both builds, and compare which files they read, make and run");
  add_page_option(*command, own->report, "how it went");
  add_trial_options(*command, own->trial);
  command->add_flag("--accept-unseen", own->accept_unseen,
                    "Go on although a text that is only known at run time could name what moves");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
