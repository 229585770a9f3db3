// Replacements in a file's bytes, and what they do to offsets.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/span.h"

namespace yc {

// Replaces a byte range of a file (named by its path before the move) by `text`. An empty range inserts.
struct Edit {
  RelPath file;
  Span span;
  std::string text;
  // Insertions with different tags may stand at one place: pairs that put something round an expression, each
  // within the other, and words or rules side by side, in the order of their texts. Without a tag they clash.
  std::string pair = {};
  auto operator<=>(const Edit&) const = default;
};

// All edits of one file, sorted, free of overlap.
class FileEdits {
 public:
  // Adds an edit. False, and nothing is added, when it overlaps another one; the same edit twice counts once.
  bool add(Span span, const std::string& text, const std::string& pair = {});
  // Whether this very edit is there, and taking it away again.
  bool has(Span span, const std::string& text, const std::string& pair = {}) const;
  void remove(Span span, const std::string& text, const std::string& pair = {});
  bool empty() const { return edits_.empty(); }
  std::string apply(std::string_view old_bytes) const;
  // Where a construct that began at `offset` begins after the edits. Text inserted right there comes before
  // it.
  std::uint32_t map(std::uint32_t offset) const;
  // Where byte `offset` of the new text came from: the old offset, or nothing for text that an edit brought.
  std::optional<std::uint32_t> unmap(std::uint32_t offset) const;

  struct Item {
    Span span;
    std::string text;
    std::string pair;
    auto operator<=>(const Item&) const = default;
  };
  // The edit that brought byte `offset` of the new text; null for a byte that was there before.
  const Item* bringer(std::uint32_t offset) const;
  const std::vector<Item>& items() const { return edits_; }

 private:
  std::size_t behind(std::uint32_t new_offset) const;
  void put(std::vector<Item>::iterator at, Item item);

  std::vector<Item> edits_;
  // By how much the text before each edit has grown, and all of it.
  std::vector<std::int64_t> grown_ = {0};
};

// What makes one text of another, as one edit; nothing if they are equal.
std::optional<Edit> edit_between(const RelPath& file, std::string_view before, std::string_view after);

}  // namespace yc
