// The file of layout rules that commands use.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "cli/session.h"
#include "plan/layout_rules.h"

namespace yc::cli {

inline constexpr std::string_view kLayoutFile = "layout.toml";

// The rules of a file as typed; of that in the root, if the path is empty.
Result<std::vector<LayoutRule>> layout_rules(const Session& session, const std::string& path);

}  // namespace yc::cli
