// What a command is doing, on a terminal, once it takes longer than a moment.
#pragma once

#include "cli/session.h"

namespace yc::cli {

// Draws one line on standard error from half a second on, ten times a second, if that is a terminal and
// results are asked for as text. `options.timings` must be there.
void start_progress(const Options& options);
// Takes the line away. Whoever writes anything calls this first; nothing is drawn after it.
void stop_progress();

}  // namespace yc::cli
