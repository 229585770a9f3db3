// Variables of a run in nested scopes ("Variables" in the cmake-language manual). A folder or a function that
// is entered sees all that stands outside, and what it sets is gone when it is left. Entering copies nothing.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/traced_text.h"

namespace yc::cmake {

class Variables {
 public:
  void enter() { set_here_.emplace_back(); }
  void leave();
  std::size_t depth() const { return set_here_.size(); }

  // Null if it is not set.
  const TracedText* find(const std::string& name) const;
  // As the scope outside sees it.
  const TracedText* find_outside(const std::string& name) const;
  void set(const std::string& name, TracedText value) { put(name, std::move(value), depth()); }
  void unset(const std::string& name) { put(name, std::nullopt, depth()); }
  // In the scope outside alone: here it stays what it is.
  void set_outside(const std::string& name, TracedText value);
  // To add to: the value as it is here, empty if it is not set.
  TracedText& at(const std::string& name);

 private:
  struct Binding {
    std::size_t depth;                // of the scope that set it
    std::optional<TracedText> value;  // nothing where that unset it
  };
  using Bindings = std::vector<Binding>;  // the innermost last
  static const TracedText* value_of(const Bindings& bindings, std::size_t depth);
  void put(const std::string& name, std::optional<TracedText> value, std::size_t depth);

  std::unordered_map<std::string, Bindings> bindings_;
  std::vector<std::vector<std::string>> set_here_ = {{}};  // for each scope, what it has a binding for
};

}  // namespace yc::cmake
