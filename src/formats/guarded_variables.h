// The variables of a script, with the conditions under which they have their values (see guards.h). `Kept` is
// a value with a stamp that tells it apart: equal stamps, equal values.
#pragma once

#include <algorithm>
#include <memory>
#include <set>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "formats/guards.h"

namespace yc {

// One of the values that a variable may have. A list that grew is kept in parts, as parts that were added on
// a side of a conditional are there on that side alone. Without parts the variable has no value, or one that
// was not kept, as there were too many.
template <typename Kept>
struct Alternative {
  Guard guard;
  std::vector<std::pair<Guard, Kept>> parts;
  bool is_lost = false;

  bool is_same(const Alternative& other) const {
    return is_lost == other.is_lost && std::equal(parts.begin(), parts.end(), other.parts.begin(),
                                                  other.parts.end(), [](const auto& a, const auto& b) {
                                                    return a.second.stamp == b.second.stamp &&
                                                           a.first == b.first;
                                                  });
  }
};

// The most conditioned ones first: one that holds in more worlds must not hide them.
template <typename Kept>
using Alternatives = std::vector<Alternative<Kept>>;

// Adds a value that holds under a guard; one that is there already holds where either guard does.
template <typename Kept>
void add_alternative(Alternatives<Kept>& to, Alternative<Kept> more) {
  auto known = std::find_if(to.begin(), to.end(), [&](const auto& one) { return one.is_same(more); });
  if (known == to.end()) {
    to.push_back(std::move(more));
  } else {
    known->guard = common(known->guard, more.guard);
  }
}

template <typename Kept>
void sort_alternatives(Alternatives<Kept>& all) {
  std::stable_sort(all.begin(), all.end(),
                   [](const auto& a, const auto& b) { return a.guard.size() > b.guard.size(); });
}

template <typename Kept>
class GuardedVariables {
 public:
  using Values = Alternatives<Kept>;
  using Map = std::unordered_map<std::string, std::shared_ptr<Values>>;
  // What one side of a conditional did, or one world of a step.
  struct Outcome {
    Guard guard;
    Map changes;
  };

  const Values* find(const std::string& name) const {
    auto at = all_.find(name);
    return at == all_.end() ? nullptr : at->second.get();
  }

  void set(const std::string& name, Values values) { put(name, std::make_shared<Values>(std::move(values))); }
  // Adds one part to what a variable has. Of a list that grows step by step nothing is copied.
  void grow(const std::string& name, const Guard& guard, const Kept& part) {
    auto known = all_.find(name);
    bool is_shared = known == all_.end() || !known->second || known->second.use_count() > 1 ||
                     (!before_.empty() && !before_.back().contains(name));
    if (is_shared)
      put(name, std::make_shared<Values>(known == all_.end() || !known->second ? Values() : *known->second));
    for (Alternative<Kept>& one : *all_[name]) {
      if (!one.is_lost) one.parts.emplace_back(guard, part);
    }
  }

  // Begins a side. Its end gives what it changed, and leaves the variables as they were at its beginning.
  void open() { before_.emplace_back(); }
  Map close() {
    Map changes = std::move(before_.back());
    before_.pop_back();
    for (auto& [name, values] : changes) std::swap(values, all_[name]);
    return changes;
  }

  // Sides come together. They are all that there are: a variable that one of them did not change has there
  // what it had before. limit(values) is given what a variable has after that.
  template <typename Limit>
  void join(std::vector<Outcome> sides, const Limit& limit) {
    if (sides.size() == 1) {
      for (auto& [name, values] : sides[0].changes) put(name, std::move(values));
      return;
    }
    std::set<std::string> names;
    for (const Outcome& side : sides) {
      for (const auto& [name, values] : side.changes) names.insert(name);
    }
    for (const std::string& name : names) {
      Values values = joined(sides, name);
      limit(values);
      set(name, std::move(values));
    }
  }

 private:
  using Sides = std::vector<std::pair<const Guard*, const Values*>>;

  void put(const std::string& name, std::shared_ptr<Values> values) {
    std::shared_ptr<Values>& now = all_[name];
    if (!before_.empty()) before_.back().try_emplace(name, now);
    now = std::move(values);
  }

  Values joined(const std::vector<Outcome>& sides, const std::string& name) {
    const Values unset = {{}};
    Sides each;
    for (const Outcome& side : sides) {
      auto changed = side.changes.find(name);
      const Values* values = changed == side.changes.end() ? find(name) : changed->second.get();
      each.emplace_back(&side.guard, values && !values->empty() ? values : &unset);
    }
    Values out;
    if (have_grown(each)) {
      for (std::size_t i = 0; i < each[0].second->size(); ++i) out.push_back(grown(each, i));
      return out;
    }
    for (const auto& [guard, values] : each) {
      for (const Alternative<Kept>& one : *values) {
        auto together = both(one.guard, *guard);
        if (together) add_alternative(out, {std::move(*together), one.parts, one.is_lost});
      }
    }
    sort_alternatives(out);
    return out;
  }

  // Whether the sides added to the same values and did nothing else to them.
  static bool have_grown(const Sides& sides) {
    const Values& first = *sides[0].second;
    return std::all_of(sides.begin(), sides.end(), [&](const auto& side) {
      return std::equal(first.begin(), first.end(), side.second->begin(), side.second->end(),
                        [](const auto& a, const auto& b) {
                          return !a.parts.empty() && !b.parts.empty() && a.guard == b.guard &&
                                 a.parts[0].second.value == b.parts[0].second.value;
                        });
    });
  }

  static Alternative<Kept> grown(const Sides& sides, std::size_t index) {
    Alternative<Kept> out = (*sides[0].second)[index];
    std::size_t shared = out.parts.size();
    for (const auto& [guard, values] : sides) {
      const auto& parts = (*values)[index].parts;
      std::size_t same = 0;
      while (same < shared && same < parts.size() && parts[same].first == out.parts[same].first &&
             parts[same].second.value == out.parts[same].second.value) {
        ++same;
      }
      shared = same;
    }
    out.parts.resize(shared);
    for (const auto& [guard, values] : sides) {
      const auto& parts = (*values)[index].parts;
      std::size_t earlier = out.parts.size();  // what other sides added
      for (std::size_t i = shared; i < parts.size(); ++i) {
        auto together = both(parts[i].first, *guard);
        if (!together) continue;
        auto begin = out.parts.begin() + static_cast<std::ptrdiff_t>(shared);
        auto end = out.parts.begin() + static_cast<std::ptrdiff_t>(earlier);
        auto known = std::find_if(begin, end,
                                  [&](const auto& one) { return one.second.stamp == parts[i].second.stamp; });
        if (known != end) {
          known->first = common(known->first, *together);
        } else {
          out.parts.emplace_back(std::move(*together), parts[i].second);
        }
      }
    }
    return out;
  }

  Map all_;
  std::vector<Map> before_;  // of each open side, what it has changed so far as it was at its beginning
};

}  // namespace yc
