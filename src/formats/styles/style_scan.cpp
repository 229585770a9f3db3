#include "formats/styles/style_scan.h"

#include <algorithm>
#include <cctype>

#include "base/char_class.h"
#include "base/text.h"
#include "words/styles.h"

namespace yc::styles {

namespace {

using Kind = StyleName::Kind;
using Part = StyleName::Part;

constexpr CharClass kNameChars = CharClass::alphanumeric_and("_-").and_beyond_ascii();

class Scanner {
 public:
  Scanner(std::string_view bytes, Dialect dialect) : bytes_(bytes), dialect_(dialect) {}

  StyleFacts run() {
    if (bytes_.starts_with("\xEF\xBB\xBF")) at_ = 3;
    while (at_ < bytes_.size()) token();
    return std::move(facts_);
  }

 private:
  bool extended() const { return dialect_ != Dialect::css; }
  char peek(std::size_t ahead = 0) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }
  std::uint32_t at32() const { return static_cast<std::uint32_t>(at_); }
  static std::uint32_t n32(std::size_t value) { return static_cast<std::uint32_t>(value); }

  void token() {
    char c = bytes_[at_];
    if (c == '/' && peek(1) == '*') {
      block_comment();
    } else if (c == '/' && peek(1) == '/' && extended()) {
      at_ = std::min(bytes_.find('\n', at_), bytes_.size());
    } else if (c == '"' || c == '\'') {
      parts_of_string();
    } else if (c == '@') {
      at_rule();
    } else if (c == '$' && extended()) {
      variable('$');
    } else if (kNameChars.holds(c)) {
      word();
    } else {
      ++at_;
    }
  }

  void block_comment() {
    std::size_t end = bytes_.find("*/", at_ + 2);
    end = end == std::string_view::npos ? bytes_.size() : end;
    std::string_view text = bytes_.substr(at_, end - at_);
    constexpr std::string_view kMark = "# sourceMappingURL=";
    std::size_t mark = text.find(kMark);
    if (mark != std::string_view::npos && mark <= 3) {
      std::size_t begin = at_ + mark + kMark.size();
      std::size_t stop = std::min(bytes_.find_first_of(" \t\r\n*", begin), end);
      if (bytes_.substr(begin, 5) != "data:") add(Kind::map, {{{n32(begin), n32(stop)}, ""}}, at_);
    }
    at_ = std::min(end + 2, bytes_.size());
  }

  void skip_blank(bool lines = true) {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == ' ' || c == '\t' || (lines && (c == '\n' || c == '\r'))) {
        ++at_;
      } else if (c == '/' && peek(1) == '*') {
        block_comment();
      } else if (c == '/' && peek(1) == '/' && extended()) {
        at_ = std::min(bytes_.find('\n', at_), bytes_.size());
      } else {
        return;
      }
    }
  }

  // From the opening quote: literal pieces and interpolations. Empty if it is not closed on its line.
  std::vector<Part> parts_of_string() {
    std::vector<Part> out;
    char quote = bytes_[at_++];
    std::size_t begin = at_;
    auto literal = [&](std::size_t end) {
      if (end > begin) out.push_back({{n32(begin), n32(end)}, ""});
    };
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == quote) {
        literal(at_);
        ++at_;
        if (out.empty()) out.push_back({{n32(begin), n32(begin)}, ""});
        return out;
      }
      if (c == '\n') return {};
      if (c == '\\') {
        at_ += 2;
        continue;
      }
      if (interpolates()) {
        literal(at_);
        out.push_back(interpolation());
        begin = at_;
        continue;
      }
      ++at_;
    }
    at_ = bytes_.size();
    return {};
  }

  bool interpolates() const {
    if (dialect_ == Dialect::less) return peek() == '@' && peek(1) == '{';
    return extended() && peek() == '#' && peek(1) == '{';
  }

  // #{$name}, @{name}, or something else in braces.
  Part interpolation() {
    std::size_t begin = at_;
    at_ += 2;
    std::size_t depth = 1, inside = at_;
    while (at_ < bytes_.size() && depth > 0) {
      if (bytes_[at_] == '{') ++depth;
      if (bytes_[at_] == '}') --depth;
      ++at_;
    }
    std::string_view text = bytes_.substr(inside, at_ - inside - (depth == 0 ? 1 : 0));
    while (!text.empty() && text.front() == ' ') text.remove_prefix(1);
    while (!text.empty() && text.back() == ' ') text.remove_suffix(1);
    if (dialect_ != Dialect::less) {
      if (!text.starts_with("$")) return {{n32(begin), at32()}, "?"};
      text.remove_prefix(1);
    }
    bool plain =
        !text.empty() && std::all_of(text.begin(), text.end(), [](char c) { return kNameChars.holds(c); });
    return {{n32(begin), at32()}, plain ? std::string(text) : "?"};
  }

  void at_rule() {
    std::size_t begin = at_++;
    std::size_t name_begin = at_;
    while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
    std::string name = lowered(bytes_.substr(name_begin, at_ - name_begin));
    if (name == "import" || name == "use" || name == "forward" || name == "reference") {
      imports(name, begin);
    } else if (name == "value") {
      value_from(begin);
    } else if (dialect_ == Dialect::less && !name.empty() && is_definition()) {
      at_ = begin;
      variable('@');
    }
  }

  bool is_definition() const {
    std::size_t next = bytes_.find_first_not_of(" \t", at_);
    return next != std::string_view::npos && bytes_[next] == ':';
  }

  // $images: "../images";
  void variable(char sign) {
    if (peek() == sign) ++at_;
    std::size_t begin = at_;
    while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
    std::string name(bytes_.substr(begin, at_ - begin));
    if (!is_definition()) return;
    at_ = bytes_.find(':', at_) + 1;
    skip_blank(false);
    if (peek() != '"' && peek() != '\'') return;
    std::vector<Part> parts = parts_of_string();
    std::size_t next = bytes_.find_first_not_of(" \t\r", at_);
    bool ends =
        next == std::string_view::npos || bytes_[next] == ';' || bytes_[next] == '\n' || bytes_[next] == '!';
    if (ends && parts.size() == 1 && parts[0].variable.empty())
      facts_.variables.push_back({name, parts[0].span});
  }

  // @import "a", "b" screen; @import url(x.css); @import (reference) "x"; @use "x" as y; and, in the indented
  // syntax, names without quotes.
  void imports(const std::string& name, std::size_t begin) {
    while (at_ < bytes_.size()) {
      skip_blank(dialect_ != Dialect::sass);
      char c = peek();
      if (c == '"' || c == '\'') {
        std::vector<Part> parts = parts_of_string();
        std::string_view text = parts.size() == 1 ? cut(parts[0].span) : std::string_view();
        std::size_t next = bytes_.find_first_not_of(" \t\r\n", at_);
        bool conditioned = name == "import" && next != std::string_view::npos && bytes_[next] != ';' &&
                           bytes_[next] != ',' && bytes_[next] != '}' && dialect_ != Dialect::sass &&
                           dialect_ != Dialect::less;
        bool plain =
            dialect_ == Dialect::css || (name == "import" && dialect_ != Dialect::less &&
                                         (text.ends_with(".css") || conditioned || text.starts_with("http")));
        if (!parts.empty()) add(plain ? Kind::css : Kind::module, std::move(parts), begin);
        if (name != "import") return;
      } else if (c == '(' && dialect_ == Dialect::less) {
        at_ = std::min(bytes_.find(')', at_), bytes_.size() - 1) + 1;
        continue;
      } else if (lowered(bytes_.substr(at_, 4)) == "url(") {
        at_ += 4;
        url(Kind::css, begin);
      } else if (dialect_ == Dialect::sass && name == "import" && kNameChars.holds(c)) {
        std::size_t from = at_;
        while (at_ < bytes_.size() && bytes_[at_] != ',' && bytes_[at_] != '\n' && bytes_[at_] != ' ' &&
               bytes_[at_] != '\r')
          ++at_;
        add(Kind::module, {{{n32(from), at32()}, ""}}, begin);
      } else {
        return;
      }
      skip_blank(dialect_ != Dialect::sass);
      // Conditions up to the next comma.
      while (at_ < bytes_.size() && bytes_[at_] != ',' && bytes_[at_] != ';' && bytes_[at_] != '\n' &&
             bytes_[at_] != '{' && bytes_[at_] != '}')
        ++at_;
      if (peek() != ',') return;
      ++at_;
    }
  }

  // @value a, b from "./colors.css";
  void value_from(std::size_t begin) {
    std::size_t end = std::min(bytes_.find_first_of(";\n}", at_), bytes_.size());
    from(begin, end);
  }

  void from(std::size_t begin, std::size_t end) {
    std::size_t at = bytes_.substr(0, end).rfind(" from ");
    if (at == std::string_view::npos || at < at_) return;
    at_ = bytes_.find_first_not_of(" \t", at + 6);
    if (at_ == std::string_view::npos) at_ = bytes_.size();
    if (peek() != '"' && peek() != '\'') return;
    std::vector<Part> parts = parts_of_string();
    if (!parts.empty()) add(Kind::css, std::move(parts), begin);
  }

  std::string_view cut(Span span) const { return bytes_.substr(span.begin, span.size()); }

  void word() {
    std::size_t begin = at_;
    while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
    std::string_view text = bytes_.substr(begin, at_ - begin);
    if (peek() == '(') {
      std::string name = lowered(text);
      if (name == "url" || name == "src" || name == "data-uri") {
        ++at_;
        url(Kind::url, begin);
      } else if (name == "load-css") {
        ++at_;
        skip_blank();
        if (peek() != '"' && peek() != '\'') return;
        std::vector<Part> parts = parts_of_string();
        if (!parts.empty()) add(Kind::module, std::move(parts), begin);
      } else if (auto role = words::styles::role_helpers().find(name); role && extended()) {
        ++at_;
        helper(begin, std::string(*role));
      } else if (name == "image-set" || name == "-webkit-image-set") {
        image_set(begin);
      }
      return;
    }
    if (text == "composes" && is_definition()) {
      std::size_t end = std::min(bytes_.find_first_of(";}", at_), bytes_.size());
      from(begin, end);
    }
  }

  // Behind "image-url(": the first string, where nothing is joined to it.
  void helper(std::size_t statement, std::string role) {
    skip_blank();
    if (peek() != '"' && peek() != '\'') return;
    std::vector<Part> parts = parts_of_string();
    join(parts);
    if (parts.empty()) return;
    add(Kind::url, std::move(parts), statement);
    if (!facts_.names.empty()) facts_.names.back().role = std::move(role);
  }

  // Behind "url(".
  void url(Kind kind, std::size_t statement) {
    skip_blank();
    std::vector<Part> parts;
    char c = peek();
    if (c == '"' || c == '\'') {
      parts = parts_of_string();
      join(parts);
    } else if (c == '$' && extended()) {
      // url($images + "/tide.png")
      join(parts);
    } else {
      std::size_t begin = at_;
      while (at_ < bytes_.size() && bytes_[at_] != ')' && bytes_[at_] != '\n' && bytes_[at_] != '"' &&
             bytes_[at_] != '\'') {
        if (interpolates()) {
          if (at_ > begin) parts.push_back({{n32(begin), at32()}, ""});
          parts.push_back(interpolation());
          begin = at_;
        } else {
          at_ += bytes_[at_] == '\\' ? 2 : 1;
        }
      }
      at_ = std::min(at_, bytes_.size());
      std::size_t end = at_;
      while (end > begin && (bytes_[end - 1] == ' ' || bytes_[end - 1] == '\t' || bytes_[end - 1] == '\r'))
        --end;
      if (end > begin) parts.push_back({{n32(begin), n32(end)}, ""});
    }
    if (!parts.empty()) add(kind, std::move(parts), statement);
  }

  // More text that is joined: $a + "b" + $c.
  void join(std::vector<Part>& parts) {
    if (!extended()) return;
    while (at_ < bytes_.size()) {
      skip_blank();
      char c = peek();
      if (c == '+') {
        ++at_;
      } else if (c == '$') {
        std::size_t begin = at_++;
        std::size_t name = at_;
        while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
        parts.push_back({{n32(begin), at32()}, std::string(bytes_.substr(name, at_ - name))});
      } else if ((c == '"' || c == '\'') && !parts.empty()) {
        for (Part& part : parts_of_string()) parts.push_back(std::move(part));
      } else {
        if (c != ')' && c != ',' && !parts.empty()) parts.push_back({{at32(), at32()}, "?"});
        return;
      }
    }
  }

  // image-set("a.png" 1x, url(b.png) 2x): the urls are read as words, the strings here.
  void image_set(std::size_t statement) {
    ++at_;
    std::size_t depth = 1;
    while (at_ < bytes_.size() && depth > 0) {
      char c = bytes_[at_];
      if (c == '"' || c == '\'') {
        std::vector<Part> parts = parts_of_string();
        if (!parts.empty()) add(Kind::url, std::move(parts), statement);
      } else if (c == '(') {
        ++depth, ++at_;
      } else if (c == ')') {
        --depth, ++at_;
      } else if (c == ';' || c == '}') {
        return;
      } else if (kNameChars.holds(c)) {
        word();
      } else {
        ++at_;
      }
    }
  }

  void add(Kind kind, std::vector<Part> parts, std::size_t statement) {
    for (const Part& part : parts) {
      if (part.variable.empty() && cut(part.span).find('\\') != std::string_view::npos)
        return;  // escapes: no path is
    }
    facts_.names.push_back({kind, std::move(parts), n32(statement)});
  }

  std::string_view bytes_;
  Dialect dialect_;
  StyleFacts facts_;
  std::size_t at_ = 0;
};

}  // namespace

StyleFacts scan_style(std::string_view bytes, Dialect dialect) {
  if (bytes.size() > 0xFFFFFFF0U || bytes.find('\0') != std::string_view::npos) return {};
  return Scanner(bytes, dialect).run();
}

}  // namespace yc::styles
