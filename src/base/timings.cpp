#include "base/timings.h"

#include <algorithm>

namespace yc {

Timings::Line& Timings::line(const std::string& phase, const std::string& part) {
  auto at = std::find_if(lines_.begin(), lines_.end(),
                         [&](const Line& line) { return line.phase == phase && line.part == part; });
  if (at != lines_.end()) return *at;
  lines_.push_back({phase, part, 0, {}});
  return lines_.back();
}

Timings::Now Timings::now() const {
  std::lock_guard lock(mutex_);
  return now_;
}

void Timings::enter(const std::string& phase, const std::string& part) {
  std::lock_guard lock(mutex_);
  now_.phase = phase;
  now_.part = part;
}

void Timings::reach(std::size_t done, std::size_t all) {
  std::lock_guard lock(mutex_);
  now_.done = done;
  now_.all = all;
}

void Timings::add(const std::string& phase, const std::string& part, double seconds) {
  std::lock_guard lock(mutex_);
  line(phase, part).seconds += seconds;
}

void Timings::count(const std::string& phase, const std::string& part, const std::string& what,
                    std::size_t number) {
  std::lock_guard lock(mutex_);
  line(phase, part).counts[what] += number;
}

std::vector<Timings::Line> Timings::lines() const {
  std::lock_guard lock(mutex_);
  return lines_;
}

}  // namespace yc
