#include "base/name_search.h"

namespace yc {

NameSearch::NameSearch(const std::vector<std::string>& names) : size_(names.size()) {
  for (const std::string& name : names) {
    if (name.empty()) {
      always_ = true;
    } else if (name.size() == 1) {
      single_.push_back(name[0]);
    } else {
      begins_[pair_at(name.data()) / 64] |= std::uint64_t{1} << (pair_at(name.data()) % 64);
      by_second_[static_cast<unsigned char>(name[1])].push_back(name);
    }
  }
}

bool NameSearch::finds_any(std::string_view text) const {
  if (always_) return true;
  for (char c : single_) {
    if (text.find(c) != std::string_view::npos) return true;
  }
  if (text.size() < 2) return false;
  const char* const end = text.data() + text.size();
  for (const char* at = text.data(); at + 1 < end; ++at) {
    if (!may_begin(at)) continue;
    std::string_view rest(at, static_cast<std::size_t>(end - at));
    for (const std::string& name : by_second_[static_cast<unsigned char>(at[1])]) {
      if (rest.starts_with(name)) return true;
    }
  }
  return false;
}

}  // namespace yc
