// What may be done about one thing that is wrong.
#pragma once

#include <functional>
#include <utility>
#include <vector>

#include "formats/proposals.h"

namespace yc {

// Ways to try one after the other. Those that cost more are made only once the others did not do.
struct Ways {
  std::vector<Proposal> ready;
  std::function<std::vector<Proposal>()> later = nullptr;  // null if there are no more

  Ways() = default;
  Ways(std::vector<Proposal> all) : ready(std::move(all)) {}  // NOLINT: a list is all there is
};

}  // namespace yc
