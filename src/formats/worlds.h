// Which side of each conditional a symbolic run takes. A script is run several times; over all runs every
// side of every conditional that was met is taken, however deep it is nested, in about as many runs as the
// widest of them has leaves.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "model/reference.h"

namespace yc {

class Worlds {
 public:
  explicit Worlds(std::size_t most) : most_(most) {}
  // Begins one more run. False when there is nothing new to see, or after `most` runs.
  bool next();
  // Whether sides remain that no run has taken, although there may be no more runs.
  bool is_cut_short() const { return runs_ > 0 && !seen_all_; }
  // At a conditional: the side to run, from 0 to sides - 1. Each call needs its leave() once that side was
  // run.
  unsigned enter(Site site, unsigned sides);
  void leave();

 private:
  // A conditional is told apart by where it stands and how often this run has met it, as in a loop.
  using Key = std::pair<Site, unsigned>;
  struct Frame {
    Key key;
    unsigned side = 0;
    bool complete = true;  // every conditional inside was seen from all sides
  };
  std::size_t most_;
  std::size_t runs_ = 0;
  bool seen_all_ = true;
  std::map<Key, std::vector<bool>> seen_;
  std::map<Site, unsigned> met_;
  std::vector<Frame> open_;
};

}  // namespace yc
