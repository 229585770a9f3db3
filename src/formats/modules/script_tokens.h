// The tokens of JavaScript and TypeScript, as far as expressions of paths go: ECMA-262, "Lexical Grammar".
// Comments and regular expressions are left out.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::modules {

struct ScriptToken {
  enum class Kind : std::uint8_t {
    name,            // also a keyword
    string,          // the span between its quotes
    other,           // a number, or a string with escapes
    sign,            // one character
    template_begin,  // a back quote
    chunk,           // text of a template without escapes; may be empty
    hole_begin,      // "${"
    hole_end,
    template_end,
  };
  Kind kind = Kind::sign;
  Span span;
  bool on_new_line = false;
};

std::vector<ScriptToken> script_tokens(std::string_view bytes);

// A text with its tokens, which are asked by their numbers: behind the last, none is of any kind. The text
// must outlive it.
class ScriptCode {
 public:
  explicit ScriptCode(std::string_view bytes) : bytes_(bytes), tokens_(script_tokens(bytes)) {}

  std::size_t size() const { return tokens_.size(); }
  const ScriptToken& operator[](std::size_t i) const { return tokens_[i]; }
  bool is_kind(std::size_t i, ScriptToken::Kind kind) const { return i < size() && tokens_[i].kind == kind; }
  bool is_op(std::size_t i, char sign) const {
    return is_kind(i, ScriptToken::Kind::sign) && bytes_[tokens_[i].span.begin] == sign;
  }
  // Of a name; nothing of another token.
  std::string_view text(std::size_t i) const {
    return is_kind(i, ScriptToken::Kind::name) ? bytes_.substr(tokens_[i].span.begin, tokens_[i].span.size())
                                               : std::string_view();
  }

 private:
  std::string_view bytes_;
  std::vector<ScriptToken> tokens_;
};

}  // namespace yc::modules
