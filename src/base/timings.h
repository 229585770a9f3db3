// Where the time of a command went.
#pragma once

#include <chrono>
#include <cstddef>
#include <map>
#include <mutex>
#include <string>
#include <utility>
#include <vector>

namespace yc {

// What the parts of a command took, and how much they did. Safe to share by threads; parts that run side by
// side are added up.
class Timings {
 public:
  struct Line {
    std::string phase, part;
    double seconds = 0;
    std::map<std::string, std::size_t> counts;  // of what the part did, by what is counted
  };
  // What is going on, for whoever watches from another thread.
  struct Now {
    std::string phase, part;
    std::size_t done = 0, all = 0;  // files, as far as it is known how many there are
  };
  Now now() const;
  void enter(const std::string& phase, const std::string& part);
  void reach(std::size_t done, std::size_t all);

  void add(const std::string& phase, const std::string& part, double seconds);
  void count(const std::string& phase, const std::string& part, const std::string& what, std::size_t number);
  // In the order in which they were met first.
  std::vector<Line> lines() const;

 private:
  Line& line(const std::string& phase, const std::string& part);
  mutable std::mutex mutex_;
  std::vector<Line> lines_;
  Now now_;
};

// Adds the time from its making to its end.
class Stopwatch {
 public:
  // `to` may be null.
  Stopwatch(Timings* to, std::string phase, std::string part = "")
      : to_(to), phase_(std::move(phase)), part_(std::move(part)) {
    if (to_) to_->enter(phase_, part_);
  }
  Stopwatch(const Stopwatch&) = delete;
  Stopwatch& operator=(const Stopwatch&) = delete;
  ~Stopwatch() {
    if (to_) to_->add(phase_, part_, std::chrono::duration<double>(Clock::now() - begin_).count());
  }

 private:
  using Clock = std::chrono::steady_clock;
  Timings* to_;
  std::string phase_, part_;
  Clock::time_point begin_ = Clock::now();
};

}  // namespace yc
