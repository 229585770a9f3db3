#include "cli/session.h"
#include "formats/format.h"
#include "report/json.h"

namespace yc::cli {

namespace {

int run(const Options& options) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  FactsCache cache;
  ReferenceGraph graph = read_graph(*session->tree, cache);
  std::vector<Finding> findings = check(*session->tree, graph);
  if (session->json()) {
    print(report::findings_json(findings, *session->tree));
  } else {
    print(report::findings_text(findings, *session->tree, session->style()));
  }
  return findings.empty() ? kDone : kFindings;
}

}  // namespace

void add_check(CLI::App& app, const Options& options, int& status) {
  CLI::App* command =
      app.add_subcommand("check", "List references that lead nowhere, with the file most likely meant");
  command->callback([&options, &status] { status = run(options); });
}

}  // namespace yc::cli
