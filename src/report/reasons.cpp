#include "report/reasons.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

namespace yc::report {

namespace {

using json = nlohmann::ordered_json;

std::string folder_text(const RelPath& folder) {
  return folder.is_root() ? "the root" : printable(folder.str()) + "/";
}

std::string reason_targets(const Seen& seen) {
  if (seen.targets.empty()) return "leads nowhere in the tree";
  std::string out = "leads to ";
  constexpr std::size_t kMost = 4;
  for (std::size_t i = 0; i < seen.targets.size() && i < kMost; ++i)
    out += (i == 0 ? "" : ", ") + (seen.targets[i].is_root() ? "the root" : printable(seen.targets[i].str()));
  if (seen.targets.size() > kMost) out += fmt::format(" and {} more", seen.targets.size() - kMost);
  return out;
}

std::string reason_text(const Reason& reason, const TreeReader& tree, const TextStyle& style) {
  const Seen& seen = reason.seen;
  std::string out =
      strong(style, fmt::format(
                        "{}  {} {}",
                        place_text(seen.file, seen.has_place ? std::optional(seen.span) : std::nullopt, tree),
                        name_of(seen.role), printable(seen.text))) +
      (seen.likely ? " (likely)" : "") + "\n";
  out += "  " + reason_targets(seen) + "\n";
  for (const auto& [place, part] : reason.parts)
    out += fmt::format("  \"{}\" stands at {}\n", printable(part), printable(place));
  if (!reason.is_searched) {
    out += "  counted from " + folder_text(reason.base) + "\n";
    return out;
  }
  std::string unit;
  for (const TriedPlace& tried : reason.tried) {
    if (tried.unit != unit) out += fmt::format("  looked for by {}:\n", printable(tried.unit));
    unit = tried.unit;
    out +=
        fmt::format("    {}  {}\n", tried.is_found ? "found    " : "not there", printable(tried.path.str()));
  }
  if (reason.tried.empty()) out += "  no build unit compiles it, so where it leads is a guess\n";
  return out;
}

}  // namespace

std::string reasons_text(const std::vector<Reason>& reasons, const TreeReader& tree, const TextStyle& style) {
  std::string out;
  for (const Reason& reason : reasons) out += reason_text(reason, tree, style);
  return out.empty() ? "Nothing that is read as a reference stands there.\n" : out;
}

std::string planned_reasons_text(const PlannedReasons& reasons, const TreeReader& before,
                                 const TreeReader& after, const TextStyle& style) {
  std::string out = strong(style, "Before") + "\n" + reasons_text(reasons.before, before, style);
  out += strong(style, "After") + "\n" + reasons_text(reasons.after, after, style);
  out += strong(style, "Edits on this line") + "\n";
  for (const PlannedEdit& edit : reasons.edits)
    out += fmt::format("  \"{}\" becomes \"{}\"\n", printable(edit.before), printable(edit.after));
  if (reasons.edits.empty()) out += "  none: what stands here leads where it should without one\n";
  return out;
}

std::string reasons_json(const std::vector<Reason>& reasons, const TreeReader& tree) {
  json out = json::array();
  for (const Reason& reason : reasons) {
    const Seen& seen = reason.seen;
    json one = {
        {"place", place_text(seen.file, seen.has_place ? std::optional(seen.span) : std::nullopt, tree)},
        {"role", name_of(seen.role)},
        {"text", printable(seen.text)},
        {"certainty", seen.likely ? "likely" : "certain"},
        {"base", reason.base.is_root() ? "." : printable(reason.base.str())}};
    one["targets"] = json::array();
    for (const RelPath& target : seen.targets) one["targets"].push_back(printable(target.str()));
    one["tried"] = json::array();
    for (const TriedPlace& tried : reason.tried)
      one["tried"].push_back({{"unit", printable(tried.unit)},
                              {"path", printable(tried.path.str())},
                              {"found", tried.is_found}});
    one["parts"] = json::array();
    for (const auto& [place, part] : reason.parts)
      one["parts"].push_back({{"place", printable(place)}, {"text", printable(part)}});
    out.push_back(std::move(one));
  }
  return out.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
