#include <algorithm>

#include "cli/finish.h"
#include "cli/layout_file.h"
#include "cli/session.h"
#include "formats/format.h"
#include "inspect/clone.h"
#include "inspect/mend.h"
#include "inspect/observed.h"
#include "plan/layout.h"
#include "plan/observed_contexts.h"
#include "report/json.h"
#include "tree/ignore_rules.h"

namespace yc::cli {

namespace {

struct CheckOptions {
  bool clone = false;     // what a fresh clone would lack
  bool observed = false;  // what builds were seen to read
  bool layout = false;    // what is not where the rules want it
};

// What is not where the rules want it.
Result<std::vector<Finding>> check_layout(const Session& session, const ReferenceGraph& graph) {
  auto rules = layout_rules(session, "");
  if (!rules) return rules.error();
  std::vector<Finding> out;
  for (const Misplaced& one : lay_out(*session.tree, graph, *rules).misplaced) {
    std::string kind = one.kind.empty() ? "" : "is of the kind \"" + one.kind + "\" and ";
    out.push_back({"misplaced",
                   one.path,
                   {},
                   false,
                   kind + "belongs at " + one.place.str() + " (" + (*rules)[one.rule].place + ")",
                   "",
                   false});
  }
  return out;
}

int run(const Options& options, const CheckOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  FactsCache cache(options.timings, session->parts);
  auto seen = observations_of(*session);
  if (!seen) return fail(options, seen.error());
  ReferenceGraph graph = read_observed(*session->tree, cache, *seen);
  std::vector<Finding> findings;
  if (own.observed) {
    if (seen->empty())
      return fail(options, Error{Failure::usage, "--observed", "no build of this tree was observed yet",
                                 "run: yellow-compass rehearse --watch -- BUILD COMMAND"});
    findings = check_observed(*session->tree, graph, *seen);
  } else if (own.layout) {
    auto found = check_layout(*session, graph);
    if (!found) return fail(options, found.error());
    findings = std::move(*found);
  } else if (own.clone) {
    auto committed = CommitTree::of(session->root, "HEAD");
    if (!committed) return fail(options, committed.error());
    findings = check_clone(*session->tree, graph, **committed);
  } else {
    IgnoreRules rules(session->root);
    findings = check(*session->tree, graph, session->config.alias_from, [&](const RelPath& path) {
      return rules.ignores(path, false) || rules.ignores(path, true);
    });
  }
  if (session->json()) {
    print(report::findings_json(findings, *session->tree));
  } else {
    print(findings.empty() && own.clone    ? "Every reference would lead somewhere in a fresh clone.\n"
          : findings.empty() && own.layout ? "Everything is where the rules want it.\n"
          : findings.empty() && own.observed
              ? "Everything that the builds read is explained.\n"
              : report::findings_text(findings, *session->tree, session->style()));
  }
  bool all_notes =
      std::all_of(findings.begin(), findings.end(), [](const Finding& item) { return item.is_note; });
  return all_notes ? kDone : kFindings;
}

// What of one kind can be mended, is.
int run_mend(const Options& options, const std::string& kind, const std::string& listed,
             const FinishOptions& finishing) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  std::optional<RelPath> only;
  if (!listed.empty()) {
    auto path = path_from_root(*session, listed);
    if (!path) return fail(options, path.error());
    if (!session->tree->is_file(*path))
      return fail(options, Error{Failure::usage, listed, "there is no such file", ""});
    only = *path;
  }
  Plan plan = mend(*session->tree, kind, only);
  if (plan.verified && plan.edits.empty()) {
    std::string why = report::notices_text(plan, *session->tree, session->style());
    print(why.empty() ? "There is nothing of that kind to mend: check finds none.\n"
                      : why + "Nothing of that kind can be mended by itself.\n");
    return why.empty() ? kDone : kFindings;
  }
  return finish(*session, plan, finishing);
}

}  // namespace

void add_check(CLI::App& app, const Options& options, int& status) {
  CLI::App* command =
      app.add_subcommand("check", "List references that lead nowhere, with the file most likely meant");
  auto own = std::make_shared<CheckOptions>();
  CLI::Option* clone = command->add_flag(
      "--clone", own->clone,
      "List references that would lead nowhere in a fresh clone of what is committed instead");
  command
      ->add_flag(
          "--observed", own->observed,
          "List what observed builds read and no reference explains, and what they found elsewhere, instead")
      ->excludes(clone);
  command
      ->add_flag("--layout", own->layout, "List what is not where the rules of layout.toml want it instead")
      ->excludes(clone);
  auto kind = std::make_shared<std::string>();
  auto finishing = std::make_shared<FinishOptions>();
  command
      ->add_option(
          "--mend", *kind,
          "Mend what is found of one kind in projects that list their files: list what is on disk beside\n"
          "its siblings, take out what is not there or stands twice, spell names as the disk does")
      ->type_name("KIND")
      ->check(CLI::IsMember(mendable()));
  auto listed = std::make_shared<std::string>();
  command
      ->add_option("--list", *listed,
                   "List this one file, in each project that lists one of its kind beside it")
      ->type_name("FILE");
  add_finish_options(*command, *finishing);
  command->callback([&options, own, kind, listed, finishing, &status] {
    if (!listed->empty() && kind->empty()) *kind = "unlisted";
    status = kind->empty() ? run(options, *own) : run_mend(options, *kind, *listed, *finishing);
  });
}

}  // namespace yc::cli
