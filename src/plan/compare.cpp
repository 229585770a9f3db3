#include "plan/compare.h"

#include <algorithm>
#include <map>
#include <set>

namespace yc {

std::optional<RelPath> Image::of(const RelPath& old_path) const {
  if (tree_.is_folder(old_path)) return moves_.map_folder(old_path);
  return moves_.map_file(old_path);
}

RelPath Image::of_build(const RelPath& old_path) const {
  // The build tree mirrors the source tree: what lies under the twin of a folder that moves, moves with it.
  for (RelPath up = old_path; !up.is_root(); up = up.parent()) {
    if (!tree_.is_folder(up)) continue;
    auto image = moves_.map_folder(up);
    if (image && *image != up) return *image / old_path.below(up);
    return old_path;
  }
  return old_path;
}

std::optional<RelPath> Image::of_base(const Base& base) const {
  if (base.anchor != kNoFile) {
    RelPath script = graph_.files.path(base.anchor);
    if (script.parent() == base.folder) return moves_.map_file(script).parent();
  }
  if (base.space == Space::build) return of_build(base.folder);
  return base.folder.is_root() ? std::optional<RelPath>(base.folder) : moves_.map_folder(base.folder);
}

std::string Image::site(const Site& site) const {
  if (site.file == kNoFile) return "-";
  const RelPath& old_path = graph_.files.path(site.file);
  auto edits = edits_.find(old_path);
  std::uint32_t offset = edits == edits_.end() ? site.offset : edits->second.map(site.offset);
  return moves_.map_file(old_path).str() + "@" + std::to_string(offset);
}

std::string Image::key(const Reference& reference) const {
  std::string out;
  for (const Site& step : reference.key) out += site(step) + ";";
  if (!reference.instance.is_root()) out += moves_.map_file(reference.instance).str();
  return out;
}

std::optional<std::string> Image::target(const Target& target) const {
  switch (target.kind) {
    case Target::Kind::tree: {
      auto path = of(target.path);
      return path ? std::optional("t:" + path->str()) : std::nullopt;
    }
    case Target::Kind::build: return "b:" + of_build(target.path).str();
    case Target::Kind::output: return "o:" + of_build(target.path).str();
    case Target::Kind::made:
      return "m:" + (target.path.is_root() ? site(target.site) : moves_.map_file(target.path).str());
  }
  return std::nullopt;
}

namespace {

std::string plain_site(const ReferenceGraph& graph, const Site& site) {
  if (site.file == kNoFile) return "-";
  return graph.files.path(site.file).str() + "@" + std::to_string(site.offset);
}

std::string plain_key(const ReferenceGraph& graph, const Reference& reference) {
  std::string out;
  for (const Site& step : reference.key) out += plain_site(graph, step) + ";";
  return out + reference.instance.str();
}

std::string plain_target(const ReferenceGraph& graph, const Target& target) {
  switch (target.kind) {
    case Target::Kind::tree: return "t:" + target.path.str();
    case Target::Kind::build: return "b:" + target.path.str();
    case Target::Kind::output: return "o:" + target.path.str();
    case Target::Kind::made: return "m:" + (target.path.is_root() ? plain_site(graph, target.site) : target.path.str());
  }
  return "";
}

// Which references count in the set of their construct. Search roots count through what is found in them, and file
// patterns that feed a list through the constructs that use the list.
bool counts(const Reference& reference) {
  return reference.role != Role::include && reference.role != Role::search_root && !reference.feeds_list;
}

struct Group {
  std::vector<std::int32_t> references;
  std::set<std::string> targets;
  bool folder_missing = false;
};

class Comparison {
 public:
  Comparison(const TreeReader& tree, const ReferenceGraph& before, const ReferenceGraph& after, const MoveSet& moves, const EditMap& edits)
      : tree_(tree), old_(before), new_(after), moves_(moves), edits_(edits), image_(tree, before, moves, edits) {}

  std::vector<Mismatch> run() {
    group();
    compare_groups();
    compare_roots();
    pair_contexts();
    compare_includes();
    return std::move(out_);
  }

 private:
  void group() {
    for (std::size_t i = 0; i < new_.references.size(); ++i) {
      const Reference& reference = new_.references[i];
      if (reference.role == Role::include) {
        new_includes_[plain_key(new_, reference)] = static_cast<std::int32_t>(i);
        continue;
      }
      if (reference.role == Role::search_root) {
        for (const Target& target : reference.targets) new_roots_.insert(plain_key(new_, reference) + plain_target(new_, target));
      }
      if (!counts(reference)) continue;
      Group& group = new_groups_[plain_key(new_, reference)];
      group.references.push_back(static_cast<std::int32_t>(i));
      group.folder_missing = group.folder_missing || (reference.role == Role::product && reference.dangling);
      for (const Target& target : reference.targets) group.targets.insert(plain_target(new_, target));
    }
    for (std::size_t i = 0; i < old_.references.size(); ++i) {
      const Reference& reference = old_.references[i];
      if (!counts(reference)) continue;
      Group& group = old_groups_[image_.key(reference)];
      group.references.push_back(static_cast<std::int32_t>(i));
      group.folder_missing = group.folder_missing || (reference.role == Role::product && reference.dangling);
      for (const Target& target : reference.targets) {
        if (auto name = image_.target(target)) group.targets.insert(*name);
      }
    }
  }

  void compare_groups() {
    static const Group nothing;
    for (const auto& [key, group] : new_groups_) {
      if (!old_groups_.contains(key) && is_own_addition(group)) own_targets_.insert(group.targets.begin(), group.targets.end());
    }
    for (const auto& [key, before] : old_groups_) {
      auto at = new_groups_.find(key);
      const Group& after = at == new_groups_.end() ? nothing : at->second;
      for (std::int32_t index : before.references) {
        const Reference& reference = old_.references[static_cast<std::size_t>(index)];
        for (const Target& target : reference.targets) {
          auto name = image_.target(target);
          if (name && (after.targets.contains(*name) || is_done_by_twin(reference, *name))) continue;
          // Found through the name of what is made from it: it is enough that this is still made from it.
          bool through_product = reference.derivation && target.kind == Target::Kind::tree;
          if (through_product && name && after.targets.contains("m" + name->substr(1))) continue;
          out_.push_back({Mismatch::Kind::lost, index, -1, target, {}});
        }
      }
      report_gains(before, after);
      if (after.folder_missing && !before.folder_missing) {
        for (std::int32_t index : after.references) {
          const Reference& reference = new_.references[static_cast<std::size_t>(index)];
          if (reference.role == Role::product && reference.dangling) {
            out_.push_back({Mismatch::Kind::folder_missing, before.references.front(), index, {}, {}});
          }
        }
      }
    }
    for (const auto& [key, after] : new_groups_) {
      if (old_groups_.contains(key) || after.targets.empty() || is_own_addition(after)) continue;
      static const Group none;
      report_gains(none, after);
    }
  }

  // What a rule for many did for one source, a rule that the plan wrote for that source may do instead.
  bool is_done_by_twin(const Reference& reference, const std::string& target) const {
    if (reference.instance.is_root() || !own_targets_.contains(target)) return false;
    return own_targets_.contains("t:" + moves_.map_file(reference.instance).str());
  }

  // Whether a construct stands in text that the plan itself wrote.
  bool is_own_addition(const Group& group) const {
    const SiteChain& key = new_.references[static_cast<std::size_t>(group.references.front())].key;
    for (const Site& site : key) {
      if (site.file == kNoFile) continue;
      auto edits = edits_.find(moves_.unmap_file(new_.files.path(site.file)));
      if (edits != edits_.end() && !edits->second.unmap(site.offset)) return true;
    }
    return false;
  }

  void report_gains(const Group& before, const Group& after) {
    for (std::int32_t index : after.references) {
      const Reference& reference = new_.references[static_cast<std::size_t>(index)];
      for (const Target& target : reference.targets) {
        if (target.kind == Target::Kind::output || before.targets.contains(plain_target(new_, target))) continue;
        std::int32_t bearer = before.references.empty() ? -1 : before.references.front();
        out_.push_back({Mismatch::Kind::gained, bearer, index, target, target.path});
      }
    }
  }

  // A search root must follow its folder as long as the folder is there.
  void compare_roots() {
    for (std::size_t i = 0; i < old_.references.size(); ++i) {
      const Reference& reference = old_.references[i];
      if (reference.role != Role::search_root) continue;
      for (const Target& target : reference.targets) {
        auto name = image_.target(target);
        if (!name || new_roots_.contains(image_.key(reference) + *name)) continue;
        out_.push_back({Mismatch::Kind::lost, static_cast<std::int32_t>(i), -1, target, {}});
      }
    }
  }

  void pair_contexts() {
    pairs_[kNoContext].insert(kNoContext);
    std::map<RelPath, std::vector<ContextIndex>> before, after;
    for (const Compilation& item : old_.compilations) before[moves_.map_file(item.source)].push_back(item.context);
    for (const Compilation& item : new_.compilations) after[item.source].push_back(item.context);
    for (const auto& [source, contexts] : before) {
      const std::vector<ContextIndex>& now = after[source];
      if (now.size() != contexts.size()) {
        out_.push_back({Mismatch::Kind::compiled, -1, -1, {Target::Kind::tree, moves_.unmap_file(source), {}}, source});
      }
      for (std::size_t i = 0; i < std::min(now.size(), contexts.size()); ++i) pairs_[contexts[i]].insert(now[i]);
    }
    for (const auto& [source, contexts] : after) {
      if (!contexts.empty() && !before.contains(source)) {
        out_.push_back({Mismatch::Kind::compiled, -1, -1, {Target::Kind::tree, moves_.unmap_file(source), {}}, source});
      }
    }
  }

  void compare_includes() {
    for (std::size_t i = 0; i < old_.references.size(); ++i) {
      const Reference& reference = old_.references[i];
      if (reference.role != Role::include) continue;
      auto at = new_includes_.find(image_.key(reference));
      const Reference* now = at == new_includes_.end() ? nullptr : &new_.references[static_cast<std::size_t>(at->second)];
      for (const InContext& before : reference.contexts) {
        compare_include(static_cast<std::int32_t>(i), reference, before, now);
      }
    }
  }

  void compare_include(std::int32_t index, const Reference& reference, const InContext& before, const Reference* now) {
    Target target{Target::Kind::tree, before.target, {}};
    bool met = false;
    for (ContextIndex context : pairs_[before.context]) {
      if (!now) break;
      for (const InContext& after : now->contexts) {
        if (after.context != context) continue;
        met = true;
        if (before.found) {
          if (after.found && after.target == moves_.map_file(before.target)) continue;
          out_.push_back({Mismatch::Kind::lost, index, -1, target, after.target});
        } else if (after.found && !is_known_target(reference, after.target)) {
          out_.push_back({Mismatch::Kind::captured, index, -1, {}, after.target});
        }
      }
    }
    bool unreached = now && before.context != kNoContext;
    if (!met && before.found) out_.push_back({unreached ? Mismatch::Kind::unreached : Mismatch::Kind::lost, index, -1, target, {}});
  }

  // Flags may be unknown in one context and known in another: leading to the same file in both is no harm.
  bool is_known_target(const Reference& reference, const RelPath& now) const {
    return std::any_of(reference.contexts.begin(), reference.contexts.end(), [&](const InContext& other) {
      return other.found && moves_.map_file(other.target) == now;
    });
  }

  const TreeReader& tree_;
  const ReferenceGraph& old_;
  const ReferenceGraph& new_;
  const MoveSet& moves_;
  const EditMap& edits_;
  Image image_;
  std::map<std::string, Group> old_groups_, new_groups_;
  std::unordered_map<std::string, std::int32_t> new_includes_;
  std::set<std::string> new_roots_;
  std::set<std::string> own_targets_;
  std::map<ContextIndex, std::set<ContextIndex>> pairs_;
  std::vector<Mismatch> out_;
};

}  // namespace

std::vector<Mismatch> compare_graphs(const TreeReader& old_tree, const ReferenceGraph& old_graph,
                                     const ReferenceGraph& new_graph, const MoveSet& moves, const EditMap& edits) {
  return Comparison(old_tree, old_graph, new_graph, moves, edits).run();
}

}  // namespace yc
