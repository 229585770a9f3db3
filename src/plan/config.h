// yellow-compass.toml (TOML 1.0): every key is optional, an unknown one is an error.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "formats/capabilities/routes.h"
#include "plan/rewriter.h"
#include "plan/settled.h"
#include "plan/sidecars.h"

namespace yc {

struct Config {
  bool is_there = false;
  std::vector<RelPath> guarded;  // `protected`: folders and files that are neither moved nor edited
  IncludeOrder include_order = kUsualIncludes;
  bool include_order_set = false;
  std::size_t alias_from = kNoRule;  // `modules`: see RewriteRequest::alias_from
  std::vector<RouteFolder> routes;
  std::vector<SidecarRule> sidecars = known_sidecars();
  std::vector<std::string> builds;    // commands that rehearse runs, one after the other
  std::vector<RelPath> installed;     // ignored folders that the builds need
  std::vector<SettledDoubt> settled;  // doubts that stand in no move's way any more
};

Result<Config> parse_config(const std::string& text, const std::string& name);
// "keep", "relative" or "rooted": what is tried first, all else after it. Or two or more of "root",
// "relative" and "new-root" in the order they are tried, separated by commas; a form left out is not used.
Result<IncludeOrder> parse_include_order(const std::string& text, const std::string& place);
std::string include_order_text(const IncludeOrder& order);

}  // namespace yc
