// References that the project's own configuration teaches: [[references]] in yellow-compass.toml, see
// docs/configuration.md. Files are named by patterns; the paths in them by an expression with a group called
// "path" (PCRE2), or by the keys of a data file.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "formats/format.h"
#include "formats/values/values.h"

namespace yc {

struct TaughtReference {
  std::vector<std::string> files;  // patterns of paths from the root: * within a name, ** for any folders
  std::string expression;          // or
  std::optional<values::Language> language;
  std::vector<std::string> key;  // its parts; "*" stands for any
  std::optional<RelPath> base;   // what the paths are relative to; nothing for the file's own folder
};

// The tables of a configuration. An expression that cannot be compiled, or a table that lacks something, is
// an error with its place.
Result<std::vector<TaughtReference>> parse_taught(const std::string& configuration, const std::string& name);

std::unique_ptr<Format> taught_format();

}  // namespace yc
