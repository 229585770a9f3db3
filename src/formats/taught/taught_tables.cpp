// [[references]] in yellow-compass.toml.
#include <fmt/format.h>
#include <toml++/toml.h>

#include "base/expression.h"
#include "formats/taught/taught.h"
#include "formats/values/toml_depth.h"

namespace yc {

namespace {

Error error_at(const std::string& name, const toml::node& node, std::string message) {
  return {Failure::usage, fmt::format("{}:{}:{}", name, node.source().begin.line, node.source().begin.column),
          std::move(message), "see docs/configuration.md, \"Teaching a format\""};
}

std::optional<values::Language> language_called(std::string_view name) {
  using values::Language;
  static constexpr std::pair<std::string_view, Language> kKnown[] = {
      {"json", Language::json}, {"toml", Language::toml}, {"yaml", Language::yaml},  {"xml", Language::xml},
      {"ini", Language::ini},   {"csv", Language::csv},   {"lines", Language::lines}};
  for (const auto& [known, language] : kKnown) {
    if (known == name) return language;
  }
  return std::nullopt;
}

std::vector<std::string> split_key(const std::string& text) {
  std::vector<std::string> out;
  for (std::size_t at = 0; at <= text.size();) {
    std::size_t end = std::min(text.find('.', at), text.size());
    out.push_back(text.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

// What is wrong with an expression, or nothing.
std::optional<std::string> fault_of(const std::string& text) {
  std::string problem;
  auto expression = Expression::of(text, true, &problem);
  if (!expression) return problem;
  if (!expression->group("path")) return "it has no group (?<path>…)";
  return std::nullopt;
}

Result<TaughtReference> parse_one(const toml::node& node, const std::string& name) {
  const toml::table* table = node.as_table();
  if (!table) return error_at(name, node, "references must be tables");
  TaughtReference out;
  for (const auto& [key, value] : *table) {
    auto text = value.value<std::string>();
    if (key == "files") {
      const toml::array* list = value.as_array();
      for (const toml::node& item : list ? *list : toml::array()) {
        if (auto one = item.value<std::string>()) out.files.push_back(*one);
      }
      if (text) out.files.push_back(*text);
    } else if (key == "pattern" && text) {
      if (auto fault = fault_of(*text)) return error_at(name, value, "the pattern cannot be used: " + *fault);
      out.expression = *text;
    } else if (key == "format" && text) {
      out.language = language_called(*text);
      if (!out.language)
        return error_at(name, value, "format must be json, toml, yaml, xml, ini, csv or lines");
    } else if (key == "key" && text) {
      out.key = split_key(*text);
    } else if (key == "base" && text) {
      std::string folder = *text;
      while (folder.starts_with("/")) folder.erase(0, 1);
      auto place = RelPath::resolve({}, folder);
      if (!place) return error_at(name, value, "base must be a folder of the tree, or \"/\" for its root");
      out.base = *place;
    } else {
      return error_at(name, value,
                      fmt::format("\"{}\" is not a known key of references, or not of that kind",
                                  std::string(key.str())));
    }
  }
  bool by_key = out.language && !out.key.empty(), by_pattern = !out.expression.empty();
  if (out.files.empty() || by_key == by_pattern)
    return error_at(name, node, "references need files, and either a pattern or a format with a key");
  return out;
}

}  // namespace

Result<std::vector<TaughtReference>> parse_taught(const std::string& configuration, const std::string& name) {
  std::vector<TaughtReference> out;
  if (values::nests_too_deeply(configuration)) return out;  // said when the configuration itself is read
  toml::table table;
  try {
    table = toml::parse(configuration, name);
  } catch (const toml::parse_error&) {
    return out;  // said when the configuration itself is read
  }
  const toml::array* list = table["references"].as_array();
  if (!list) return out;
  for (const toml::node& node : *list) {
    auto one = parse_one(node, name);
    if (!one) return one.error();
    out.push_back(std::move(*one));
  }
  return out;
}

}  // namespace yc
