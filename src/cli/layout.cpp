#include "plan/layout.h"

#include "cli/finish.h"
#include "cli/input.h"
#include "cli/layout_file.h"
#include "formats/format.h"
#include "report/layout_text.h"

namespace yc::cli {

namespace {

struct LayoutOptions {
  std::string rules, sheet;
  bool learn = false, move = false;
  FinishOptions finish;
};

int learn(const Session& session) {
  FactsCache cache(session.options.timings, session.parts);
  std::vector<LayoutRule> rules = learn_layout(*session.tree, read_graph(*session.tree, cache));
  if (rules.empty()) {
    print("# What is alike lies in different folders here: no rule is followed.\n");
  } else {
    print("# What the tree follows already; what it does not is excepted.\n" + layout_text(rules));
  }
  return kDone;
}

int carry_out_layout(const Options& options, const Session& session, const Layout& layout,
                     const LayoutOptions& own) {
  if (Status ok = check_finished(session); !ok) return fail(options, ok.error());
  std::vector<Move> moves = layout.moves();
  if (moves.empty()) {
    print("Everything is where the rules want it.\n");
    return kDone;
  }
  auto set = MoveSet::make(*session.tree, moves);
  if (!set) return fail(options, set.error());
  PlanOptions plan_options;
  plan_options.timings = session.options.timings;
  plan_options.parts = session.parts;
  plan_options.include_order = session.config.include_order;
  plan_options.alias_from = session.config.alias_from;
  plan_options.routes = session.config.routes;
  plan_options.settled = session.config.settled;
  return finish(session, make_plan(*session.tree, std::move(*set), plan_options), own.finish);
}

int run(const Options& options, const LayoutOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (own.learn) return learn(*session);
  auto rules = layout_rules(*session, own.rules);
  if (!rules) return fail(options, rules.error());
  FactsCache cache(options.timings, session->parts);
  Layout layout = lay_out(*session->tree, read_graph(*session->tree, cache), *rules);
  if (own.move) return carry_out_layout(options, *session, layout, own);
  if (!own.sheet.empty()) {
    if (Status ok = write_output(own.sheet, sheet_of(layout, *rules)); !ok) return fail(options, ok.error());
  }
  if (own.sheet == "-") return kDone;
  print(session->json() ? report::layout_json(layout) : report::layout_tree_text(layout, session->style()));
  return kDone;
}

}  // namespace

Result<std::vector<LayoutRule>> layout_rules(const Session& session, const std::string& path) {
  std::string file = path.empty() ? session.root + "/" + std::string(kLayoutFile) : path;
  auto text = read_input(file);
  if (!text)
    return Error{Failure::usage, path.empty() ? std::string(kLayoutFile) : path, "cannot be read",
                 "name a file of rules (docs/layout.md), or begin with: yellow-compass layout --learn > " +
                     std::string(kLayoutFile)};
  return parse_layout(*text, path.empty() ? std::string(kLayoutFile) : path);
}

void add_layout(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<LayoutOptions>();
  CLI::App* command = app.add_subcommand(
      "layout", "Show where rules of what belongs where would put things, and put them there");
  command->add_option("rules", own->rules, "File of rules; without one, layout.toml in the root")
      ->type_name("RULES");
  CLI::Option* learned =
      command->add_flag("--learn", own->learn, "Print the rules that the tree follows already");
  command->add_option("--write-sheet", own->sheet, "Write the moves to a move sheet; - prints it")
      ->type_name("FILE");
  command->add_flag("--move", own->move, "Carry the moves out, as `move` does")->excludes(learned);
  add_finish_options(*command, own->finish);
  add_page_option(*command, own->finish.report, "the plan");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
