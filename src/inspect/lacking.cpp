#include "inspect/lacking.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace yc {

namespace {

// The folder before the first component with a wildcard; nothing for one that is not in the tree.
std::optional<RelPath> head_of(const Reference& pattern) {
  Place place = place_of(pattern.base.folder, pattern.text.text(), pattern.base.space);
  if (place.space != Space::tree) return std::nullopt;
  RelPath head;
  for (std::string_view part : place.path.components()) {
    if (has_wildcard(part) || part.find('%') != std::string_view::npos) return head;
    head = head / part;
  }
  return pattern.is_deep() ? std::optional(head) : std::nullopt;
}

// Folders by their names.
std::map<std::string, std::set<RelPath>, std::less<>> folders_of(const TreeReader& tree) {
  std::map<std::string, std::set<RelPath>, std::less<>> out;
  for (const RelPath& path : tree.files()) {
    for (RelPath folder = path.parent(); !folder.is_root(); folder = folder.parent()) {
      if (!out[std::string(folder.name())].insert(folder).second) break;
    }
  }
  return out;
}

// A folder that is missing may be made by the build. Where another one is called like it, it most likely went
// there.
void add_empty_patterns(const TreeReader& tree, const ReferenceGraph& graph, std::vector<Finding>& out) {
  std::map<std::string, std::set<RelPath>, std::less<>> folders;
  std::set<std::pair<RelPath, std::uint32_t>> seen;
  for (const Reference& reference : graph.references) {
    bool may_lack = reference.is_pattern() && !reference.is_percent() && !reference.excludes &&
                    reference.targets.empty() && reference.certainty == Certainty::certain;
    auto head = may_lack ? head_of(reference) : std::nullopt;
    if (!head || head->is_root() || tree.find(*head)) continue;
    Seen view = as_seen(graph, reference);
    if (!seen.emplace(view.file, view.span.begin).second) continue;
    if (folders.empty()) folders = folders_of(tree);
    auto alike = folders.find(head->name());
    Finding finding{"empty-pattern", view.file, view.span, view.has_place, "", "", alike == folders.end()};
    finding.message = fmt::format("pattern {} takes nothing: there is no folder {}", view.text, head->str());
    if (!finding.is_note) finding.suggestion = alike->second.begin()->str();
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

// Only where other sources have units: a tree without any is built by means that are not read.
void add_uncompiled(const ReferenceGraph& graph, std::vector<Finding>& out) {
  std::set<RelPath> compiled;
  for (const Compilation& item : graph.compilations) compiled.insert(item.source);
  if (compiled.empty()) return;
  std::map<RelPath, std::vector<std::string>> guessed;
  for (const Reference& reference : graph.references) {
    if (!is_guessed(reference)) continue;
    RelPath file = as_seen(graph, reference).file;
    if (is_compiled_code(file) && !compiled.contains(file)) guessed[file].push_back(reference.text.text());
  }
  for (const auto& [file, includes] : guessed) {
    std::string message = fmt::format(
        "is compiled by no unit, and no search root is known to lead to its \"{}\"", includes.front());
    if (includes.size() > 1) message += fmt::format(" and {} more includes", includes.size() - 1);
    out.push_back({"uncompiled", file, {}, false, message, "", true});
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
