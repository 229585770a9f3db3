// What every command starts from: the options that all share, the tree, and the ways to print and to end.
#pragma once

#include <CLI/CLI.hpp>
#include <memory>
#include <string>
#include <vector>

#include "base/timings.h"
#include "carry/part_store.h"
#include "carry/state.h"
#include "observe/observation.h"
#include "plan/config.h"
#include "report/text.h"
#include "tree/disk_tree.h"

namespace yc::cli {

// The exit status of the program; also in docs/commands.md.
enum Exit : int { kDone = 0, kFindings = 1, kUsage = 2, kUnsettled = 3, kIoFailure = 4 };

struct Options {
  std::string root;  // as given with -C, else empty
  std::string format = "text";
  std::string color = "auto";
  bool quiet = false;
  bool verbose = false;
  std::shared_ptr<Timings> timings;
  bool is_timed = false;                  // with --stats
  std::shared_ptr<PartStore> kept;        // between runs; null with --no-cache
  std::string command_line;               // as typed, for the journal
  std::vector<std::string> after_dashes;  // the words after "--"
};

struct Session {
  const Options& options;
  std::string root;  // absolute
  Config config;
  std::unique_ptr<DiskTree> tree;
  std::shared_ptr<KeptParts> parts;  // of readings of this tree
  bool json() const { return options.format == "json"; }
  report::TextStyle style() const;
};

// Finds the root, reads the configuration and takes the snapshot.
Result<Session> open_session(const Options& options);
// Where parts of readings are kept: see docs/cache.md. Keeps nothing where the user has no folder for it.
std::shared_ptr<PartStore> user_part_store();
// This user's folder for what can be made anew (absolute); empty if there is none.
std::string user_cache_folder();
// The root alone (absolute), for commands that need no snapshot. One that lies in the data of a repository is
// refused.
Result<std::string> root_of(const Options& options);
// The disk as far as a command may write to it, and where the records of its moves are.
struct Records {
  DiskFileSystem disk;
  StatePlace place;
};
Records records_of(const std::string& root);
// The builds of this tree that were observed.
Result<std::vector<Observation>> observations_of(const Session& session);
// Puts text behind what the configuration file says; makes the file if there is none.
Status add_to_config(const Session& session, const std::string& text);
// Tells on standard error if a move of this tree was not finished, and how to go on.
void tell_unfinished(const Session& session);
// A path as typed, relative to the current folder, as a path from the root.
Result<RelPath> path_from_root(const Session& session, const std::string& typed);

// Ends the program at once, with what was printed written out: taking a large graph apart piece by piece
// takes longer than many a plan. Only for the end of a command, when nothing is left to be done.
[[noreturn]] void leave(const Options& options, int status);
// Says on standard error where the time went, with --stats.
void tell_timings(const Options& options);
int fail(const Options& options, const Error& error);
void print(const std::string& text);
void tell(const std::string& text);  // on standard error

// Each registers one command; `status` receives its exit status when it has run.
void add_survey(CLI::App& app, const Options& options, int& status);
void add_refs(CLI::App& app, const Options& options, int& status);
void add_move(CLI::App& app, const Options& options, int& status);
void add_catch_up(CLI::App& app, const Options& options, int& status);
void add_check(CLI::App& app, const Options& options, int& status);
void add_rehearse(CLI::App& app, const Options& options, int& status);
void add_carve(CLI::App& app, const Options& options, int& status);
void add_restyle(CLI::App& app, const Options& options, int& status);
void add_layout(CLI::App& app, const Options& options, int& status);
void add_impact(CLI::App& app, const Options& options, int& status);
void add_serve(CLI::App& app, const Options& options, int& status);
void add_chart(CLI::App& app, const Options& options, int& status);
void add_undo(CLI::App& app, const Options& options, int& status);
void add_resume(CLI::App& app, const Options& options, int& status);
// Columns of the terminal that standard output is; else what COLUMNS says, or 80.
std::size_t terminal_width();

// The version of the program and of each library it runs with.
std::string version_text();

void add_completion(CLI::App& app, int& status);
void add_manual(CLI::App& app, const Options& options, int& status);
void add_history(CLI::App& app, const Options& options, int& status);

}  // namespace yc::cli
