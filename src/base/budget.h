// What evaluating the scripts of a tree may cost in all. Work is counted, not timed, so that the same tree is
// always read alike: about a unit for each byte or piece of text that is handled, more for a statement.
#pragma once

#include <algorithm>
#include <cstddef>

namespace yc {

class Budget {
 public:
  // Work grows with what there is to read, and faster in large projects, whose scripts call each other more
  // and are run for more sides of their conditionals. Scripts that do much more are not meant to end.
  void grant(std::size_t script_bytes) {
    bytes_ += script_bytes;
    allowed_ = std::min(kAtLeast + bytes_ * (kPerByte + bytes_ / kGrowth), kAtMost);
  }
  // False once everything is spent.
  bool spend(std::size_t work) {
    spent_ += work;
    return spent_ <= allowed_;
  }
  std::size_t spent() const { return spent_; }

 private:
  // Of the projects that were measured the dearest took 0.4 of what this grants (systemd: 1.4 thousand
  // million for 0.5 MB of scripts), others a tenth and less.
  static constexpr std::size_t kAtLeast = 3'000'000, kPerByte = 2000, kGrowth = 100, kAtMost = 10'000'000'000;
  std::size_t bytes_ = 0, allowed_ = kAtLeast, spent_ = 0;
};

}  // namespace yc
