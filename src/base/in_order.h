// Whether things are in a sorted list, asked in the list's own order.
#pragma once

#include <vector>

namespace yc {

template <typename Item>
class InOrder {
 public:
  // The list must outlive it.
  explicit InOrder(const std::vector<Item>& list) : at_(list.begin()), end_(list.end()) {}
  // Each call's item must not be less than the one of the call before.
  bool has(const Item& item) {
    while (at_ != end_ && *at_ < item) ++at_;
    return at_ != end_ && *at_ == item;
  }

 private:
  typename std::vector<Item>::const_iterator at_, end_;
};

}  // namespace yc
