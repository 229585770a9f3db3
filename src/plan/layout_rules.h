// Layout rules: what folders and files are, and where such belong (docs/layout.md; TOML 1.0).
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/result.h"

namespace yc {

struct LayoutRule {
  bool of_files = false;
  std::string holds;                 // a kind: see layout_kinds.h; empty for any
  std::vector<std::string> matches;  // patterns of paths from the root; "**" stands for any folders
  std::vector<std::string> except;
  std::string to;     // a folder, with "/" at its end: anywhere below it. Else the place itself.
  std::string place;  // of the rule, for messages
};

// `name` is used in error places.
Result<std::vector<LayoutRule>> parse_layout(const std::string& text, const std::string& name);
// What the rules say, as such a file.
std::string layout_text(const std::vector<LayoutRule>& rules);

// What the wildcards of a pattern take of a path, in order; nothing if it does not match.
std::optional<std::vector<std::string>> match_layout(std::string_view pattern, const RelPath& path);
// Where a rule puts a path; nothing if it is not one of its paths, or its place would lie outside of the
// tree. The path itself for what is in its place.
std::optional<RelPath> placed_by(const LayoutRule& rule, const RelPath& path);

}  // namespace yc
