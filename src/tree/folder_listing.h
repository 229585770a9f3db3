// What lies directly in one folder on disk.
#pragma once

#include <sys/stat.h>

#include <string>
#include <vector>

#include "base/result.h"
#include "tree/tree_reader.h"

namespace yc {

struct Listed {
  std::string name;
  Entry entry;
};

// Lists a folder (absolute), by name, leaving out what is neither file, folder nor link.
Result<std::vector<Listed>> list_folder(const std::string& folder);

}  // namespace yc
