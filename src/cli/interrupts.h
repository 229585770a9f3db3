// Ctrl-C, and whoever else ends the program: at any moment the tree is whole, and it is said how it is.
#pragma once

#include <signal.h>

namespace yc::cli {

// From now on SIGINT and SIGTERM end the program with a word on standard error, and the status 128 + the
// signal.
void tell_interrupts();

// While files move, they are held off: the move is finished first. Whoever asked is told so then.
class HeldOff {
 public:
  HeldOff();
  ~HeldOff();
  HeldOff(const HeldOff&) = delete;
  HeldOff& operator=(const HeldOff&) = delete;

 private:
  sigset_t held_, before_;
};

}  // namespace yc::cli
