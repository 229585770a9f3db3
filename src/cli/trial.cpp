#include "cli/trial.h"

#include "cli/progress.h"

#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cctype>
#include <cstdio>

#include "rehearse/installed.h"
#include "rehearse/observed_builds.h"

namespace yc::cli {

namespace {

// Words as one line for the shell; a single word is one already.
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

}  // namespace

std::vector<std::string> build_commands(const Session& session) {
  const std::vector<std::string>& words = session.options.after_dashes;
  return words.empty() ? session.config.builds : std::vector<std::string>{command_line(words)};
}

void add_trial_options(CLI::App& command, TrialOptions& own) {
  command.add_option("--time-limit", own.seconds, "Seconds after which a build is stopped (0: none)")
      ->type_name("SECONDS")
      ->check(CLI::NonNegativeNumber.description(""));
  command.add_flag("--keep", own.keep, "Leave the copies that were built where they are, and say where");
}

Result<std::vector<Rehearsed>> try_builds(const Session& session, const TreeReader& start, const Plan* plan,
                                          TrialOptions own) {
  stop_progress();
  const Options& options = session.options;
  if (std::string why = own.watch ? why_not_watched() : ""; !why.empty()) {
    std::fprintf(stderr,
                 "yellow-compass: the builds are not watched: %s\n  only whether they succeed is looked at\n",
                 why.c_str());
    own.watch = false;
  }
  auto logs = log_folder(session.root);
  if (!logs) return logs.error();
  RehearsalOptions rehearsal;
  rehearsal.commands = own.commands;
  rehearsal.logs = *logs;
  rehearsal.seconds = own.seconds;
  rehearsal.keep = own.keep;
  rehearsal.watch = own.watch;
  bool is_fresh_clone = &start != session.tree.get();
  if (!is_fresh_clone) rehearsal.installed = installed_packages(*session.tree, session.config.installed);
  bool shown = false;
  if (isatty(STDERR_FILENO) && !options.quiet) {
    rehearsal.progress = [&](const std::string& what, double seconds) {
      if (seconds < 0.5) return;
      shown = true;
      std::fprintf(stderr, "\r\x1b[K%s (%.0f s)", report::printable(what).c_str(), seconds);
    };
  }
  auto results = rehearse(start, *session.tree, plan, rehearsal);
  if (shown) std::fprintf(stderr, "\r\x1b[K");
  return results;
}

void keep_observed(const Session& session, const std::vector<Rehearsed>& builds, bool is_moved) {
  Records records = records_of(session.root);
  for (const Rehearsed& build : builds) {
    const auto& seen = is_moved ? build.seen_after : build.seen_before;
    Status ok = seen ? keep_observation(records.disk, records.place, *seen) : Status();
    if (!ok)
      std::fprintf(stderr, "%s  what was observed is not kept\n", report::error_text(ok.error()).c_str());
  }
}

}  // namespace yc::cli
