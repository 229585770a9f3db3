// A file descriptor that is closed on every way out.
#pragma once

#include <unistd.h>

namespace yc {

class Handle {
 public:
  Handle() = default;
  explicit Handle(int number) : number_(number) {}
  ~Handle() {
    if (number_ >= 0) ::close(number_);
  }
  Handle(Handle&& other) noexcept : number_(other.number_) { other.number_ = -1; }
  Handle& operator=(Handle&& other) noexcept {
    if (this != &other) {
      if (number_ >= 0) ::close(number_);
      number_ = other.number_;
      other.number_ = -1;
    }
    return *this;
  }
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;

  explicit operator bool() const { return number_ >= 0; }
  int get() const { return number_; }
  // Gives the descriptor away: whoever takes it closes it.
  int release() {
    int number = number_;
    number_ = -1;
    return number;
  }
  // Closes now; what close(2) gives.
  int close() { return ::close(release()); }

 private:
  int number_ = -1;
};

}  // namespace yc
