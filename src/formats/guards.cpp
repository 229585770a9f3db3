#include "formats/guards.h"

#include <algorithm>

namespace yc {

std::optional<Guard> both(const Guard& a, const Guard& b) {
  Guard out;
  out.reserve(a.size() + b.size());
  std::set_union(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(out));
  auto same_choice = [](const Side& x, const Side& y) { return x.choice == y.choice; };
  if (std::adjacent_find(out.begin(), out.end(), same_choice) != out.end()) return std::nullopt;
  return out;
}

Guard common(const Guard& a, const Guard& b) {
  Guard out;
  std::set_intersection(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(out));
  return out;
}

std::uint32_t Choices::met(Site site, const Rounds& rounds, std::uint32_t sides) {
  auto [at, fresh] = known_.try_emplace({site, rounds}, static_cast<std::uint32_t>(sides_.size()));
  if (fresh) sides_.push_back(sides);
  sides_[at->second] = std::max(sides_[at->second], sides);
  return at->second;
}

std::optional<std::uint32_t> Path::side_of(std::uint32_t choice) const {
  auto at = std::lower_bound(taken.begin(), taken.end(), Side{choice, 0});
  return at == taken.end() || at->choice != choice ? std::nullopt : std::optional(at->side);
}

bool Path::allows(const Guard& guard) const {
  return std::all_of(guard.begin(), guard.end(), [&](const Side& side) {
    auto fixed = side_of(side.choice);
    return fixed ? *fixed == side.side : !closed.contains(side);
  });
}

namespace {

constexpr std::size_t kBits = 64;  // of Met::seen

std::uint64_t bit(std::uint32_t side) {
  return std::uint64_t{1} << (side % kBits);
}

}  // namespace

// What the next world is to show: values that no world showed; else a side that none took; else, where there
// are few, sides that none took together. Nothing if there is nothing new to see.
Guard Worlds::aim() const {
  for (const auto& [guard, held] : asked_) {
    if (!held && path_.allows(guard) && !tried_.contains(guard)) return guard;
  }
  for (const auto& [choice, met] : met_) {
    for (std::uint32_t side = 0; side < choices_.sides(choice); ++side) {
      if ((met.seen & bit(side)) != 0) continue;
      Guard one = {{choice, side}};
      if (path_.allows(one) && !tried_.contains(one)) return one;
    }
  }
  return unseen_together();
}

Guard Worlds::unseen_together() const {
  constexpr std::size_t kFew = 8;
  std::size_t size = 1;
  for (const auto& [choice, met] : met_) {
    size *= choices_.sides(choice);
    if (size > kFew) return {};
  }
  for (std::size_t i = 0; i < size; ++i) {
    Guard together;
    std::size_t rest = i;
    for (const auto& [choice, met] : met_) {
      together.push_back({choice, static_cast<std::uint32_t>(rest % choices_.sides(choice))});
      rest /= choices_.sides(choice);
    }
    bool was_seen = std::any_of(done_.begin(), done_.end(),
                                [&](const Guard& one) { return both(one, together).has_value(); });
    if (!was_seen && path_.allows(together) && !tried_.contains(together)) return together;
  }
  return {};
}

bool Worlds::next() {
  if (count_ == 0) return ++count_ > 0;
  if (met_.empty()) return false;
  constexpr std::size_t kFewChoices = 3;  // as many as unseen_together() could look at
  if (met_.size() <= kFewChoices) done_.push_back(picked());
  Guard aim = this->aim();
  if (aim.empty()) return false;
  if (count_ >= kMost) {
    is_cut_short_ = true;
    return false;
  }
  tried_.insert(aim);
  ++count_;
  for (const Side& side : aim) {
    if (!path_.side_of(side.choice)) take(met_[side.choice], side.side);
  }
  return true;
}

std::uint32_t Worlds::take(Met& met, std::uint32_t side) {
  met.seen |= bit(side);
  met.side = side;
  met.world = count_;
  return side;
}

// The first side that no world took; else each in its turn.
std::uint32_t Worlds::pick(std::uint32_t choice) {
  if (auto fixed = path_.side_of(choice)) return *fixed;
  Met& met = met_[choice];
  if (met.world == count_) return met.side;
  std::uint32_t sides = choices_.sides(choice);
  if (sides > kBits) is_cut_short_ = true;
  auto turn = static_cast<std::uint32_t>((count_ - 1) % sides);
  std::optional<std::uint32_t> any;
  for (std::uint32_t side = 0; side < sides; ++side) {
    if (path_.closed.contains({choice, side})) continue;
    if ((met.seen & bit(side)) == 0) return take(met, side);
    if (!any || side == turn) any = side;
  }
  return take(met, any.value_or(turn));
}

bool Worlds::holds(const Guard& guard) {
  if (guard.empty()) return true;
  if (!path_.allows(guard)) return false;
  for (const Side& side : guard) {
    if (pick(side.choice) == side.side) continue;
    expect(guard);
    return false;
  }
  if (guard.size() > 1) asked_[guard] = true;
  return true;
}

void Worlds::expect(const Guard& guard) {
  if (guard.empty() || !path_.allows(guard)) return;
  if (guard.size() > 1) {
    asked_.try_emplace(guard, false);
  } else if (!path_.side_of(guard[0].choice)) {
    met_.try_emplace(guard[0].choice);
  }
}

Guard Worlds::picked() const {
  Guard out;
  for (const auto& [choice, met] : met_) {
    if (met.world == count_) out.push_back({choice, met.side});
  }
  return out;
}

}  // namespace yc
