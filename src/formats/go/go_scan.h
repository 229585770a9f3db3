// What a Go source says of others: imports and directives (the Go Programming Language Specification, "Source
// file organization"; package embed; cmd/go, "Generate Go files by processing source").
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::go {

struct Import {
  std::string path;
  Span span;                        // of the path, within its quotes
  std::optional<std::string> name;  // "tide", "." or "_", if one is given
};

// A word of a directive.
struct Word {
  std::string text;
  Span span;  // within its quotes
};

struct SourceFacts {
  std::string package;
  std::vector<Import> imports;
  std::vector<Word> embeds;     // patterns of //go:embed
  std::vector<Word> generates;  // command lines of //go:generate
  std::vector<Word> links;      // "path.name" in //go:linkname
  bool is_left_out = false;     // a build constraint that holds for no build: "//go:build ignore"
  bool uses_c = false;          // imports "C"
};

// Never fails; what is not closed ends at the end.
SourceFacts scan_source(std::string_view bytes);

}  // namespace yc::go
