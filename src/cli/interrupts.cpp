#include "cli/interrupts.h"

#include <unistd.h>

#include <csignal>
#include <cstdio>
#include <ctime>
#include <string_view>

namespace yc::cli {

namespace {

volatile std::sig_atomic_t files_moved = 0;  // some step that was held off is over

void end(int signal) {
  std::string_view text = files_moved ? "\nyellow-compass: stopped; what was begun is done\n"
                                      : "\nyellow-compass: stopped; nothing was changed\n";
  // Only calls that are safe here.
  if (write(STDERR_FILENO, text.data(), text.size()) < 0) _exit(128 + signal);
  _exit(128 + signal);
}

}  // namespace

void tell_interrupts() {
  struct sigaction action {};
  action.sa_handler = end;
  for (int signal : {SIGINT, SIGTERM}) {
    // What whoever started this has ignored stays so.
    struct sigaction old {};
    sigaction(signal, nullptr, &old);
    if (old.sa_handler != SIG_IGN) sigaction(signal, &action, nullptr);
  }
}

HeldOff::HeldOff() {
  sigemptyset(&held_);
  sigaddset(&held_, SIGINT);
  sigaddset(&held_, SIGTERM);
  sigprocmask(SIG_BLOCK, &held_, &before_);
}

HeldOff::~HeldOff() {
  files_moved = 1;
  timespec now{};
  bool came = false;
  while (sigtimedwait(&held_, nullptr, &now) > 0) came = true;
  if (came) {
    std::fputs("yellow-compass: stopped once what was begun was done\n", stderr);
  }
  sigprocmask(SIG_SETMASK, &before_, nullptr);
}

}  // namespace yc::cli
