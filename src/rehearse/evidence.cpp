#include "rehearse/evidence.h"

#include <algorithm>

#include "words/observe.h"

namespace yc {

namespace {

// Whether the builds took the text of a doubt for what it is. A compiler that reads a source does not run it:
// of what it says only the includes were tried.
bool was_exercised(const Blocker& doubt, const MoveSet& moves, const std::vector<Rehearsed>& builds) {
  RelPath now = moves.map_file(doubt.file);
  bool is_compiled = words::observe::compiled_endings().contains(now.extension());
  bool is_of_reading = doubt.id == "unexplained";
  if (is_compiled && !is_of_reading && doubt.text.find("include") == std::string::npos) return false;
  return std::any_of(builds.begin(), builds.end(), [&](const Rehearsed& build) {
    const auto& processes = build.seen_after->processes;
    return std::any_of(processes.begin(), processes.end(), [&](const ObservedProcess& process) {
      return std::binary_search(process.read.begin(), process.read.end(), now);
    });
  });
}

}  // namespace

Evidence weigh(const Plan& plan, const std::vector<Rehearsed>& builds) {
  Evidence out;
  out.holds = !builds.empty() && std::all_of(builds.begin(), builds.end(), [](const Rehearsed& build) {
    return build.verdict == Verdict::built && build.after;
  });
  out.observed = !builds.empty() && std::all_of(builds.begin(), builds.end(), [](const Rehearsed& build) {
    return build.seen_before && build.seen_after;
  });
  for (const Blocker& doubt : plan.accepted) {
    bool is_settled = out.holds && out.observed && was_exercised(doubt, plan.moves, builds);
    (is_settled ? out.settled : out.not_exercised).push_back(doubt);
  }
  return out;
}

}  // namespace yc
