// Regular expressions (PCRE2's language, pcre2pattern(3)), matched within limits: one that could try for ever
// gives up.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc {

class Expression {
 public:
  // Nothing for a text that is no expression; then `problem`, if asked for, says why. With `multiline`, ^ and
  // $ match at each line.
  static std::optional<Expression> of(const std::string& text, bool multiline = false,
                                      std::string* problem = nullptr);
  ~Expression();
  Expression(Expression&&) noexcept;
  Expression(const Expression&) = delete;
  Expression& operator=(const Expression&) = delete;
  Expression& operator=(Expression&&) = delete;

  // The number of a named group; nothing if there is none.
  std::optional<std::size_t> group(const std::string& name) const;

  struct Match {
    enum class Kind : std::uint8_t { none, found, gave_up } kind = Kind::none;
    // Of the whole and of each group that took part; those that did not are nothing.
    std::vector<std::optional<Span>> groups;
    explicit operator bool() const { return kind == Kind::found; }
  };
  // The first match at or behind `from`.
  Match find(std::string_view text, std::size_t from = 0) const;
  // The text with each match replaced by `to`, in which \0 to \9 stand for groups; nothing if a match gave
  // up.
  std::optional<std::string> replaced(std::string_view text, std::string_view to) const;

 private:
  struct Impl;
  explicit Expression(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace yc
