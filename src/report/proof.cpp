#include "report/proof.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::report {

namespace {

std::string list(const std::vector<Blocker>& doubts, const std::string& title, const TreeReader& tree,
                 const TextStyle& style) {
  if (doubts.empty()) return "";
  std::string out = strong(style, title) + "\n";
  for (const Blocker& doubt : doubts) {
    out += fmt::format("  {}: {}\n", place_text(doubt.file, doubt.span, tree),
                       printable(doubt.text.empty() ? doubt.reason : doubt.text));
  }
  return out;
}

}  // namespace

std::string doubts_text(const Evidence& evidence, const TreeReader& tree, const TextStyle& style) {
  return list(evidence.settled, "Settled by what was observed", tree, style) +
         list(evidence.not_exercised, "Could name what moves, and no build exercised it", tree, style);
}

std::string outcome_text(const Plan& plan, bool is_written, const Evidence* evidence) {
  const char* done = is_written ? "Done" : "Nothing written";
  std::string settled = plan.settled == 0 ? ""
                                          : fmt::format(" ({} settled in yellow-compass.toml)",
                                                        count(plan.settled, "doubt is", "doubts are"));
  // What is kept though it is generated was read by nobody, and builds go by it.
  bool is_stale = std::any_of(plan.notices.begin(), plan.notices.end(),
                              [](const Notice& notice) { return notice.id == "generated"; });
  bool is_left = std::any_of(plan.notices.begin(), plan.notices.end(),
                             [](const Notice& notice) { return notice.id == "stale-output"; });
  if (!evidence && plan.accepted.empty() && is_stale)
    return fmt::format("{} and verified{}, once what is generated is made anew (see the notices): ", done,
                       settled);
  if (!evidence && plan.accepted.empty() && is_left)
    return fmt::format(
        "{} and verified{}, once what the last build left is removed (see the notices): ", done, settled);
  if (!evidence && plan.accepted.empty())
    return is_written ? "Done and verified" + settled + ": " : "Verified" + settled + ", nothing written: ";
  if (!evidence)
    return fmt::format("{}, but {} without proof (--accept-unseen): ", done,
                       count(plan.accepted.size(), "place was accepted", "places were accepted"));
  const char* built = evidence->observed ? "observed" : "built before and after, though not watched";
  if (plan.accepted.empty()) return fmt::format("{}, verified and {}: ", done, built);
  std::string out = fmt::format("{} and {}", done, built);
  if (!evidence->settled.empty())
    out += fmt::format(", which settled {}", count(evidence->settled.size(), "doubt", "doubts"));
  if (!evidence->not_exercised.empty())
    out += fmt::format(", but {} not exercised",
                       count(evidence->not_exercised.size(), "doubt was", "doubts were"));
  return out + ": ";
}

const char* proof_word(const Plan& plan, const Evidence* evidence) {
  if (evidence) return evidence->observed ? "observed" : "built";
  return plan.accepted.empty() ? "read" : "accepted";
}

}  // namespace yc::report
