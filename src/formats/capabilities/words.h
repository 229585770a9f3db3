// What words and names are in single languages.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <unordered_set>

#include "base/span.h"
#include "model/graph.h"

namespace yc {

// Languages whose constructs are lists of words.
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

// Languages that name files by less than their own names.
class ShortNames {
 public:
  virtual ~ShortNames() = default;
  // Adds the last words that may name a file where its own name does not, as that of its folder for an index.
  virtual void add_short_names(const RelPath& path, std::unordered_set<std::string>& out) const = 0;
};

// Languages in which modules are named by specifiers.
class Specifiers {
 public:
  virtual ~Specifiers() = default;
  // A path that leads to a module from `file`, as a specifier there ends, by the habit of those that the file
  // has already.
  virtual std::string as_specified(const ReferenceGraph& graph, FileIndex file, std::string path) const = 0;
};

}  // namespace yc
