// Packages that commands name by their folders: "go build .", "cd gauge && go run ./cmd/gauge", or by naming
// none (cmd/go, "Package lists and patterns").
#pragma once

#include <string_view>

#include "formats/format.h"

namespace yc::go {

struct PackageWord {
  std::uint32_t command = 0;  // where the word "go" begins
  std::size_t number = 0;     // among the packages of the command
  std::string text;           // "." or "./cmd/gauge"
  Span span;                  // where it stands
  bool is_implied = false;    // none is named: text and span are of the last byte of the command instead
  Base base;                  // the folder that the command is started in
};

// In the lines of a script, a makefile or settings.
std::vector<PackageWord> package_words(const RelPath& path, std::string_view bytes, FileIndex file,
                                       const Base& start, const TreeReader& tree);

}  // namespace yc::go
