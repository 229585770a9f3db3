#include "tree/moves.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace yc {

namespace {

Error refuse(const RelPath& path, std::string message, std::string next = "") {
  return Error{Failure::usage, path.str(), std::move(message), std::move(next)};
}

struct Expansion {
  std::vector<Move> files;
  std::vector<RelPath> left_behind;
};

void expand(const TreeReader& tree, const RelPath& from, const RelPath& to, Expansion& out) {
  for (const std::string& name : tree.children(from)) {
    RelPath path = from / name;
    const Entry* entry = tree.find(path);
    if (!entry) continue;
    if (entry->ignored || entry->guarded) {
      out.left_behind.push_back(path);
    } else if (entry->kind == EntryKind::folder) {
      expand(tree, path, to / name, out);
    } else {
      out.files.push_back({path, to / name});
    }
  }
}

Status check_source(const TreeReader& tree, const Move& move) {
  const Entry* entry = tree.find(move.from);
  if (!entry) return refuse(move.from, "there is no such file or folder");
  if (move.from.is_root()) return refuse(move.from, "the root of the tree cannot be moved");
  if (entry->guarded)
    return refuse(move.from, "is protected",
                  "it belongs to version control or the configuration protects it");
  if (entry->absent)
    return refuse(move.from, "is not checked out here",
                  "check it out first (git sparse-checkout add FOLDER)");
  if (entry->ignored)
    return refuse(move.from, "is ignored by version control or is a build output", "move its source instead");
  if (entry->kind == EntryKind::folder && move.to != move.from && move.to.is_within(move.from)) {
    return refuse(move.from, fmt::format("a folder cannot be moved into itself ({})", move.to.str()));
  }
  for (std::string_view part : move.to.components()) {
    if (part == ".git" || part == ".yellow-compass")
      return refuse(move.to, "is protected", "it belongs to version control or to the records of moves");
  }
  return {};
}

}  // namespace

Result<MoveSet> MoveSet::make(const TreeReader& tree, std::vector<Move> requested) {
  MoveSet set;
  std::set<RelPath> sources;
  for (const Move& move : requested) {
    if (Status ok = check_source(tree, move); !ok) return ok.error();
    if (!sources.insert(move.from).second) return refuse(move.from, "is moved twice");
  }
  // A nested entry moves by its own line; its folder's line does not touch it.
  std::vector<Move> by_depth = requested;
  std::stable_sort(by_depth.begin(), by_depth.end(),
                   [](const Move& a, const Move& b) { return a.from.str().size() > b.from.str().size(); });
  for (const Move& move : by_depth) {
    if (Status ok = set.add(tree, move); !ok) return ok.error();
  }
  std::erase_if(set.files_, [](const Move& move) { return move.from == move.to; });
  std::erase_if(set.forward_, [](const auto& pair) { return pair.first == pair.second; });
  std::sort(set.files_.begin(), set.files_.end());
  for (const Move& move : set.files_) {
    auto [at, fresh] = set.backward_.emplace(move.to, move.from);
    if (!fresh) {
      return refuse(move.to,
                    fmt::format("two moves lead here: {} and {}", at->second.str(), move.from.str()));
    }
  }
  for (const Move& move : set.files_) {
    if (Status ok = set.check_target(tree, move); !ok) return ok.error();
  }
  set.requested_ = std::move(requested);
  set.map_folders(tree);
  return set;
}

// One line of the request: a file, or all that a folder holds.
Status MoveSet::add(const TreeReader& tree, const Move& move) {
  Expansion expansion;
  if (tree.is_folder(move.from)) {
    expand(tree, move.from, move.to, expansion);
  } else {
    expansion.files.push_back(move);
  }
  for (const RelPath& path : expansion.left_behind) {
    if (path.name() != ".git") continue;
    if (tree.find(path)->kind == EntryKind::file) {
      RelPath folder = path.parent();
      nested_.push_back({folder, folder == move.from ? move.to : move.to / folder.below(move.from)});
      continue;
    }
    return refuse(
        path.parent(), "holds a repository of its own, which would lose its files",
        "move it with version control itself (git mv for a submodule), then run yellow-compass catch-up");
  }
  std::erase_if(expansion.left_behind, [](const RelPath& path) { return path.name() == ".git"; });
  for (Move& file : expansion.files) {
    if (forward_.emplace(file.from, file.to).second) files_.push_back(std::move(file));
  }
  left_behind_.insert(left_behind_.end(), expansion.left_behind.begin(), expansion.left_behind.end());
  return {};
}

Status MoveSet::check_target(const TreeReader& tree, const Move& move) const {
  const Entry* there = tree.find(move.to);
  if (there && there->kind == EntryKind::folder) {
    return refuse(move.to, "is a folder already", "end the target with / to move into it");
  }
  if (there && !forward_.contains(move.to)) {
    return refuse(move.to, fmt::format("exists already; {} cannot take its place", move.from.str()));
  }
  for (RelPath up = move.to.parent(); !up.is_root(); up = up.parent()) {
    const Entry* entry = tree.find(up);
    if (entry && entry->kind != EntryKind::folder && !forward_.contains(up)) {
      return refuse(move.to, fmt::format("{} is a file, not a folder", up.str()));
    }
    if (entry && (entry->guarded || entry->ignored)) {
      return refuse(move.to, fmt::format("{} is protected, ignored or a build output", up.str()),
                    "choose another folder");
    }
    if (backward_.contains(up))
      return refuse(move.to, fmt::format("{} is to be a file, not a folder", up.str()));
  }
  if (there && there->guarded) return refuse(move.to, "is protected");
  return {};
}

MoveSet MoveSet::merging(const std::vector<Move>& pairs) {
  MoveSet set;
  for (const Move& pair : pairs) set.forward_.emplace(pair.from, pair.to);
  set.merged_ = pairs;
  return set;
}

void MoveSet::map_folders(const TreeReader& tree) {
  std::set<RelPath> touched;
  for (const Move& move : files_) {
    for (RelPath up = move.from.parent(); !up.is_root(); up = up.parent()) {
      if (!touched.insert(up).second) break;
    }
  }
  // Deepest first, so that a folder can ask its subfolders.
  std::vector<RelPath> order(touched.begin(), touched.end());
  std::stable_sort(order.begin(), order.end(),
                   [](const RelPath& a, const RelPath& b) { return a.str().size() > b.str().size(); });
  for (const RelPath& folder : order) {
    bool stays = false;
    bool scattered = false;
    std::optional<RelPath> common;
    // Of what a whole folder takes along, single files may be sent elsewhere by lines of their own.
    std::optional<RelPath> along = taken_along(tree, folder);
    bool is_along = false;
    for (const std::string& name : tree.children(folder)) {
      RelPath path = folder / name;
      const Entry* entry = tree.find(path);
      if (!entry || entry->ignored || name == ".git") continue;
      std::optional<RelPath> image =
          entry->kind == EntryKind::folder ? map_folder(path) : std::optional<RelPath>(map_file(path));
      bool inside = image && image->parent() == folder;
      stays = stays || inside;
      if (inside) continue;
      is_along = is_along || (along && image == *along / name);
      if (!image || image->name() != name || (common && *common != image->parent())) {
        scattered = true;
      } else {
        common = image->parent();
      }
    }
    if (scattered) common = is_along ? along : std::nullopt;
    scattered = scattered && !is_along;
    // What is only rearranged in it is still in it.
    if (scattered && !stays)
      stays = std::any_of(files_.begin(), files_.end(), [&](const Move& move) {
        return move.from.is_within(folder) && move.to.is_within(folder);
      });
    // A swap can bring other files to the emptied folder; it is still this one's content that counts.
    folders_[folder] = stays ? std::optional<RelPath>(folder) : common;
  }
  for (const Move& move : requested_) {
    if (tree.is_folder(move.from)) folders_[move.from] = move.to;
  }
}

// Where a folder goes by the nearest line that moves a folder which holds it.
std::optional<RelPath> MoveSet::taken_along(const TreeReader& tree, const RelPath& folder) const {
  const Move* nearest = nullptr;
  for (const Move& move : requested_) {
    bool holds = folder.is_within(move.from) && tree.is_folder(move.from);
    if (holds && (!nearest || nearest->from.str().size() < move.from.str().size())) nearest = &move;
  }
  if (!nearest) return std::nullopt;
  return folder == nearest->from ? nearest->to : nearest->to / folder.below(nearest->from);
}

RelPath MoveSet::map_file(const RelPath& old_file) const {
  auto at = forward_.find(old_file);
  return at == forward_.end() ? old_file : at->second;
}

RelPath MoveSet::unmap_file(const RelPath& new_file) const {
  auto at = backward_.find(new_file);
  return at == backward_.end() ? new_file : at->second;
}

std::optional<RelPath> MoveSet::map_folder(const RelPath& old_folder) const {
  auto at = folders_.find(old_folder);
  return at == folders_.end() ? std::optional<RelPath>(old_folder) : at->second;
}

}  // namespace yc
