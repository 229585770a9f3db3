#include "inspect/folder_links.h"

#include <algorithm>
#include <set>

#include "model/reference.h"

namespace yc {

namespace {

using Pair = std::pair<RelPath, RelPath>;

std::set<Pair> pairs_of(const ReferenceGraph& graph) {
  std::set<Pair> out;
  for (const Reference& reference : graph.references) {
    Standing at = standing_of(reference);
    if (at.file == kNoFile || reference.excludes) continue;
    const RelPath& file = graph.files.path(at.file);
    for (const Target& target : reference.targets) {
      bool is_file = target.kind == Target::Kind::tree && !target.path.is_root() && target.path != file;
      if (is_file) out.emplace(file, target.path);
    }
  }
  return out;
}

// Folders by the one that stands for each.
class Groups {
 public:
  explicit Groups(std::map<RelPath, std::size_t> weights) : weights_(std::move(weights)) {}

  // The lightest goes into the folder around it, until there are few enough; what has others below it stays.
  void fold(std::size_t most) {
    std::map<RelPath, std::size_t> below;  // of each folder, groups
    auto each_above = [&](const RelPath& folder, const auto& take) {
      for (RelPath up = folder; !up.is_root();) take(up = up.parent());
    };
    for (const auto& [folder, weight] : weights_) each_above(folder, [&](const RelPath& up) { ++below[up]; });
    std::set<std::pair<std::size_t, RelPath>> leaves;
    auto offer = [&](const RelPath& folder) {
      if (!folder.is_root() && below[folder] == 0) leaves.emplace(weights_.at(folder), folder);
    };
    for (const auto& [folder, weight] : weights_) offer(folder);
    while (weights_.size() > most && !leaves.empty()) {
      auto [weight, folder] = *leaves.begin();
      leaves.erase(leaves.begin());
      RelPath outer = folder.parent();
      bool is_new = !weights_.contains(outer);
      weights_[outer] += weight;
      weights_.erase(folder);
      stands_for_[folder] = outer;
      folded_.insert(outer);
      folded_.erase(folder);
      each_above(folder, [&](const RelPath& up) { --below[up]; });
      if (is_new) each_above(outer, [&](const RelPath& up) { ++below[up]; });
      offer(outer);
    }
  }

  RelPath of(RelPath folder) const {
    for (auto at = stands_for_.find(folder); at != stands_for_.end(); at = stands_for_.find(folder))
      folder = at->second;
    return folder;
  }
  bool holds_others(const RelPath& group) const { return folded_.contains(group); }
  const std::map<RelPath, std::size_t>& all() const { return weights_; }

 private:
  std::map<RelPath, std::size_t> weights_;  // of the groups
  std::map<RelPath, RelPath> stands_for_;   // the folder around each that was folded
  std::set<RelPath> folded_;
};

}  // namespace

FolderLinks folder_links(const ReferenceGraph& graph, const MoveSet* moves, std::size_t most) {
  FolderLinks out;
  std::set<Pair> pairs = pairs_of(graph);
  out.pairs = pairs.size();
  auto image = [&](const RelPath& path) {
    if (!moves) return path;
    RelPath file = moves->map_file(path);
    auto folder = file == path ? moves->map_folder(path) : std::nullopt;
    return folder ? *folder : file;
  };
  std::map<RelPath, std::size_t> weights;
  using Counts = std::map<std::pair<RelPath, RelPath>, std::size_t>;
  Counts before, after;
  for (const auto& [file, target] : pairs) {
    auto count = [&](const RelPath& one, const RelPath& other, Counts& counts, std::size_t& crossing) {
      ++counts[{one.parent(), other.parent()}];
      ++weights[one.parent()];
      ++weights[other.parent()];
      crossing += one.parent() != other.parent();
    };
    count(file, target, before, out.crossing_before);
    count(image(file), image(target), after, out.crossing_after);
  }
  Groups groups(std::move(weights));
  groups.fold(most);
  std::map<RelPath, std::size_t> numbers;
  for (const auto& [folder, weight] : groups.all()) {
    numbers[folder] = out.folders.size();
    std::string name = folder.is_root() ? "." : folder.str();
    out.folders.push_back(name + (groups.holds_others(folder) ? "/…" : ""));
  }
  std::map<std::pair<std::size_t, std::size_t>, FolderLink> links;
  auto add = [&](const Counts& counts, std::size_t FolderLink::*side) {
    for (const auto& [ends, number] : counts) {
      std::size_t from = numbers.at(groups.of(ends.first)), to = numbers.at(groups.of(ends.second));
      FolderLink& link = links[{from, to}];
      link.from = from;
      link.to = to;
      link.*side += number;
    }
  };
  add(before, &FolderLink::before);
  add(after, &FolderLink::after);
  for (const auto& [ends, link] : links) out.links.push_back(link);
  return out;
}

}  // namespace yc
