#include "base/name_search.h"

#include <algorithm>
#include <cstring>

namespace yc {

namespace {

constexpr std::size_t kPair = 2;
constexpr std::size_t kLongest = 16;    // of a window: longer leaps are rare
constexpr std::size_t kMostPasses = 5;  // more take longer than the leaps

std::uint16_t load_word(const char* at) {
  std::uint16_t out;
  std::memcpy(&out, at, sizeof out);
  return out;
}

// How often a byte stands in source code, roughly, in hundredths of a percent of all bytes. Only the time
// that a search takes depends on it.
unsigned frequency(char byte) {
  // From the most frequent on, as counted in sources of several languages.
  constexpr std::string_view kFrequent = " etrnaiosl\ndcpu_mfh,(.)gb;=-\"y>*/w:v'x<k{}01#2&TSEIA";
  std::size_t rank = kFrequent.find(byte);
  return rank == std::string_view::npos ? 10 : static_cast<unsigned>(1000 / (rank + 1));
}

}  // namespace

NameSearch::NameSearch(const std::vector<std::string>& names) : names_(names) {
  for (const std::string& name : names) {
    if (name.empty()) {
      always_ = true;
      return;
    }
    auto rarest = std::min_element(name.begin(), name.end(),
                                   [](char a, char b) { return frequency(a) < frequency(b); });
    auto known = std::find_if(by_byte_.begin(), by_byte_.end(),
                              [&](const Sharing& group) { return group.byte == *rarest; });
    if (known == by_byte_.end()) known = by_byte_.insert(known, Sharing{*rarest, {}});
    Name found{name, static_cast<std::size_t>(rarest - name.begin()), 0};
    found.beside = name.size() < kPair ? 0 : found.at + 1 < name.size() ? 1 : -1;
    known->names.push_back(std::move(found));
  }
  bool has_short =
      std::any_of(names.begin(), names.end(), [](const auto& name) { return name.size() < kPair; });
  if (by_byte_.size() <= kMostPasses || has_short) return;
  by_byte_.clear();
  prepare_leaps(names);
}

void NameSearch::prepare_leaps(const std::vector<std::string>& names) {
  window_ = kLongest;
  for (const std::string& name : names) window_ = std::min(window_, name.size());
  leaps_.assign(65536, static_cast<std::uint8_t>(window_ - kPair + 1));
  for (const std::string& name : names) {
    for (std::size_t at = 0; at + kPair <= window_; ++at) {
      std::uint8_t& leap = leaps_[load_word(name.data() + at)];
      leap = std::min(leap, static_cast<std::uint8_t>(window_ - kPair - at));
    }
    by_end_.emplace(load_word(name.data() + window_ - kPair), name);
  }
}

bool NameSearch::finds_any(std::string_view text) const {
  if (always_) return true;
  if (by_byte_.empty()) return finds_in_leaps(text);
  const char* const end = text.data() + text.size();
  for (const Sharing& group : by_byte_) {
    for (const char* at = text.data(); at != end; ++at) {
      at = static_cast<const char*>(std::memchr(at, group.byte, static_cast<std::size_t>(end - at)));
      if (!at) break;
      std::size_t here = static_cast<std::size_t>(at - text.data());
      for (const Name& name : group.names) {
        if (here < name.at || static_cast<std::size_t>(end - at) < name.text.size() - name.at) continue;
        // Most hits end at the byte beside.
        if (at[name.beside] != name.text[name.at + name.beside]) continue;
        if (std::memcmp(at - name.at, name.text.data(), name.text.size()) == 0) return true;
      }
    }
  }
  return false;
}

bool NameSearch::finds_in_leaps(std::string_view text) const {
  if (leaps_.empty() || text.size() < window_) return false;
  const std::uint8_t* const leaps = leaps_.data();
  for (std::size_t begin = 0; begin + window_ <= text.size();) {
    std::uint16_t pair = load_word(text.data() + begin + window_ - kPair);
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
