// What the steps of a project gave in the runs so far, and what tells its values apart.
#pragma once

#include <map>
#include <memory>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "formats/meson/meson_value.h"
#include "formats/run_memory.h"

namespace yc::meson {

// A value with what tells it apart from others.
struct Stamped {
  std::shared_ptr<const Value> value;
  Stamp stamp = 0;
};

// What a step gave: its value, and the variables that it set; which of them in a loop, and which got a new
// value of their own.
struct Gave {
  Stamped value;
  std::vector<std::pair<std::string, Stamped>> set;
  std::set<std::string> in_loop, assigned;
};

struct Memory {
  Stamped stamped(Value value);

  // Of what comes of adding one value to another.
  Stamp stamp_of_sum(Stamp before, Stamp more);
  // What the variables of a loop get in each round over a value.
  const std::vector<std::vector<Stamped>>& rounds_over(const Stamped& value);

  Stamps stamps;
  RunMemory<Gave> steps;

 private:
  Stamp stamp_of(const Value& value);
  std::map<Stamp, std::vector<std::vector<Stamped>>> rounds_;
};

}  // namespace yc::meson
