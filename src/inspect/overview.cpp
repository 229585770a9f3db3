#include "inspect/overview.h"

#include <algorithm>
#include <map>
#include <set>

#include "inspect/file_kind.h"
#include "inspect/managed_trees.h"

namespace yc {

namespace {

constexpr std::size_t kMostHubs = 20, kFewestNamers = 3;

// What people read, and nothing need name.
bool stands_by_itself(const RelPath& path) {
  std::string_view name = path.name();
  bool is_hidden = path.str().starts_with('.') || path.str().find("/.") != std::string::npos;
  return is_hidden || kind_of_file(path) == FileKind::script || path.extension() == ".md" ||
         path.extension() == ".txt" || name.find('.') == std::string_view::npos;
}

}  // namespace

Overview overview(const TreeReader& tree, const ReferenceGraph& graph) {
  Overview out;
  std::map<RelPath, std::set<RelPath>> namers;
  std::set<RelPath> named;
  std::set<RelPath> folders;  // taken as they are
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree && target.kind != Target::Kind::made) continue;
      named.insert(target.path);
      bool is_whole = reference.role == Role::listed || reference.role == Role::argument;
      if (is_whole && tree.is_folder(target.path)) folders.insert(target.path);
      if (at.file == kNoFile || target.kind == Target::Kind::made) continue;
      const RelPath& file = graph.files.path(at.file);
      if (file != target.path && tree.is_file(target.path)) namers[target.path].insert(file);
    }
  }
  for (const auto& [path, files] : namers) {
    if (files.size() >= kFewestNamers) out.hubs.emplace_back(path, files.size());
  }
  std::stable_sort(out.hubs.begin(), out.hubs.end(),
                   [](const auto& a, const auto& b) { return a.second > b.second; });
  if (out.hubs.size() > kMostHubs) out.hubs.resize(kMostHubs);
  auto is_within_named = [&](const RelPath& path) {
    for (RelPath up = path; !up.is_root();) {
      if (folders.contains(up = up.parent())) return true;
    }
    return false;
  };
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    bool counts = entry && entry->kind == EntryKind::file && !entry->ignored && !entry->guarded;
    if (counts && !named.contains(path) && !stands_by_itself(path) && !is_within_named(path))
      out.unnamed.push_back(path);
  }
  for (const auto& [file, rows] : managed_trees(tree, graph)) {
    Overview::Managed one;
    one.file = file;
    for (const ManagedRow& row : rows) {
      one.same += row.kind == ManagedRow::Kind::same;
      one.elsewhere += row.kind == ManagedRow::Kind::elsewhere;
      one.unlisted += row.kind == ManagedRow::Kind::unlisted;
      one.missing += row.kind == ManagedRow::Kind::missing;
    }
    out.managed.push_back(one);
  }
  out.not_understood.assign(graph.unread.begin(), graph.unread.end());
  return out;
}

}  // namespace yc
