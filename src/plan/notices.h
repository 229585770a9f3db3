// What a plan tells beside its edits: what else changes by it, and what only a person can judge.
#pragma once

#include <vector>

#include "plan/mentions.h"
#include "plan/plan_view.h"

namespace yc {

std::vector<Notice> notices_of(const PlanView& view, const std::vector<Mention>& mentions, bool verified);

// References that lead to something that moves.
std::size_t references_kept(const PlanView& view);

}  // namespace yc
