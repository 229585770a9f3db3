// What a plan says of itself: what stands in the way, its edits, its notices.
#include "plan/planner.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <tuple>

#include "base/hash.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/spellings.h"
#include "plan/ambiguity.h"
#include "plan/unseen.h"

namespace yc {

void Planner::explain_round(const std::vector<Mismatch>& mismatches) const {
  if (!options_.explain) return;
  options_.explain(fmt::format("round {}: {} edits in force, {} differences", plan_.rounds,
                               plan_.edits.size(), mismatches.size()));
  for (const auto& [problem, attempt] : attempts_) {
    options_.explain(fmt::format("  {}: way {} of {}{}", problem, attempt.next + 1, attempt.ways.size(),
                                 attempt.active ? "" : ", given up"));
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.ways[attempt.next].edits) {
      options_.explain(fmt::format("    {} bytes {}-{}: \"{}\"", edit.file.str(), edit.span.begin,
                                   edit.span.end, edit.text));
    }
  }
  for (const Mismatch& mismatch : mismatches) {
    Blocker item = describe(mismatch);
    std::string chain;
    if (mismatch.reference >= 0) {
      for (const Site& site : old_.references[static_cast<std::size_t>(mismatch.reference)].key) {
        if (site.file != kNoFile)
          chain += fmt::format(" {}@{}", old_.files.path(site.file).str(), site.offset);
      }
    }
    options_.explain(fmt::format("  {} (ref {}, by{}) in {} at byte {}: \"{}\" {}", item.id,
                                 mismatch.reference, chain, item.file.str(), item.span.begin, item.text,
                                 item.reason));
  }
}

namespace {

// Whether no byte spells a reference: a tool looks for the file by itself.
bool is_implicit(const Reference& reference) {
  const std::vector<Piece>& pieces = reference.text.pieces();
  return !pieces.empty() && std::none_of(pieces.begin(), pieces.end(), [](const Piece& piece) {
    return piece.has_origin() || !piece.via.empty();
  });
}

}  // namespace

// The folder that a reference's text is relative to after the move.
RelPath Planner::moved_base(const Reference& reference) const {
  const Base& base = reference.base;
  if (base.anchor == kNoFile) return plan_.moves.map_folder(base.folder).value_or(base.folder);
  return plan_.moves.map_file(old_.files.path(base.anchor)).ancestor(base.levels);
}

Blocker Planner::describe(const Mismatch& mismatch) const {
  Blocker out;
  const Reference* reference =
      mismatch.reference >= 0 ? &old_.references[static_cast<std::size_t>(mismatch.reference)] : nullptr;
  if (reference) {
    Standing place = standing_of(*reference);
    if (place.file != kNoFile) {
      out.file = old_.files.path(place.file);
      out.span = place.span;
      out.has_place = true;
    }
    out.text = reference->text.text();
  } else if (mismatch.new_reference >= 0) {
    // A construct that is not there now: it is named where the planned tree has it.
    const Reference& fresh = new_.references[static_cast<std::size_t>(mismatch.new_reference)];
    Standing place = standing_of(fresh);
    if (place.file != kNoFile) out.file = plan_.moves.unmap_file(new_.files.path(place.file));
    out.text = fresh.text.text();
  }
  const std::string old_path = mismatch.target.path.str();
  switch (mismatch.kind) {
    case Mismatch::Kind::unreached:
      out.id = "unreached";
      out.reason = "stands in a file that its build unit would no longer compile";
      out.next = "look at the lists and patterns that name the file";
      break;
    case Mismatch::Kind::lost: {
      bool is_folder = tree_.is_folder(mismatch.target.path);
      bool scattered = is_folder && mismatch.target.kind == Target::Kind::tree &&
                       !plan_.moves.map_folder(mismatch.target.path);
      out.id = scattered ? "scattered" : "lost";
      if (mismatch.target.kind == Target::Kind::name) {
        out.id = "renamed";
        out.reason = fmt::format("would rename {}, which is more than a move", old_path);
        out.next =
            "spell the path and the name apart in this place (for a compiler call: with -o), then move again";
      } else if (scattered) {
        out.reason = fmt::format("names the folder {}, whose files would go to different places", old_path);
        out.next = "move the folder whole, or leave one file in it";
      } else {
        std::string what = old_path.empty() ? "what a rule makes" : old_path;
        RelPath new_path = plan_.moves.map_file(mismatch.target.path);
        if (is_folder) new_path = plan_.moves.map_folder(mismatch.target.path).value_or(new_path);
        std::string new_name(new_path.name());
        std::uint8_t format = reference ? reference->format : 0;
        WritingStyle style = 0;
        for (const Piece& piece : reference ? reference->text.pieces() : std::vector<Piece>()) {
          if (piece.has_origin()) style = piece.style;
        }
        if (!old_path.empty() && !format_at(format).write(new_name, style)) {
          out.reason = fmt::format("leads to {}, and {} has no way to write the name \"{}\" here", what,
                                   format_at(format).name(), new_name);
          out.next = "choose a name without blanks and special characters";
        } else if (auto reason = reference ? why_not(old_, *reference, moved_base(*reference), new_path)
                                           : std::nullopt) {
          out.reason = fmt::format("leads to {}, and {}", what, reason->why);
          out.next = reason->next;
        } else if (reference && is_implicit(*reference)) {
          out.reason = "is looked for by this name in this place, which nothing here spells";
          out.next = "leave it there, or move the whole folder";
        } else {
          out.reason = fmt::format("leads to {} and could not be made to follow", what);
          out.next = "edit this place so that it names the file by itself, then move again";
        }
      }
      break;
    }
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
      out.next = "look at the lists that end up in this place";
      break;
    case Mismatch::Kind::folder_missing:
      out.id = "folder";
      out.reason = fmt::format("{} would be made in a folder that nothing makes",
                               new_.references[static_cast<std::size_t>(mismatch.new_reference)].text.text());
      out.next = "let the rule make its folder (mkdir -p $(@D)), then move again";
      break;
    case Mismatch::Kind::compiled:
      out.id = "twice";
      out.file = mismatch.target.path;
      out.text = old_path;
      out.reason = "would be compiled by more or fewer build units than now";
      out.next = "look at the lists and patterns that name it";
      break;
    case Mismatch::Kind::captured:
      out.id = "captured";
      out.reason =
          fmt::format("leads outside the tree now and would find {} after the move", mismatch.now.str());
      out.next = "give the moved file another name or folder";
      break;
  }
  return out;
}

// Two sources that would be compiled to one object, and are not now.
void Planner::note_clashes() {
  std::set<std::set<RelPath>> before;
  for (const ObjectClash& clash : old_.clashes) before.insert(clash.sources);
  for (const ObjectClash& clash : new_.clashes) {
    std::set<RelPath> sources;
    for (const RelPath& path : clash.sources) sources.insert(plan_.moves.unmap_file(path));
    bool is_old = std::any_of(before.begin(), before.end(), [&](const std::set<RelPath>& known) {
      return std::includes(known.begin(), known.end(), sources.begin(), sources.end());
    });
    if (is_old) continue;
    Blocker item;
    item.id = "object-clash";
    if (clash.site.file != kNoFile) item.file = plan_.moves.unmap_file(new_.files.path(clash.site.file));
    item.reason = clash_text(clash) + ", one over the other";
    item.next = "give one of them another name, or have objects made in the folders of their sources";
    clashes_[clash.object] = std::move(item);
  }
}

void Planner::report(const std::vector<Mismatch>& mismatches) {
  // What is lost then is the shadow of the clash.
  if (std::any_of(plan_.blockers.begin(), plan_.blockers.end(),
                  [](const Blocker& item) { return item.id == "object-clash"; }))
    return;
  std::set<std::tuple<std::string, RelPath, std::uint32_t, std::string>> seen;
  // A script that is not read any more takes all it says with it.
  auto is_lost_script = [&](const Mismatch& m) {
    if (m.kind != Mismatch::Kind::lost || m.reference < 0) return false;
    Role role = old_.references[static_cast<std::size_t>(m.reference)].role;
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
        old_.references[static_cast<std::size_t>(mismatch.reference)].role == Role::search_root;
    if (is_lost_root && !plan_.blockers.empty() && overlay_.is_folder(mismatch.target.path)) continue;
    Blocker item = describe(mismatch);
    if (seen.emplace(item.id, item.file, item.span.begin, item.reason).second)
      plan_.blockers.push_back(std::move(item));
  }
  if (plan_.blockers.empty() && !mismatches.empty()) plan_.blockers.push_back(describe(mismatches.front()));
}

void list_edits(const TreeReader& tree, const std::function<bool(const RelPath&, const Span&)>& is_likely,
                Plan& plan) {
  for (const auto& [file, edits] : plan.edits) {
    auto bytes = tree.read(file);
    if (!bytes || edits.empty()) continue;
    plan.hashes[file] = content_hash(**bytes);
    for (const FileEdits::Item& item : edits.items()) {
      PlannedEdit edit;
      edit.file = file;
      edit.span = item.span;
      edit.before = (*bytes)->substr(item.span.begin, item.span.size());
      edit.after = item.text;
      edit.likely = is_likely(file, item.span);
      plan.edit_list.push_back(std::move(edit));
    }
  }
  std::sort(plan.edit_list.begin(), plan.edit_list.end(), [](const PlannedEdit& a, const PlannedEdit& b) {
    return std::tie(a.file, a.span) < std::tie(b.file, b.span);
  });
}

// What a build made is read for what it tells, and not edited.
void Planner::set_derived_apart() {
  for (auto at = plan_.edits.begin(); at != plan_.edits.end();) {
    const Entry* entry = tree_.find(at->first);
    if (!entry || !entry->ignored || at->second.empty()) {
      ++at;
      continue;
    }
    plan_.notices.push_back({"generated",
                             at->first,
                             {},
                             false,
                             "was made by a build and names what moves; the next build makes it anew"});
    plan_.derived[at->first] = std::move(at->second);
    at = plan_.edits.erase(at);
  }
}

void Planner::list_edits() {
  std::set<std::pair<RelPath, Span>> likely, certain;
  for (const auto& [problem, attempt] : attempts_) {
    if (!attempt.active) continue;
    for (const Edit& edit : attempt.ways[attempt.next].edits)
      (attempt.likely ? likely : certain).emplace(edit.file, edit.span);
    if (!attempt.ways[attempt.next].remark.empty()) {
      const Edit& edit = attempt.ways[attempt.next].edits.front();
      plan_.notices.push_back({"remark", edit.file, edit.span, true, attempt.ways[attempt.next].remark});
    }
  }
  yc::list_edits(
      tree_,
      [&](const RelPath& file, const Span& span) {
        return likely.contains({file, span}) && !certain.contains({file, span});
      },
      plan_);
}

// A folder that is taken whole (installed, packed) keeps its name when single files leave or join it, but not
// its content.
void Planner::add_folder_notices() {
  std::set<std::tuple<RelPath, Span, std::string>> told;
  for (const Reference& reference : old_.references) {
    bool takes_all =
        reference.is_deep() && reference.glob()->names == "*" && reference.may_gain && !reference.excludes;
    bool is_listed = reference.role == Role::listed && reference.certainty == Certainty::certain;
    Standing at = standing_of(reference);
    if ((!is_listed && !takes_all) || at.file == kNoFile) continue;
    std::vector<RelPath> folders;
    if (takes_all) {
      auto place = RelPath::resolve(reference.base.folder, reference.text.text());
      if (place) folders.push_back(*place);
    }
    for (const Target& target : reference.targets) {
      if (is_listed && target.kind == Target::Kind::tree) folders.push_back(target.path);
    }
    for (const RelPath& folder : folders) {
      auto image = tree_.is_folder(folder) ? plan_.moves.map_folder(folder) : std::nullopt;
      if (!image) continue;
      std::vector<RelPath> leaving, joining;
      for (const Move& move : plan_.moves.files()) {
        bool before = move.from.is_within(folder), after = move.to.is_within(*image);
        if (before && !after) leaving.push_back(move.from);
        if (!before && after) joining.push_back(move.to);
      }
      if (takes_all) leaving.clear();  // they are listed anew
      const RelPath& file = old_.files.path(at.file);
      auto tell = [&](const std::vector<RelPath>& paths, const char* id, const char* verb) {
        if (paths.empty()) return;
        std::string who = paths.front().str();
        if (paths.size() > 1) who += fmt::format(" and {} more", paths.size() - 1);
        std::string message = fmt::format("takes what is in {}; {} {}{} it", folder.str(), who, verb,
                                          paths.size() == 1 ? "s" : "");
        if (told.emplace(file, at.span, message).second)
          plan_.notices.push_back({id, file, at.span, true, message});
      };
      tell(leaving, "leaves-folder", "leave");
      tell(joining, "joins-folder", "join");
    }
  }
}

// What a command took as one of all that is there, and takes with a folder from now on.
void Planner::add_deeper_notices() {
  std::set<std::pair<RelPath, Span>> told;
  for (const Reference& reference : old_.references) {
    Standing at = standing_of(reference);
    if (at.file == kNoFile || !takes_all_there_is(reference)) continue;
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree) continue;
      RelPath now = tree_.is_folder(target.path) ? plan_.moves.map_folder(target.path).value_or(target.path)
                                                 : plan_.moves.map_file(target.path);
      RelPath folder = target.path.parent();
      if (now == target.path || now.parent() == folder || !now.is_within(folder)) continue;
      if (!told.emplace(old_.files.path(at.file), at.span).second) continue;
      plan_.notices.push_back(
          {"goes-deeper", old_.files.path(at.file), at.span, true,
           fmt::format("\"{}\" took {} by itself, and takes it with the folder that it goes into from now on",
                       reference.text.text(), target.path.str())});
    }
  }
}

// A script that no other one reads is where somebody starts a build: that call is not in the tree.
void Planner::add_start_notices() {
  std::set<FileIndex> anchors;
  std::set<RelPath> scripts, reached;
  for (const Reference& reference : old_.references) {
    FileIndex anchor = reference.base.anchor;
    bool is_script = reference.role != Role::include && !format_at(reference.format).reads_sources();
    // Settings may name things from the folder of another file.
    bool own = !reference.key.empty() && std::any_of(reference.key.begin(), reference.key.end(),
                                                     [&](const Site& site) { return site.file == anchor; });
    if (is_script && own && anchor != kNoFile && anchors.insert(anchor).second)
      scripts.insert(old_.files.path(anchor));
    if (reference.role != Role::script && reference.role != Role::subfolder) continue;
    for (const Target& target : reference.targets) reached.insert(target.path);
  }
  for (const Move& move : plan_.moves.files()) {
    if (!scripts.contains(move.from) || reached.contains(move.from) || reached.contains(move.from.parent()))
      continue;
    // What a tool finds by its name and folder it still finds if the folder went along.
    auto folder = plan_.moves.map_folder(move.from.parent());
    bool along = folder && *folder == move.to.parent() && move.from.name() == move.to.name();
    auto scopes = all_that_offer<DefinesScope>();
    bool by_name = std::any_of(scopes.begin(), scopes.end(),
                               [&](const auto& scope) { return scope->defines_scope(move.from); });
    if (along && by_name) continue;
    plan_.notices.push_back(
        {"start-moves",
         move.from,
         {},
         false,
         fmt::format("is read by no other script; what starts it must name {}", move.to.str())});
  }
}

// What is generated from a script that changes must be made anew before the next build.
void Planner::add_generated_notices() {
  std::set<RelPath> told;
  for (const Generated& file : old_.generated) {
    auto edits = plan_.edits.find(file.script);
    bool changes = plan_.moves.moves(file.script) || (edits != plan_.edits.end() && !edits->second.empty());
    if (!changes || !tree_.is_file(file.product) || !told.insert(file.product).second) continue;
    plan_.notices.push_back({"generated",
                             file.product,
                             {},
                             false,
                             fmt::format("is generated from {}, which changes; make it anew with: {}",
                                         file.script.str(), file.command)});
  }
}

// Includes that two files could answer from now on, and which of them does.
void Planner::add_shadow_notices() {
  std::set<std::pair<RelPath, RelPath>> before, told;
  for (const Shadowing& shadow : shadowed_includes(tree_, old_))
    before.emplace(plan_.moves.map_file(shadow.chosen), plan_.moves.map_file(shadow.other));
  for (const Shadowing& shadow : shadowed_includes(overlay_, new_)) {
    if (before.contains({shadow.chosen, shadow.other}) || !told.emplace(shadow.chosen, shadow.other).second)
      continue;
    const Reference& reference = new_.references[static_cast<std::size_t>(shadow.reference)];
    Standing at = standing_of(reference);
    RelPath file = at.file == kNoFile ? RelPath() : plan_.moves.unmap_file(new_.files.path(at.file));
    plan_.notices.push_back({"shadowed",
                             file,
                             {},
                             false,
                             fmt::format("{} means {} here, as now, and hides {}", reference.text.text(),
                                         shadow.chosen.str(), shadow.other.str())});
  }
}

// Edits for mentions, all or none: what reads as prose here may still mean something to a reader.
void Planner::rewrite_mentions(std::vector<Mention>& mentions) {
  Proposal way;
  for (const Mention& mention : mentions) {
    RelPath now = plan_.moves.map_file(mention.named);
    if (tree_.is_folder(mention.named)) now = plan_.moves.map_folder(mention.named).value_or(mention.named);
    if (now != mention.named) way.edits.push_back({mention.file, mention.span, now.str()});
  }
  if (way.edits.empty()) return;
  extra_.push_back(std::move(way));
  if (verify().empty()) {
    mentions.clear();
  } else {
    extra_.pop_back();
    verify();
  }
}

namespace {

// The repository of its own that a path lies in, within the tree; the root for the one around everything.
RelPath repository_of(const TreeReader& tree, const RelPath& path) {
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    if (tree.find(up / ".git")) return up;
  }
  return {};
}

}  // namespace

// What goes from one repository into another is no rename for either.
void Planner::add_repository_notices() {
  for (const Move& move : plan_.moves.files()) {
    RelPath before = repository_of(tree_, move.from), after = repository_of(tree_, move.to);
    if (before == after || plan_.moves.map_folder(before) == after) continue;
    std::string message = after.is_root() ? fmt::format("leaves {}, a repository of its own", before.str())
                                          : fmt::format("goes into {}, a repository of its own", after.str());
    plan_.notices.push_back(
        {"other-repository", move.from, {}, false, message + "; add and remove it there yourself"});
  }
}

void Planner::add_notices(const std::vector<Mention>& mentions) {
  for (const RelPath& path : plan_.moves.left_behind()) {
    plan_.notices.push_back(
        {"left-behind", path, {}, false, "is ignored or protected and stays where it is"});
  }
  for (const Notice& notice : old_.notices) plan_.notices.push_back(notice);
  for (const Mention& mention : mentions)
    plan_.notices.push_back(
        {"mention", mention.file, mention.span, true, fmt::format("mentions {}", mention.named.str())});
  add_repository_notices();
  add_folder_notices();
  add_deeper_notices();
  add_start_notices();
  add_generated_notices();
  if (plan_.verified) add_shadow_notices();
  for (const auto& [file, edits] : plan_.edits) {
    const Entry* entry = tree_.find(file);
    if (edits.empty() || !entry || entry->names < 2) continue;
    plan_.notices.push_back(
        {"hard-link",
         file,
         {},
         false,
         fmt::format("has {} names (hard links); edited, it becomes a file of its own", entry->names)});
  }
  std::set<RelPath> moved;
  for (const Move& move : plan_.moves.files()) moved.insert(move.from);
  for (const Reference& reference : old_.references) {
    bool touched = std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind == Target::Kind::tree && moved.contains(target.path);
    });
    if (touched) ++plan_.references_kept;
  }
}

}  // namespace yc
