#include "plan/layout_rules.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>

#include "formats/values/toml_depth.h"
#include "formats/values/values.h"
#include "plan/layout_kinds.h"
#include "plan/toml_settings.h"
#include "tree/tree_reader.h"

namespace yc {

namespace {

// A pattern, or a list of patterns.
Result<std::vector<std::string>> patterns(const toml::node& node, const std::string& name,
                                          std::string_view key) {
  if (auto one = node.value<std::string>(); one && node.is_string()) return std::vector<std::string>{*one};
  return strings_of(node, name, key, "or one string: see docs/layout.md");
}

Status read_key(const std::string& key, const toml::node& node, const std::string& name, LayoutRule& out) {
  auto wrong = [&](const std::string& what) {
    return Status(Error{Failure::usage, place_of_node(name, node), what, "see docs/layout.md"});
  };
  if (key == "match" || key == "except") {
    auto list = patterns(node, name, key);
    if (!list) return list.error();
    (key == "match" ? out.matches : out.except) = *list;
    return {};
  }
  auto text = node.is_string() ? node.value<std::string>() : std::nullopt;
  if (!text) return wrong(key + " must be a string");
  if (key == "of") {
    if (*text != "folder" && *text != "file") return wrong("of must be \"folder\" or \"file\"");
    out.of_files = *text == "file";
  } else if (key == "holds") {
    out.holds = *text;
  } else if (key == "to") {
    if (!RelPath::resolve({}, *text)) return wrong("to must lie in the tree");
    out.to = *text;
  } else {
    return wrong(fmt::format("\"{}\" is not a known key", key));
  }
  return {};
}

Result<LayoutRule> read_rule(const toml::table& table, const std::string& name) {
  LayoutRule out;
  out.place = place_of_node(name, table);
  for (const auto& [key, node] : table) {
    if (Status ok = read_key(std::string(key.str()), node, name, out); !ok) return ok.error();
  }
  if (out.to.empty())
    return Error{Failure::usage, out.place, "a place needs \"to\", where such belong", "see docs/layout.md"};
  if (out.matches.empty()) out.matches = {"**"};
  const std::vector<std::string>& kinds = out.of_files ? file_kinds() : folder_kinds();
  if (!out.holds.empty() && std::find(kinds.begin(), kinds.end(), out.holds) == kinds.end())
    return Error{Failure::usage, out.place,
                 fmt::format("\"{}\" is no kind of a {}", out.holds, out.of_files ? "file" : "folder"),
                 fmt::format("one of: {}", fmt::join(kinds, ", "))};
  return out;
}

bool match_from(const std::vector<std::string_view>& pattern, std::size_t at,
                const std::vector<std::string_view>& path, std::size_t in, std::vector<std::string>& taken) {
  if (at == pattern.size()) return in == path.size();
  if (pattern[at] != "**") {
    if (in == path.size() || !name_matches(pattern[at], path[in])) return false;
    bool is_wild = has_wildcard(pattern[at]);
    if (is_wild) taken.emplace_back(path[in]);
    if (match_from(pattern, at + 1, path, in + 1, taken)) return true;
    if (is_wild) taken.pop_back();
    return false;
  }
  // The last "**" stands for the whole rest, which is not empty.
  if (at + 1 == pattern.size() && in == path.size()) return false;
  std::string folders;
  for (std::size_t next = in; next <= path.size(); ++next) {
    if (next > in) folders += (folders.empty() ? "" : "/") + std::string(path[next - 1]);
    if (at + 1 == pattern.size() && next < path.size()) continue;
    taken.push_back(folders);
    if (match_from(pattern, at + 1, path, next, taken)) return true;
    taken.pop_back();
  }
  return false;
}

std::vector<std::string_view> parts_of_rule(std::string_view text) {
  std::vector<std::string_view> out;
  for (std::size_t at = 0; at <= text.size();) {
    std::size_t end = std::min(text.find('/', at), text.size());
    if (end > at) out.push_back(text.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

// "{name}", "{stem}", "{1}"
std::optional<std::string> filled(std::string_view to, const RelPath& path,
                                  const std::vector<std::string>& taken) {
  std::string out;
  for (std::size_t at = 0; at < to.size();) {
    std::size_t end = to[at] == '{' ? to.find('}', at) : std::string_view::npos;
    if (end == std::string_view::npos) {
      out += to[at++];
      continue;
    }
    std::string_view word = to.substr(at + 1, end - at - 1);
    if (word == "name") {
      out += path.name();
    } else if (word == "stem") {
      out += path.name().substr(0, path.name().size() - path.extension().size());
    } else if (word.size() == 1 && word[0] >= '1' && word[0] <= '9') {
      auto index = static_cast<std::size_t>(word[0] - '1');
      if (index >= taken.size()) return std::nullopt;
      out += taken[index];
    } else {
      return std::nullopt;
    }
    at = end + 1;
  }
  return out;
}

std::string quoted(const std::string& text) {
  return "\"" + values::written(text, values::kTomlBasic).value_or("") + "\"";
}

std::string list_text(const std::vector<std::string>& texts) {
  if (texts.size() == 1) return quoted(texts.front());
  std::string out;
  for (const std::string& text : texts) out += (out.empty() ? "" : ", ") + quoted(text);
  return "[" + out + "]";
}

}  // namespace

Result<std::vector<LayoutRule>> parse_layout(const std::string& text, const std::string& name) {
  if (values::nests_too_deeply(text))
    return Error{Failure::usage, name, "nests too deeply", "see docs/layout.md"};
  std::vector<LayoutRule> out;
  try {
    toml::table table = toml::parse(text);
    for (const auto& [key, node] : table) {
      const toml::array* list = key.str() == "place" ? node.as_array() : nullptr;
      if (!list)
        return Error{Failure::usage, place_of_node(name, node),
                     fmt::format("\"{}\" is not a known key", std::string(key.str())),
                     "rules are written as [[place]]: see docs/layout.md"};
      for (const toml::node& item : *list) {
        const toml::table* rule = item.as_table();
        if (!rule)
          return Error{Failure::usage, place_of_node(name, item), "a place must be a table",
                       "see docs/layout.md"};
        auto read = read_rule(*rule, name);
        if (!read) return read.error();
        out.push_back(std::move(*read));
      }
    }
  } catch (const toml::parse_error& error) {
    return Error{Failure::usage,
                 fmt::format("{}:{}:{}", name, error.source().begin.line, error.source().begin.column),
                 std::string(error.description()), "see docs/layout.md"};
  }
  if (out.empty()) return Error{Failure::usage, name, "holds no [[place]]", "see docs/layout.md"};
  return out;
}

std::string layout_text(const std::vector<LayoutRule>& rules) {
  std::string out;
  for (const LayoutRule& rule : rules) {
    out += (out.empty() ? "" : "\n") + std::string("[[place]]\n");
    if (rule.of_files) out += "of = \"file\"\n";
    if (!rule.holds.empty()) out += "holds = " + quoted(rule.holds) + "\n";
    if (rule.matches != std::vector<std::string>{"**"}) out += "match = " + list_text(rule.matches) + "\n";
    if (!rule.except.empty()) out += "except = " + list_text(rule.except) + "\n";
    out += "to = " + quoted(rule.to) + "\n";
  }
  return out;
}

std::optional<std::vector<std::string>> match_layout(std::string_view pattern, const RelPath& path) {
  std::vector<std::string> taken;
  if (!match_from(parts_of_rule(pattern), 0, path.components(), 0, taken)) return std::nullopt;
  return taken;
}

std::optional<RelPath> placed_by(const LayoutRule& rule, const RelPath& path) {
  bool is_excepted = std::any_of(rule.except.begin(), rule.except.end(), [&](const std::string& pattern) {
    return match_layout(pattern, path).has_value();
  });
  if (is_excepted) return std::nullopt;
  for (const std::string& pattern : rule.matches) {
    auto taken = match_layout(pattern, path);
    auto text = taken ? filled(rule.to, path, *taken) : std::nullopt;
    auto place = text ? RelPath::resolve({}, *text) : std::nullopt;
    if (!place) continue;
    if (!rule.to.ends_with('/')) return place;
    bool is_there = path.is_within(*place) && path != *place;
    return is_there ? path : *place / path.name();
  }
  return std::nullopt;
}

}  // namespace yc
