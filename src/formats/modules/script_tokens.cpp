#include "formats/modules/script_tokens.h"

#include "base/text.h"
#include "formats/modules/module_scanner.h"

namespace yc::modules {

namespace {

class Lexer {
 public:
  explicit Lexer(std::string_view bytes) : bytes_(bytes) {}

  std::vector<ScriptToken> run() {
    while (at_ < bytes_.size()) token();
    return std::move(out_);
  }

 private:
  using Kind = ScriptToken::Kind;

  char peek(std::size_t ahead = 0) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }

  void add(Kind kind, std::size_t begin, std::size_t end) {
    out_.push_back({kind, span_of(begin, end), new_line_});
    new_line_ = false;
  }

  void token() {
    char c = peek();
    if (c == '\n' || c == ' ' || c == '\t' || c == '\r') {
      new_line_ = new_line_ || c == '\n';
      ++at_;
    } else if (c == '/' && peek(1) == '/') {
      at_ = std::min(bytes_.find('\n', at_), bytes_.size());
    } else if (c == '/' && peek(1) == '*') {
      at_ = behind_comment(bytes_, at_);
    } else if (c == '"' || c == '\'') {
      string(c);
    } else if (c == '`') {
      add(Kind::template_begin, at_, at_ + 1);
      ++at_;
      template_text();
    } else if (kNameChars.holds(c)) {
      std::size_t begin = at_;
      while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
      add(is_digit(c) ? Kind::other : Kind::name, begin, at_);
    } else if (c == '/' && !ends_operand() && regular_expression()) {
      return;
    } else if (c == '}' && !holes_.empty() && holes_.back() == 0) {
      holes_.pop_back();
      add(Kind::hole_end, at_, at_ + 1);
      ++at_;
      template_text();
    } else {
      if (!holes_.empty() && c == '{') ++holes_.back();
      if (!holes_.empty() && c == '}') --holes_.back();
      add(Kind::sign, at_, at_ + 1);
      ++at_;
    }
  }

  void string(char quote) {
    std::size_t begin = ++at_;
    bool is_plain = true;
    while (at_ < bytes_.size() && bytes_[at_] != quote && bytes_[at_] != '\n') {
      if (bytes_[at_] == '\\') is_plain = false, ++at_;
      ++at_;
    }
    at_ = std::min(at_, bytes_.size());
    add(is_plain ? Kind::string : Kind::other, begin, at_);
    if (peek() == quote) ++at_;
  }

  // Up to the next hole, or the end.
  void template_text() {
    std::size_t begin = at_;
    bool is_plain = true;
    while (at_ < bytes_.size() && bytes_[at_] != '`' && !(bytes_[at_] == '$' && peek(1) == '{')) {
      if (bytes_[at_] == '\\') is_plain = false, ++at_;
      ++at_;
    }
    at_ = std::min(at_, bytes_.size());
    add(is_plain ? Kind::chunk : Kind::other, begin, at_);
    if (peek() == '`') {
      add(Kind::template_end, at_, at_ + 1);
      ++at_;
    } else if (peek() == '$') {
      add(Kind::hole_begin, at_, at_ + 2);
      at_ += 2;
      holes_.push_back(0);
    }
  }

  bool ends_operand() const {
    if (out_.empty()) return false;
    const ScriptToken& last = out_.back();
    if (last.kind == Kind::name) return !begins_expression(bytes_.substr(last.span.begin, last.span.size()));
    if (last.kind != Kind::sign) return last.kind != Kind::hole_begin;
    char sign = bytes_[last.span.begin];
    return sign == ')' || sign == ']' || sign == '}';
  }

  // False where none ends on this line.
  bool regular_expression() {
    bool in_class = false;
    for (std::size_t at = at_ + 1; at < bytes_.size() && bytes_[at] != '\n'; ++at) {
      char c = bytes_[at];
      if (c == '\\') {
        ++at;
      } else if (c == '[' || c == ']') {
        in_class = c == '[';
      } else if (c == '/' && !in_class) {
        add(Kind::other, at_, at + 1);
        at_ = at + 1;
        return true;
      }
    }
    return false;
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
  bool new_line_ = false;
  std::vector<std::size_t> holes_;  // of each open hole of a template, how many braces are open in it
  std::vector<ScriptToken> out_;
};

}  // namespace

std::vector<ScriptToken> script_tokens(std::string_view bytes) {
  return Lexer(bytes).run();
}

}  // namespace yc::modules
