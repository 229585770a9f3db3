// What lies directly in one folder on disk.
#pragma once

#include <sys/stat.h>

#include <string>
#include <vector>

#include "base/result.h"
#include "tree/beneath.h"
#include "tree/tree_reader.h"

namespace yc {

struct Listed {
  std::string name;
  Entry entry;
  bool is_special = false;  // a pipe, a socket or a device
};

// Lists a folder below another (see Beneath), by name.
Result<std::vector<Listed>> list_folder(const Beneath& root, const std::string& below);

}  // namespace yc
