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
#include "observe/watch.h"

namespace yc {

namespace {

constexpr double kTrial = 10;    // seconds in which a watched process must have ended that does nothing
constexpr int kNoProgram = 127;  // the status of a command that is not there

using Clock = std::chrono::steady_clock;

double since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

[[noreturn]] void become(const BuildCall& call, std::vector<char*>& words, int log) {
  setpgid(0, 0);
  int nothing = open("/dev/null", O_RDONLY);
  if (nothing >= 0) dup2(nothing, STDIN_FILENO);
  dup2(log, STDOUT_FILENO);
  dup2(log, STDERR_FILENO);
  if (chdir(call.folder.c_str()) != 0) _exit(126);
  execvp(words.front(), words.data());
  _exit(127);
}

}  // namespace

Result<BuildRun> run_build(const BuildCall& call, const std::function<void(double)>& tick) {
  int file = open(call.log.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  if (file < 0)
    return Error{Failure::io, call.log, fmt::format("cannot be written: {}", std::strerror(errno)), ""};
  std::vector<std::string> texts = call.watching;
  texts.insert(texts.end(), {"/bin/sh", "-c", call.command});
  std::vector<char*> words;  // made before the fork, after which nothing may be allocated
  for (std::string& text : texts) words.push_back(text.data());
  words.push_back(nullptr);
  Clock::time_point start = Clock::now();
  pid_t child = fork();
  if (child == 0) become(call, words, file);
  close(file);
  if (child < 0)
    return Error{Failure::io, "", fmt::format("no process can be started: {}", std::strerror(errno)), ""};
  setpgid(child, child);
  BuildRun out;
  out.log = call.log;
  int status = 0;
  for (int waits = 0;; ++waits) {
    pid_t ended = waitpid(child, &status, WNOHANG);
    if (ended == child || (ended < 0 && errno != EINTR)) break;
    if (call.seconds > 0 && since(start) > call.seconds) {
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

std::string why_not_watched() {
  Result<BuildRun> tried = run_build({"true", "/", "/dev/null", kTrial, watching("/dev/null")}, {});
  if (!tried || tried->status == kNoProgram) return "strace is not installed";
  return tried->built ? "" : "this machine lets no process watch another one (ptrace)";
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
