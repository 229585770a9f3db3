#include "tree/any_case.h"

#include "base/text.h"

namespace yc {

std::vector<std::string> AnyCaseNames::find(const RelPath& folder, std::string_view name, const List& list) {
  std::lock_guard lock(mutex_);
  auto [at, fresh] = folders_.try_emplace(folder);
  if (fresh) {
    for (std::string& each : list(folder)) {
      std::string key = lowered(each);
      at->second[std::move(key)].push_back(std::move(each));
    }
  }
  auto known = at->second.find(lowered(name));
  return known == at->second.end() ? std::vector<std::string>() : known->second;
}

}  // namespace yc
