#include "plan/responder.h"

#include <algorithm>
#include <set>

#include "formats/capabilities/spellings.h"

namespace yc {

// Scripts that moved, but by what the plan wrote are still started where they were.
void Responder::find_staying_bases() {
  std::map<RelPath, FileIndex> moved;  // by their new paths
  for (const Reference& reference : view_.old.references) {
    if (reference.base.anchor == kNoFile) continue;
    const RelPath& script = view_.old.files.path(reference.base.anchor);
    if (view_.moves.moves(script) && script.parent() == reference.base.folder)
      moved.emplace(view_.moves.map_file(script), reference.base.anchor);
  }
  std::set<FileIndex> stay, follow;
  for (std::size_t i = 0; i < view_.now.references.size() && !moved.empty(); ++i) {
    const Reference& reference = view_.now.references[i];
    if (reference.construct.empty() || reference.construct.back().file == kNoFile) continue;
    const RelPath& script = view_.now.files.path(reference.construct.back().file);
    auto at = moved.find(script);
    if (at == moved.end()) continue;
    if (reference.base.folder == view_.old.files.path(at->second).parent()) stay.insert(at->second);
    if (reference.base.folder == script.parent()) follow.insert(at->second);
  }
  for (FileIndex script : follow) stay.erase(script);
  rewriter_.set_staying(std::move(stay));
}

bool Responder::respond(const std::vector<Mismatch>& mismatches) {
  bool changed = false;
  find_staying_bases();
  attempts_.begin_round();
  pattern_answers_.clear();
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::gained) changed = respond_to_own_gain(mismatch) || changed;
    bool renamed = mismatch.kind == Mismatch::Kind::lost && mismatch.target.kind == Target::Kind::name;
    if (renamed)
      changed = blame_edits_of(view_.old.references[static_cast<std::size_t>(mismatch.reference)]) || changed;
  }
  if (changed) return true;
  // A script that is looked for by its name takes all it says with it, and brings all back once it is found.
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind != Mismatch::Kind::lost) continue;
    const Reference& reference = view_.old.references[static_cast<std::size_t>(mismatch.reference)];
    if (reference.role == Role::script && reference.has_own_spelling())
      changed = respond_to_lost(mismatch) || changed;
  }
  if (changed) return true;
  changed = respond_to_all_lost(mismatches);
  if (changed) anticipate(mismatches);
  // What was gained may only be the shadow of what was lost, so it is looked at once nothing else moves.
  if (changed) return true;
  std::vector<const Mismatch*> folders;
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::folder_missing) folders.push_back(&mismatch);
  }
  if (!folders.empty()) changed = respond_to_folders(folders);
  if (changed) return true;
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::doubled) changed = blame_own_edit(mismatch) || changed;
  }
  if (changed) return true;
  std::set<RelPath> gained;
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind == Mismatch::Kind::gained && gained.insert(mismatch.now).second) {
      changed = respond_to_drift(mismatch) || changed;
    }
  }
  return changed;
}

// Those that lead elsewhere first, then what is made, then what is only found less surely.
bool Responder::respond_to_all_lost(const std::vector<Mismatch>& mismatches) {
  bool changed = false;
  std::set<std::int32_t> seen;
  std::set<RelPath> answered;  // sources that a word is made to lead to in this round
  std::vector<const Mismatch*> products, doubtful;
  // It leads to the right place, only less surely than before.
  auto leads_right = [&](const Mismatch& mismatch) {
    return mismatch.target.kind == Target::Kind::tree && !mismatch.now.is_root() &&
           mismatch.now == view_.moves.map_file(mismatch.target.path);
  };
  auto answer = [&](const Mismatch& mismatch) {
    return seen.insert(mismatch.reference).second && (blame_excluders(mismatch) || respond_to_lost(mismatch));
  };
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind != Mismatch::Kind::lost) continue;
    if (mismatch.target.kind == Target::Kind::made && !mismatch.target.path.is_root()) {
      products.push_back(&mismatch);
    } else if (leads_right(mismatch)) {
      doubtful.push_back(&mismatch);
    } else if (answer(mismatch)) {
      changed = true;
      if (mismatch.target.kind == Target::Kind::tree) answered.insert(mismatch.target.path);
    }
  }
  auto is_homeless = [&](const Mismatch& product) {
    return rewriter_.homeless_product(view_.old.references[static_cast<std::size_t>(product.reference)])
        .has_value();
  };
  // What is made of a source most often comes right with the word that names the source.
  for (const Mismatch* product : products) {
    bool waits = answered.contains(product->target.path) &&
                 !attempts_.has(Problem::of_reference(product->reference)) && !is_homeless(*product);
    if (!waits) changed = answer(*product) || changed;
  }
  // A search root that follows makes an include sure again without an edit of its own.
  if (!changed) {
    for (const Mismatch* mismatch : doubtful) changed = answer(*mismatch) || changed;
  }
  return changed;
}

// Includes of a source that its unit has lost for now: those whose text leads nowhere any more will be lost
// once the unit has it again.
void Responder::anticipate(const std::vector<Mismatch>& mismatches) {
  for (const Mismatch& mismatch : mismatches) {
    if (mismatch.kind != Mismatch::Kind::unreached) continue;
    Problem problem = Problem::of_reference(mismatch.reference);
    if (attempts_.has(problem)) continue;
    bool likely =
        view_.old.references[static_cast<std::size_t>(mismatch.reference)].certainty == Certainty::likely;
    attempts_.add(problem, rewriter_.ways(mismatch.reference, mismatch.target, {}), likely);
  }
}

bool Responder::respond_to_lost(const Mismatch& mismatch) {
  const Reference& reference = view_.old.references[static_cast<std::size_t>(mismatch.reference)];
  bool likely = reference.certainty == Certainty::likely;
  bool changed = false;
  // A list that a pattern fills is mended at the pattern; what that does not mend, at the place itself.
  bool from_pattern =
      reference.role != Role::include && !reference.is_pattern() &&
      std::any_of(reference.text.pieces().begin(), reference.text.pieces().end(), [](const Piece& piece) {
        return piece.nature == Piece::Nature::literal && !piece.has_origin();
      });
  // All that a pattern found there asks the same.
  auto answered = pattern_answers_.find(mismatch.target.path);
  if (from_pattern && answered != pattern_answers_.end()) {
    if (answered->second) return true;
  } else if (from_pattern) {
    for (std::int32_t pattern : rewriter_.patterns_of(mismatch.target.path)) {
      Problem problem = Problem::of_pattern(pattern);
      const Attempt* known = attempts_.find(problem);
      changed =
          attempts_.advance(problem, false, [&] { return Ways(rewriter_.pattern_ways(pattern)); }) || changed;
      changed = changed || (known && known->active && attempts_.went_on(problem));
    }
    pattern_answers_[mismatch.target.path] = changed;
    if (changed) return true;
  }
  std::int32_t bearer = rewriter_.bearer(mismatch.reference, mismatch.target);
  Target target =
      bearer == mismatch.reference ? mismatch.target : Target{Target::Kind::tree, mismatch.target.path, {}};
  if (attempts_.advance(Problem::of_reference(bearer), likely,
                        [&] { return rewriter_.ways(bearer, target, mismatch.now); }))
    return true;
  // What no way of its own can mend was right before another reference's way changed the text of both.
  return reference.has_own_spelling() && blame_edits_of(reference);
}

// A gain because a word that takes the file out of a list must follow first, or because the plan's own text
// brings it.
bool Responder::respond_to_own_gain(const Mismatch& mismatch) {
  RelPath old_path = view_.moves.unmap_file(mismatch.now);
  bool changed = false;
  for (std::int32_t index : rewriter_.excluders_of(old_path)) {
    Target target{Target::Kind::tree, old_path, {}};
    changed = attempts_.advance(Problem::of_reference(index), false, [&] {
      return rewriter_.ways(index, target, {});
    }) || changed;
  }
  return changed || blame_own_edit(mismatch);
}

// A file that drifted into the reach of a pattern is kept out of its list.
bool Responder::respond_to_drift(const Mismatch& mismatch) {
  return attempts_.advance(Problem::of_gain(mismatch.now), false,
                           [&] { return Ways(rewriter_.exclusions(mismatch.now)); });
}

// A gain through text that the plan itself wrote is the fault of the way that wrote it; that one gives place
// to its next.
bool Responder::blame_own_edit(const Mismatch& mismatch) {
  if (mismatch.new_reference < 0) return false;
  bool changed = false;
  for (const Piece& piece :
       view_.now.references[static_cast<std::size_t>(mismatch.new_reference)].text.pieces()) {
    if (!piece.has_origin()) continue;
    RelPath file = view_.moves.unmap_file(view_.now.files.path(piece.file));
    auto edits = view_.edits.find(file);
    const FileEdits::Item* item =
        edits == view_.edits.end() ? nullptr : edits->second.bringer(piece.span.begin);
    if (!item) continue;
    changed = attempts_.blame(file, item->span) || changed;
  }
  return changed;
}

// What a list lost for good may have been taken out of it by a word that the plan respelled.
bool Responder::blame_excluders(const Mismatch& mismatch) {
  const Reference& lost = view_.old.references[static_cast<std::size_t>(mismatch.reference)];
  bool changed = false;
  for (std::size_t index : excluders_) {
    Problem problem = Problem::of_reference(static_cast<std::int32_t>(index));
    const Attempt* attempt = attempts_.find(problem);
    if (!attempt || !attempt->active) continue;
    const Reference& excluder = view_.old.references[index];
    bool is_meant = !excluder.construct.empty() && !lost.construct.empty() &&
                    excluder.construct.front().file == lost.construct.front().file && &excluder != &lost;
    if (!is_meant) continue;
    changed = attempts_.advance(problem) || changed;
  }
  return changed;
}

// A name that is lost was changed by an edit made for a path.
bool Responder::blame_edits_of(const Reference& reference) {
  bool changed = false;
  for (const Piece& piece : reference.text.pieces()) {
    if (piece.has_origin())
      changed = attempts_.blame(view_.old.files.path(piece.file), piece.span) || changed;
  }
  return changed;
}

bool Responder::respond_to_folders(const std::vector<const Mismatch*>& mismatches) {
  std::map<RelPath, std::vector<const Reference*>> by_script;
  for (const Mismatch* mismatch : mismatches) {
    const Reference& product = view_.now.references[static_cast<std::size_t>(mismatch->new_reference)];
    if (product.base.anchor != kNoFile)
      by_script[view_.now.files.path(product.base.anchor)].push_back(&product);
  }
  bool changed = false;
  for (const auto& item : by_script) {
    const RelPath& script = item.first;
    const std::vector<const Reference*>& products = item.second;
    RelPath old_script = view_.moves.unmap_file(script);
    auto bytes = view_.tree.read(old_script);
    if (!bytes) continue;
    auto make = [&] {
      const auto* makes = offer<ProductFolders>(products.front()->format);
      return makes ? makes->provide_folders(old_script, **bytes, products) : std::vector<Proposal>();
    };
    changed = attempts_.advance(Problem::of_folders(script), false, make) || changed;
  }
  return changed;
}

}  // namespace yc
