#include "formats/meson/meson_tokens.h"

#include <algorithm>

namespace yc::meson {

namespace {

bool starts_word(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
}

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

class Lexer {
 public:
  explicit Lexer(std::string_view bytes) : bytes_(bytes) {}

  std::vector<Token> run() {
    while (at_ < bytes_.size()) step();
    add(Token::Kind::end, at_);
    return std::move(out_);
  }

 private:
  char peek(std::size_t ahead = 0) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }

  Token& add(Token::Kind kind, std::size_t end) {
    Token token;
    token.kind = kind;
    token.span = span_of(at_, end);
    out_.push_back(token);
    at_ = end;
    return out_.back();
  }

  void step() {
    char c = peek();
    if (c == '\n') {
      if (depth_ == 0)
        add(Token::Kind::newline, at_ + 1);
      else
        ++at_;
    } else if (c == ' ' || c == '\t' || c == '\r') {
      ++at_;
    } else if (c == '#') {
      at_ = std::min(bytes_.find('\n', at_), bytes_.size());
    } else if (c == '\\' && continues()) {
      at_ = bytes_.find('\n', at_) + 1;
    } else if (c == '\'' || (c == 'f' && peek(1) == '\'')) {
      string();
    } else if (starts_word(c)) {
      std::size_t end = at_;
      while (end < bytes_.size() && (starts_word(bytes_[end]) || is_digit(bytes_[end]))) ++end;
      add(Token::Kind::word, end);
    } else if (is_digit(c)) {
      std::size_t end = at_;
      while (end < bytes_.size() && (starts_word(bytes_[end]) || is_digit(bytes_[end]))) ++end;
      add(Token::Kind::number, end);
    } else {
      sign();
    }
  }

  // A backslash at the end of a line.
  bool continues() const {
    std::size_t end = bytes_.find_first_not_of(" \t\r", at_ + 1);
    return end != std::string_view::npos && bytes_[end] == '\n';
  }

  void string() {
    std::size_t open = at_ + (peek() == 'f' ? 1 : 0);
    bool formatted = open != at_;
    bool multiline = bytes_.substr(open, 3) == "'''";
    std::size_t begin = open + (multiline ? 3 : 1), end = begin;
    if (multiline) {
      end = bytes_.find("'''", begin);
    } else {
      while (end < bytes_.size() && bytes_[end] != '\'') end += bytes_[end] == '\\' ? 2 : 1;
      if (end >= bytes_.size()) end = std::string_view::npos;
    }
    if (end == std::string_view::npos) {
      add(Token::Kind::garbage, bytes_.size());
      return;
    }
    Token& token = add(Token::Kind::string, end + (multiline ? 3 : 1));
    token.content = span_of(begin, end);
    token.multiline = multiline;
    token.formatted = formatted;
  }

  void sign() {
    static constexpr std::string_view kDouble[] = {"==", "!=", "<=", ">=", "+="};
    for (std::string_view two : kDouble) {
      if (bytes_.substr(at_, 2) != two) continue;
      add(Token::Kind::sign, at_ + 2);
      return;
    }
    char c = peek();
    if (c == '(' || c == '[' || c == '{') ++depth_;
    if ((c == ')' || c == ']' || c == '}') && depth_ > 0) --depth_;
    bool known = std::string_view("()[]{},.:?=<>+-*/%").find(c) != std::string_view::npos;
    add(known ? Token::Kind::sign : Token::Kind::garbage, at_ + 1);
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
  int depth_ = 0;
  std::vector<Token> out_;
};

}  // namespace

std::vector<Token> tokens_of(std::string_view bytes) {
  return Lexer(bytes).run();
}

}  // namespace yc::meson
