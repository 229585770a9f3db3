#include "cli/finish.h"
#include "cli/input.h"
#include "cli/session.h"
#include "formats/format.h"
#include "plan/explained.h"
#include "plan/observed_contexts.h"
#include "report/figures/folder_figures.h"
#include "report/json.h"
#include "report/managed.h"
#include "report/pages/survey_page.h"
#include "report/survey_text.h"

namespace yc::cli {

namespace {

// What is in force, and where it comes from.
std::vector<std::pair<std::string, std::string>> settings(const Session& session) {
  std::vector<std::pair<std::string, std::string>> out;
  std::string file = session.config.is_there ? "yellow-compass.toml" : "built in";
  std::string guarded;
  for (const RelPath& path : session.config.guarded) guarded += (guarded.empty() ? "" : " ") + path.str();
  out.emplace_back("protected", (guarded.empty() ? "nothing" : guarded) + " (" +
                                    (guarded.empty() ? "built in" : file) + ")");
  out.emplace_back("includes", include_order_text(session.config.include_order) + " (" +
                                   (session.config.include_order_set ? file : "built in") + ")");
  if (session.config.alias_from != kNoRule)
    out.emplace_back("modules",
                     "alias from " + std::to_string(session.config.alias_from) + " steps (" + file + ")");
  return out;
}

int run(const Options& options, bool managed, const std::string& page) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_page_name(page); !ok) return fail(options, ok.error());
  tell_unfinished(*session);
  FactsCache cache(options.timings, session->parts);
  auto seen = observations_of(*session);
  if (!seen) return fail(options, seen.error());
  ReferenceGraph graph = read_observed(*session->tree, cache, *seen);
  if (managed) {
    auto trees = managed_trees(*session->tree, graph);
    print(session->json() ? report::managed_json(trees) : report::managed_text(trees, session->style()));
    return kDone;
  }
  Survey found = survey(*session->tree, graph);
  std::optional<Explained> explained;
  if (!seen->empty()) explained = explain_reads(*session->tree, graph, *seen);
  if (!page.empty()) {
    std::string text =
        report::survey_page(found, impact_of_change(*session->tree, graph, {}),
                            folder_links(graph, nullptr, report::kMostFoldersOfGraph), session->root);
    if (Status ok = write_output(page, text); !ok) return fail(options, ok.error());
  }
  auto in_force = settings(*session);
  if (session->json()) {
    print(report::survey_json(found, explained, session->root, in_force));
    return kDone;
  }
  std::vector<std::string> lines;
  for (const auto& [key, value] : in_force) lines.push_back(key + ": " + value);
  print(report::survey_text(found, explained, session->root, lines, session->style()));
  return kDone;
}

}  // namespace

void add_survey(CLI::App& app, const Options& options, int& status) {
  CLI::App* command = app.add_subcommand(
      "survey", "Show what is here: formats, build units, search roots, aliases, patterns, references");
  auto managed = std::make_shared<bool>(false);
  command->add_flag("--managed", *managed,
                    "Show the trees of projects that keep one of their own beside those on disk instead");
  auto page = std::make_shared<std::string>();
  add_page_option(*command, *page, "it");
  command->callback([&options, managed, page, &status] { status = run(options, *managed, *page); });
}

}  // namespace yc::cli
