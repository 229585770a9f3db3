// Lists of names that are data, not code: see data/README.md.
#pragma once

#include <algorithm>
#include <optional>
#include <string_view>
#include <unordered_map>
#include <unordered_set>

namespace yc {

// Words between blanks. The text must outlive the list.
class WordList {
 public:
  explicit WordList(std::string_view text) {
    for (std::size_t at = text.find_first_not_of(kBlanks); at != std::string_view::npos;) {
      std::size_t end = std::min(text.find_first_of(kBlanks, at), text.size());
      words_.insert(text.substr(at, end - at));
      at = text.find_first_not_of(kBlanks, end);
    }
  }
  bool contains(std::string_view word) const { return words_.contains(word); }
  auto begin() const { return words_.begin(); }
  auto end() const { return words_.end(); }
  std::size_t size() const { return words_.size(); }

 private:
  static constexpr std::string_view kBlanks = " \t\r\n";
  std::unordered_set<std::string_view> words_;
};

// A line for each key, then a colon, a blank and its value. The text must outlive the table.
class WordTable {
 public:
  explicit WordTable(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
      std::size_t end = std::min(text.find('\n', at), text.size());
      std::string_view line = text.substr(at, end - at);
      std::size_t colon = line.find(": ");
      if (colon != std::string_view::npos) values_.emplace(line.substr(0, colon), line.substr(colon + 2));
      at = end + 1;
    }
  }
  std::optional<std::string_view> find(std::string_view key) const {
    auto at = values_.find(key);
    return at == values_.end() ? std::nullopt : std::optional(at->second);
  }
  std::size_t size() const { return values_.size(); }

 private:
  std::unordered_map<std::string_view, std::string_view> values_;
};

}  // namespace yc
