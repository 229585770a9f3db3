#include "cli/session.h"

#include "cli/progress.h"

#include <fmt/format.h>
#include <pwd.h>
#include <sys/ioctl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <filesystem>

#include "carry/lock.h"
#include "carry/recovery.h"
#include "formats/kept_parts.h"
#include "rehearse/observed_builds.h"
#include "report/json.h"
#include "report/timings.h"
#include "tree/git_library.h"

namespace yc::cli {

namespace fs = std::filesystem;

std::size_t terminal_width() {
  winsize size{};
  if (ioctl(STDOUT_FILENO, TIOCGWINSZ, &size) == 0 && size.ws_col > 0) return size.ws_col;
  // What stands behind a pipe may show more than it can tell.
  const char* told = std::getenv("COLUMNS");
  int columns = told ? std::atoi(told) : 0;
  return columns > 0 ? static_cast<std::size_t>(columns) : 80;
}

report::TextStyle Session::style() const {
  bool color = options.color == "always" ||
               (options.color == "auto" && isatty(STDOUT_FILENO) && !std::getenv("NO_COLOR"));
  return {color, options.verbose};
}

void tell(const std::string& text) {
  stop_progress();
  std::fwrite(text.data(), 1, text.size(), stderr);
}

void print(const std::string& text) {
  stop_progress();
  std::fwrite(text.data(), 1, text.size(), stdout);
  std::fflush(stdout);
}

void tell_timings(const Options& options) {
  stop_progress();
  if (!options.is_timed) return;
  std::string text = report::timings_text(options.timings->lines());
  tell(text);
}

void leave(const Options& options, int status) {
  if (options.kept) options.kept->close();
  tell_timings(options);
  std::fflush(stdout);
  std::fflush(stderr);
  std::_Exit(status);
}

int fail(const Options& options, const Error& error) {
  stop_progress();
  std::string text = report::error_text(error);
  tell(text);
  if (options.format == "json") print(report::error_json(error));
  switch (error.failure) {
    case Failure::usage:
      return kUsage;
    case Failure::unsettled:
      return kUnsettled;
    case Failure::io:
      return kIoFailure;
  }
  return kIoFailure;
}

Result<std::string> root_of(const Options& options) {
  std::error_code error;
  std::string start = options.root.empty() ? fs::current_path(error).string() : options.root;
  if (!fs::is_directory(start, error)) return Error{Failure::usage, start, "is not a folder", ""};
  std::string root = options.root.empty() ? find_root(start) : fs::canonical(start, error).string();
  if (is_in_repository_data(root))
    return Error{Failure::usage, root,
                 "lies in the data of a repository, which only version control may change",
                 "choose a working tree with -C"};
  return root;
}

namespace {

// By the XDG Base Directory Specification: a variable, and what stands for it below the home folder.
std::string user_folder(const char* variable, const std::string& otherwise) {
  const char* named = std::getenv(variable);
  if (named && *named == '/') return std::string(named) + "/yellow-compass";
  const char* home = std::getenv("HOME");
  const passwd* user = home && *home ? nullptr : getpwuid(geteuid());
  std::string folder = user && user->pw_dir ? user->pw_dir : home ? home : "";
  return folder.empty() ? "" : folder + otherwise + "/yellow-compass";
}

std::string user_state_folder() {
  return user_folder("XDG_STATE_HOME", "/.local/state");
}

// Of this very program, which is another one once its file was replaced: it may read the same scripts
// otherwise.
std::string program_stamp() {
  struct stat info {};
  if (stat("/proc/self/exe", &info) != 0) return "";
  return fmt::format("{} {} {} {} {}.{} {}.{}", YELLOW_COMPASS_VERSION, info.st_dev, info.st_ino,
                     info.st_size, info.st_mtim.tv_sec, info.st_mtim.tv_nsec, info.st_ctim.tv_sec,
                     info.st_ctim.tv_nsec);
}

}  // namespace

Records records_of(const std::string& root) {
  return {DiskFileSystem(writable_folders(root)), {root, state_folder(root), user_state_folder()}};
}

std::string user_cache_folder() {
  return user_folder("XDG_CACHE_HOME", "/.cache");
}

std::shared_ptr<PartStore> user_part_store() {
  std::string folder = user_cache_folder();
  return std::make_shared<PartStore>(folder.empty() ? "" : folder + "/readings.db", program_stamp);
}

void tell_unfinished(const Session& session) {
  Records records = records_of(session.root);
  auto state = State::open(records.disk, records.place);
  auto open = state ? unfinished(records.disk, *state) : Result<std::optional<StoredJournal>>(state.error());
  if (open && !*open) return;
  Error error = open ? unfinished_error(**open) : open.error();
  if (auto owner = open ? lock_owner(records.disk, records.place.folder) : std::nullopt; owner)
    error =
        Error{Failure::unsettled, "", *owner + " is changing this tree", "what follows may be half of it"};
  std::string text = report::error_text(error);
  tell(text);
}

Result<Session> open_session(const Options& options) {
  start_progress(options);
  auto root = root_of(options);
  if (!root) return root.error();
  Session session{options, *root, {}, nullptr, nullptr};
  bool keeps = options.kept && !options.kept->lies_in(*root);
  session.parts = std::make_shared<KeptParts>(keeps ? options.kept->shelf(*root) : nullptr);
  std::string name = session.root + "/yellow-compass.toml";
  DiskFileSystem disk({session.root});
  if (disk.exists(name)) {
    auto text = disk.read(name);
    if (!text) return Error{Failure::usage, name, text.error().message, ""};
    auto config = parse_config(*text, "yellow-compass.toml");
    if (!config) return config.error();
    session.config = std::move(*config);
  }
  Stopwatch timed(options.timings.get(), "list the tree");
  auto tree = DiskTree::scan(session.root, ScanOptions{session.config.guarded});
  if (!tree) {
    Error problem = tree.error();
    problem.failure = Failure::usage;
    return problem;
  }
  session.tree = std::move(*tree);
  return session;
}

Result<RelPath> path_from_root(const Session& session, const std::string& typed) {
  if (typed.empty()) return Error{Failure::usage, "", "a path is empty", ""};
  std::error_code error;
  fs::path base = session.options.root.empty() ? fs::current_path(error) : fs::path(session.root);
  // Only the folder part may go through links on the way to the tree; the last name may itself be a link that
  // moves.
  fs::path full = (fs::path(typed).is_absolute() ? fs::path(typed) : base / typed).lexically_normal();
  std::string text = full.string();
  while (text.size() > 1 && text.back() == '/') text.pop_back();
  std::string root = session.root;
  if (text == root) return RelPath();
  if (text.compare(0, root.size() + 1, root + "/") != 0) {
    std::string parent = fs::weakly_canonical(fs::path(text).parent_path(), error).string();
    text = parent + "/" + fs::path(text).filename().string();
    if (text == root) return RelPath();
    if (text.compare(0, root.size() + 1, root + "/") != 0) {
      return Error{Failure::usage, typed, "lies outside the tree at " + root, "choose the tree with -C"};
    }
  }
  auto path = RelPath::resolve({}, text.substr(root.size() + 1));
  if (!path) return Error{Failure::usage, typed, "leads out of the tree", ""};
  return *path;
}

Result<std::vector<Observation>> observations_of(const Session& session) {
  Records records = records_of(session.root);
  return kept_observations(records.disk, records.place);
}

Status add_to_config(const Session& session, const std::string& text) {
  Records records = records_of(session.root);
  FileSystem& disk = records.disk;
  std::string path = session.root + "/yellow-compass.toml";
  if (!disk.exists(path)) return disk.write_new(path, text.substr(text.find_first_not_of('\n')), 0644);
  auto info = disk.info(path);
  if (!info) return info.error();
  if (info->kind != EntryKind::file || info->is_special)
    return Error{Failure::unsettled, path, "is no plain file, so it is not written to", ""};
  auto bytes = disk.read(path);
  if (!bytes) return bytes.error();
  std::string draft = path + ".draft";
  std::string gap = bytes->empty() || bytes->ends_with('\n') ? "" : "\n";
  if (Status ok = disk.write_like(draft, *bytes + gap + text, path); !ok) return ok;
  return disk.rename(draft, path);
}

}  // namespace yc::cli
