#include <algorithm>

#include "cli/session.h"
#include "formats/format.h"
#include "inspect/clone.h"
#include "report/json.h"

namespace yc::cli {

namespace {

int run(const Options& options, bool clone) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  FactsCache cache;
  ReferenceGraph graph = read_graph(*session->tree, cache);
  std::vector<Finding> findings;
  if (clone) {
    auto committed = CommitTree::of(session->root, "HEAD");
    if (!committed) return fail(options, committed.error());
    findings = check_clone(*session->tree, graph, **committed);
  } else {
    findings = check(*session->tree, graph, session->config.alias_from);
  }
  if (session->json()) {
    print(report::findings_json(findings, *session->tree));
  } else {
    print(findings.empty() && clone ? "Every reference would lead somewhere in a fresh clone.\n"
                                    : report::findings_text(findings, *session->tree, session->style()));
  }
  bool all_notes =
      std::all_of(findings.begin(), findings.end(), [](const Finding& item) { return item.is_note; });
  return all_notes ? kDone : kFindings;
}

}  // namespace

void add_check(CLI::App& app, const Options& options, int& status) {
  CLI::App* command =
      app.add_subcommand("check", "List references that lead nowhere, with the file most likely meant");
  auto clone = std::make_shared<bool>(false);
  command->add_flag("--clone", *clone,
                    "List references that would lead nowhere in a fresh clone of what is committed instead");
  command->callback([&options, clone, &status] { status = run(options, *clone); });
}

}  // namespace yc::cli
