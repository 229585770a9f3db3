// The expansions that a piece of text came through, outermost first. Lists share their tails, so copies cost
// nothing.
#pragma once

#include <iterator>
#include <memory>

#include "base/span.h"

namespace yc {

using FileIndex = std::int32_t;  // into the graph's table of files
inline constexpr FileIndex kNoFile = -1;

// A place where an expansion such as $(X) or ${X} was written; what it brought passed through this span.
struct Passage {
  FileIndex file = kNoFile;
  Span span;
  auto operator<=>(const Passage&) const = default;
};

class Passages {
  struct Node {
    Passage passage;
    std::shared_ptr<const Node> next;
    std::size_t size = 1;
  };

 public:
  class Iterator {
   public:
    using iterator_category = std::forward_iterator_tag;
    using value_type = Passage;
    using difference_type = std::ptrdiff_t;
    using pointer = const Passage*;
    using reference = const Passage&;
    Iterator() = default;
    explicit Iterator(const Node* node) : node_(node) {}
    const Passage& operator*() const { return node_->passage; }
    const Passage* operator->() const { return &node_->passage; }
    Iterator& operator++() {
      node_ = node_->next.get();
      return *this;
    }
    Iterator operator++(int) {
      Iterator old = *this;
      ++*this;
      return old;
    }
    bool operator==(const Iterator&) const = default;

   private:
    const Node* node_ = nullptr;
  };

  bool empty() const { return !first_; }
  // Equal for lists that are one in memory, and never null for one that is not empty.
  const void* identity() const { return first_.get(); }
  // Without the one in front; the list must not be empty.
  Passages rest() const {
    Passages out;
    out.first_ = first_->next;
    return out;
  }
  std::size_t size() const { return first_ ? first_->size : 0; }
  Iterator begin() const { return Iterator(first_.get()); }
  Iterator end() const { return {}; }
  const Passage& front() const { return first_->passage; }
  const Passage& back() const { return (*this)[size() - 1]; }
  const Passage& operator[](std::size_t index) const {
    return *std::next(begin(), static_cast<std::ptrdiff_t>(index));
  }
  // Puts the passage that encloses all others in front.
  void enclose(const Passage& passage) {
    first_ = std::make_shared<const Node>(Node{passage, first_, size() + 1});
  }

  bool operator==(const Passages& other) const {
    Iterator a = begin(), b = other.begin();
    for (; a != end() && b != other.end() && a != b; ++a, ++b) {
      if (*a != *b) return false;
    }
    return a == b;  // both at their ends, or on a shared tail
  }

 private:
  std::shared_ptr<const Node> first_;
};

}  // namespace yc
