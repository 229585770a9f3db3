// Writing a name for a folder into the tables of bundlers and test runners, in programs called *.config.*.
#pragma once

#include "formats/capabilities/spellings.h"

namespace yc::modules {

AliasTables::Written name_in_programs(const ClaimedTree& before, const std::string& name,
                                      const RelPath& folder);

}  // namespace yc::modules
