#include "formats/worlds.h"

#include <algorithm>

namespace yc {

bool Worlds::next() {
  if (runs_ > 0 && (seen_all_ || runs_ >= most_)) return false;
  ++runs_;
  seen_all_ = true;
  met_.clear();
  open_.clear();
  return true;
}

unsigned Worlds::enter(Site site, unsigned sides) {
  Key key{site, met_[site]++};
  std::vector<bool>& seen = seen_[key];
  seen.resize(std::max<std::size_t>(seen.size(), sides), false);
  auto fresh = std::find(seen.begin(), seen.begin() + sides, false) - seen.begin();
  unsigned side = static_cast<unsigned>(fresh) < sides ? static_cast<unsigned>(fresh)
                                                       : static_cast<unsigned>(runs_ - 1) % sides;
  open_.push_back({key, side, true});
  return side;
}

void Worlds::leave() {
  Frame done = open_.back();
  open_.pop_back();
  std::vector<bool>& seen = seen_[done.key];
  if (done.complete) seen[done.side] = true;
  bool complete = std::all_of(seen.begin(), seen.end(), [](bool side) { return side; });
  if (open_.empty()) {
    seen_all_ = seen_all_ && complete;
  } else {
    open_.back().complete = open_.back().complete && complete;
  }
}

}  // namespace yc
