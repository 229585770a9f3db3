// What is tried for each thing that is wrong, and which of it is in force.
#pragma once

#include <functional>
#include <map>
#include <set>
#include <string>
#include <vector>

#include "plan/problem.h"
#include "plan/ways.h"

namespace yc {

struct Attempt {
  Attempt() = default;
  Attempt(Ways made, bool only_likely) : ways(std::move(made)), likely(only_likely) { settle(); }
  Ways ways;
  std::size_t next = 0;  // the one in force
  bool active = false;   // false once all are used up
  bool likely = false;   // for a reference that is only likely one
  const Proposal& way() const { return ways.ready[next]; }
  // The way in force gives place to its next one.
  void step() {
    ++next;
    settle();
  }

 private:
  void settle();
};

class Attempts {
 public:
  using Make = std::function<Ways()>;
  // The next way for a problem, or the first of those that `make` gives. A problem that many report goes one
  // step a round only; false if nothing changed by it.
  bool advance(const Problem& problem, bool likely, const Make& make);
  // The next way for one that is known.
  bool advance(const Problem& problem) {
    return advance(problem, false, [] { return Ways(); });
  }
  // The ways in force that edit these bytes give place to their next ones.
  bool blame(const RelPath& file, const Span& span);
  void begin_round() { advanced_.clear(); }
  bool went_on(const Problem& problem) const { return advanced_.contains(problem); }  // in this round

  bool has(const Problem& problem) const { return all_.contains(problem); }
  const Attempt* find(const Problem& problem) const;
  // One more, with its first way in force; nothing if there is none.
  void add(const Problem& problem, Ways ways, bool likely);
  std::map<Problem, Attempt>& all() { return all_; }
  const std::map<Problem, Attempt>& all() const { return all_; }
  void clear() { all_.clear(); }

 private:
  std::map<Problem, Attempt> all_;
  std::set<Problem> advanced_;
};

}  // namespace yc
