// A place among the tokens of a source, and what stands around it.
#pragma once

#include <algorithm>
#include <string_view>
#include <vector>

#include "base/text.h"
#include "formats/rust/rust_tokens.h"

namespace yc::rust {

class Cursor {
 public:
  explicit Cursor(std::string_view bytes);

 protected:
  const Token& token(std::size_t ahead = 0) const {
    return tokens_[std::min(at_ + ahead, tokens_.size() - 1)];
  }
  TokenKind kind(std::size_t ahead = 0) const { return token(ahead).kind; }
  std::string_view text(std::size_t ahead = 0) const { return cut(bytes_, token(ahead).span); }
  bool is_name(std::size_t ahead = 0) const { return kind(ahead) == TokenKind::name; }
  bool is_mark(char c, std::size_t ahead = 0) const {
    return kind(ahead) == TokenKind::punctuation && bytes_[token(ahead).begin] == c;
  }
  bool is_joint(std::size_t ahead = 0) const { return kind(ahead) == TokenKind::path_joint; }
  // The last byte of code before.
  char before() const {
    std::size_t at = at_;
    while (at > 0 &&
           (tokens_[at - 1].kind == TokenKind::outer_doc || tokens_[at - 1].kind == TokenKind::inner_doc))
      --at;
    if (at == 0) return '\0';
    char last = bytes_[tokens_[at - 1].end - 1];
    // "..": a range, or the rest of a value.
    bool is_range = last == '.' && at > 1 && tokens_[at - 2].end == tokens_[at - 1].begin &&
                    bytes_[tokens_[at - 2].begin] == '.' && tokens_[at - 2].kind == TokenKind::punctuation;
    return is_range ? '=' : last;
  }
  // Behind the bracket that closes the one at `at`.
  std::size_t behind_group(std::size_t at) const {
    std::size_t depth = 0;
    for (; at + 1 < tokens_.size(); ++at) {
      if (tokens_[at].kind != TokenKind::punctuation) continue;
      char c = bytes_[tokens_[at].begin];
      if (c == '(' || c == '[' || c == '{') ++depth;
      if ((c == ')' || c == ']' || c == '}') && --depth == 0) return at + 1;
    }
    return at;
  }

  std::string_view bytes_;
  std::vector<Token> tokens_;
  std::size_t at_ = 0;
};

}  // namespace yc::rust
