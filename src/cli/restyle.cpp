#include "plan/restyle.h"

#include <algorithm>
#include <cctype>

#include "cli/finish.h"
#include "plan/forwarders.h"
#include "plan/installed_copies.h"

namespace yc::cli {

namespace {

struct RestyleOptions {
  std::vector<std::string> paths;
  bool drop_forwarders = false;
  std::string installed, copied;  // DIR=PACKAGE
  bool shared = false, unshared = false;
  std::string to, add_alias, asset_root;
  std::size_t steps = 0;
  FinishOptions finish;
};

// The files and folders that it is confined to.
Result<std::vector<RelPath>> asked_paths(const Session& session, const RestyleOptions& own) {
  std::vector<RelPath> out;
  for (const std::string& typed : own.paths) {
    auto path = path_from_root(session, typed);
    if (!path) return path.error();
    if (!session.tree->find(*path))
      return Error{Failure::usage, typed, "is not in the tree", "name a file or folder of it"};
    out.push_back(*path);
  }
  return out;
}

// NAME=DIR, where DIR is a folder of the tree.
struct NamedFolder {
  std::string name;
  RelPath folder;
};
Result<NamedFolder> named_folder(const Session& session, const std::string& typed, const std::string& example,
                                 bool is_name(std::string_view)) {
  std::size_t equals = typed.find('=');
  std::string name = typed.substr(0, equals);
  while (name.ends_with("/") || name.ends_with("*")) name.pop_back();
  if (equals == std::string::npos || !is_name(name))
    return Error{Failure::usage, typed, "is not NAME=DIR", "for example " + example};
  auto folder = path_from_root(session, typed.substr(equals + 1));
  if (!folder) return folder.error();
  if (!session.tree->is_folder(*folder))
    return Error{Failure::usage, typed, "names no folder of the tree", "make the folder first"};
  return NamedFolder{name, *folder};
}

bool is_alias_name(std::string_view name) {
  return !name.empty() && name.find_first_of("\"'\\ *") == std::string_view::npos;
}
bool is_constant_name(std::string_view name) {
  return !name.empty() && (name[0] < '0' || name[0] > '9') &&
         std::all_of(name.begin(), name.end(), [](unsigned char c) { return std::isalnum(c) || c == '_'; });
}

// DIR=PACKAGE; a package may have a scope, as "@salt/charts".
bool is_package_name(std::string_view name) {
  bool is_plain = !name.empty() && name.find_first_of("\"'\\ *:") == std::string_view::npos && name[0] != '.';
  std::size_t slash = name.find('/');
  return is_plain && (slash == std::string_view::npos || (name[0] == '@' && name.rfind('/') == slash));
}

int finish_restyle(const Options& options, const Session& session, Result<Plan> plan,
                   const RestyleOptions& own) {
  if (!plan) return fail(options, plan.error());
  if (plan->verified && plan->edits.empty()) {
    print("Nothing here can be spelled otherwise.\n");
    return kDone;
  }
  return finish(session, *plan, own.finish);
}

// The same targets in another spelling, through a new alias where one is asked for.
int respell(const Options& options, const Session& session, const RestyleOptions& own) {
  RestyleRequest request;
  request.steps = own.steps;
  request.to = own.to == "relative" ? Spelling::relative
               : own.to == "root"   ? Spelling::root
                                    : Spelling::alias;
  request.convert = !own.to.empty();
  auto paths = asked_paths(session, own);
  if (!paths) return fail(options, paths.error());
  request.paths = *paths;
  if (!own.add_alias.empty()) {
    auto alias = named_folder(session, own.add_alias, "@charts=src/charts", is_alias_name);
    if (!alias) return fail(options, alias.error());
    request.new_alias = alias->name;
    request.alias_folder = alias->folder;
    request.alias = alias->name + "/";
  }
  return finish_restyle(options, session, restyle(*session.tree, request), own);
}

// A constant for a folder of assets.
int name_assets(const Options& options, const Session& session, const RestyleOptions& own) {
  auto paths = asked_paths(session, own);
  if (!paths) return fail(options, paths.error());
  auto root = named_folder(session, own.asset_root, "ASSETS=assets", is_constant_name);
  if (!root) return fail(options, root.error());
  return finish_restyle(options, session, name_asset_root(*session.tree, *paths, root->name, root->folder),
                        own);
}

// A library that is both copied and installed.
int lead_library(const Options& options, const Session& session, const RestyleOptions& own) {
  bool to_installed = !own.installed.empty();
  const std::string& typed = to_installed ? own.installed : own.copied;
  std::size_t equals = typed.find('=');
  std::string package = equals == std::string::npos ? "" : typed.substr(equals + 1);
  if (!is_package_name(package))
    return fail(options,
                Error{Failure::usage, typed, "is not DIR=PACKAGE", "for example vendor/charts=charts"});
  auto folder = path_from_root(session, typed.substr(0, equals));
  if (!folder) return fail(options, folder.error());
  if (!session.tree->is_folder(*folder))
    return fail(options,
                Error{Failure::usage, typed, "names no folder of the tree", "name the copy's folder"});
  auto plan =
      use_library(*session.tree, *folder, package, to_installed ? LibraryUse::installed : LibraryUse::copied);
  if (plan && plan->edits.empty() && !plan->notices.empty())
    print(report::notices_text(*plan, *session.tree, session.style()));
  return finish_restyle(options, session, std::move(plan), own);
}

int run(const Options& options, const RestyleOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  if (Status ok = check_finished(*session); !ok) return fail(options, ok.error());
  if (!own.to.empty() || !own.add_alias.empty()) return respell(options, *session, own);
  if (!own.asset_root.empty()) return name_assets(options, *session, own);
  if (!own.installed.empty() || !own.copied.empty()) return lead_library(options, *session, own);
  if (own.shared || own.unshared) {
    auto paths = asked_paths(*session, own);
    if (!paths) return fail(options, paths.error());
    return finish_restyle(options, *session, share_definitions(*session->tree, *paths, own.shared), own);
  }
  if (!own.drop_forwarders)
    return fail(
        options,
        Error{Failure::usage, "restyle", "nothing to do was named",
              "say what: --to alias, relative or root; --add-alias; --asset-root; --installed or --copied; "
              "--shared or --unshared; or --drop-forwarders"});
  FactsCache cache(options.timings, session->parts);
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
  plan_options.timings = session->options.timings;
  plan_options.parts = session->parts;
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
  command
      ->add_option(
          "--to", own->to,
          "Spell what modules and stylesheets import through an alias, from the file's folder, or against\n"
          "a folder that names are looked up in")
      ->type_name("alias|relative|root")
      ->check(CLI::IsMember({"alias", "relative", "root"}));
  command->add_option("--steps", own->steps, "With --to alias: only what climbs N folders or more")
      ->type_name("N");
  command
      ->add_option(
          "--add-alias", own->add_alias,
          "Have NAME stand for a folder, in the settings of the compiler, the bundler and the test runner")
      ->type_name("NAME=DIR");
  command
      ->add_option(
          "--asset-root", own->asset_root,
          "Name a folder of assets by a constant in the programs that load from it, and take the folder\n"
          "out of their paths (Python)")
      ->type_name("NAME=DIR");
  CLI::Option* installed = command->add_option("--installed", own->installed,
                                               "Lead all uses of a library that is copied into DIR to the "
                                               "installed PACKAGE, where it has the same file");
  installed->type_name("DIR=PACKAGE");
  command->add_option("--copied", own->copied, "The same back: lead them to the copy")
      ->type_name("DIR=PACKAGE")
      ->excludes(installed);
  CLI::Option* shared = command->add_flag(
      "--shared", own->shared,
      "Have crates, packages and projects inherit what they depend on from one definition at the top");
  command->add_flag("--unshared", own->unshared, "The same back: each names it for itself")->excludes(shared);
  command->add_flag("--drop-forwarders", own->drop_forwarders,
                    "Lead all users of forwarding files to the real ones, and take the forwarders away");
  add_finish_options(*command, own->finish);
  add_page_option(*command, own->finish.report, "the plan");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
