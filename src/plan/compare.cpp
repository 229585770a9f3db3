#include "plan/compare.h"

#include <algorithm>
#include <functional>
#include <map>
#include <numeric>
#include <set>
#include <unordered_set>

#include "plan/newly_missing.h"
#include "plan/planned_names.h"

namespace yc {

namespace {

// Which references count in the set of their construct. Search roots count through what is found in them, and
// file patterns that feed a list through the constructs that use the list.
bool counts(const Reference& reference) {
  return reference.role != Role::include && reference.role != Role::search_root && !reference.feeds_list;
}

// Numbers for names, so that sets of them are quick to compare.
class Interner {
 public:
  std::int32_t operator()(std::string name) {
    return numbers_.try_emplace(std::move(name), static_cast<std::int32_t>(numbers_.size())).first->second;
  }

 private:
  std::unordered_map<std::string, std::int32_t> numbers_;
};

class NumberSet {
 public:
  void insert(std::int32_t number) { numbers_.push_back(number), sorted_ = false; }
  void insert_all(const NumberSet& other) {
    numbers_.insert(numbers_.end(), other.numbers_.begin(), other.numbers_.end());
    sorted_ = false;
  }
  bool empty() const { return numbers_.empty(); }
  bool contains(std::int32_t number) const {
    if (!sorted_) std::sort(numbers_.begin(), numbers_.end());
    sorted_ = true;
    return std::binary_search(numbers_.begin(), numbers_.end(), number);
  }

 private:
  mutable std::vector<std::int32_t> numbers_;
  mutable bool sorted_ = false;
};

struct Group {
  std::vector<std::int32_t> references;
  NumberSet targets;
  bool folder_missing = false;
};

class Comparison {
 public:
  Comparison(const TreeReader& tree, const ReferenceGraph& before, const ReferenceGraph& after,
             const MoveSet& moves, const EditMap& edits, bool moved_already)
      : old_(before),
        new_(after),
        moves_(moves),
        edits_(edits),
        moved_already_(moved_already),
        image_(tree, before, moves, edits),
        names_(after, moves, edits) {}

  std::vector<Mismatch> run() {
    group();
    compare_groups();
    if (!moved_already_) {
      std::vector<Mismatch> missing = newly_missing(old_, new_, image_, names_, moves_);
      out_.insert(out_.end(), missing.begin(), missing.end());
    }
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
        new_includes_[names_.key(reference)].push_back(&reference);
        continue;
      }
      if (reference.role == Role::search_root) {
        for (const Target& target : reference.targets)
          new_roots_.insert(names_.key(reference) + names_.target(target));
      }
      if (!counts(reference)) continue;
      Group& group = new_groups_[names_.key(reference)];
      group.references.push_back(static_cast<std::int32_t>(i));
      group.folder_missing = group.folder_missing || (reference.role == Role::product && reference.dangling);
      bool settled = is_settled(new_, reference);
      auto stays = [&](const RelPath& path) { return moves_.unmap_file(path) == path; };
      for (std::size_t at : settled ? moved_among(reference, stays) : all_of(reference))
        group.targets.insert(number_(names_.target(reference.targets[at])));
    }
    images_.resize(old_.references.size());
    for (std::size_t i = 0; i < old_.references.size(); ++i) {
      const Reference& reference = old_.references[i];
      if (!counts(reference)) continue;
      Group& group = old_groups_[image_.key(reference)];
      group.references.push_back(static_cast<std::int32_t>(i));
      group.folder_missing = group.folder_missing || (reference.role == Role::product && reference.dangling);
      bool settled = is_settled(old_, reference);
      images_[i].assign(reference.targets.size(), kSettled);
      auto stays = [&](const RelPath& path) { return !moves_.moves(path); };
      for (std::size_t at : settled ? moved_among(reference, stays) : all_of(reference)) {
        std::int32_t image = image_of(reference.targets[at]);
        if (image != kNone) group.targets.insert(image);
        images_[i][at] = image;
      }
    }
  }

  static std::vector<std::size_t> all_of(const Reference& reference) {
    std::vector<std::size_t> out(reference.targets.size());
    std::iota(out.begin(), out.end(), std::size_t{0});
    return out;
  }
  // Which targets do not stay where they are. Targets are sorted: where few files move, those are looked for.
  std::vector<std::size_t> moved_among(const Reference& reference,
                                       const std::function<bool(const RelPath&)>& stays) const {
    std::vector<std::size_t> out;
    const std::vector<Target>& targets = reference.targets;
    std::size_t moved = moves_.files().size() + moves_.merged().size();
    if (moved * 32 > targets.size()) {
      for (std::size_t i = 0; i < targets.size(); ++i) {
        if (!stays(targets[i].path)) out.push_back(i);
      }
      return out;
    }
    for (const std::vector<Move>* moves : {&moves_.files(), &moves_.merged()}) {
      for (const Move& move : *moves) {
        for (const RelPath* path : {&move.from, &move.to}) {
          auto at = std::lower_bound(targets.begin(), targets.end(), Target{Target::Kind::tree, *path, {}});
          for (; at != targets.end() && at->path == *path; ++at) {
            if (!stays(at->path)) out.push_back(static_cast<std::size_t>(at - targets.begin()));
          }
        }
      }
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
  }

  // A pattern that takes all of a folder, as settings of compilers do, and that nothing touches: of thousands
  // of files, those that stay are still taken.
  bool is_settled(const ReferenceGraph& graph, const Reference& reference) const {
    if (!reference.is_deep() || !reference.may_gain || reference.excludes || moved_already_) return false;
    bool touched =
        std::any_of(reference.text.pieces().begin(), reference.text.pieces().end(), [&](const Piece& piece) {
          if (!piece.has_origin()) return true;
          const RelPath& path = graph.files.path(piece.file);
          return edits_.contains(path) || moves_.moves(path) || moves_.unmap_file(path) != path;
        });
    auto base = &graph == &old_ ? image_.of_base(reference.base) : std::optional(reference.base.folder);
    return !touched && base == std::optional(reference.base.folder);
  }

  std::int32_t image_of(const Target& target) {
    auto name = image_.target(target);
    return name ? number_(std::move(*name)) : kNone;
  }

  // "rm -f src/*.o": what is made in a folder whose files go to several others is not there any more.
  bool is_left_to_itself(const Target& target) const {
    return target.kind == Target::Kind::output && has_wildcard(target.path.name()) &&
           !moves_.map_folder(target.path.parent());
  }

  void compare_groups() {
    const Group nothing;
    collect_own_additions();
    for (const auto& [key, before] : old_groups_) {
      auto at = new_groups_.find(key);
      const Group& after = at == new_groups_.end() ? nothing : at->second;
      auto twin = twins_.find(key);
      for (std::int32_t index : before.references) {
        const Reference& reference = old_.references[static_cast<std::size_t>(index)];
        for (std::size_t i = 0; i < reference.targets.size(); ++i) {
          const Target& target = reference.targets[i];
          std::int32_t image = images_[static_cast<std::size_t>(index)][i];
          if (image == kSettled) continue;
          if (image != kNone && (after.targets.contains(image) || is_done_for_instance(reference, image)))
            continue;
          if (image != kNone && twin != twins_.end() && twin->second.contains(image)) continue;
          // Found through the name of what is made from it: it is enough that this is still made from it.
          bool through_product = reference.derivation && target.kind == Target::Kind::tree;
          auto name = through_product ? image_.target(target) : std::nullopt;
          if (name && after.targets.contains(number_("m" + name->substr(1)))) continue;
          // Or that a rule of its own names it, which the plan wrote for the product.
          if (name && own_targets_[reference.format].contains(number_(*name))) continue;
          if (leads_from_start(reference, target) || goes_deeper(reference, target, after)) continue;
          if (is_left_to_itself(target)) continue;
          out_.push_back({Mismatch::Kind::lost, index, -1, target, {}});
        }
      }
      report_gains(before, after);
      report_doubles(before, after);
      report_missing_folders(before, after);
    }
    for (const auto& [key, after] : new_groups_) {
      if (old_groups_.contains(key) || after.targets.empty()) continue;
      const Reference& first = new_.references[static_cast<std::size_t>(after.references.front())];
      if (!names_.is_own(first)) {
        report_gains(nothing, after);
      } else if (auto home = old_groups_.find(names_.home_key(first)); home != old_groups_.end()) {
        report_gains(home->second, after);
      }
    }
  }

  // A path in a string is opened from where the program is started, and not from where the string stands: it
  // may still be right in a file that went elsewhere.
  bool leads_from_start(const Reference& reference, const Target& target) const {
    bool is_literal = reference.certainty == Certainty::likely && reference.base.anchor == kNoFile &&
                      reference.construct_part == ConstructPart::of(reference.base.folder) &&
                      reference.text.pieces().size() == 1 && target.kind == Target::Kind::tree;
    if (!is_literal) return false;
    const Piece& piece = reference.text.pieces().front();
    auto edits = edits_.find(old_.files.path(piece.file));
    bool edited =
        edits != edits_.end() && std::any_of(edits->second.items().begin(), edits->second.items().end(),
                                             [&](const auto& item) { return item.span == piece.span; });
    auto base = image_.of_base(reference.base);
    auto image = image_.of(target.path);
    return !edited && base && image && place_of(*base, piece.text) == Place{Space::tree, *image};
  }

  // "*" given to a command takes all there is: what goes into a folder is taken with that folder.
  bool goes_deeper(const Reference& reference, const Target& target, const Group& after) {
    auto image = takes_all_there_is(reference) ? image_.of(target.path) : std::nullopt;
    if (!image || target.kind != Target::Kind::tree) return false;
    for (RelPath up = image->parent(); !up.is_root(); up = up.parent()) {
      if (after.targets.contains(number_("t:" + up.str()))) return true;
    }
    return false;
  }

  // What constructs lead to that stand in text which the plan itself wrote.
  void collect_own_additions() {
    for (const auto& [key, group] : new_groups_) {
      const Reference& first = new_.references[static_cast<std::size_t>(group.references.front())];
      if (!names_.is_own(first)) continue;
      if (!old_groups_.contains(key)) own_targets_[first.format].insert_all(group.targets);
      twins_[names_.home_key(first)].insert_all(group.targets);
    }
  }

  // What a rule for many did for one source, a rule that the plan wrote for that source may do instead; not
  // one for another build system.
  bool is_done_for_instance(const Reference& reference, std::int32_t target) {
    const auto& instance = reference.construct_part.path;
    const NumberSet& own = own_targets_[reference.format];
    return instance && own.contains(target) && own.contains(number_("t:" + moves_.map_file(*instance).str()));
  }

  void report_missing_folders(const Group& before, const Group& after) {
    if (!after.folder_missing || before.folder_missing) return;
    for (std::int32_t index : after.references) {
      const Reference& reference = new_.references[static_cast<std::size_t>(index)];
      if (reference.role != Role::product || !reference.dangling) continue;
      out_.push_back({Mismatch::Kind::folder_missing, before.references.front(), index, {}, {}});
    }
  }

  // Whether what leads to a path of the planned tree does so because somebody mended it.
  bool is_mended(const RelPath& now) const {
    if (!moved_already_) return false;
    return moves_.unmap_file(now) != now ||
           std::any_of(moves_.folders().begin(), moves_.folders().end(), [&](const auto& folder) {
             return folder.second && *folder.second == now && folder.first != now;
           });
  }
  // The same for what stands in a file that moved.
  bool stands_in_moved(const ReferenceGraph& graph, const Reference& reference) const {
    if (!moved_already_ || reference.construct.empty() || reference.construct.back().file == kNoFile)
      return false;
    const RelPath& path = graph.files.path(reference.construct.back().file);
    return &graph == &old_ ? moves_.moves(path) : moves_.unmap_file(path) != path;
  }

  // A set has no doubles, but a linker that is given an object twice complains.
  void report_doubles(const Group& before, const Group& after) {
    std::map<std::int32_t, std::vector<std::int32_t>> namers;  // of each target
    bool any = false;
    for (std::int32_t index : after.references) {
      const Reference& reference = new_.references[static_cast<std::size_t>(index)];
      bool is_word = reference.role == Role::source || reference.role == Role::argument ||
                     reference.role == Role::listed || reference.role == Role::product;
      if (!is_word || reference.is_pattern()) continue;
      any = any || names_.is_put_in(reference);
      for (const Target& target : reference.targets) namers[number_(names_.target(target))].push_back(index);
    }
    if (!any) return;
    for (const auto& [target, indices] : namers) {
      std::size_t old_count = 0;
      for (std::int32_t index : before.references) {
        const auto& images = images_[static_cast<std::size_t>(index)];
        old_count += static_cast<std::size_t>(std::count(images.begin(), images.end(), target));
      }
      if (indices.size() < 2 || indices.size() <= old_count) continue;
      // The most direct one is the one that is not needed.
      const std::int32_t* worst = nullptr;
      auto detours = [&](std::int32_t index) {
        std::size_t count = 0;
        for (const Piece& piece : new_.references[static_cast<std::size_t>(index)].text.pieces())
          count += piece.via.size();
        return count;
      };
      for (const std::int32_t& index : indices) {
        if (!names_.is_put_in(new_.references[static_cast<std::size_t>(index)])) continue;
        if (!worst || detours(index) < detours(*worst)) worst = &index;
      }
      if (!worst) continue;
      const Target& named = new_.references[static_cast<std::size_t>(*worst)].targets.front();
      out_.push_back({Mismatch::Kind::doubled, before.references.front(), *worst, named, named.path});
    }
  }

  void report_gains(const Group& before, const Group& after) {
    for (std::int32_t index : after.references) {
      const Reference& reference = new_.references[static_cast<std::size_t>(index)];
      if (reference.may_gain) continue;
      for (const Target& target : reference.targets) {
        if (target.kind == Target::Kind::output || before.targets.contains(number_(names_.target(target))))
          continue;
        if (is_mended(target.path) || stands_in_moved(new_, reference)) continue;
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
        if (was_left(reference, target.path)) continue;
        out_.push_back({Mismatch::Kind::lost, static_cast<std::int32_t>(i), -1, target, {}});
      }
    }
  }

  // Whether all that a construct found in one of its search roots went elsewhere: how it is found there is
  // seen by where it leads.
  bool was_left(const Reference& root, const RelPath& folder) const {
    auto group = old_groups_.find(image_.key(root));
    if (group == old_groups_.end()) return false;
    bool any = false;
    for (std::int32_t index : group->second.references) {
      const Reference& found = old_.references[static_cast<std::size_t>(index)];
      if (found.base.anchor != kNoFile || found.base.folder != folder || found.targets.size() != 1) continue;
      auto image = image_.of(found.targets[0].path), home = image_.of(folder);
      if (!image || !home || image->is_within(*home)) return false;
      any = true;
    }
    return any;
  }

  // Each source is compiled in a context of the same unit as before, wherever among the others that stands.
  void pair_contexts() {
    pairs_[kNoContext].insert(kNoContext);
    std::map<RelPath, std::vector<const Compilation*>> before, after;
    for (const Compilation& item : old_.compilations) before[moves_.map_file(item.source)].push_back(&item);
    for (const Compilation& item : new_.compilations) after[item.source].push_back(&item);
    for (auto& [source, all] : before) {
      std::vector<const Compilation*>& now = after[source];
      if (now.size() != all.size() && !is_mended(source)) {
        out_.push_back(
            {Mismatch::Kind::compiled, -1, -1, {Target::Kind::tree, moves_.unmap_file(source), {}}, source});
      }
      pair_by_unit(all, now);
    }
    for (const auto& [source, all] : after) {
      if (!all.empty() && !before.contains(source) && !is_mended(source)) {
        out_.push_back(
            {Mismatch::Kind::compiled, -1, -1, {Target::Kind::tree, moves_.unmap_file(source), {}}, source});
      }
    }
  }

  // The numbers of the units' names; equal in both graphs for the same unit.
  const std::vector<std::int32_t>& old_units() {
    if (old_units_.empty()) {
      for (const Unit& unit : old_.units)
        old_units_.push_back(number_("u:" + unit.name + " " + image_.site(unit.site)));
    }
    return old_units_;
  }
  const std::vector<std::int32_t>& new_units() {
    if (new_units_.empty()) {
      for (const Unit& unit : new_.units)
        new_units_.push_back(number_("u:" + unit.name + " " + names_.site(unit.site)));
    }
    return new_units_;
  }
  // In its order; each with all where a unit compiles it in more or fewer contexts than before. What has no
  // partner in its own unit is paired with what is left, if that is as many.
  void pair_by_unit(const std::vector<const Compilation*>& all, const std::vector<const Compilation*>& now) {
    struct Both {
      std::vector<const Compilation*> before, after;
    };
    std::map<std::int32_t, Both> by_unit;
    auto of = [](const Compilation* one, const std::vector<std::int32_t>& units) {
      return one->unit < 0 ? kNone : units[static_cast<std::size_t>(one->unit)];
    };
    for (const Compilation* one : all) by_unit[of(one, old_units())].before.push_back(one);
    for (const Compilation* one : now) by_unit[of(one, new_units())].after.push_back(one);
    Both left;
    for (const auto& [unit, both] : by_unit) {
      if (both.before.empty() || both.after.empty()) {
        left.before.insert(left.before.end(), both.before.begin(), both.before.end());
        left.after.insert(left.after.end(), both.after.begin(), both.after.end());
        continue;
      }
      bool in_order = both.before.size() == both.after.size();
      for (std::size_t i = 0; i < both.before.size(); ++i) {
        for (std::size_t k = in_order ? i : 0; k < (in_order ? i + 1 : both.after.size()); ++k)
          pairs_[both.before[i]->context].insert(both.after[k]->context);
      }
    }
    if (left.before.size() != left.after.size()) return;
    for (std::size_t i = 0; i < left.before.size(); ++i)
      pairs_[left.before[i]->context].insert(left.after[i]->context);
  }

  void compare_includes() {
    const std::vector<const Reference*> none;
    for (std::size_t i = 0; i < old_.references.size(); ++i) {
      const Reference& reference = old_.references[i];
      if (reference.role != Role::include) continue;
      auto at = new_includes_.find(image_.key(reference));
      // Several, where a macro stands for another header in each unit.
      const std::vector<const Reference*>& now = at == new_includes_.end() ? none : at->second;
      for (const InContext& before : reference.contexts)
        compare_include(static_cast<std::int32_t>(i), reference, before, now);
    }
  }

  void compare_include(std::int32_t index, const Reference& reference, const InContext& before,
                       const std::vector<const Reference*>& now) {
    Target target{before.is_made ? Target::Kind::build : Target::Kind::tree, before.target, {}};
    RelPath image = before.is_made ? image_.of_build(before.target) : moves_.map_file(before.target);
    bool met = false;
    const std::set<ContextIndex>& contexts = pairs_[before.context];
    for (const Reference* one : now) {
      for (const InContext& after : one->contexts) {
        if (!contexts.contains(after.context)) continue;
        met = true;
        if (before.found) {
          // What is made need not follow a folder of the tree that is called like its own.
          bool stays = before.is_made && after.target == before.target;
          bool is_guess = after.context == kNoContext && is_compiled(reference);
          bool as_sure = after.doubt <= before.doubt || is_guess;
          if (after.found && as_sure && after.is_made == before.is_made && (after.target == image || stays))
            continue;
          RelPath found_now = after.is_made ? RelPath() : after.target;
          out_.push_back({Mismatch::Kind::lost, index, -1, target, found_now});
        } else if (after.found && !after.is_made && !is_known_target(reference, after.target) &&
                   !is_mended(after.target) && !stands_in_moved(old_, reference)) {
          out_.push_back({Mismatch::Kind::captured, index, -1, {}, after.target});
        }
      }
    }
    // A file that a mended script compiles again is read in a context where it was read without one.
    bool leads = std::any_of(now.begin(), now.end(),
                             [&](const Reference* one) { return leads_everywhere(*one, image); });
    if (!met && moved_already_ && before.found && leads) return;
    bool unreached = !now.empty() && before.context != kNoContext;
    if (!met && before.found)
      out_.push_back({unreached ? Mismatch::Kind::unreached : Mismatch::Kind::lost, index, -1, target, {}});
  }

  // Where a unit says where to look, no guess about others counts.
  static bool is_compiled(const Reference& reference) {
    return std::any_of(reference.contexts.begin(), reference.contexts.end(),
                       [](const InContext& in) { return in.context != kNoContext; });
  }

  static bool leads_everywhere(const Reference& reference, const RelPath& path) {
    return !reference.contexts.empty() &&
           std::all_of(reference.contexts.begin(), reference.contexts.end(),
                       [&](const InContext& in) { return in.found && in.target == path; });
  }

  // Flags may be unknown in one context and known in another: leading to the same file in both is no harm.
  bool is_known_target(const Reference& reference, const RelPath& now) const {
    return std::any_of(reference.contexts.begin(), reference.contexts.end(), [&](const InContext& other) {
      return other.found && moves_.map_file(other.target) == now;
    });
  }

  const ReferenceGraph& old_;
  const ReferenceGraph& new_;
  const MoveSet& moves_;
  const EditMap& edits_;
  const bool moved_already_;
  Image image_;
  PlannedNames names_;
  static constexpr std::int32_t kNone = -1;
  static constexpr std::int32_t kSettled = -2;  // a target that needs no looking after
  Interner number_;
  std::vector<std::vector<std::int32_t>> images_;  // of each target of each old reference that counts
  std::map<std::string, Group> old_groups_, new_groups_;
  std::unordered_map<std::string, std::vector<const Reference*>> new_includes_;
  std::unordered_set<std::string> new_roots_;
  std::map<std::uint8_t, NumberSet> own_targets_;  // by the format of the construct that the plan wrote
  std::map<std::string, NumberSet> twins_;         // by the key of the construct that they stand in for
  std::map<ContextIndex, std::set<ContextIndex>> pairs_;
  std::vector<std::int32_t> old_units_, new_units_;
  std::vector<Mismatch> out_;
};

}  // namespace

std::vector<Mismatch> compare_graphs(const TreeReader& old_tree, const ReferenceGraph& old_graph,
                                     const ReferenceGraph& new_graph, const MoveSet& moves,
                                     const EditMap& edits, bool moved_already) {
  return Comparison(old_tree, old_graph, new_graph, moves, edits, moved_already).run();
}

bool takes_all_there_is(const Reference& reference) {
  return reference.glob() && reference.glob()->looks_into_folders;
}

bool same_search_roots(const TreeReader& old_tree, const TreeReader& planned, const ReferenceGraph& old_graph,
                       const ReferenceGraph& new_graph, const MoveSet& moves, const EditMap& edits) {
  Image image(old_tree, old_graph, moves, edits);
  auto of = [&](const SearchRoot& root) {
    SearchRoot out = root;
    if (root.place.space == Space::build) out.place.path = image.of_build(root.place.path);
    if (root.place.space == Space::tree && !root.place.path.is_root())
      out.place.path = moves.map_folder(root.place.path).value_or(root.place.path);
    return out;
  };
  auto is_there = [&](const SearchRoot& root) {
    return root.place.space != Space::tree || planned.is_folder(root.place.path);
  };
  std::map<ContextIndex, std::vector<SearchRoot>> images, now;
  for (std::size_t i = 0; i < old_graph.contexts.size(); ++i) {
    for (const SearchRoot& root : old_graph.contexts[i].roots) {
      if (SearchRoot image_root = of(root); is_there(image_root))
        images[static_cast<ContextIndex>(i)].push_back(image_root);
    }
  }
  for (std::size_t i = 0; i < new_graph.contexts.size(); ++i) {
    for (const SearchRoot& root : new_graph.contexts[i].roots) {
      if (is_there(root)) now[static_cast<ContextIndex>(i)].push_back(root);
    }
  }
  std::map<RelPath, std::set<std::vector<SearchRoot>>> before, after;
  for (const Compilation& item : old_graph.compilations)
    before[moves.map_file(item.source)].insert(images[item.context]);
  for (const Compilation& item : new_graph.compilations) after[item.source].insert(now[item.context]);
  return before == after;
}

}  // namespace yc
