#include "base/name_search.h"

#include <algorithm>
#include <cstring>

namespace yc {

namespace {

constexpr std::size_t kPair = 2;
constexpr std::size_t kLongest = 16;  // of a window: longer leaps are rare

std::uint16_t load(const char* at) {
  std::uint16_t out;
  std::memcpy(&out, at, sizeof out);
  return out;
}

}  // namespace

NameSearch::NameSearch(const std::vector<std::string>& names) {
  window_ = kLongest;
  bool any = false;
  for (const std::string& name : names) {
    if (name.empty()) {
      always_ = true;
    } else if (name.size() < kPair) {
      short_.push_back(name);
    } else {
      window_ = std::min(window_, name.size());
      any = true;
    }
  }
  if (!any) return;
  leaps_.assign(65536, static_cast<std::uint8_t>(window_ - kPair + 1));
  for (const std::string& name : names) {
    if (name.size() < kPair) continue;
    for (std::size_t at = 0; at + kPair <= window_; ++at) {
      std::uint8_t& leap = leaps_[load(name.data() + at)];
      leap = std::min(leap, static_cast<std::uint8_t>(window_ - kPair - at));
    }
    by_end_.emplace(load(name.data() + window_ - kPair), name);
  }
}

bool NameSearch::finds_any(std::string_view text) const {
  if (always_) return true;
  for (const std::string& name : short_) {
    if (text.find(name) != std::string_view::npos) return true;
  }
  if (leaps_.empty() || text.size() < window_) return false;
  const std::uint8_t* const leaps = leaps_.data();
  for (std::size_t begin = 0; begin + window_ <= text.size();) {
    std::uint16_t pair = load(text.data() + begin + window_ - kPair);
    if (std::uint8_t leap = leaps[pair]; leap > 0) {
      begin += leap;
      continue;
    }
    auto [first, behind] = by_end_.equal_range(pair);
    for (; first != behind; ++first) {
      if (text.substr(begin).starts_with(first->second)) return true;
    }
    ++begin;
  }
  return false;
}

}  // namespace yc
