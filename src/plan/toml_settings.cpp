#include "plan/toml_settings.h"

#include <fmt/format.h>

namespace yc {

std::string place_of_node(const std::string& name, const toml::node& node) {
  return fmt::format("{}:{}:{}", name, node.source().begin.line, node.source().begin.column);
}

Result<std::vector<std::string>> strings_of(const toml::node& node, const std::string& name,
                                            std::string_view key, const std::string& next) {
  Error error{Failure::usage, place_of_node(name, node), fmt::format("{} must be a list of strings", key),
              next};
  const toml::array* list = node.as_array();
  if (!list) return error;
  std::vector<std::string> out;
  for (const toml::node& item : *list) {
    auto text = item.value<std::string>();
    if (!item.is_string() || !text) return error;
    out.push_back(*text);
  }
  return out;
}

}  // namespace yc
