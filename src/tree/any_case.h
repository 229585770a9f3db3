// Names of a tree's folders without regard to the case of letters, looked up again and again.
#pragma once

#include <functional>
#include <mutex>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/path.h"

namespace yc {

// A folder is listed once, when it is first asked for. Safe to share by threads.
class AnyCaseNames {
 public:
  using List = std::function<std::vector<std::string>(const RelPath& folder)>;
  // The names in a folder that are `name` but for the case of ASCII letters.
  std::vector<std::string> find(const RelPath& folder, std::string_view name, const List& list);

 private:
  std::mutex mutex_;
  std::unordered_map<RelPath, std::unordered_map<std::string, std::vector<std::string>>> folders_;
};

}  // namespace yc
