// Rust cut into tokens (the Rust Reference, "Lexical structure").
#pragma once

#include <cstdint>
#include <string_view>

#include "base/span.h"

namespace yc::rust {

enum class TokenKind : std::uint8_t {
  end,
  name,         // also a keyword; a raw one without its "r#"
  path_joint,   // "::"
  punctuation,  // any other single byte
  text,         // a string, of bytes too; the span lies within its quotes
  other,        // a number, a character, a lifetime
  outer_doc,    // "/// …", "/** … */": belongs to what follows
  inner_doc,    // "//! …", "/*! … */"
};

struct Token {
  TokenKind kind = TokenKind::end;
  Span span;
  std::uint32_t begin = 0;  // with quotes, marks and "r#"
  std::uint32_t end = 0;
};

// Reads one token after another. Never fails: what is not closed ends at the end.
class Tokens {
 public:
  explicit Tokens(std::string_view bytes);
  // From a place on.
  Tokens(std::string_view bytes, std::size_t at) : bytes_(bytes), at_(at) {}
  Token next();

 private:
  Token comment();
  Token name();
  Token quoted(std::size_t begin, std::size_t at);
  Token raw(std::size_t begin, std::size_t at);
  Token character(std::size_t begin, std::size_t at);
  Token make(TokenKind kind, std::size_t begin, std::size_t end);

  std::string_view bytes_;
  std::size_t at_ = 0;
};

bool is_name_byte(char c);

}  // namespace yc::rust
