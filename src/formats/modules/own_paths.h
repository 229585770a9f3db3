// Paths that a module puts together from its own place: path.join(ROOT, "tides", "low.csv") where ROOT is
// path.resolve(__dirname, ".."), `${__dirname}/tides/low.csv`, new URL("low.csv", import.meta.url). What a
// module's own place is called: Node.js, "The module wrapper" and "import.meta".
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::modules {

struct OwnPart {
  Span span;               // between the quotes of a string
  bool separated = false;  // whether a separator is put before it
  std::vector<Span> via;   // the names of constants that it came through
};

// A path from the module's own folder.
struct OwnPath {
  std::vector<OwnPart> parts;
  std::uint32_t begin = 0;  // of the expression
  std::uint32_t ups = 0;    // folders that it climbs first, by calls: dirname(dirname(__dirname))
  Span climb;               // the outermost of these, or the name of the folder where there are no parts
  bool is_open = false;     // goes on with what only the program knows
  bool is_apart = false;    // behind a separator: with what lies in the folder
};

// The largest expressions that hold strings of the file. Work is bounded by the length of the text.
std::vector<OwnPath> scan_own_paths(std::string_view bytes);

}  // namespace yc::modules
