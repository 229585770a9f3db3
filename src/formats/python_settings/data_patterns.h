// Data that settings have packed with a package (setuptools, "Data Files Support").
#pragma once

#include <fnmatch.h>

#include <string>

#include "base/path.h"

namespace yc::python_settings {

// A pattern of data files that are packed with a package, from its folder.
struct DataPattern {
  RelPath settings, folder;
  std::string text;

  // `*` stays within a folder, `**` does not.
  bool takes(const RelPath& path) const {
    if (!path.is_within(folder) || path == folder) return false;
    int flags = text.find("**") == std::string::npos ? FNM_PATHNAME : 0;
    return fnmatch(text.c_str(), std::string(path.below(folder)).c_str(), flags) == 0;
  }
};

}  // namespace yc::python_settings
