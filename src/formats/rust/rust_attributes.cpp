#include "formats/rust/rust_attributes.h"

#include <algorithm>

#include "base/text.h"
#include "words/rust.h"

namespace yc::rust {

namespace {

// "[cfg(unix)]" is called "cfg".
std::string_view name_at(std::string_view attribute) {
  std::size_t begin = attribute.find('[') + 1;
  return trimmed(attribute.substr(begin, attribute.find_first_of("(=]", begin) - begin));
}

// Whether an attribute changes nothing of what a module holds, nor one that it brings under a condition.
bool is_mild(std::string_view attribute) {
  if (name_at(attribute) != "cfg_attr") return words::rust::mild_attributes().contains(name_at(attribute));
  // "[cfg_attr(loom, allow(dead_code), doc(hidden))]": what stands behind the condition.
  std::size_t depth = 0, at = attribute.find('(');
  bool is_condition = true;
  for (; at < attribute.size(); ++at) {
    char c = attribute[at];
    if (c == '(') ++depth;
    if (c == ')' && depth > 0) --depth;
    bool is_next = c == ',' && depth == 1;
    if (!is_next) continue;
    is_condition = false;
    std::string_view rest = trimmed(attribute.substr(at + 1));
    std::string_view name = trimmed(rest.substr(0, rest.find_first_of("(=,)]")));
    if (!name.empty() && !words::rust::mild_attributes().contains(name)) return false;
  }
  return !is_condition;
}

}  // namespace

std::set<std::string> attributes_above(const Crates& crates, int module) {
  std::set<std::string> out;
  auto add = [&](const Source& source, Span span) {
    std::string text(source.text(span));
    if (!is_mild(text)) out.insert(text.substr(text.find('[')));
  };
  for (int at = module; at >= 0 && crates.module(at).parent >= 0; at = crates.module(at).parent) {
    const Module& one = crates.module(at);
    const Source& above = crates.source_of(one.parent);
    for (const Span& span : above.facts->modules[static_cast<std::size_t>(one.line)].attributes)
      add(above, span);
    for (const InnerAttribute& inner : crates.source_of(at).facts->inner_attributes) {
      if (inner.scope == one.scope) add(crates.source_of(at), inner.span);
    }
  }
  return out;
}

std::vector<std::string> conditions_to_keep(const Crates& crates, int old_parent, int new_parent) {
  std::set<std::string> then = attributes_above(crates, old_parent),
                        now = attributes_above(crates, new_parent);
  std::vector<std::string> out;
  for (const std::string& attribute : then) {
    // A lint that no longer holds lets more pass.
    if (!now.contains(attribute) && name_at(attribute) == "cfg") out.push_back("#" + attribute);
  }
  return out;
}

std::string condition_gained(const Crates& crates, int old_parent, int new_parent) {
  std::set<std::string> then = attributes_above(crates, old_parent),
                        now = attributes_above(crates, new_parent);
  auto gained = std::find_if(now.begin(), now.end(),
                             [&](const std::string& attribute) { return !then.contains(attribute); });
  return gained == now.end() ? "" : *gained;
}

}  // namespace yc::rust
