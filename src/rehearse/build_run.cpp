#include "rehearse/build_run.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <chrono>
#include <cstring>

#include "base/text.h"

namespace yc {

namespace {

using Clock = std::chrono::steady_clock;

double since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

[[noreturn]] void become(const std::string& command, const std::string& folder, int log) {
  setpgid(0, 0);
  int nothing = open("/dev/null", O_RDONLY);
  if (nothing >= 0) dup2(nothing, STDIN_FILENO);
  dup2(log, STDOUT_FILENO);
  dup2(log, STDERR_FILENO);
  if (chdir(folder.c_str()) != 0) _exit(126);
  execl("/bin/sh", "sh", "-c", command.c_str(), static_cast<char*>(nullptr));
  _exit(127);
}

}  // namespace

Result<BuildRun> run_build(const std::string& command, const std::string& folder, const std::string& log,
                           double seconds, const std::function<void(double)>& tick) {
  int file = open(log.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  if (file < 0)
    return Error{Failure::io, log, fmt::format("cannot be written: {}", std::strerror(errno)), ""};
  Clock::time_point start = Clock::now();
  pid_t child = fork();
  if (child == 0) become(command, folder, file);
  close(file);
  if (child < 0)
    return Error{Failure::io, "", fmt::format("no process can be started: {}", std::strerror(errno)), ""};
  setpgid(child, child);
  BuildRun out;
  out.log = log;
  int status = 0;
  for (int waits = 0;; ++waits) {
    pid_t ended = waitpid(child, &status, WNOHANG);
    if (ended == child || (ended < 0 && errno != EINTR)) break;
    if (seconds > 0 && since(start) > seconds) {
      out.timed_out = true;
      kill(-child, SIGKILL);
      waitpid(child, &status, 0);
      break;
    }
    usleep(waits < 50 ? 5'000 : 50'000);
    if (tick && waits % 5 == 0) tick(since(start));
  }
  kill(-child, SIGKILL);  // what it left running would go on in a folder that goes
  out.seconds = since(start);
  out.status = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
  out.built = !out.timed_out && out.status == 0;
  return out;
}

std::vector<std::string> telling_lines(const std::string& log_text, std::size_t most) {
  static constexpr std::string_view kSigns[] = {"error",       "no rule",   "no such file",
                                                "cannot find", "not found", "undefined reference",
                                                "cannot open", "failed",    "missing"};
  std::vector<std::string> out, all;
  for (std::size_t at = 0; at < log_text.size();) {
    std::size_t end = std::min(log_text.find('\n', at), log_text.size());
    std::string line = log_text.substr(at, end - at);
    at = end + 1;
    std::string lower = line;
    lower = lowered(lower);
    bool tells = std::any_of(std::begin(kSigns), std::end(kSigns),
                             [&](std::string_view sign) { return lower.find(sign) != std::string::npos; });
    if (tells && out.size() < most) out.push_back(line);
    if (!line.empty()) all.push_back(std::move(line));
  }
  if (out.empty() && !all.empty())
    out.assign(all.end() - static_cast<std::ptrdiff_t>(std::min(most, all.size())), all.end());
  return out;
}

}  // namespace yc
