#include "cli/layout_file.h"
#include "cli/looking.h"
#include "cli/requested.h"
#include "formats/format.h"
#include "inspect/folder_links.h"
#include "report/figures/folder_figures.h"
#include "report/figures/layout_figure.h"
#include "report/figures/tree_figure.h"
#include "report/figures/unit_figure.h"

namespace yc::cli {

namespace {

struct ChartOptions {
  std::string subject, sheet, output;
  std::vector<std::string> paths;
};

const std::vector<std::string> kSubjects = {"tree", "folders", "matrix", "units", "layout"};

Result<report::Canvas> drift(const Session& session) {
  auto rules = layout_rules(session, "");
  if (!rules) return rules.error();
  FactsCache cache(session.options.timings, session.parts);
  return report::layout_figure(lay_out(*session.tree, read_graph(*session.tree, cache), *rules), *rules);
}

// The moves that are asked for; none if none are.
Result<std::optional<MoveSet>> moves_of(const Session& session, const ChartOptions& own) {
  if (own.paths.empty() && own.sheet.empty()) return std::optional<MoveSet>();
  auto moves = requested_moves(session, *session.tree, "chart " + own.subject, own.paths, own.sheet);
  if (!moves) return moves.error();
  auto set = MoveSet::make(*session.tree, *moves);
  if (!set) return set.error();
  return std::optional(std::move(*set));
}

std::optional<report::Canvas> units(const TreeReader& tree, const ReferenceGraph& graph,
                                    const std::optional<MoveSet>& moves) {
  std::vector<RelPath> paths;
  if (moves) {
    for (const Move& move : moves->files()) paths.push_back(move.from);
  }
  return report::unit_figure(impact_of_change(tree, graph, paths));
}

Result<report::Canvas> figure_of(const Session& session, const ChartOptions& own) {
  if (own.subject == "layout") return drift(session);
  auto moves = moves_of(session, own);
  if (!moves) return moves.error();
  if (own.subject == "tree") {
    if (!*moves)
      return Error{Failure::usage, "chart tree", "needs a move to draw",
                   "name what moves and where to, or give a sheet with --sheet"};
    Plan plan = planned_to_look(session, std::move(**moves));
    return report::tree_figure(plan, *session.tree);
  }
  FactsCache cache(session.options.timings, session.parts);
  ReferenceGraph graph = read_graph(*session.tree, cache);
  const MoveSet* set = *moves ? &**moves : nullptr;
  if (own.subject == "matrix")
    return report::folder_matrix(folder_links(graph, set, report::kMostFoldersOfMatrix), set != nullptr);
  auto figure =
      own.subject == "units"
          ? units(*session.tree, graph, *moves)
          : report::folder_graph(folder_links(graph, set, report::kMostFoldersOfGraph), set != nullptr);
  if (!figure) return no_layout(own.output);
  return std::move(*figure);
}

int run(const Options& options, const ChartOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  auto figure = figure_of(*session, own);
  if (!figure) return fail(options, figure.error());
  if (Status ok = write_figure(own.output, *figure); !ok) return fail(options, ok.error());
  return kDone;
}

}  // namespace

void add_chart(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<ChartOptions>();
  CLI::App* command = app.add_subcommand(
      "chart",
      "Draw a figure: the tree before and after a move, who names whom, units, drift from the layout");
  command
      ->add_option(
          "subject", own->subject,
          "What to draw: the tree before and after a move; which folders name files of which, as a graph\n"
          "or as a matrix, and what a move changes of it; build units, and what a move rebuilds; the\n"
          "drift from layout.toml")
      ->required()
      ->check(CLI::IsMember(kSubjects).description(""))
      ->type_name("tree|folders|matrix|units|layout");
  command->add_option("paths", own->paths, "A move, as `move` takes it")->type_name("FROM… TO");
  command->add_option("--sheet", own->sheet, "Take the moves from a file (- for standard input)")
      ->type_name("FILE");
  command
      ->add_option("-o,--output", own->output,
                   "Where to write it, as SVG or PNG by its ending (- for standard output)")
      ->required()
      ->type_name("FILE");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
