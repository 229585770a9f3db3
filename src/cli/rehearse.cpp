#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cctype>
#include <filesystem>

#include "cli/requested.h"
#include "cli/session.h"
#include "formats/format.h"
#include "inspect/clone.h"
#include "rehearse/rehearsal.h"
#include "report/json.h"
#include "report/rehearsal.h"

namespace yc::cli {

namespace {

namespace fs = std::filesystem;

struct RehearseOptions {
  std::vector<std::string> paths;
  std::string sheet;
  double seconds = 0;
  bool fresh_clone = false;
  bool keep = false;
  bool accept_unseen = false;
};

// The words after "--" as one line for the shell; a single word is one already.
std::string command_line(const std::vector<std::string>& words) {
  if (words.size() == 1) return words.front();
  std::string out;
  for (const std::string& word : words) {
    bool plain = !word.empty() && std::all_of(word.begin(), word.end(), [](unsigned char c) {
      return std::isalnum(c) ||
             std::string_view("_-./=:,+@%").find(static_cast<char>(c)) != std::string_view::npos;
    });
    if (plain) {
      out += (out.empty() ? "" : " ") + word;
      continue;
    }
    std::string quoted = "'";
    for (char c : word) quoted += c == '\'' ? std::string("'\\''") : std::string(1, c);
    out += (out.empty() ? "" : " ") + quoted + "'";
  }
  return out;
}

// A folder for the logs of this rehearsal, in the state folder.
Result<std::string> log_folder(const std::string& root) {
  Records records = records_of(root);
  auto state = State::open(records.disk, records.place);
  if (!state) return state.error();
  if (Status ok = state->make(records.disk); !ok) return ok.error();
  std::string all = state->folder() + "/rehearsals";
  if (!records.disk.exists(all)) {
    if (Status ok = records.disk.make_folder(all, 0); !ok) return ok.error();
  }
  for (int number = 1;; ++number) {
    std::string folder = fmt::format("{}/{:06}", all, number);
    if (records.disk.exists(folder)) continue;
    if (Status ok = records.disk.make_folder(folder, 0); !ok) return ok.error();
    return folder;
  }
}

int run(const Options& options, const RehearseOptions& own) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  RehearsalOptions rehearsal;
  rehearsal.commands = session->config.builds;
  if (!options.after_dashes.empty()) rehearsal.commands = {command_line(options.after_dashes)};
  if (rehearsal.commands.empty())
    return fail(options, Error{Failure::usage, "", "rehearse needs a build command: … -- COMMAND",
                               "or name some as builds in yellow-compass.toml"});
  std::unique_ptr<CommitTree> committed;
  if (own.fresh_clone) {
    auto commit = CommitTree::of(session->root, "HEAD");
    if (!commit) return fail(options, commit.error());
    committed = std::move(*commit);
  }
  const TreeReader& start = committed ? static_cast<const TreeReader&>(*committed) : *session->tree;
  std::optional<Plan> plan;
  if (!own.paths.empty() || !own.sheet.empty()) {
    auto moves = requested_moves(*session, start, "rehearse", own.paths, own.sheet);
    if (!moves) return fail(options, moves.error());
    auto set = MoveSet::make(start, *moves);
    if (!set) return fail(options, set.error());
    PlanOptions plan_options;
    plan_options.include_order = session->config.include_order;
    plan_options.accept_unseen = own.accept_unseen;
    plan_options.routes = session->config.routes;
    plan_options.allow_routes = true;  // a build does not mind, and the site itself is not touched
    plan = make_plan(start, std::move(*set), plan_options);
    if (!plan->verified) {
      std::string text = report::unsettled_text(*plan, start, session->style());
      std::fwrite(text.data(), 1, text.size(), stderr);
      if (session->json()) print(report::plan_json(*plan, start, report::Outcome::unsettled, 0));
      return kUnsettled;
    }
  }
  auto logs = log_folder(session->root);
  if (!logs) return fail(options, logs.error());
  rehearsal.logs = *logs;
  rehearsal.seconds = own.seconds;
  rehearsal.keep = own.keep;
  bool shows = isatty(STDERR_FILENO) && !options.quiet;
  bool shown = false;
  if (shows) {
    rehearsal.progress = [&](const std::string& what, double seconds) {
      if (seconds < 0.5) return;
      shown = true;
      std::fprintf(stderr, "\r\x1b[K%s (%.0f s)", report::printable(what).c_str(), seconds);
    };
  }
  auto results = rehearse(start, *session->tree, plan ? &*plan : nullptr, rehearsal);
  if (shown) std::fprintf(stderr, "\r\x1b[K");
  if (!results) return fail(options, results.error());
  std::vector<Finding> lacking;
  bool all_built = std::all_of(results->begin(), results->end(),
                               [](const Rehearsed& item) { return item.verdict == Verdict::built; });
  if (committed && !all_built) {
    FactsCache cache;
    lacking = check_clone(*session->tree, read_graph(*session->tree, cache), *committed);
  }
  print(session->json() ? report::rehearsal_json(*results, lacking, *session->tree)
                        : report::rehearsal_text(*results, lacking, *session->tree, session->style()));
  return all_built ? kDone : kFindings;
}

}  // namespace

void add_rehearse(CLI::App& app, const Options& options, int& status) {
  auto own = std::make_shared<RehearseOptions>();
  CLI::App* command = app.add_subcommand(
      "rehearse", "Build the project in clean copies, before a move and after it: … -- BUILD COMMAND");
  command
      ->add_option("paths", own->paths, "What to move, then where to; without any the tree is built as it is")
      ->type_name("FROM… TO");
  command->add_option("--sheet", own->sheet, "Take the moves from a file")->type_name("FILE");
  command->add_flag("--fresh-clone", own->fresh_clone, "Start from what is committed alone");
  command->add_option("--time-limit", own->seconds, "Seconds after which a build is stopped (0: none)")
      ->type_name("SECONDS")
      ->check(CLI::NonNegativeNumber.description(""));
  command->add_flag("--keep", own->keep, "Leave the copies where they are and say where");
  command->add_flag("--accept-unseen", own->accept_unseen,
                    "Go on although a text that is only known at run time could name what moves");
  command->callback([&options, own, &status] { status = run(options, *own); });
}

}  // namespace yc::cli
