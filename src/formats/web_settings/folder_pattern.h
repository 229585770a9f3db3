// Patterns of `include` and `exclude` in compiler settings (tsconfig.json): `*` and `?` within a name, `**/`
// for any folders; a folder takes in all below it.
#pragma once

#include <string>
#include <vector>

#include "base/path.h"

namespace yc::web_settings {

class FolderPattern {
 public:
  explicit FolderPattern(std::string_view text);
  // Whether it takes a file in, where patterns are given from the folder `home`.
  bool takes(const RelPath& home, const RelPath& file) const;

 private:
  std::vector<std::string> parts_;
  bool is_all_ = false;
};

}  // namespace yc::web_settings
