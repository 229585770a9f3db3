#include "report/impact.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

namespace yc::report {

namespace {

using json = nlohmann::ordered_json;

std::string joined(const std::vector<std::string>& words) {
  std::string out;
  for (const std::string& word : words) out += (out.empty() ? "" : ", ") + printable(word);
  return out.empty() ? "no unit" : out;
}

std::string uses_of(const std::vector<UnitInfo>& units, const UnitInfo& unit) {
  std::string out;
  for (std::size_t used : unit.uses) out += (out.empty() ? "" : ", ") + printable(units[used].name);
  return out;
}

// Characters, not bytes: names may be of any language.
std::size_t width(const std::string& text) {
  return static_cast<std::size_t>(
      std::count_if(text.begin(), text.end(), [](unsigned char c) { return (c & 0xC0U) != 0x80U; }));
}

std::string padded(const std::string& text, std::size_t to) {
  return text + std::string(to > width(text) ? to - width(text) : 0, ' ');
}

}  // namespace

std::string units_text(const std::vector<UnitInfo>& units, const TextStyle& style) {
  if (units.empty()) return "There are no build units here that the readers know.\n";
  std::size_t names = 0, kinds = 0, files = 0;
  std::vector<std::string> counts;
  for (const UnitInfo& unit : units) {
    counts.push_back(count(unit.members.size(), "file", "files"));
    names = std::max(names, width(printable(unit.name)));
    kinds = std::max(kinds, width(unit.kind));
    files = std::max(files, width(counts.back()));
  }
  std::string out = strong(style, "Units") + "\n";
  for (std::size_t i = 0; i < units.size(); ++i) {
    const UnitInfo& unit = units[i];
    std::string uses = uses_of(units, unit), platforms;
    for (const std::string& name : unit.platforms)
      platforms += (platforms.empty() ? "" : ", ") + printable(name);
    std::string line = "  " + padded(printable(unit.name), names) + "  " + padded(unit.kind, kinds) + "  " +
                       padded(counts[i], files) + "  " + printable(unit.file.str());
    if (!uses.empty()) line += "  uses " + uses;
    if (!platforms.empty()) line += "  only for " + platforms;
    out += line + "\n";
  }
  return out;
}

std::string impact_text(const Impact& impact, const TextStyle& style) {
  std::string out;
  out +=
      strong(style, impact.files == 1 ? "Rebuilt if it changes"
                                      : fmt::format("Rebuilt if any of the {} files change", impact.files)) +
      "\n";
  std::size_t names = 0, kinds = 0;
  for (const Impact::Row& row : impact.rebuilt) {
    names = std::max(names, width(printable(row.unit)));
    kinds = std::max(kinds, width(row.kind));
  }
  for (const Impact::Row& row : impact.rebuilt)
    out += "  " + padded(printable(row.unit), names) + "  " + padded(row.kind, kinds) + "  " +
           printable(row.why) + "\n";
  if (impact.rebuilt.empty()) out += "  no build unit that the readers know\n";
  if (!impact.changes.empty()) {
    out += strong(style, "Change owner if they move") + "\n";
    constexpr std::size_t kMost = 20;
    for (std::size_t i = 0; i < impact.changes.size(); ++i) {
      if (i == kMost && !style.verbose) {
        out += fmt::format("  and {} more (-v lists all)\n", impact.changes.size() - kMost);
        break;
      }
      const Impact::Change& change = impact.changes[i];
      out += fmt::format("  {} -> {}: {} -> {}\n", printable(change.from.str()), printable(change.to.str()),
                         joined(change.before), joined(change.after));
    }
  }
  if (!impact.unreached.empty()) {
    out += strong(style, "Unreached after the move") + "\n";
    for (const RelPath& path : impact.unreached) out += "  " + printable(path.str()) + "\n";
  }
  return out;
}

std::string impact_json(const Impact& impact) {
  json out;
  out["files"] = impact.files;
  out["units"] = json::array();
  for (const UnitInfo& unit : impact.units) {
    json one = {{"name", printable(unit.name)}, {"kind", unit.kind}, {"file", printable(unit.file.str())}};
    one["members"] = json::array();
    for (const RelPath& member : unit.members) one["members"].push_back(printable(member.str()));
    one["uses"] = json::array();
    for (std::size_t used : unit.uses) one["uses"].push_back(printable(impact.units[used].name));
    if (!unit.platforms.empty()) one["platforms"] = unit.platforms;
    out["units"].push_back(std::move(one));
  }
  out["rebuilt"] = json::array();
  for (const Impact::Row& row : impact.rebuilt)
    out["rebuilt"].push_back(
        {{"unit", printable(row.unit)}, {"kind", row.kind}, {"why", printable(row.why)}});
  out["changes"] = json::array();
  for (const Impact::Change& change : impact.changes)
    out["changes"].push_back({{"from", printable(change.from.str())},
                              {"to", printable(change.to.str())},
                              {"before", change.before},
                              {"after", change.after}});
  out["unreached"] = json::array();
  for (const RelPath& path : impact.unreached) out["unreached"].push_back(printable(path.str()));
  return out.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
