// Doubts that a person has looked at and settled for good: in the configuration, one place at a time.
#pragma once

#include <string>
#include <vector>

#include "base/path.h"
#include "base/result.h"
#include "model/blocker.h"

namespace yc {

struct SettledDoubt {
  RelPath file;        // that the doubt stands in
  std::string text;    // as the doubt tells it; empty for one about the whole file
  std::string reason;  // why it is none
};

bool is_settled(const Blocker& doubt, const std::vector<SettledDoubt>& settled);

// The table of the configuration (TOML 1.0) that settles a doubt, to be put behind what is there.
std::string settled_table(const SettledDoubt& settled);

// A place as typed, "path:line" or "path"; line 0 for the whole file.
struct DoubtPlace {
  RelPath file;
  std::size_t line = 0;
};
Result<DoubtPlace> parse_doubt_place(const std::string& typed);

}  // namespace yc
