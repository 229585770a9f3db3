#include "formats/rust/rust_loose.h"

#include <algorithm>

namespace yc::rust {

namespace {

class Loose {
 public:
  Loose(const ReadTree& tree, const Crates& crates, const MoveSet& moves)
      : tree_(tree), crates_(crates), moves_(moves) {
    for (const Crate& crate : crates.crates()) {
      if (crate.root.parent() != crate.settings.parent()) folders_.insert(crate.root.parent());
    }
    // A macro may declare modules there that are not known.
    for (const Module& module : crates.modules()) {
      const Crate& crate = crates.crates()[static_cast<std::size_t>(module.crate)];
      if (crates.source(module.source).facts->has_hidden_modules) unsure_.insert(crate.root.parent());
    }
    for (const Reference& reference : tree.graph.references) {
      for (const Target& target : reference.targets) {
        if (target.kind != Target::Kind::tree || !moves.moves(target.path)) continue;
        named_.insert(target.path);
        bool is_text = reference.certainty == Certainty::certain && stands_in_source(reference);
        if (is_text) included_.insert(target.path);
      }
    }
  }

  bool may_move(const Move& move) const {
    if (move.to.extension() != ".rs") return false;
    const std::vector<int>& modules = crates_.modules_of(move.from);
    if (!modules.empty())
      return std::all_of(modules.begin(), modules.end(),
                         [&](int module) { return crates_.module(module).parent >= 0; });
    if (goes_along(move)) return true;
    if (included_.contains(move.from)) return declares_nothing(move.from);
    return is_below_root(move.from) && !named_.contains(move.from) && declares_nothing(move.from);
  }

 private:
  bool stands_in_source(const Reference& reference) const {
    Standing at = standing_of(reference);
    return at.file != kNoFile && tree_.graph.files.path(at.file).extension() == ".rs";
  }

  bool is_below_root(const RelPath& path) const {
    return std::any_of(folders_.begin(), folders_.end(), [&](const RelPath& folder) {
      return path.is_within(folder) && !unsure_.contains(folder);
    });
  }

  // With the whole folder of a crate's sources, and with what a macro may declare there.
  bool goes_along(const Move& move) const {
    return std::any_of(folders_.begin(), folders_.end(), [&](const RelPath& folder) {
      auto to = moves_.map_folder(folder);
      return move.from.is_within(folder) && to && *to != folder && move.to == *to / move.from.below(folder);
    });
  }

  // No line in it looks for a file beside it.
  bool declares_nothing(const RelPath& path) const {
    auto bytes = tree_.tree.read(path);
    if (!bytes) return false;
    SourceFacts facts = scan_source(**bytes);
    return !facts.has_hidden_modules && std::all_of(facts.modules.begin(), facts.modules.end(),
                                                    [](const ModuleLine& line) { return line.inner >= 0; });
  }

  const ReadTree& tree_;
  const Crates& crates_;
  const MoveSet& moves_;
  std::set<RelPath> folders_, unsure_, named_, included_;
};

}  // namespace

std::set<RelPath> sources_that_may_move(const ReadTree& tree, const Crates& crates, const MoveSet& moves) {
  std::set<RelPath> out;
  bool any = std::any_of(moves.files().begin(), moves.files().end(),
                         [](const Move& move) { return move.from.extension() == ".rs"; });
  if (!any) return out;
  Loose loose(tree, crates, moves);
  for (const Move& move : moves.files()) {
    if (move.from.extension() == ".rs" && loose.may_move(move)) out.insert(move.from);
  }
  return out;
}

}  // namespace yc::rust
