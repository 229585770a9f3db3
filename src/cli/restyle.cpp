#include "cli/finish.h"
#include "plan/forwarders.h"

namespace yc::cli {

namespace {

struct RestyleOptions {
  std::vector<std::string> paths;
  bool drop_forwarders = false;
  FinishOptions finish;
};

int run(const Options& options, const RestyleOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  if (!own.drop_forwarders)
    return fail(options, Error{Failure::usage, "restyle", "nothing to do was named",
                               "say what: restyle --drop-forwarders [PATH…]"});
  FactsCache cache;
  ReferenceGraph graph = read_graph(*session->tree, cache);
  std::vector<Forwarder> all = find_forwarders(*session->tree, graph), chosen;
  if (own.paths.empty()) chosen = all;
  for (const std::string& typed : own.paths) {
    auto path = path_from_root(*session, typed);
    if (!path) return fail(options, path.error());
    std::size_t before = chosen.size();
    for (const Forwarder& item : all) {
      if (item.path.is_within(*path)) chosen.push_back(item);
    }
    if (chosen.size() == before)
      return fail(options, Error{Failure::usage, typed, "is no forwarder and holds none",
                                 "yellow-compass check lists them"});
  }
  if (chosen.empty()) {
    print("There are no forwarders here.\n");
    return kDone;
  }
  PlanOptions plan_options;
  plan_options.include_order = session->config.include_order;
  return finish(*session, drop_forwarders(*session->tree, chosen, plan_options), own.finish);
}

}  // namespace

void add_restyle(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<RestyleOptions>();
  CLI::App* command = app.add_subcommand("restyle", "Spell references to the same targets in another way");
  command
      ->add_option("paths", own->paths, "Files and folders that it is confined to; without any, everything")
      ->type_name("PATH…");
  command->add_flag("--drop-forwarders", own->drop_forwarders,
                    "Lead all users of forwarding headers to the real ones, and take the forwarders away");
  add_finish_options(*command, own->finish);
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
