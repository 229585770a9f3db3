#include "formats/branch_explorer.h"

#include <algorithm>
#include <utility>

namespace yc {

bool BranchExplorer::next() {
  if (taken_.size() != last_taken_) idle_ = in_vain_ = 0;
  if (taken_.size() == last_taken_) ++idle_;
  last_taken_ = taken_.size();
  if (runs_ >= most_ && runs_ > 0) return false;
  held_.clear();
  avoided_.clear();
  // Sides that no run gets to, as they depend on each other, are not waited for.
  if (runs_ > 0 && (seen_all_ || idle_ >= kMostIdle)) {
    if (wanted_ == Wanted::sides) return false;
    if (!pending_.empty()) {
      take_requests();
    } else if (in_vain_ < kMostIdle && go_where_one_is_untaken()) {
      // What no run came by, as the last rounds of a loop over a list that is longer on the other side of a
      // conditional, another run may.
      ++in_vain_;  // until it turns out otherwise
    } else if (!later_.empty()) {
      pending_ = std::exchange(later_, {});
      take_requests();
    } else {
      return false;
    }
  }
  ++runs_;
  trails_.emplace_back();
  last_.clear();
  seen_all_ = true;
  met_.clear();
  open_.clear();
  return true;
}

// As many of what was lost as fit into one run.
void BranchExplorer::take_requests() {
  // More than a few do not fit into one run, and each is compared with all that set its variable.
  constexpr std::size_t kMostCompared = 20'000;
  std::vector<std::pair<std::string, Branch>> left;
  std::size_t compared = 0;
  std::erase_if(pending_,
                [&](const auto& wanted) { return is_replaced_in_any_case(wanted.first, wanted.second); });
  for (const auto& wanted : pending_) {
    if (compared > kMostCompared) {
      left.push_back(wanted);
      continue;
    }
    // no structured binding: the closure below could not capture it portably
    const std::string& variable = wanted.first;
    const Branch& hold = wanted.second;
    std::set<Side> avoid;
    auto avoid_setters_of = [&](const std::string& name) {
      compared += setters_[name].size();
      for (const Branch& other : setters_[name]) {
        std::size_t at = 0;
        while (at < other.size() && at < hold.size() && other[at] == hold[at]) ++at;
        bool apart = at < other.size() && at < hold.size() && other[at].first != hold[at].first;
        if (apart) avoid.insert(other[at]);
      }
    };
    avoid_setters_of(variable);
    if (auto around = outer_.find(variable); around != outer_.end()) avoid_setters_of(around->second);
    bool fits = std::all_of(hold.begin(), hold.end(), [&](const Side& side) {
      auto held = held_.find(side.first);
      return !avoided_.contains(side) && (held == held_.end() || held->second == side.second);
    });
    fits = fits && std::all_of(avoid.begin(), avoid.end(), [&](const Side& side) {
             auto held = held_.find(side.first);
             return held == held_.end() || held->second != side.second;
           });
    if (!fits) {
      left.push_back(wanted);
      continue;
    }
    held_.insert(hold.begin(), hold.end());
    avoided_.insert(avoid.begin(), avoid.end());
  }
  pending_ = std::move(left);
}

namespace {

// Whether one is an earlier or later round of the loops that the other stands in.
bool are_rounds_of_one_loop(const BranchExplorer::Rounds& a, const BranchExplorer::Rounds& b) {
  return a != b && std::equal(a.begin(), a.end(), b.begin(), b.end(),
                              [](const auto& x, const auto& y) { return x.first == y.first; });
}

}  // namespace

void BranchExplorer::set(const std::string& variable, const std::function<bool()>& matters,
                         const Rounds& rounds, const std::vector<std::string>& outer) {
  Branch way = this->way();
  if (!last_.contains(variable)) {
    auto around = std::find_if(outer.begin(), outer.end(),
                               [&](const std::string& other) { return last_.contains(other); });
    if (around != outer.end()) {
      last_.emplace(variable, last_.at(*around));
      outer_[variable] = *around;
    }
  }
  auto [last, fresh] = last_.try_emplace(variable, way, rounds);
  if (!way.empty()) setters_[variable].insert(way);
  if (fresh) return;
  auto [before, then] = std::exchange(last->second, std::pair(way, rounds));
  std::size_t at = 0;
  while (at < before.size() && at < way.size() && before[at] == way[at]) ++at;
  // What stands in one branch with it is replaced in every run that gets there.
  if (at == before.size() || at == way.size()) return;
  if (before[at].first.first == way[at].first.first) return;
  auto [lost, first] = lost_.try_emplace({variable, before});
  if (!first) return;
  lost->second = {matters(), way};
  // The next round of a loop has most likely had its use of it.
  auto& list = are_rounds_of_one_loop(then, rounds) ? later_ : pending_;
  if (lost->second.matters) list.emplace_back(variable, std::move(before));
}

void BranchExplorer::change(const std::string& variable) {
  auto last = last_.find(variable);
  if (last == last_.end()) return;
  Branch now = way();
  Branch& before = last->second.first;
  bool in_any_case = now.size() <= before.size() && std::equal(now.begin(), now.end(), before.begin());
  if (in_any_case) before = std::move(now);
}

BranchExplorer::Branch BranchExplorer::way() const {
  Branch out;
  for (const Frame& frame : open_) out.emplace_back(frame.key, frame.side);
  return out;
}

// Whether a variable gets a value in a branch whatever sides are taken further in, as far as was seen.
bool BranchExplorer::is_set_in_any_case(const std::string& variable, const Branch& branch, int depth) const {
  constexpr int kDeepest = 6;
  auto setters = setters_.find(variable);
  if (setters == setters_.end() || depth > kDeepest) return false;
  auto at = setters->second.lower_bound(branch);
  if (at != setters->second.end() && *at == branch) return true;
  std::set<Key> further;
  for (; at != setters->second.end() && at->size() > branch.size() &&
         std::equal(branch.begin(), branch.end(), at->begin());
       ++at)
    further.insert((*at)[branch.size()].first);
  return std::any_of(further.begin(), further.end(),
                     [&](const Key& key) { return is_set_on_all_sides(variable, branch, key, depth + 1); });
}

bool BranchExplorer::is_set_on_all_sides(const std::string& variable, Branch branch, const Key& key,
                                         int depth) const {
  branch.emplace_back(key, 0);
  auto sides = static_cast<unsigned>(seen_.at(key).size());
  for (unsigned side = 0; side < sides; ++side) {
    branch.back().second = side;
    if (!is_set_in_any_case(variable, branch, depth)) return false;
  }
  return true;
}

// Whether nothing that comes behind sees a value: the conditional in which it was replaced does so on all
// sides.
bool BranchExplorer::is_replaced_in_any_case(const std::string& variable, const Branch& before) const {
  auto lost = lost_.find({variable, before});
  if (lost == lost_.end()) return false;
  const Branch& by = lost->second.by;
  std::size_t at = 0;
  while (at < before.size() && at < by.size() && before[at] == by[at]) ++at;
  if (at == by.size()) return true;
  return is_set_on_all_sides(variable, Branch(by.begin(), by.begin() + static_cast<std::ptrdiff_t>(at)),
                             by[at].first, 0);
}

unsigned BranchExplorer::enter(Site site, unsigned sides) {
  Key key{site, met_[site]++};
  std::vector<bool>& seen = seen_[key];
  seen.resize(std::max<std::size_t>(seen.size(), sides), false);
  auto fresh = std::find(seen.begin(), seen.begin() + sides, false) - seen.begin();
  unsigned side = static_cast<unsigned>(fresh) < sides ? static_cast<unsigned>(fresh)
                                                       : static_cast<unsigned>(runs_ - 1) % sides;
  if (auto held = held_.find(key); held != held_.end() && held->second < sides) side = held->second;
  // Where nothing is said for the last side, it is that of no condition.
  for (unsigned other = sides; avoided_.contains({key, side}) && other-- > 0;) {
    if (!avoided_.contains({key, other})) side = other;
  }
  taken_.insert({key, side});
  first_met_.try_emplace(key, trails_.size() - 1, trails_.back().size());
  trails_.back().emplace_back(key, side);
  open_.push_back({key, side, true});
  return side;
}

void BranchExplorer::leave() {
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

bool BranchExplorer::go_where_one_is_untaken() {
  for (const auto& [key, sides] : seen_) {
    for (unsigned side = 0; side < sides.size(); ++side) {
      if (taken_.contains({key, side}) || !tried_.insert({key, side}).second) continue;
      auto [run, length] = first_met_.at(key);
      for (std::size_t i = 0; i < length; ++i) held_.insert(trails_[run][i]);
      held_[key] = side;
      return true;
    }
  }
  return false;
}

std::set<FileIndex> BranchExplorer::left_out() const {
  std::set<FileIndex> out;
  for (const auto& [key, sides] : seen_) {
    for (unsigned side = 0; side < sides.size(); ++side) {
      if (!taken_.contains({key, side})) out.insert(key.first.file);
    }
  }
  for (const auto* list : {&pending_, &later_}) {
    for (const auto& [variable, way] : *list) {
      for (const Side& side : way) out.insert(side.first.first.file);
    }
  }
  return out;
}

void tell_left_out(GraphBuilder& out, const std::set<FileIndex>& scripts) {
  for (FileIndex script : scripts) {
    if (script == kNoFile) continue;
    out.incomplete(Unread::partly, "many-conditions", out.files().path(script), std::nullopt,
                   "has more conditionals than could be looked at from all their sides");
  }
}

}  // namespace yc
