// Where the time of a command went, for --stats.
#pragma once

#include <string>
#include <vector>

#include "base/timings.h"

namespace yc::report {

// A line for each phase and part, the dearest part of a phase first, with what was counted in it.
std::string timings_text(const std::vector<Timings::Line>& lines);

// What is going on, in a line: "reading make, 1200 of 5000 files, 900 a second".
std::string progress_text(const Timings::Now& now, double seconds);

}  // namespace yc::report
