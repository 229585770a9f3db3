#include "base/name_search.h"

#include <cstring>

namespace yc {

namespace {

std::uint32_t load(const char* at) {
  std::uint32_t out;
  std::memcpy(&out, at, sizeof out);
  return out;
}

}  // namespace

NameSearch::NameSearch(const std::vector<std::string>& names) {
  for (const std::string& name : names) {
    if (name.empty()) {
      always_ = true;
    } else if (name.size() < kEnd) {
      short_.push_back(name);
    } else {
      std::uint32_t end = load(name.data() + name.size() - kEnd);
      ends_[slot(end) / 64] |= std::uint64_t{1} << (slot(end) % 64);
      by_end_.emplace(end, name);
    }
  }
}

bool NameSearch::finds_any(std::string_view text) const {
  if (always_) return true;
  for (const std::string& name : short_) {
    if (text.find(name) != std::string_view::npos) return true;
  }
  if (text.size() < kEnd || by_end_.empty()) return false;
  const char* const last = text.data() + text.size() - kEnd;
  for (const char* at = text.data(); at <= last; ++at) {
    std::uint32_t end = load(at), place = slot(end);
    if (!(ends_[place / 64] >> (place % 64) & 1)) continue;
    std::string_view head = text.substr(0, static_cast<std::size_t>(at - text.data()) + kEnd);
    auto [first, behind] = by_end_.equal_range(end);
    for (; first != behind; ++first) {
      if (head.ends_with(first->second)) return true;
    }
  }
  return false;
}

}  // namespace yc
