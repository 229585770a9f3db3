#include <algorithm>

#include "cli/finish.h"
#include "cli/input.h"
#include "cli/looking.h"
#include "cli/requested.h"
#include "cli/session.h"
#include "report/figures/unit_figure.h"
#include "report/impact.h"
#include "report/pages/result_pages.h"
#include "tree/overlay_tree.h"

namespace yc::cli {

namespace {

struct ImpactOptions {
  std::vector<std::string> paths;
  std::string sheet, figure, report;
};

int show(const Session& session, const Impact& impact, const ImpactOptions& own, bool units_only) {
  if (!own.figure.empty()) {
    auto figure = report::unit_figure(impact);
    if (!figure) return fail(session.options, no_layout(own.figure));
    if (Status ok = write_figure(own.figure, *figure); !ok) return fail(session.options, ok.error());
  }
  if (!own.report.empty()) {
    Status ok = check_page_name(own.report);
    if (ok) ok = write_output(own.report, report::impact_page(impact));
    if (!ok) return fail(session.options, ok.error());
  }
  if (session.json()) {
    print(report::impact_json(impact));
  } else {
    print(units_only ? report::units_text(impact.units, session.style())
                     : report::impact_text(impact, session.style()));
  }
  return kDone;
}

int run(const Options& options, const ImpactOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  if (own.sheet.empty()) {
    FactsCache cache(options.timings, session->parts);
    ReferenceGraph graph = read_graph(*session->tree, cache);
    std::vector<RelPath> paths;
    for (const std::string& text : own.paths) {
      auto path = path_from_root(*session, text);
      if (!path) return fail(options, path.error());
      if (!session->tree->find(*path))
        return fail(options, Error{Failure::usage, text, "there is no such file or folder", ""});
      paths.push_back(*path);
    }
    return show(*session, impact_of_change(*session->tree, graph, paths), own, paths.empty());
  }
  if (!own.paths.empty())
    return fail(options,
                Error{Failure::usage, "--sheet", "takes no paths beside it", "put them into the sheet"});
  auto moves = requested_moves(*session, *session->tree, "impact", {}, own.sheet);
  if (!moves) return fail(options, moves.error());
  auto set = MoveSet::make(*session->tree, *moves);
  if (!set) return fail(options, set.error());
  MoveSet kept = *set;
  Plan plan = planned_to_look(*session, std::move(*set));
  FactsCache cache(options.timings, session->parts);
  ReferenceGraph before = read_graph(*session->tree, cache);
  OverlayTree planned(*session->tree, kept, plan.changes);
  planned.set_edits(&plan.edits);
  ReferenceGraph after = read_graph(planned, cache);
  int status = show(*session, impact_of_move({*session->tree, before}, {planned, after}, kept), own, false);
  if (status == kDone && !plan.verified && !session->json())
    print("The move itself would not be carried out as it is; `move --preview` tells why.\n");
  return status;
}

}  // namespace

void add_impact(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<ImpactOptions>();
  CLI::App* command = app.add_subcommand(
      "impact",
      "Show the build units, which are rebuilt if files change, and which change owner if they move");
  command
      ->add_option("paths", own->paths,
                   "Files and folders that would change; without any, all units are listed")
      ->type_name("PATH…");
  command
      ->add_option("--sheet", own->sheet, "Tell what a move sheet would mean instead (- for standard input)")
      ->type_name("FILE");
  command
      ->add_option("--figure", own->figure,
                   "Also write a figure of the units and who uses whom, as SVG or PNG")
      ->type_name("FILE");
  add_page_option(*command, own->report, "what is found");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
