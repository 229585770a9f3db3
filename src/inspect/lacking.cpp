#include "inspect/lacking.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace yc {

namespace {

// A pattern in the tree, taken apart: the folder before the first component with a wildcard, and what
// follows.
struct Parts {
  RelPath head;
  std::string rest;
};

std::optional<Parts> parts_of_name(const Reference& pattern) {
  Place place = place_of(pattern.base.folder, pattern.text.text(), pattern.base.space);
  if (place.space != Space::tree) return std::nullopt;
  Parts out;
  for (std::string_view part : place.path.components()) {
    bool is_wild = !out.rest.empty() || has_wildcard(part) || part.find('%') != std::string_view::npos;
    if (is_wild) out.rest.append(out.rest.empty() ? "" : "/").append(part);
    if (!is_wild) out.head = out.head / part;
  }
  if (out.rest.empty() && pattern.is_deep()) out.rest = pattern.glob()->names;
  return out.rest.empty() ? std::nullopt : std::optional(out);
}

// Folders by their names.
std::map<std::string, std::set<RelPath>, std::less<>> folders_named(const TreeReader& tree) {
  std::map<std::string, std::set<RelPath>, std::less<>> out;
  for (const RelPath& path : tree.files()) {
    for (RelPath folder = path.parent(); !folder.is_root(); folder = folder.parent()) {
      if (!out[std::string(folder.name())].insert(folder).second) break;
    }
  }
  return out;
}

// A folder that is missing may be made by the build, or be there at times. Where another one is called like
// it and holds such files, it most likely went there.
void add_empty_patterns(const TreeReader& tree, const ReferenceGraph& graph, std::vector<Finding>& out) {
  std::map<std::string, std::set<RelPath>, std::less<>> folders;
  std::set<std::pair<RelPath, std::uint32_t>> seen;
  for (const Reference& reference : graph.references) {
    bool may_lack = reference.is_pattern() && !reference.is_percent() && !reference.excludes &&
                    reference.targets.empty() && reference.certainty == Certainty::certain;
    auto parts = may_lack ? parts_of_name(reference) : std::nullopt;
    if (!parts || parts->head.is_root() || tree.find(parts->head)) continue;
    Seen view = as_seen(graph, reference);
    if (!seen.emplace(view.file, view.span.begin).second) continue;
    if (folders.empty()) folders = folders_named(tree);
    Finding finding{"empty-pattern", view.file, view.span, view.has_place, "", "", true};
    finding.message =
        fmt::format("pattern {} takes nothing: there is no folder {}", view.text, parts->head.str());
    auto alike = folders.find(parts->head.name());
    for (const RelPath& folder : alike == folders.end() ? std::set<RelPath>() : alike->second) {
      if (match_paths(tree, folder, parts->rest).empty()) continue;
      finding.suggestion = folder.str();
      finding.is_note = false;
      break;
    }
    out.push_back(std::move(finding));
  }
}

bool is_guessed(const Reference& reference) {
  return reference.role == Role::include &&
         std::any_of(reference.contexts.begin(), reference.contexts.end(), [](const InContext& in) {
           return in.context == kNoContext && in.found && in.doubt > 0;
         });
}

bool is_compiled_code(const RelPath& path) {
  static const std::set<std::string_view> endings = {".c", ".cc", ".cpp", ".cxx", ".c++", ".m", ".mm"};
  return endings.contains(path.extension());
}

// Only where other sources have units: a tree without any is built by means that are not read. One note for
// each folder of the root.
void add_uncompiled(const ReferenceGraph& graph, std::vector<Finding>& out) {
  std::set<RelPath> compiled;
  for (const Compilation& item : graph.compilations) compiled.insert(item.source);
  if (compiled.empty()) return;
  struct Group {
    std::set<RelPath> sources;
    std::string include;  // of the first
  };
  std::map<std::string, Group, std::less<>> groups;
  for (const Reference& reference : graph.references) {
    if (!is_guessed(reference)) continue;
    RelPath file = as_seen(graph, reference).file;
    if (!is_compiled_code(file) || compiled.contains(file)) continue;
    Group& group = groups[file.parent().is_root() ? "" : std::string(file.components().front())];
    group.sources.insert(file);
    if (*group.sources.begin() == file) group.include = reference.text.text();
  }
  for (const auto& [folder, group] : groups) {
    std::string message = fmt::format(
        "is compiled by no unit, and no search root is known to lead to its \"{}\"", group.include);
    if (group.sources.size() > 1)
      message += fmt::format("; nor are {} more sources {}", group.sources.size() - 1,
                             folder.empty() ? "beside it" : "below " + folder);
    out.push_back({"uncompiled", *group.sources.begin(), {}, false, message, "", true});
  }
}

}  // namespace

std::vector<Finding> check_lacking(const TreeReader& tree, const ReferenceGraph& graph) {
  std::vector<Finding> out;
  add_empty_patterns(tree, graph, out);
  add_uncompiled(graph, out);
  return out;
}

}  // namespace yc
