#include "formats/cmake/cmake_variables.h"

#include <algorithm>
#include <utility>

namespace yc::cmake {

void Variables::leave() {
  for (const std::string& name : set_here_.back()) {
    Bindings& all = bindings_[name];
    all.pop_back();
    if (all.empty()) bindings_.erase(name);
  }
  set_here_.pop_back();
}

const TracedText* Variables::value_of(const Bindings& bindings, std::size_t depth) {
  for (auto at = bindings.rbegin(); at != bindings.rend(); ++at) {
    if (at->depth <= depth) return at->value ? &*at->value : nullptr;
  }
  return nullptr;
}

const TracedText* Variables::find(const std::string& name) const {
  auto at = bindings_.find(name);
  return at == bindings_.end() ? nullptr : value_of(at->second, depth());
}

const TracedText* Variables::find_outside(const std::string& name) const {
  auto at = bindings_.find(name);
  return at == bindings_.end() ? nullptr : value_of(at->second, depth() - 1);
}

void Variables::put(const std::string& name, std::optional<TracedText> value, std::size_t depth) {
  Bindings& all = bindings_[name];
  auto at = std::find_if(all.begin(), all.end(), [&](const Binding& one) { return one.depth >= depth; });
  if (at != all.end() && at->depth == depth) {
    at->value = std::move(value);
    return;
  }
  all.insert(at, {depth, std::move(value)});
  set_here_[depth - 1].push_back(name);
}

void Variables::set_outside(const std::string& name, TracedText value) {
  const TracedText* here = find(name);
  put(name, here ? std::optional(*here) : std::nullopt, depth());
  put(name, std::move(value), depth() - 1);
}

TracedText& Variables::at(const std::string& name) {
  auto known = bindings_.find(name);
  bool is_here =
      known != bindings_.end() && known->second.back().depth == depth() && known->second.back().value;
  if (!is_here) {
    const TracedText* value = find(name);
    put(name, value ? *value : TracedText(), depth());
  }
  return *bindings_[name].back().value;
}

}  // namespace yc::cmake
