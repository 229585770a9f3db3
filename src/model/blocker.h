// What stands in the way of a move, and what to do about it.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "base/path.h"
#include "base/span.h"

namespace yc {

struct Blocker {
  // How it is told beside references that cannot be made to follow.
  enum class Bearing : std::uint8_t {
    by_itself,      // only where there are none
    tells_why,      // in any case: it may be why there are some
    stands_for_all  // in the place of all of them: it is why there are some
  };
  std::string id;  // stable: lost, captured, drift, unseen, twice, scattered, …
  RelPath file;
  std::optional<Span> span;
  std::string text;  // as written
  std::string reason;
  std::string next;  // what to do
  Bearing bearing = Bearing::by_itself;
  bool is_doubt = false;  // of what could be meant; a person may settle it for good
};

}  // namespace yc
