// What files of settings that are ours share: where a node stands, and lists of strings.
#pragma once

#include <toml++/toml.h>

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace yc {

// "yellow-compass.toml:3:1"
std::string place_of_node(const std::string& name, const toml::node& node);
// A list of strings and nothing else; `next` says what to do where it is none.
Result<std::vector<std::string>> strings_of(const toml::node& node, const std::string& name,
                                            std::string_view key, const std::string& next = "");

}  // namespace yc
