#include "plan/describe.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <tuple>

#include "formats/capabilities/spellings.h"
#include "plan/ambiguity.h"

namespace yc {

namespace {

// Whether no byte spells a reference: a tool looks for the file by itself.
bool is_implicit(const Reference& reference) {
  const std::vector<Piece>& pieces = reference.text.pieces();
  return !pieces.empty() && std::none_of(pieces.begin(), pieces.end(), [](const Piece& piece) {
    return piece.has_origin() || !piece.via.empty();
  });
}

// The folder that a reference's text is relative to after the move.
RelPath moved_base(const PlanView& view, const Reference& reference) {
  const Base& base = reference.base;
  if (base.anchor == kNoFile) return view.moves.map_folder(base.folder).value_or(base.folder);
  return view.moves.map_file(view.old.files.path(base.anchor)).ancestor(base.levels);
}

// Why a text cannot be written as the move needs it. One text may bear several references: what keeps any of
// them from following keeps the text.
std::optional<Spellings::Reason> reason_against(const PlanView& view, const Reference& reference,
                                                const RelPath& new_path) {
  if (auto reason = why_not(view.old, reference, moved_base(view, reference), new_path)) return reason;
  Standing place = standing_of(reference);
  for (const Reference& other : view.old.references) {
    if (&other == &reference || other.construct != reference.construct) continue;
    Standing at = standing_of(other);
    if (at.file != place.file || at.span != place.span) continue;
    if (auto reason = why_not(view.old, other, moved_base(view, other), new_path)) return reason;
  }
  return std::nullopt;
}

// A reference that leads nowhere, or elsewhere, and that nothing could make follow.
void describe_unfollowed(const PlanView& view, const Mismatch& mismatch, const Reference* reference,
                         Blocker& out) {
  const RelPath& old_path = mismatch.target.path;
  bool is_tree = mismatch.target.kind == Target::Kind::tree;
  std::string what = !old_path.is_root() ? old_path.str() : is_tree ? "the root" : "what a rule makes";
  RelPath new_path = view.moves.map_file(old_path);
  if (view.tree.is_folder(old_path)) new_path = view.moves.map_folder(old_path).value_or(new_path);
  std::string new_name(new_path.name());
  const Format& format = format_at(reference ? reference->format : 0);
  WritingStyle style = 0;
  for (const Piece& piece : reference ? reference->text.pieces() : std::vector<Piece>()) {
    if (piece.has_origin()) style = piece.style;
  }
  auto reason = reference ? reason_against(view, *reference, new_path) : std::nullopt;
  if (!old_path.is_root() && !format.write(new_name, style)) {
    out.reason = fmt::format("leads to {}, and {} has no way to write the name \"{}\" here", what,
                             format.name(), new_name);
    out.next = "choose a name without blanks and special characters";
  } else if (reason) {
    out.reason = fmt::format("leads to {}, and {}", what, reason->why);
    out.next = reason->next;
  } else if (reference && is_implicit(*reference)) {
    out.reason = fmt::format(
        "stands for what {} finds there by its name; no text spells it, so none can follow", format.name());
    out.next = "leave it there, or move the whole folder";
  } else if (reference && reference->role == Role::include) {
    out.reason = fmt::format("leads to {} and could not be made to follow", what);
    out.next = "move both together, or let all that compile this file search the new folder, then move again";
  } else {
    out.reason = fmt::format("leads to {} and could not be made to follow", what);
    out.next = "write the whole path here, with no variable or pattern in it, then move again";
  }
}

void describe_lost(const PlanView& view, const Mismatch& mismatch, const Reference* reference, Blocker& out) {
  const RelPath& path = mismatch.target.path;
  bool scattered =
      view.tree.is_folder(path) && mismatch.target.kind == Target::Kind::tree && !view.moves.map_folder(path);
  if (mismatch.target.kind == Target::Kind::name) {
    out.id = "renamed";
    out.reason = fmt::format("would rename {}, which is more than a move", path.str());
    out.next =
        "spell the path and the name apart in this place (for a compiler call: with -o), then move again";
  } else if (scattered) {
    out.id = "scattered";
    out.reason = fmt::format("names the folder {}, whose files would go to different places", path.str());
    out.next = "move the folder whole, or leave one file in it";
  } else {
    out.id = "lost";
    describe_unfollowed(view, mismatch, reference, out);
  }
}

// What differs in other ways.
void describe_other(const PlanView& view, const Mismatch& mismatch, Blocker& out) {
  switch (mismatch.kind) {
    case Mismatch::Kind::unreached:
      out.id = "unreached";
      out.reason = "stands in a file that its build unit would no longer compile";
      out.next = "look for the lists and patterns that name that file";
      break;
    case Mismatch::Kind::lost:
      break;
    case Mismatch::Kind::gained:
      out.id = "drift";
      out.reason = mismatch.target.kind == Target::Kind::tree || mismatch.target.kind == Target::Kind::build
                       ? fmt::format("would also take in {}, which changes what is built", mismatch.now.str())
                       : "would make something that is not made now";
      out.next = "move it to a folder that no pattern of another unit reaches";
      break;
    case Mismatch::Kind::doubled:
      out.id = "doubled";
      out.reason = fmt::format("would name {} twice", mismatch.now.str());
      out.next = "find the lists that feed this place, and take one of the two out";
      break;
    case Mismatch::Kind::folder_missing:
      out.id = "folder";
      out.reason =
          fmt::format("{} would be made in a folder that nothing makes",
                      view.now.references[static_cast<std::size_t>(mismatch.new_reference)].text.text());
      out.next = "let the rule make its folder (mkdir -p $(@D)), then move again";
      break;
    case Mismatch::Kind::compiled:
      out.id = "twice";
      out.file = mismatch.target.path;
      out.text = mismatch.target.path.str();
      out.reason = "would be compiled by more or fewer build units than it is now";
      out.next = "look for lists and patterns that take it in, or no longer do";
      break;
    case Mismatch::Kind::captured:
      out.id = "captured";
      out.reason =
          fmt::format("leads outside the tree now and would find {} after the move", mismatch.now.str());
      out.next = "give the moved file another name or folder";
      break;
  }
}

}  // namespace

Blocker describe(const PlanView& view, const Mismatch& mismatch) {
  Blocker out;
  const Reference* reference =
      mismatch.reference >= 0 ? &view.old.references[static_cast<std::size_t>(mismatch.reference)] : nullptr;
  if (reference) {
    Standing place = standing_of(*reference);
    if (place.file != kNoFile) {
      out.file = view.old.files.path(place.file);
      out.span = place.span;
    }
    out.text = reference->text.text();
  } else if (mismatch.new_reference >= 0) {
    // A construct that is not there now: it is named where the planned tree has it.
    const Reference& fresh = view.now.references[static_cast<std::size_t>(mismatch.new_reference)];
    Standing place = standing_of(fresh);
    if (place.file != kNoFile) out.file = view.moves.unmap_file(view.now.files.path(place.file));
    out.text = fresh.text.text();
  }
  if (mismatch.kind == Mismatch::Kind::lost) {
    describe_lost(view, mismatch, reference, out);
  } else {
    describe_other(view, mismatch, out);
  }
  return out;
}

void put_in_the_way(const PlanView& view, const std::vector<Mismatch>& mismatches,
                    std::vector<Blocker>& blockers) {
  // What is lost then is the shadow of the clash.
  if (std::any_of(blockers.begin(), blockers.end(),
                  [](const Blocker& item) { return item.id == "object-clash"; }))
    return;
  std::set<std::tuple<std::string, RelPath, std::uint32_t, std::string>> seen;
  // A script that is not read any more takes all it says with it.
  auto is_lost_script = [&](const Mismatch& m) {
    if (m.kind != Mismatch::Kind::lost || m.reference < 0) return false;
    Role role = view.old.references[static_cast<std::size_t>(m.reference)].role;
    return role == Role::subfolder || role == Role::script;
  };
  bool script_lost = std::any_of(mismatches.begin(), mismatches.end(), is_lost_script);
  bool any_lost = std::any_of(mismatches.begin(), mismatches.end(),
                              [](const Mismatch& m) { return m.kind == Mismatch::Kind::lost; });
  for (const Mismatch& mismatch : mismatches) {
    if (script_lost && !is_lost_script(mismatch)) continue;
    // Where something is lost, what is gained or compiled otherwise is its shadow.
    if (any_lost && (mismatch.kind == Mismatch::Kind::compiled ||
                     mismatch.kind == Mismatch::Kind::unreached || mismatch.kind == Mismatch::Kind::gained))
      continue;
    bool is_lost_root =
        mismatch.kind == Mismatch::Kind::lost && mismatch.reference >= 0 &&
        view.old.references[static_cast<std::size_t>(mismatch.reference)].role == Role::search_root;
    if (is_lost_root && !blockers.empty() && view.planned.is_folder(mismatch.target.path)) continue;
    Blocker item = describe(view, mismatch);
    if (seen.emplace(item.id, item.file, item.span.value_or(Span{}).begin, item.reason).second)
      blockers.push_back(std::move(item));
  }
  if (blockers.empty() && !mismatches.empty()) blockers.push_back(describe(view, mismatches.front()));
}

// Two sources that would be compiled to one object, and are not now.
std::map<std::string, Blocker> new_clashes(const PlanView& view) {
  std::map<std::string, Blocker> out;
  std::set<std::set<RelPath>> before;
  for (const ObjectClash& clash : view.old.clashes) before.insert(clash.sources);
  for (const ObjectClash& clash : view.now.clashes) {
    std::set<RelPath> sources;
    for (const RelPath& path : clash.sources) sources.insert(view.moves.unmap_file(path));
    bool is_old = std::any_of(before.begin(), before.end(), [&](const std::set<RelPath>& known) {
      return std::includes(known.begin(), known.end(), sources.begin(), sources.end());
    });
    if (is_old) continue;
    Blocker item;
    item.id = "object-clash";
    if (clash.site.file != kNoFile) item.file = view.moves.unmap_file(view.now.files.path(clash.site.file));
    item.reason = clash_text(clash) + ", one over the other";
    item.next = "give one of them another name, or have objects made in the folders of their sources";
    out[clash.object] = std::move(item);
  }
  return out;
}

void explain_round(const PlanView& view, std::size_t round, const Attempts& attempts,
                   const std::vector<Mismatch>& mismatches,
                   const std::function<void(const std::string&)>& tell) {
  tell(fmt::format("round {}: {} edits in force, {} differences", round, view.edits.size(),
                   mismatches.size()));
  for (const auto& [problem, attempt] : attempts.all()) {
    tell(fmt::format("  {}: way {} of {}{}", problem.str(), attempt.next + 1, attempt.ways.ready.size(),
                     attempt.active ? "" : ", given up"));
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.way().edits) {
      tell(fmt::format("    {} bytes {}-{}: \"{}\"", edit.file.str(), edit.span.begin, edit.span.end,
                       edit.text));
    }
  }
  for (const Mismatch& mismatch : mismatches) {
    Blocker item = describe(view, mismatch);
    std::string chain;
    if (mismatch.reference >= 0) {
      for (const Site& site : view.old.references[static_cast<std::size_t>(mismatch.reference)].construct) {
        if (site.file != kNoFile)
          chain += fmt::format(" {}@{}", view.old.files.path(site.file).str(), site.offset);
      }
    }
    tell(fmt::format("  {} (ref {}, by{}) in {} at byte {}: \"{}\" {}", item.id, mismatch.reference, chain,
                     item.file.str(), item.span.value_or(Span{}).begin, item.text, item.reason));
  }
}

}  // namespace yc
