#include "report/timings.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::report {

std::string timings_text(const std::vector<Timings::Line>& lines) {
  std::vector<std::string> phases;
  for (const Timings::Line& line : lines) {
    if (std::find(phases.begin(), phases.end(), line.phase) == phases.end()) phases.push_back(line.phase);
  }
  std::string out = "Time in seconds; what runs side by side is added up.\n";
  for (const std::string& phase : phases) {
    std::vector<Timings::Line> parts;
    std::copy_if(lines.begin(), lines.end(), std::back_inserter(parts),
                 [&](const Timings::Line& line) { return line.phase == phase; });
    std::stable_sort(parts.begin(), parts.end(),
                     [](const auto& a, const auto& b) { return a.seconds > b.seconds; });
    double whole = 0;
    for (const Timings::Line& line : parts) whole += line.seconds;
    out += fmt::format("{:9.3f}  {}\n", whole, phase);
    for (const Timings::Line& line : parts) {
      // What takes no time and did nothing is in the sum alone.
      if (line.part.empty() || (line.seconds < 0.0005 && line.counts.empty())) continue;
      out += fmt::format("{:9.3f}    {}", line.seconds, line.part);
      for (const auto& [what, number] : line.counts) out += fmt::format(", {} {}", number, what);
      out += '\n';
    }
  }
  return out;
}

std::string progress_text(const Timings::Now& now, double seconds) {
  std::string out = now.phase.empty() ? "begins" : now.phase == "read" ? "reads" : now.phase;
  if (!now.part.empty()) out += " " + now.part;
  if (now.all == 0) return out;
  out += fmt::format(", {} of {} files", now.done, now.all);
  if (seconds > 0 && now.done > 0)
    out += fmt::format(", {:.0f} a second", static_cast<double>(now.done) / seconds);
  return out;
}

}  // namespace yc::report
