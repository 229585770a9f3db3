#include "formats/autoconf/macro_scan.h"

#include <algorithm>

#include "base/text.h"

namespace yc::autoconf {

namespace {

bool in_name(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_';
}

bool in_path(char c) {
  return in_name(c) || c == '.' || c == '/' || c == '-' || c == '+';
}

class Scanner {
 public:
  explicit Scanner(std::string_view bytes) : bytes_(bytes) {}

  Facts run() {
    for (std::size_t at = 0; at < bytes_.size();) at = step(at);
    return std::move(out_);
  }

 private:
  std::size_t line_end(std::size_t at) const { return std::min(bytes_.find('\n', at), bytes_.size()); }

  std::size_t step(std::size_t at) {
    if (bytes_[at] == '$') return variable(at);
    bool begins = at == 0 || !in_path(bytes_[at - 1]);
    if (bytes_[at] == '#' && (at == 0 || is_space(bytes_[at - 1]))) return line_end(at);
    if (!begins || !in_path(bytes_[at])) return at + 1;
    std::size_t end = at;
    while (end < bytes_.size() && in_path(bytes_[end])) ++end;
    std::string_view word = bytes_.substr(at, end - at);
    if (word == "dnl") return line_end(at);
    bool is_macro =
        end < bytes_.size() && bytes_[end] == '(' && std::all_of(word.begin(), word.end(), in_name);
    if (is_macro) {
      while (!inside_.empty() && inside_.back() <= at) inside_.pop_back();
      // Each call is read to its end, and those in it again.
      constexpr std::size_t kDeepest = 60;
      if (inside_.size() < kDeepest) inside_.push_back(call(at, end));
      return end + 1;  // what is inside is looked at too
    }
    if (word.find_first_of("/.") != std::string_view::npos) take(at, word);
    return end;
  }

  void take(std::size_t at, std::string_view word) {
    std::size_t behind = at + word.size();
    if (word.size() > 1 && word.back() == '/' && behind < bytes_.size() && bytes_[behind] == '$')
      out_.folders.push_back({std::string(word), span_of(at, behind)});
    while (!word.empty() && (word.back() == '.' || word.back() == '/')) word.remove_suffix(1);
    std::uint32_t begin = static_cast<std::uint32_t>(at);
    if (!word.empty())
      out_.words.push_back({std::string(word), {begin, begin + static_cast<std::uint32_t>(word.size())}});
  }

  // "$srcdir/x" is a path from where the script stands; what another variable stands for nobody knows.
  std::size_t variable(std::size_t at) {
    std::size_t name = at + 1;
    char open = name < bytes_.size() ? bytes_[name] : '\0';
    bool wrapped = open == '{' || open == '(';
    if (wrapped) ++name;
    std::size_t end = name;
    while (end < bytes_.size() && in_name(bytes_[end])) ++end;
    std::string_view word = bytes_.substr(name, end - name);
    if (wrapped && end < bytes_.size()) ++end;
    if (end >= bytes_.size() || bytes_[end] != '/') return std::max(end, at + 1);
    std::size_t path = end + 1, stop = path;
    while (stop < bytes_.size() && in_path(bytes_[stop])) ++stop;
    bool is_own = word == "srcdir" || word == "top_srcdir" || word == "ac_top_srcdir" || word == "ac_srcdir";
    if (is_own) take(path, bytes_.substr(path, stop - path));
    return stop;
  }

  // Gives where the call ends.
  std::size_t call(std::size_t name, std::size_t open) {
    MacroCall found;
    found.name = bytes_.substr(name, open - name);
    found.begin = static_cast<std::uint32_t>(name);
    int parentheses = 1, brackets = 0;
    std::size_t from = open + 1, at = from;
    for (; at < bytes_.size() && parentheses > 0; ++at) {
      char c = bytes_[at];
      if (c == '[') ++brackets;
      if (c == ']' && brackets > 0) --brackets;
      if (brackets > 0) continue;
      if (c == '(') ++parentheses;
      if (c == ')') --parentheses;
      if (parentheses == 0 || (c == ',' && parentheses == 1)) {
        found.arguments.push_back(words(from, at));
        from = at + 1;
      }
    }
    out_.calls.push_back(std::move(found));
    return at;
  }

  std::vector<Word> words(std::size_t from, std::size_t to) const {
    std::vector<Word> out;
    while (from < to) {
      while (from < to && (is_space(bytes_[from]) || bytes_[from] == '[' || bytes_[from] == ']')) ++from;
      std::size_t end = from;
      while (end < to && !is_space(bytes_[end]) && bytes_[end] != '[' && bytes_[end] != ']') ++end;
      if (end == from) break;
      std::string_view word = bytes_.substr(from, end - from);
      if (word == "dnl" || word.front() == '#') {
        from = std::min(line_end(from), to);
        continue;
      }
      out.push_back({std::string(word), span_of(from, end)});
      from = end;
    }
    return out;
  }

  std::string_view bytes_;
  std::vector<std::size_t> inside_;  // where the calls end that are open
  Facts out_;
};

}  // namespace

Facts scan(std::string_view bytes) {
  return Scanner(bytes).run();
}

}  // namespace yc::autoconf
