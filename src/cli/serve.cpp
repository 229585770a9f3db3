#include "serve/server.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <filesystem>

#include "cli/session.h"

namespace yc::cli {

namespace {

// Opens a tree as every command does, wherever the editor has it.
Result<serve::OpenedTree> open_tree(const Options& options, const std::string& folder) {
  Options here = options;
  here.root = find_root(folder);
  here.quiet = true;
  auto session = open_session(here);
  if (!session) return session.error();
  auto observed = observations_of(*session);
  if (!observed) return observed.error();
  return serve::OpenedTree{session->root,
                           std::move(session->config),
                           std::move(session->tree),
                           session->parts,
                           std::move(*observed),
                           records_of(session->root).place,
                           options.is_timed ? options.timings : nullptr};
}

std::size_t read_some(char* into, std::size_t most) {
  while (true) {
    ssize_t got = ::read(STDIN_FILENO, into, most);
    if (got >= 0) return static_cast<std::size_t>(got);
    if (errno != EINTR) return 0;
  }
}

// Nobody is left to tell once the other side is gone: the end of its input ends the program, too.
void write_all(const std::string& bytes) {
  for (std::size_t at = 0; at < bytes.size();) {
    ssize_t put = ::write(STDOUT_FILENO, bytes.data() + at, bytes.size() - at);
    if (put < 0 && errno != EINTR) return;
    if (put > 0) at += static_cast<std::size_t>(put);
  }
}

// One file for each process, written anew each time and taken away at the end.
class KeptText {
 public:
  ~KeptText() {
    std::error_code error;
    if (!path_.empty()) std::filesystem::remove(path_, error);
  }
  std::string keep(const std::string& text) {
    std::string folder = user_cache_folder();
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    if (folder.empty() || error) return "";
    path_ = folder + "/in-the-way-" + std::to_string(getpid()) + ".txt";
    std::filesystem::remove(path_, error);  // a link is not written through
    int file = ::open(path_.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (file < 0) return "";
    bool is_whole = ::write(file, text.data(), text.size()) == static_cast<ssize_t>(text.size());
    ::close(file);
    return is_whole ? path_ : "";
  }

 private:
  std::string path_;
};

int run(const Options& options) {
  KeptText kept;
  serve::Environment environment;
  environment.open = [&options](const std::string& folder) { return open_tree(options, folder); };
  environment.version = YELLOW_COMPASS_VERSION;
  std::error_code error;
  environment.fallback = options.root.empty() ? std::filesystem::current_path(error).string()
                                              : std::filesystem::canonical(options.root, error).string();
  environment.keep_text = [&kept](const std::string& text) { return kept.keep(text); };
  if (isatty(STDIN_FILENO))
    tell("This waits for an editor on standard input: see docs/editors.md. Ctrl-C ends it.\n");
  serve::Server server(std::move(environment), read_some, write_all);
  return server.run() ? kDone : kFindings;
}

}  // namespace

void add_serve(CLI::App& app, const Options& options, int& status) {
  CLI::App* command = app.add_subcommand(
      "serve",
      "Answer an editor over standard input and output (Language Server Protocol 3.17), so that its own\n"
      "renames keep every reference");
  command->callback([&options, &status] { status = run(options); });
}

}  // namespace yc::cli
