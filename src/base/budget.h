// What evaluating the scripts of a tree may cost in all. Work is counted, not timed, so that the same tree is
// always read alike: about a unit for each byte or piece of text that is handled, more for a statement.
#pragma once

#include <cstddef>

namespace yc {

class Budget {
 public:
  // Work grows with what there is to read; scripts that do more than this are not meant to end.
  void grant(std::size_t script_bytes) { allowed_ += script_bytes * kPerByte; }
  // False once everything is spent.
  bool spend(std::size_t work) {
    spent_ += work;
    return spent_ <= allowed_;
  }
  bool is_spent() const { return spent_ > allowed_; }
  std::size_t spent() const { return spent_; }

 private:
  static constexpr std::size_t kAtLeast = 3'000'000,
                               kPerByte = 2500;  // honest scripts take a fifth of that at most
  std::size_t allowed_ = kAtLeast, spent_ = 0;
};

}  // namespace yc
