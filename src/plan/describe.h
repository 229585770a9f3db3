// What stands in a plan's way, in words.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "plan/attempts.h"
#include "plan/plan.h"
#include "plan/plan_view.h"

namespace yc {

// Why a difference between the graphs is one, where it stands, and what to do.
Blocker describe(const PlanView& view, const Mismatch& mismatch);

// Those that are no mere shadow of others, each once.
void put_in_the_way(const PlanView& view, const std::vector<Mismatch>& mismatches,
                    std::vector<Blocker>& blockers);

// Objects, by their paths, that two sources would be compiled to, and are not now.
std::map<std::string, Blocker> new_clashes(const PlanView& view);

// Tells, a line at a time, what is being tried in a round and what differs.
void explain_round(const PlanView& view, std::size_t round, const Attempts& attempts,
                   const std::vector<Mismatch>& mismatches,
                   const std::function<void(const std::string&)>& tell);

}  // namespace yc
