#include "formats/rust/rust_tokens.h"

#include <algorithm>
#include <array>

namespace yc::rust {

namespace {

constexpr std::size_t kNone = std::string_view::npos;

constexpr std::array<bool, 256> name_bytes() {
  std::array<bool, 256> out{};
  for (std::size_t c = 0; c < 256; ++c)
    out[c] =
        (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c >= 0x80;
  return out;
}
constexpr std::array<bool, 256> kNameBytes = name_bytes();

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

// Behind a comment between "/*" and "*/", in which others may stand.
std::size_t behind_block(std::string_view bytes, std::size_t at) {
  std::size_t depth = 1;
  for (at += 2; depth > 0;) {
    at = bytes.find_first_of("*/", at);
    if (at == kNone || at + 1 >= bytes.size()) return bytes.size();
    std::string_view mark = bytes.substr(at, 2);
    if (mark == "/*") {
      ++depth, at += 2;
    } else if (mark == "*/") {
      --depth, at += 2;
    } else {
      ++at;
    }
  }
  return at;
}

}  // namespace

bool is_name_byte(char c) {
  return kNameBytes[static_cast<unsigned char>(c)];
}

Tokens::Tokens(std::string_view bytes) : bytes_(bytes) {
  if (bytes_.starts_with("\xEF\xBB\xBF")) at_ = 3;
  // "#!/usr/bin/…" in the first line; "#![…]" is an attribute.
  if (bytes_.substr(at_, 2) != "#!") return;
  std::size_t next = bytes_.find_first_not_of(" \t\r\n", at_ + 2);
  if (next == kNone || bytes_[next] != '[') at_ = std::min(bytes_.find('\n', at_), bytes_.size());
}

Token Tokens::make(TokenKind kind, std::size_t begin, std::size_t end) {
  at_ = end;
  Span span = span_of(begin, end);
  return {kind, span, span.begin, span.end};
}

Token Tokens::next() {
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == ' ' || c == '\n' || c == '\t' || c == '\r' || c == '\f' || c == '\v') {
      ++at_;
    } else if (c == '/' && at_ + 1 < bytes_.size() && (bytes_[at_ + 1] == '/' || bytes_[at_ + 1] == '*')) {
      Token doc = comment();
      if (doc.kind != TokenKind::end) return doc;
    } else if (is_name_byte(c)) {
      return name();
    } else if (c == '"') {
      return quoted(at_, at_ + 1);
    } else if (c == '\'') {
      return character(at_, at_ + 1);
    } else if (c == ':' && at_ + 1 < bytes_.size() && bytes_[at_ + 1] == ':') {
      return make(TokenKind::path_joint, at_, at_ + 2);
    } else {
      return make(TokenKind::punctuation, at_, at_ + 1);
    }
  }
  return make(TokenKind::end, bytes_.size(), bytes_.size());
}

// Of kind end, if it documents nothing.
Token Tokens::comment() {
  std::size_t begin = at_;
  bool is_line = bytes_[begin + 1] == '/';
  at_ = is_line ? std::min(bytes_.find('\n', begin), bytes_.size()) : behind_block(bytes_, begin);
  std::string_view text = bytes_.substr(begin, at_ - begin);
  char third = text.size() > 2 ? text[2] : '\0', fourth = text.size() > 3 ? text[3] : '\0';
  if (third == '!') return make(TokenKind::inner_doc, begin, at_);
  bool is_outer = is_line ? third == '/' && fourth != '/' : third == '*' && fourth != '*' && text.size() > 4;
  return is_outer ? make(TokenKind::outer_doc, begin, at_) : Token{};
}

Token Tokens::name() {
  std::size_t begin = at_, end = at_;
  while (end < bytes_.size() && is_name_byte(bytes_[end])) ++end;
  char next = end < bytes_.size() ? bytes_[end] : '\0';
  if (is_digit(bytes_[begin])) {
    // "1.5", but not "1..5" nor "1.max(2)".
    while (next == '.' && end + 1 < bytes_.size() && is_digit(bytes_[end + 1])) {
      for (++end; end < bytes_.size() && is_name_byte(bytes_[end]);) ++end;
      next = end < bytes_.size() ? bytes_[end] : '\0';
    }
    return make(TokenKind::other, begin, end);
  }
  if (next != '"' && next != '#' && next != '\'') return make(TokenKind::name, begin, end);
  std::string_view text = bytes_.substr(begin, end - begin);
  bool is_raw = text == "r" || text == "br" || text == "cr";
  if (next == '"' && (text == "b" || text == "c")) return quoted(begin, end + 1);
  if (next == '\'' && text == "b") return character(begin, end + 1);
  if (is_raw && next != '\'') {
    std::size_t hashes = end;
    while (hashes < bytes_.size() && bytes_[hashes] == '#') ++hashes;
    if (hashes < bytes_.size() && bytes_[hashes] == '"') return raw(begin, end);
    if (text == "r" && hashes == end + 1 && hashes < bytes_.size() && is_name_byte(bytes_[hashes])) {
      std::size_t last = hashes;
      while (last < bytes_.size() && is_name_byte(bytes_[last])) ++last;
      Token out = make(TokenKind::name, hashes, last);
      out.begin = static_cast<std::uint32_t>(begin);
      return out;
    }
  }
  return make(TokenKind::name, begin, end);
}

Token Tokens::quoted(std::size_t begin, std::size_t at) {
  std::size_t end = bytes_.find_first_of("\"\\", at);
  while (end != kNone && bytes_[end] == '\\') end = bytes_.find_first_of("\"\\", end + 2);
  if (end == kNone || end >= bytes_.size()) return make(TokenKind::text, begin, bytes_.size());
  Token out = make(TokenKind::text, begin, end + 1);
  out.span = span_of(at, end);
  return out;
}

// r"…", r#"…"#; `at` is behind the letters.
Token Tokens::raw(std::size_t begin, std::size_t at) {
  std::size_t open = bytes_.find('"', at), hashes = open - at;
  for (std::size_t end = bytes_.find('"', open + 1); end != kNone; end = bytes_.find('"', end + 1)) {
    std::string_view mark = bytes_.substr(end + 1, hashes);
    if (mark.size() < hashes || mark.find_first_not_of('#') != kNone) continue;
    Token out = make(TokenKind::text, begin, end + 1 + hashes);
    out.span = span_of(open + 1, end);
    return out;
  }
  return make(TokenKind::text, begin, bytes_.size());
}

// 'x', '\n', '\'', or the name of a lifetime, which is not closed.
Token Tokens::character(std::size_t begin, std::size_t at) {
  if (at >= bytes_.size()) return make(TokenKind::other, begin, bytes_.size());
  if (bytes_[at] == '\\') {
    std::size_t end = bytes_.find('\'', at + 2);
    return make(TokenKind::other, begin, end == kNone ? bytes_.size() : end + 1);
  }
  // One character may take several bytes.
  std::size_t end = at + 1;
  while (end < bytes_.size() && (static_cast<unsigned char>(bytes_[end]) & 0xC0U) == 0x80U) ++end;
  if (end < bytes_.size() && bytes_[end] == '\'') return make(TokenKind::other, begin, end + 1);
  end = at;
  while (end < bytes_.size() && is_name_byte(bytes_[end])) ++end;
  return make(TokenKind::other, begin, std::max(end, at));
}

}  // namespace yc::rust
