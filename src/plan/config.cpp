#include "plan/config.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include "base/text.h"
#include "formats/taught/taught.h"
#include "formats/values/toml_depth.h"
#include "plan/toml_settings.h"

namespace yc {

namespace {

// modules = { alias-from-steps = 3 }
Result<std::size_t> module_rule(const toml::node& node, const std::string& name) {
  const toml::table* table = node.as_table();
  const toml::node* steps = table && table->size() == 1 ? table->get("alias-from-steps") : nullptr;
  auto number = steps && steps->is_integer() ? steps->value<std::int64_t>() : std::nullopt;
  if (!number || *number < 1)
    return Error{Failure::usage, place_of_node(name, steps ? *steps : node),
                 "modules must be a table with alias-from-steps, a number from 1",
                 "for example modules = { alias-from-steps = 3 }"};
  return static_cast<std::size_t>(*number);
}

// [[routes]] folder = "src/pages", endings = [".page.tsx"], names = ["page"]
Result<std::vector<RouteFolder>> route_folders(const toml::node& node, const std::string& name) {
  Error error{Failure::usage, place_of_node(name, node), "routes must be tables with a folder",
              "see docs/configuration.md"};
  const toml::array* list = node.as_array();
  if (!list) return error;
  std::vector<RouteFolder> out;
  for (const toml::node& item : *list) {
    const toml::table* table = item.as_table();
    RouteFolder route;
    route.follows = true;
    route.settings = RelPath::from_normal("yellow-compass.toml");
    route.endings = {".tsx", ".ts", ".jsx", ".js", ".vue", ".svelte", ".astro", ".html", ".md", ".mdx"};
    bool any = false;
    for (const auto& [key, value] : table ? *table : toml::table()) {
      if (key == "folder") {
        auto path = RelPath::resolve({}, value.value_or(std::string("..")));
        if (!path)
          return Error{Failure::usage, place_of_node(name, value), "folder must be a folder of the tree", ""};
        route.folder = *path;
        any = true;
      } else if (key == "endings" || key == "names") {
        auto words = strings_of(value, name, std::string_view(key.str()));
        if (!words) return words.error();
        (key == "endings" ? route.endings : route.names) = std::move(*words);
      } else {
        return Error{Failure::usage, place_of_node(name, value),
                     fmt::format("\"{}\" is not a known key of routes", std::string(key.str())),
                     "see docs/configuration.md"};
      }
    }
    if (!any) return error;
    out.push_back(std::move(route));
  }
  return out;
}

}  // namespace

namespace {

struct NamedOrder {
  std::string_view name;
  IncludeOrder order;
};
const std::vector<NamedOrder>& named_orders() {
  static const std::vector<NamedOrder> all = {
      {"usual", kUsualIncludes},
      {"keep", kKeepIncludes},
      {"relative", {IncludeForm::relative, IncludeForm::root, IncludeForm::new_root}},
      {"rooted", {IncludeForm::root, IncludeForm::new_root, IncludeForm::relative}},
  };
  return all;
}

Result<IncludeOrder> include_forms(const std::vector<std::string>& words, const std::string& place) {
  IncludeOrder out;
  for (const std::string& word : words) {
    if (word == "root")
      out.push_back(IncludeForm::root);
    else if (word == "relative")
      out.push_back(IncludeForm::relative);
    else if (word == "new-root")
      out.push_back(IncludeForm::new_root);
    else
      return Error{
          Failure::usage, place, fmt::format("\"{}\" is no way to spell an include", word),
          "say usual, keep, relative or rooted, or list root, relative and new-root in the order to try"};
  }
  return out;
}

Result<std::vector<RelPath>> paths_of(const toml::node& node, const std::string& name,
                                      const std::string& key) {
  auto paths = strings_of(node, name, key);
  if (!paths) return paths.error();
  std::vector<RelPath> out;
  for (const std::string& path : *paths) {
    auto normal = RelPath::resolve({}, path);
    if (!normal) return Error{Failure::usage, place_of_node(name, node), path + " leads out of the tree", ""};
    out.push_back(*normal);
  }
  return out;
}

// [[settled]] file = "tools/show.sh", text = "…/gauge.h", reason = "reads only what is installed"
Result<std::vector<SettledDoubt>> settled_doubts(const toml::node& node, const std::string& name) {
  auto error = [&](const toml::node& at) {
    return Error{Failure::usage, place_of_node(name, at), "settled must be tables with file, text and reason",
                 "see docs/configuration.md"};
  };
  const toml::array* list = node.as_array();
  if (!list) return error(node);
  std::vector<SettledDoubt> out;
  for (const toml::node& item : *list) {
    const toml::table* table = item.as_table();
    auto text = [&](const char* key) {
      const toml::node* value = table ? table->get(key) : nullptr;
      return value && value->is_string() ? value->value<std::string>() : std::nullopt;
    };
    auto file = text("file"), known = text("text"), reason = text("reason");
    auto path = file ? RelPath::resolve({}, *file) : std::nullopt;
    if (!table || table->size() != 3 || !path || !known || !reason || trimmed(*reason).empty())
      return error(item);
    out.push_back({*path, *known, *reason});
  }
  return out;
}

}  // namespace

Result<IncludeOrder> parse_include_order(const std::string& text, const std::string& place) {
  for (const NamedOrder& known : named_orders()) {
    if (text == known.name) return known.order;
  }
  std::vector<std::string> words;
  for (std::size_t at = 0; at <= text.size();) {
    std::size_t end = std::min(text.find(',', at), text.size());
    words.push_back(text.substr(at, end - at));
    at = end + 1;
  }
  return include_forms(words, place);
}

std::string include_order_text(const IncludeOrder& order) {
  for (const NamedOrder& known : named_orders()) {
    if (order == known.order) return std::string(known.name);
  }
  std::string out;
  for (IncludeForm form : order) {
    if (!out.empty()) out += ",";
    out += form == IncludeForm::root ? "root" : form == IncludeForm::relative ? "relative" : "new-root";
  }
  return out;
}

Result<Config> parse_config(const std::string& text, const std::string& name) {
  Config out;
  out.is_there = true;
  if (values::nests_too_deeply(text))
    return Error{Failure::usage, name, "has keys that nest too deeply", "see docs/configuration.md"};
  toml::table table;
  try {
    table = toml::parse(text, name);
  } catch (const toml::parse_error& problem) {
    auto where = problem.source().begin;
    return Error{Failure::usage, fmt::format("{}:{}:{}", name, where.line, where.column),
                 std::string(problem.description()), "see docs/configuration.md"};
  }
  for (const auto& [key, node] : table) {
    if (key == "protected" || key == "installed") {
      auto paths = paths_of(node, name, std::string(key.str()));
      if (!paths) return paths.error();
      (key == "protected" ? out.guarded : out.installed) = std::move(*paths);
    } else if (key == "includes") {
      auto words = node.is_string() ? std::vector<std::string>() : strings_of(node, name, "includes");
      if (!words) return words.error();
      std::string place = place_of_node(name, node);
      auto order = node.is_string() ? parse_include_order(node.value_or(std::string()), place)
                                    : include_forms(*words, place);
      if (!order) return order.error();
      out.include_order = *order;
      out.include_order_set = true;
    } else if (key == "modules") {
      auto steps = module_rule(node, name);
      if (!steps) return steps.error();
      out.alias_from = *steps;
    } else if (key == "routes") {
      auto folders = route_folders(node, name);
      if (!folders) return folders.error();
      out.routes = std::move(*folders);
    } else if (key == "references") {
      if (auto taught = parse_taught(text, name); !taught) return taught.error();
    } else if (key == "sidecars") {
      auto rules = strings_of(node, name, "sidecars");
      if (!rules) return rules.error();
      for (const std::string& text_of_rule : *rules) {
        auto rule = parse_sidecar_rule(text_of_rule, place_of_node(name, node));
        if (!rule) return rule.error();
        out.sidecars.push_back(*rule);
      }
    } else if (key == "settled") {
      auto doubts = settled_doubts(node, name);
      if (!doubts) return doubts.error();
      out.settled = std::move(*doubts);
    } else if (key == "builds") {
      auto commands = strings_of(node, name, "builds");
      if (!commands) return commands.error();
      out.builds = std::move(*commands);
    } else {
      return Error{Failure::usage, place_of_node(name, node),
                   fmt::format("\"{}\" is not a known key", std::string(key.str())),
                   "see docs/configuration.md"};
    }
  }
  return out;
}

}  // namespace yc
