#include "formats/python/python_tokens.h"

#include <algorithm>
#include <string>

#include "base/char_class.h"

namespace yc::python {

namespace {

constexpr CharClass kTokenChars = CharClass::alphanumeric_and("_").and_beyond_ascii();
constexpr std::size_t kDeepestNesting = 64;  // f-strings within each other

using TokenKind = Token::Kind;

class Tokenizer {
 public:
  Tokenizer(std::string_view bytes, std::vector<Token>& out) : bytes_(bytes), out_(out) {}

  void run() {
    if (bytes_.starts_with("\xEF\xBB\xBF")) at_ = 3;
    while (at_ < bytes_.size()) step(bytes_.size());
    add(TokenKind::newline, at_, at_);
  }

 private:
  char peek(std::size_t ahead = 0) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }
  void add(TokenKind kind, std::size_t begin, std::size_t end) {
    out_.push_back({kind, span_of(begin, end)});
  }

  void step(std::size_t end) {
    char c = bytes_[at_];
    if (c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v') {
      ++at_;
    } else if (c == '\n') {
      if (nest_ == 0 && !out_.empty() && out_.back().kind != TokenKind::newline)
        add(TokenKind::newline, at_, at_ + 1);
      ++at_;
    } else if (c == '\\') {
      at_ = std::min<std::size_t>(at_ + (peek(1) == '\r' && peek(2) == '\n' ? 3 : 2), bytes_.size());
    } else if (c == '#') {
      at_ = std::min(bytes_.find('\n', at_), end);
    } else if (c == '"' || c == '\'') {
      string(at_, false, false);
    } else if ((c >= '0' && c <= '9') || (c == '.' && peek(1) >= '0' && peek(1) <= '9')) {
      number();
    } else if (kTokenChars.holds(c)) {
      name();
    } else {
      op();
    }
  }

  void name() {
    std::size_t begin = at_;
    while (at_ < bytes_.size() && kTokenChars.holds(bytes_[at_])) ++at_;
    bool quote = peek() == '"' || peek() == '\'';
    if (quote && at_ - begin <= 2) {
      bool raw = false, formatted = false, prefix = true;
      for (std::size_t i = begin; i < at_; ++i) {
        char c = static_cast<char>(bytes_[i] | 0x20);
        raw = raw || c == 'r';
        formatted = formatted || c == 'f';
        prefix = prefix && (c == 'r' || c == 'f' || c == 'b' || c == 'u');
      }
      if (prefix) {
        string(begin, raw, formatted);
        return;
      }
    }
    add(TokenKind::name, begin, at_);
  }

  void number() {
    std::size_t begin = at_;
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      bool sign = (c == '+' || c == '-') && (bytes_[at_ - 1] | 0x20) == 'e' &&
                  (bytes_.substr(begin, 2) != "0x" && bytes_.substr(begin, 2) != "0X");
      if (!kTokenChars.holds(c) && c != '.' && !sign) break;
      ++at_;
    }
    add(TokenKind::number, begin, at_);
  }

  void op() {
    static constexpr std::string_view kLong[] = {"...", "**=", "//=", ">>=", "<<=", "->", "**", "//", ">>",
                                                 "<<",  "<=",  ">=",  "==",  "!=",  ":=", "+=", "-=", "*=",
                                                 "/=",  "%=",  "&=",  "|=",  "^=",  "@=", "<>"};
    std::size_t begin = at_;
    std::size_t size = 1;
    for (std::string_view op : kLong) {
      if (bytes_.compare(at_, op.size(), op) == 0) {
        size = op.size();
        break;
      }
    }
    char c = bytes_[at_];
    if (c == '(' || c == '[' || c == '{') ++nest_;
    if ((c == ')' || c == ']' || c == '}') && nest_ > 0) --nest_;
    at_ += size;
    add(TokenKind::op, begin, at_);
  }

  // `at_` is at the first quote.
  void string(std::size_t begin, bool raw, bool formatted) {
    char quote = bytes_[at_];
    bool triple = peek(1) == quote && peek(2) == quote;
    at_ += triple ? 3 : 1;
    std::size_t slot = out_.size();
    add(TokenKind::string, begin, begin);
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == '\\') {
        // In a raw f-string a backslash does not hide a brace.
        at_ += raw && formatted && (peek(1) == '{' || peek(1) == '}') ? 1 : 2;
        if (!raw && formatted && bytes_[std::min(at_, bytes_.size()) - 1] == 'N' && peek() == '{')
          at_ = std::min(bytes_.find('}', at_), bytes_.size() - 1) + 1;
        continue;
      }
      if (c == quote && (!triple || (peek(1) == quote && peek(2) == quote))) {
        at_ += triple ? 3 : 1;
        break;
      }
      if (c == '\n' && !triple) break;
      if (formatted && c == '{') {
        if (peek(1) == '{') {
          at_ += 2;
          continue;
        }
        field(quote, triple);
        continue;
      }
      ++at_;
    }
    at_ = std::min(at_, bytes_.size());
    out_[slot].span.end = static_cast<std::uint32_t>(at_);
  }

  // {expression!r:format}
  void field(char quote, bool triple) {
    add(TokenKind::field, at_, at_ + 1);
    ++at_;
    std::size_t outer = nest_;
    nest_ = 1;
    if (++depth_ > kDeepestNesting) {
      --depth_;
      nest_ = outer;
      return;
    }
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (nest_ == 1 && c == '}') break;
      if (nest_ == 1 && c == '!' && peek(1) != '=') {
        ++at_;
        while (at_ < bytes_.size() && kTokenChars.holds(bytes_[at_])) ++at_;
        continue;
      }
      if (nest_ == 1 && c == ':') {
        ++at_;
        format(quote, triple);
        break;
      }
      if (c == '\n' && !triple) break;
      if (c == '#' && !triple) break;
      step(bytes_.size());
    }
    add(TokenKind::field_end, at_, std::min(at_ + 1, bytes_.size()));
    if (peek() == '}') ++at_;
    --depth_;
    nest_ = outer;
  }

  void format(char quote, bool triple) {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == '}' || (c == '\n' && !triple)) return;
      if (c == quote && (!triple || (peek(1) == quote && peek(2) == quote))) return;
      if (c == '{') {
        field(quote, triple);
      } else {
        ++at_;
      }
    }
  }

  std::string_view bytes_;
  std::vector<Token>& out_;
  std::size_t at_ = 0;
  std::size_t nest_ = 0;
  std::size_t depth_ = 0;
};

}  // namespace

StringShape shape_of(std::string_view bytes, const Token& token) {
  StringShape out;
  std::string_view text = bytes.substr(token.span.begin, token.span.size());
  std::size_t prefix = text.find_first_of("'\"");
  for (char c : text.substr(0, prefix)) {
    c = static_cast<char>(c | 0x20);
    out.raw = out.raw || c == 'r';
    out.bytes = out.bytes || c == 'b';
    out.formatted = out.formatted || c == 'f';
  }
  out.quote = text[prefix];
  std::size_t quotes = 1;
  out.triple = text.size() >= prefix + 6 && text.substr(prefix, 3) == std::string(3, out.quote);
  if (out.triple) quotes = 3;
  out.body.begin = token.span.begin + static_cast<std::uint32_t>(prefix + quotes);
  bool closed = text.size() >= prefix + 2 * quotes && text.back() == out.quote;
  out.body.end = std::max(out.body.begin, token.span.end - static_cast<std::uint32_t>(closed ? quotes : 0));
  return out;
}

std::vector<Token> tokenize(std::string_view bytes) {
  std::vector<Token> out;
  out.reserve(bytes.size() / 5 + 16);
  Tokenizer(bytes, out).run();
  return out;
}

}  // namespace yc::python
