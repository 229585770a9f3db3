// The conditions under which values of a script hold. A script is run once, and each side of a conditional in
// its turn; where the sides come together again, a value keeps which of them it came from. A step that reads
// such values is taken once for each of them, in as many worlds as that needs, instead of the whole script.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <set>
#include <utility>
#include <vector>

#include "model/reference.h"

namespace yc {

// One side of a conditional. Conditionals are numbered in the order in which they were met.
struct Side {
  std::uint32_t choice = 0, side = 0;
  auto operator<=>(const Side&) const = default;
};

// The sides that must all be taken for a value to hold, sorted, and each conditional once.
using Guard = std::vector<Side>;

// What holds where both do; nothing if they name different sides of one conditional.
std::optional<Guard> both(const Guard& a, const Guard& b);
// What holds where either does, or more: the sides that both name.
Guard common(const Guard& a, const Guard& b);

// The conditionals that were met. One in a loop is another in each round.
class Choices {
 public:
  // Where in loops something stands: each loop, outermost first, and which of its rounds is being run.
  using Rounds = std::vector<std::pair<Site, std::size_t>>;
  std::uint32_t met(Site site, const Rounds& rounds, std::uint32_t sides);
  std::uint32_t sides(std::uint32_t choice) const { return sides_[choice]; }

 private:
  std::map<std::pair<Site, Rounds>, std::uint32_t> known_;
  std::vector<std::uint32_t> sides_;
};

// How a script got to where it is: the sides that it took, and those that do not get there, as they leave the
// script or the loop.
struct Path {
  Guard taken;
  std::set<Side> closed;

  std::optional<std::uint32_t> side_of(std::uint32_t choice) const;
  bool allows(const Guard& guard) const;
};

// The worlds in which a step is taken: sides of the conditionals that its values came through, picked as they
// are met, so that over all worlds each value is seen.
class Worlds {
 public:
  Worlds(const Choices& choices, const Path& path) : choices_(choices), path_(path) {}
  // Begins one more world. False when there is nothing new to see.
  bool next();
  // In this world: the side of a conditional, and whether what a guard stands for is there.
  std::uint32_t pick(std::uint32_t choice);
  bool holds(const Guard& guard);
  // That what a guard stands for is to be seen in some world.
  void expect(const Guard& guard);
  // What was picked in this world, beyond the path.
  Guard picked() const;
  std::size_t count() const { return count_; }
  bool is_cut_short() const { return is_cut_short_; }

 private:
  // A conditional that was met in this step: the sides that any world took, a bit each, and the last one of
  // them with its world.
  struct Met {
    std::uint64_t seen = 0;
    std::uint32_t side = 0;
    std::size_t world = 0;
  };
  Guard aim() const;
  Guard unseen_together() const;
  std::uint32_t take(Met& met, std::uint32_t side);

  static constexpr std::size_t kMost = 32;
  const Choices& choices_;
  const Path& path_;
  std::size_t count_ = 0;
  bool is_cut_short_ = false;
  std::map<std::uint32_t, Met> met_;
  std::map<Guard, bool> asked_;  // guards of several sides, and whether they held in any world
  std::set<Guard> tried_;
  std::vector<Guard> done_;  // what was picked in each world so far, while that is little
};

}  // namespace yc
