// Languages whose constructs are lists of words.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/span.h"

namespace yc {

class ListWords {
 public:
  virtual ~ListWords() = default;
  // The word or argument, with its quotes, that holds a literal.
  virtual Span word_at(std::string_view bytes, Span literal) const = 0;
  // Text to insert at the end of a word so that `text` stands beside it as a word of its own.
  virtual std::optional<std::string> beside(std::string_view bytes, Span word,
                                            std::string_view text) const = 0;
  // What to delete so that a word disappears with the space it needs; nothing if the construct cannot lose
  // it.
  virtual std::optional<Span> without(std::string_view bytes, Span word) const = 0;
};

}  // namespace yc
