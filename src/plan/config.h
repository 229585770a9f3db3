// yellow-compass.toml (TOML 1.0): every key is optional, an unknown one is an error.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "plan/respell.h"

namespace yc {

struct Config {
  bool is_there = false;
  std::vector<RelPath> guarded;  // `protected`: folders and files that are neither moved nor edited
  std::vector<IncludeForm> include_order = {IncludeForm::root, IncludeForm::relative, IncludeForm::new_root};
  bool include_order_set = false;
  std::vector<std::string> builds;  // commands that rehearse runs, one after the other
};

Result<Config> parse_config(const std::string& text, const std::string& name);
// "root", "relative", "new-root" in the order they are tried, separated by commas; a form left out is not
// used.
Result<std::vector<IncludeForm>> parse_include_order(const std::string& text, const std::string& place);
std::string include_order_text(const std::vector<IncludeForm>& order);

}  // namespace yc
