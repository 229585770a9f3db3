#include <algorithm>
#include <cstdio>

#include "cli/finish.h"
#include "cli/input.h"
#include "cli/requested.h"
#include "cli/trial.h"
#include "formats/compile_database/compile_database.h"
#include "plan/forwarders.h"
#include "plan/indexes.h"
#include "report/pages/result_pages.h"
#include "report/reasons.h"
#include "report/rehearsal.h"
#include "tree/ignore_rules.h"
#include "tree/overlay_tree.h"

namespace yc::cli {

namespace {

const std::string kAll = "all";

struct MoveOptions {
  std::vector<std::string> paths;
  std::string sheet;
  std::string includes;
  std::string database;  // where to write an updated copy of the compilation database
  bool forward = false;
  bool index = false;
  bool allow_routes = false;
  bool accept_unseen = false;
  bool mentions = false;
  bool link_units = false;
  bool sweep = false;
  std::string explain;              // a line, or "all"
  std::vector<std::string> settle;  // places of doubts
  std::string because;
  bool rehearsed = false;  // build as the configuration says
  TrialOptions trial;
  FinishOptions finish;
};

std::size_t line_of(const Session& session, const Blocker& doubt) {
  auto bytes = session.tree->read(doubt.file);
  return bytes ? position_at(**bytes, doubt.span->begin).line : 0;
}

// The compilation database as it would be made after the move.
Status write_database(const Session& session, const Plan& plan, const std::string& to) {
  std::vector<RelPath> all = compile_databases(*session.tree);
  if (all.empty())
    return Error{Failure::usage, "--database", "there is no compile_commands.json here",
                 "let the build write one (for CMake: -DCMAKE_EXPORT_COMPILE_COMMANDS=ON)"};
  RelPath path = all.front();
  auto changed =
      std::find_if(all.begin(), all.end(), [&](const RelPath& one) { return plan.derived.contains(one); });
  if (changed != all.end()) path = *changed;
  auto bytes = session.tree->read(path);
  if (!bytes) return bytes.error();
  for (const EditMap* edits : {&plan.derived, &plan.edits}) {
    if (auto own = edits->find(path); own != edits->end())
      return write_output(to, own->second.apply(**bytes));
  }
  return write_output(to, **bytes);
}

// The doubts at the places that the user names, if he names any. They are written into the configuration, so
// the tree is to be read after that.
Result<std::vector<SettledDoubt>> settle(const Options& options, const MoveOptions& own) {
  std::vector<SettledDoubt> out;
  if (own.settle.empty()) return out;
  if (own.because.empty())
    return Error{Failure::usage, "--settle", "needs a reason, which is written beside it",
                 "add --because TEXT"};
  auto session = open_session(options);
  if (!session) return session.error();
  if (Status ok = check_finished(*session); !ok) return ok.error();
  auto moves = requested_moves(*session, *session->tree, "move", own.paths, own.sheet);
  if (!moves) return moves.error();
  auto set = MoveSet::make(*session->tree, *moves);
  if (!set) return set.error();
  PlanOptions plan_options;
  plan_options.timings = session->options.timings;
  plan_options.parts = session->parts;
  plan_options.include_order = session->config.include_order;
  plan_options.settled = session->config.settled;
  plan_options.builds_judge = true;  // so that all doubts are told
  auto seen = observations_of(*session);
  if (!seen) return seen.error();
  plan_options.observed = std::move(*seen);
  Plan plan = make_plan(*session->tree, std::move(*set), plan_options);
  std::string tables;
  for (const std::string& typed : own.settle) {
    auto at = parse_doubt_place(typed);
    if (!at) return at.error();
    bool found = false;
    for (const Blocker& doubt : plan.accepted) {
      bool is_here = at->line == 0 || !doubt.span || line_of(*session, doubt) == at->line;
      if (doubt.file != at->file || !is_here || !doubt.is_doubt) continue;
      found = true;
      if (is_settled(doubt, out)) continue;
      out.push_back({doubt.file, doubt.text, own.because});
      tables += settled_table(out.back());
    }
    if (!found)
      return Error{Failure::usage, typed, "no doubt about this move stands there",
                   "give a place as the refusal names it, from the root"};
  }
  if (own.finish.preview || !own.finish.patch.empty()) return out;
  if (Status ok = add_to_config(*session, tables); !ok) return ok.error();
  return out;
}

// Carries out what builds in copies, and only that.
int finish_rehearsed(const Session& session, const Plan& plan, const MoveOptions& own,
                     const TrialOptions& trial) {
  auto builds = try_builds(session, *session.tree, &plan, trial);
  if (!builds) return fail(session.options, builds.error());
  Evidence evidence = weigh(plan, *builds);
  std::string text = report::rehearsal_text(*builds, {}, *session.tree, session.style());
  keep_observed(session, *builds, false);
  if (evidence.holds) {
    if (!session.json() && !session.options.quiet) tell(text);
    return finish(session, plan, own.finish, &evidence, [&] { keep_observed(session, *builds, true); });
  }
  if (Status ok = check_page_name(own.finish.report); !ok) return fail(session.options, ok.error());
  if (!own.finish.report.empty()) {
    std::string page = report::rehearsal_page(*builds, {}, &plan, *session.tree);
    if (Status ok = write_output(own.finish.report, page); !ok) return fail(session.options, ok.error());
  }
  if (session.json()) {
    print(report::rehearsal_json(*builds, {}, *session.tree));
  } else {
    text += "Nothing was changed.\n";
    tell(text);
  }
  return kUnsettled;
}

// What stays at old places and in indexes.
Status leave_behind(const MoveOptions& own, const TreeReader& tree, const MoveSet& moves,
                    PlanOptions& plan_options) {
  if (own.forward) {
    plan_options.changes = leave_forwarders(tree, moves);
    plan_options.leave_names = true;
    if (plan_options.changes.empty() && !leaves_names(moves))
      return Error{Failure::usage, "--forward", "nothing that moves can leave a forwarder",
                   "headers, modules and stylesheets can; move without it"};
  }
  if (own.index) {
    Indexes indexes = leave_indexes(tree, moves);
    if (indexes.empty())
      return Error{Failure::usage, "--index", "nothing that moves can be handed on by an index",
                   "a module or stylesheet can that goes to a folder of its own name, or to one "
                   "with an index that does nothing else; move without it"};
    plan_options.changes = std::move(indexes.changes);
    plan_options.edits = std::move(indexes.edits);
  }
  return {};
}

// Why the references on a line lead where they do, before the move and after it.
Status explain_line(const Session& session, const Plan& plan, const std::string& typed) {
  auto at = parse_doubt_place(typed);
  if (!at) return at.error();
  if (at->line == 0 || !session.tree->is_file(at->file))
    return Error{Failure::usage, typed, "is no line of a file", "give it as FILE:LINE, from the root"};
  OverlayTree planned(*session.tree, plan.moves, plan.changes);
  planned.set_edits(&plan.edits);
  PlannedReasons reasons = planned_reasons(plan, *session.tree, planned, at->file, at->line);
  std::string text = report::planned_reasons_text(reasons, *session.tree, planned, session.style());
  tell(text);
  return {};
}

int run(const Options& options, const MoveOptions& own) {
  auto settled = settle(options, own);
  if (!settled) return fail(options, settled.error());
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  auto moves = requested_moves(*session, *session->tree, "move", own.paths, own.sheet);
  if (!moves) return fail(options, moves.error());
  auto set = MoveSet::make(*session->tree, *moves);
  if (!set) return fail(options, set.error());
  if (Status ok = check_not_ignored(session->root, *set); !ok) return fail(options, ok.error());
  PlanOptions plan_options;
  plan_options.timings = session->options.timings;
  plan_options.parts = session->parts;
  plan_options.include_order = session->config.include_order;
  plan_options.alias_from = session->config.alias_from;
  TrialOptions trial = own.trial;
  trial.watch = true;
  if (own.rehearsed || !options.after_dashes.empty()) trial.commands = build_commands(*session);
  if (own.rehearsed && trial.commands.empty())
    return fail(options, Error{Failure::usage, "--rehearsed", "yellow-compass.toml names no builds",
                               "name some there, or give one: … -- BUILD COMMAND"});
  bool builds = !trial.commands.empty();
  plan_options.accept_unseen = own.accept_unseen;
  plan_options.builds_judge = builds;
  auto seen = observations_of(*session);
  if (!seen) return fail(options, seen.error());
  plan_options.observed = std::move(*seen);
  plan_options.rewrite_mentions = own.mentions;
  plan_options.link_units = own.link_units;
  plan_options.sweep = own.sweep;
  if (!own.includes.empty()) {
    auto order = parse_include_order(own.includes, "--includes");
    if (!order) return fail(options, order.error());
    plan_options.include_order = *order;
  }
  if (Status ok = leave_behind(own, *session->tree, *set, plan_options); !ok)
    return fail(options, ok.error());
  if (own.explain == kAll) {
    plan_options.explain = [](const std::string& line) { tell(report::printable(line) + "\n"); };
  }
  plan_options.routes = session->config.routes;
  plan_options.allow_routes = own.allow_routes;
  plan_options.settled = session->config.settled;
  plan_options.settled.insert(plan_options.settled.end(), settled->begin(), settled->end());
  Plan plan = make_plan(*session->tree, std::move(*set), plan_options);
  if (plan.verified && !own.database.empty()) {
    if (Status ok = write_database(*session, plan, own.database); !ok) return fail(options, ok.error());
  }
  if (!own.explain.empty() && own.explain != kAll) {
    if (Status ok = explain_line(*session, plan, own.explain); !ok) return fail(options, ok.error());
  }
  return builds && plan.verified ? finish_rehearsed(*session, plan, own, trial)
                                 : finish(*session, plan, own.finish);
}

// What cannot be known from reading, how a person settles it, and what was tried.
void add_doubt_options(CLI::App& command, MoveOptions& own) {
  command
      .add_flag(
          "--explain{all}", own.explain,
          "Tell on standard error what was tried and why, or of one line (--explain=FILE:LINE) why its\n"
          "references lead where they do, before and after")
      ->type_name("[=FILE:LINE]");
  command.add_flag("--accept-unseen", own.accept_unseen,
                   "Carry out although a text that is only known at run time could name what moves");
  command
      .add_option(
          "--settle", own.settle,
          "A place, as a refusal names it, that can name nothing here: written into yellow-compass.toml,\n"
          "and no doubt for any move from now on; with --because")
      ->type_name("FILE:LINE")
      ->expected(1)
      ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
  command.add_option("--because", own.because, "Why it is settled, for whoever reads the configuration")
      ->type_name("TEXT");
}

}  // namespace

void add_move(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<MoveOptions>();
  CLI::App* command = app.add_subcommand(
      "move",
      "Move files and folders, and keep every reference; with -- BUILD COMMAND only if it still builds");
  command
      ->add_option(
          "paths", own->paths,
          "What to move, then where to: into TO if it is a folder or ends in /, else under that name")
      ->type_name("FROM… TO");
  command
      ->add_option("--sheet", own->sheet,
                   "Take the moves from a file, one a line: old/path -> new/path (- for standard input)")
      ->type_name("FILE");
  add_finish_options(*command, own->finish);
  add_page_option(*command, own->finish.report, "the plan");
  command
      ->add_option(
          "--includes", own->includes,
          "How includes are respelled where they must be: as each one is now, but that a folder made for\n"
          "headers, as include/, is searched and they stay (usual), without that (keep), from the file's\n"
          "folder, or against search roots; or an order to try: root,relative,new-root")
      ->type_name("usual|keep|relative|rooted");
  command->add_flag("--sweep", own->sweep,
                    "Also remove what the last build left that would stop the next one, as dependency files\n"
                    "that name what moves; undo brings it back");
  CLI::Option* index = command->add_flag(
      "--index", own->index,
      "Have the index of a folder hand on what moves into it: made where a module goes to a folder of its\n"
      "own name, one more line where there is one");
  command
      ->add_flag(
          "--forward", own->forward,
          "Leave a small header, module or stylesheet at each old place that leads on to the new one, for\n"
          "users outside; a module that goes to a folder of its own name leaves the folder's index")
      ->excludes(index);
  command
      ->add_option_function<std::string>(
          "--routes", [own](const std::string& word) { own->allow_routes = word == "allow"; },
          "Carry out although files that are routes by their names appear, go or are renamed")
      ->type_name("allow")
      ->check(CLI::IsMember({"allow"}));
  command
      ->add_option("--database", own->database,
                   "Write a copy of the compilation database (compile_commands.json) with the new paths")
      ->type_name("FILE");
  add_doubt_options(*command, *own);
  command->add_flag(
      "--mentions", own->mentions,
      "Also write the new paths where comments, prose and unknown formats spell an old one whole");
  command->add_flag("--link-units", own->link_units,
                    "Add the references between build units that files need which join another one");
  command->add_flag(
      "--rehearsed", own->rehearsed,
      "Build first in copies, with the builds of yellow-compass.toml; or give one: … -- COMMAND.\n"
      "Then move only if it builds after as before, from the same files");
  add_trial_options(*command, own->trial);
  command->add_flag("--no-stage", own->finish.no_stage, "Leave version control's index as it is");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
