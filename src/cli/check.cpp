#include <algorithm>
#include <map>

#include "cli/finish.h"
#include "cli/input.h"
#include "cli/layout_file.h"
#include "cli/session.h"
#include "formats/format.h"
#include "inspect/clone.h"
#include "inspect/mend.h"
#include "inspect/observed.h"
#include "plan/layout.h"
#include "plan/observed_contexts.h"
#include "report/exchange.h"
#include "report/json.h"
#include "report/pages/result_pages.h"
#include "tree/ignore_rules.h"

namespace yc::cli {

namespace {

struct CheckOptions {
  bool clone = false;     // what a fresh clone would lack
  bool observed = false;  // what builds were seen to read
  bool layout = false;    // what is not where the rules want it
  std::string since;      // a commit: only what it had not
  std::vector<std::string> fail_on;
  std::string report;  // a file to write, of the kind that its ending tells
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

// Of all that was found only what a commit had not: the same finding about the same file is none that came.
Status drop_known(const Session& session, const std::string& revision, std::vector<Finding>& findings) {
  auto committed = CommitTree::of(session.root, revision);
  if (!committed) return committed.error();
  FactsCache cache(session.options.timings, session.parts);
  std::map<std::tuple<std::string, RelPath, std::string>, std::size_t> known;
  for (const Finding& finding : check(**committed, read_graph(**committed, cache), session.config.alias_from))
    ++known[{finding.id, finding.file, finding.message}];
  std::erase_if(findings, [&](const Finding& finding) {
    auto at = known.find({finding.id, finding.file, finding.message});
    return at != known.end() && at->second > 0 && at->second-- > 0;
  });
  return {};
}

Result<std::vector<Finding>> find(const Session& session, const CheckOptions& own) {
  FactsCache cache(session.options.timings, session.parts);
  auto seen = observations_of(session);
  if (!seen) return seen.error();
  ReferenceGraph graph = read_observed(*session.tree, cache, *seen);
  if (own.observed) {
    if (seen->empty())
      return Error{Failure::usage, "--observed", "no build of this tree was observed yet",
                   "run: yellow-compass rehearse --watch -- BUILD COMMAND"};
    return check_observed(*session.tree, graph, *seen);
  }
  if (own.layout) return check_layout(session, graph);
  if (own.clone) {
    auto committed = CommitTree::of(session.root, "HEAD");
    if (!committed) return committed.error();
    return check_clone(*session.tree, graph, **committed);
  }
  IgnoreRules rules(session.root);
  std::vector<Finding> out = check(*session.tree, graph, session.config.alias_from, [&](const RelPath& path) {
    return rules.ignores(path, false) || rules.ignores(path, true);
  });
  if (!own.since.empty()) {
    if (Status ok = drop_known(session, own.since, out); !ok) return ok.error();
  }
  return out;
}

// What is said where nothing was found.
std::string nothing_text(const CheckOptions& own) {
  if (own.clone) return "Every reference would lead somewhere in a fresh clone.\n";
  if (own.layout) return "Everything is where the rules want it.\n";
  if (own.observed) return "Everything that the builds read is explained.\n";
  if (!own.since.empty()) return "Nothing came since " + own.since + ".\n";
  return "";
}

// The kinds of reports, by the ending of the file.
Status write_report(const Session& session, const std::string& file, const std::vector<Finding>& findings) {
  std::string ending = ending_of(file);
  if (ending == ".sarif")
    return write_output(
        file, report::findings_sarif(findings, *session.tree, session.root, YELLOW_COMPASS_VERSION));
  if (ending == ".xml") return write_output(file, report::findings_junit(findings, *session.tree));
  if (ending == ".json") return write_output(file, report::findings_json(findings, *session.tree));
  if (ending == ".html") return write_output(file, report::findings_page(findings, *session.tree));
  return Error{Failure::usage, file, "is no kind of report",
               "end its name in .sarif (SARIF 2.1.0), .xml (JUnit), .json or .html"};
}

int run(const Options& options, const CheckOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  auto findings = find(*session, own);
  if (!findings) return fail(options, findings.error());
  if (!own.report.empty()) {
    if (Status ok = write_report(*session, own.report, *findings); !ok) return fail(options, ok.error());
  }
  if (session->json()) {
    print(report::findings_json(*findings, *session->tree));
  } else {
    std::string nothing = findings->empty() ? nothing_text(own) : "";
    print(!nothing.empty() ? nothing : report::findings_text(*findings, *session->tree, session->style()));
  }
  bool fails = std::any_of(findings->begin(), findings->end(), [&](const Finding& item) {
    bool is_meant = own.fail_on.empty() ||
                    std::find(own.fail_on.begin(), own.fail_on.end(), item.id) != own.fail_on.end();
    return is_meant && (!item.is_note || !own.fail_on.empty());
  });
  return fails ? kFindings : kDone;
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
  command->add_option("--since", own->since, "List only what came since that commit")
      ->type_name("REV")
      ->excludes(clone);
  command
      ->add_option("--fail-on", own->fail_on,
                   "Have only findings of these kinds make the exit status 1, notes of them as well")
      ->type_name("ID,…")
      ->delimiter(',');
  command
      ->add_option(
          "--report", own->report,
          "Write the findings to a file as well, as its ending says: .sarif (SARIF 2.1.0), .xml (JUnit),\n"
          ".json, .html (a page for a browser)")
      ->type_name("FILE");
  auto kind = std::make_shared<std::string>();
  auto finishing = std::make_shared<FinishOptions>();
  command
      ->add_option(
          "--mend", *kind,
          "Mend what is found of one kind: list what is on disk beside its siblings, lead what leads "
          "nowhere\n"
          "to the only file of its name, add and take out references between units, take out what is not\n"
          "there or stands twice, spell names as the disk does")
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
