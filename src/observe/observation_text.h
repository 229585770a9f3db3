// The kept form of an observation: JSON (RFC 8259) on one line, as docs/observations.md says.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "observe/observation.h"

namespace yc {

std::string observation_text(const Observation& observation);
// `place` is named in errors. Refused is what has another shape, or an index that leads nowhere.
Result<Observation> parse_observation(std::string_view text, const std::string& place);

}  // namespace yc
