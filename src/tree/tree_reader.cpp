#include "tree/tree_reader.h"

#include <fnmatch.h>

#include <algorithm>
#include <cctype>

#include "base/name_search.h"

namespace yc {

std::optional<std::string_view> TreeReader::peek(const RelPath& path, std::string& buffer) const {
  auto bytes = read(path);
  if (!bytes) return std::nullopt;
  buffer = **bytes;
  return buffer;
}

bool TreeReader::may_hold(const RelPath& path, const NameSearch& names) const {
  auto bytes = read(path);
  return !bytes || names.finds_any(**bytes);
}

bool TreeReader::is_file(const RelPath& path) const {
  const Entry* entry = find(path);
  return entry && entry->kind != EntryKind::folder;
}

bool TreeReader::is_folder(const RelPath& path) const {
  const Entry* entry = find(path);
  return entry && entry->kind == EntryKind::folder;
}

std::vector<std::string> TreeReader::any_case(const RelPath& folder, std::string_view name) const {
  return names_->find(folder, name, [this](const RelPath& each) { return children(each); });
}

std::optional<RelPath> find_any_case(const TreeReader& tree, const RelPath& path) {
  if (tree.find(path)) return path;
  RelPath at;
  for (std::string_view part : path.components()) {
    RelPath exact = at / part;
    if (tree.find(exact)) {
      at = std::move(exact);
      continue;
    }
    std::vector<std::string> names = tree.any_case(at, part);
    if (names.size() != 1) return std::nullopt;
    at = at / names.front();
  }
  return at;
}

bool TreeReader::is_editable(const RelPath& path) const {
  const Entry* entry = find(path);
  return entry && entry->kind == EntryKind::file && !entry->ignored && !entry->guarded;
}

bool has_wildcard(std::string_view text) {
  return text.find_first_of("*?[") != std::string_view::npos;
}

bool name_matches(std::string_view pattern, std::string_view name) {
  return fnmatch(std::string(pattern).c_str(), std::string(name).c_str(), FNM_PERIOD) == 0;
}

std::vector<RelPath> match_paths(const TreeReader& tree, const RelPath& base, std::string_view pattern) {
  std::vector<RelPath> at;
  if (pattern.substr(0, kTreeMark.size()) == kTreeMark) {
    at.push_back({});
    pattern.remove_prefix(std::min(pattern.size(), kTreeMark.size() + 1));
  } else if (!pattern.empty() && pattern.front() == '/') {
    return {};
  } else {
    at.push_back(base);
  }
  while (!pattern.empty()) {
    std::size_t end = std::min(pattern.find('/'), pattern.size());
    std::string_view part = pattern.substr(0, end);
    pattern.remove_prefix(std::min(end + 1, pattern.size()));
    if (part.empty() || part == ".") continue;
    std::vector<RelPath> next;
    for (const RelPath& folder : at) {
      if (!has_wildcard(part)) {
        auto path = RelPath::resolve(folder, part);
        if (path && tree.find(*path)) next.push_back(*path);
        continue;
      }
      for (const std::string& name : tree.children(folder)) {
        if (name_matches(part, name)) next.push_back(folder / name);
      }
    }
    at = std::move(next);
    if (at.empty()) break;
  }
  std::sort(at.begin(), at.end());
  return at;
}

namespace {

// Whether names match one pattern, whatever they begin with.
class NamePattern {
 public:
  explicit NamePattern(std::string_view pattern) : pattern_(pattern) {
    is_ending_ = pattern.substr(0, 1) == "*" && pattern.find_first_of("*?[\\", 1) == std::string_view::npos;
  }
  bool matches(std::string_view name) const {
    // Almost all patterns are so.
    if (is_ending_) return name.ends_with(std::string_view(pattern_).substr(1));
    return fnmatch(pattern_.c_str(), std::string(name).c_str(), 0) == 0;
  }

 private:
  std::string pattern_;
  bool is_ending_ = false;
};

}  // namespace

std::vector<RelPath> TreeReader::files_below(const RelPath& folder, const std::string& name_pattern) const {
  std::vector<RelPath> out;
  NamePattern pattern(name_pattern);
  auto at = files().begin(), end = files().end();
  // What lies in one folder stands together, behind its name and a slash.
  if (!folder.is_root()) at = std::lower_bound(at, end, RelPath::from_normal(folder.str() + "/"));
  for (; at != end && at->is_within(folder); ++at) {
    if (pattern.matches(at->name())) out.push_back(*at);
  }
  return out;
}

bool TreeReader::has_folder_called(const std::string& name) const {
  std::call_once(folder_names_->once, [&] {
    RelPath last;
    for (const RelPath& file : files()) {
      RelPath folder = file.parent();
      if (folder == last) continue;
      for (std::string_view part : folder.components()) folder_names_->all.emplace(part);
      last = folder;
    }
  });
  return folder_names_->all.contains(name);
}

std::vector<RelPath> match_deep(const TreeReader& tree, const RelPath& base, std::string_view pattern) {
  std::size_t cut = pattern.rfind('/');
  std::string_view folder_part = cut == std::string_view::npos ? std::string_view() : pattern.substr(0, cut);
  std::string last(cut == std::string_view::npos ? pattern : pattern.substr(cut + 1));
  std::vector<RelPath> folders =
      folder_part.empty() ? std::vector<RelPath>{base} : match_paths(tree, base, folder_part);
  std::vector<RelPath> out;
  for (const RelPath& folder : folders) {
    if (!tree.is_folder(folder)) continue;
    std::vector<RelPath> found = tree.files_below(folder, last);
    std::move(found.begin(), found.end(), std::back_inserter(out));
  }
  if (!std::is_sorted(out.begin(), out.end())) std::sort(out.begin(), out.end());
  return out;
}

bool matches_any_deep(const TreeReader& tree, const RelPath& base, std::string_view pattern) {
  return !match_deep(tree, base, pattern).empty();
}

}  // namespace yc
