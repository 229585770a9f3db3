// TOML 1.0. toml++ parses and tells at which line and column each value begins.
#include <toml++/toml.h>

#include <map>

#include "formats/values/toml_depth.h"
#include "formats/values/values.h"

namespace yc::values {

namespace {

class TomlCollector {
 public:
  explicit TomlCollector(std::string_view bytes) : bytes_(bytes) {
    for (std::size_t at = 0; at != std::string_view::npos;) {
      lines_.push_back(at);
      at = bytes.find('\n', at);
      if (at != std::string_view::npos) ++at;
    }
  }

  std::vector<Switch> switches(const toml::table& table) {
    walk(table);
    return std::move(switches_);
  }

  std::vector<Value> run(const toml::table& table) {
    walk(table);
    std::sort(out_.begin(), out_.end(),
              [](const Value& a, const Value& b) { return a.span.begin < b.span.begin; });
    return std::move(out_);
  }

 private:
  // Columns count characters.
  std::optional<std::size_t> offset_of(const toml::source_position& place) const {
    if (place.line == 0 || place.line > lines_.size()) return std::nullopt;
    std::size_t at = lines_[place.line - 1];
    if (place.line == 1 && bytes_.starts_with("\xEF\xBB\xBF")) at += 3;
    for (std::size_t column = 1; column < place.column && at < bytes_.size(); ++column) {
      ++at;
      while (at < bytes_.size() && (static_cast<unsigned char>(bytes_[at]) & 0xC0U) == 0x80U) ++at;
    }
    return at;
  }

  void walk(const toml::node& node) {
    if (path_.size() > 100) return;
    if (const toml::table* table = node.as_table()) {
      for (const auto& [key, value] : *table) {
        path_.emplace_back(key.str());
        walk(value);
        path_.pop_back();
      }
    } else if (const toml::array* array = node.as_array()) {
      for (std::size_t i = 0; i < array->size(); ++i) {
        path_.push_back(std::to_string(i));
        walk(*array->get(i));
        path_.pop_back();
      }
    } else if (const auto* is_on = node.as_boolean()) {
      auto at = offset_of(node.source().begin);
      std::size_t size = is_on->get() ? 4 : 5;
      if (at && *at + size <= bytes_.size())
        switches_.push_back({path_, span_of(*at, *at + size), is_on->get()});
    } else if (const auto* text = node.as_string()) {
      auto at = offset_of(node.source().begin);
      if (at && *at < bytes_.size()) add(text->get(), *at);
    }
  }

  void add(const std::string& text, std::size_t at) {
    char quote = bytes_[at];
    if (quote != '"' && quote != '\'') return;
    bool triple =
        bytes_.size() > at + 2 && bytes_[at + 1] == quote && bytes_[at + 2] == quote && !text.empty();
    std::size_t begin = at + (triple ? 3 : 1), end = begin;
    std::string_view closing = bytes_.substr(at, triple ? 3 : 1);
    while (end < bytes_.size() && bytes_.compare(end, closing.size(), closing) != 0)
      end += quote == '"' && bytes_[end] == '\\' ? 2 : 1;
    if (end >= bytes_.size()) return;
    Span span = span_of(begin, end);
    bool verbatim = bytes_.substr(begin, end - begin) == text;
    if (triple && !verbatim) return;  // text of several lines
    out_.push_back({path_, span, text, quote == '"' ? kTomlBasic : kTomlLiteral, verbatim});
  }

  std::string_view bytes_;
  std::vector<std::size_t> lines_;
  std::vector<std::string> path_;
  std::vector<Value> out_;
  std::vector<Switch> switches_;
};

}  // namespace

std::vector<Switch> read_toml_switches(std::string_view bytes) {
  if (nests_too_deeply(bytes)) return {};
  try {
    toml::table table = toml::parse(bytes);
    return TomlCollector(bytes).switches(table);
  } catch (const toml::parse_error&) {
    return {};
  }
}

std::vector<Value> read_toml(std::string_view bytes) {
  if (nests_too_deeply(bytes)) return {};
  try {
    toml::table table = toml::parse(bytes);
    return TomlCollector(bytes).run(table);
  } catch (const toml::parse_error&) {
    return {};
  }
}

}  // namespace yc::values
