#include <cstdio>

#include "carry/carry_out.h"
#include "carry/recovery.h"
#include "cli/input.h"
#include "cli/requested.h"
#include "cli/session.h"
#include "plan/plan.h"
#include "report/json.h"
#include "report/patch.h"
#include "tree/ignore_rules.h"

namespace yc::cli {

namespace {

struct MoveOptions {
  std::vector<std::string> paths;
  std::string sheet;
  std::string patch;
  std::string includes;
  bool preview = false;
  bool accept_unseen = false;
  bool explain = false;
  bool no_stage = false;
};

Status write_patch(const Plan& plan, const Session& session, const std::string& name) {
  auto text = report::patch_text(plan, *session.tree);
  if (!text) return text.error();
  return write_output(name, *text);
}

int show_unsettled(const Session& session, const Plan& plan) {
  if (session.json()) {
    print(report::plan_json(plan, *session.tree, report::Outcome::unsettled, 0));
  } else {
    std::string text = report::unsettled_text(plan, *session.tree, session.style());
    std::fwrite(text.data(), 1, text.size(), stderr);
  }
  return kUnsettled;
}

int run(const Options& options, const MoveOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  DiskFileSystem disk;
  auto open = unfinished(disk, state_folder(session->root));
  if (!open) return fail(options, open.error());
  if (*open) return fail(options, unfinished_error(**open));
  auto moves = requested_moves(*session, *session->tree, "move", own.paths, own.sheet);
  if (!moves) return fail(options, moves.error());
  auto set = MoveSet::make(*session->tree, *moves);
  if (!set) return fail(options, set.error());
  if (Status ok = check_not_ignored(session->root, *set); !ok) return fail(options, ok.error());
  PlanOptions plan_options;
  plan_options.include_order = session->config.include_order;
  plan_options.accept_unseen = own.accept_unseen;
  if (!own.includes.empty()) {
    auto order = parse_include_order(own.includes, "--includes");
    if (!order) return fail(options, order.error());
    plan_options.include_order = *order;
  }
  if (own.explain) {
    plan_options.explain = [](const std::string& line) {
      std::fprintf(stderr, "%s\n", report::printable(line).c_str());
    };
  }
  Plan plan = make_plan(*session->tree, std::move(*set), plan_options);
  if (!plan.verified) return show_unsettled(*session, plan);
  bool writes = !own.preview && own.patch.empty();
  if (!own.patch.empty()) {
    if (Status ok = write_patch(plan, *session, own.patch); !ok) return fail(options, ok.error());
  }
  int journal = 0;
  if (writes) {
    CarryOptions carry{options.command_line, "", !own.no_stage};
    if (auto patch = report::patch_text(plan, *session->tree)) carry.patch = std::move(*patch);
    auto stored = carry_out(disk, *session->tree, plan, state_folder(session->root), carry);
    if (!stored) return fail(options, stored.error());
    journal = stored->number;
  }
  if (session->json()) {
    print(report::plan_json(plan, *session->tree,
                            writes ? report::Outcome::carried_out : report::Outcome::previewed, journal));
    leave(kDone);
  }
  std::string text;
  if (own.preview || options.verbose) text += report::plan_text(plan, *session->tree, session->style());
  if (!options.quiet) text += report::notices_text(plan, *session->tree, session->style());
  if (own.patch != "-" && !options.quiet) {
    text +=
        (writes ? "Done and verified: " : "Verified, nothing written: ") + report::summary_text(plan) + ".\n";
  }
  if (own.patch == "-") {
    std::fwrite(text.data(), 1, text.size(), stderr);
  } else {
    print(text);
  }
  leave(kDone);
}

}  // namespace

void add_move(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<MoveOptions>();
  CLI::App* command = app.add_subcommand("move", "Move files and folders, and keep every reference");
  command
      ->add_option(
          "paths", own->paths,
          "What to move, then where to: into TO if it is a folder or ends in /, else under that name")
      ->type_name("FROM… TO");
  command
      ->add_option("--sheet", own->sheet,
                   "Take the moves from a file, one a line: old/path -> new/path (- for standard input)")
      ->type_name("FILE");
  command->add_flag("--preview", own->preview, "Show the plan, write nothing");
  command
      ->add_option(
          "--patch", own->patch,
          "Write the plan as a diff that git apply takes, change nothing else (- for standard output)")
      ->type_name("FILE");
  command
      ->add_option("--includes", own->includes,
                   "How includes are respelled, in the order tried: root,relative,new-root")
      ->type_name("ORDER");
  command->add_flag("--accept-unseen", own->accept_unseen,
                    "Carry out although a text that is only known at run time could name what moves");
  command->add_flag("--no-stage", own->no_stage, "Leave version control's index as it is");
  command->add_flag("--explain", own->explain,
                    "Tell on standard error what was tried, round by round, and why");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
