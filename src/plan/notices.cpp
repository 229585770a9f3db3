#include "plan/notices.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <tuple>

#include "formats/capabilities/members.h"
#include "formats/unread_languages.h"
#include "plan/ambiguity.h"
#include "plan/compare.h"

namespace yc {

namespace {

// A folder that is taken whole (installed, packed) keeps its name when single files leave or join it, but not
// its content.
void add_folder_notices(const PlanView& view, std::vector<Notice>& out) {
  std::set<std::tuple<RelPath, Span, std::string>> told;
  for (const Reference& reference : view.old.references) {
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
      auto image = view.tree.is_folder(folder) ? view.moves.map_folder(folder) : std::nullopt;
      if (!image) continue;
      std::vector<RelPath> leaving, joining;
      for (const Move& move : view.moves.files()) {
        bool before = move.from.is_within(folder), after = move.to.is_within(*image);
        // What is installed no longer is a doubt of its own.
        bool is_doubt = is_installed(view.old, move.from) && !is_installed(view.now, move.to);
        if (before && !after && !is_doubt) leaving.push_back(move.from);
        if (!before && after) joining.push_back(move.to);
      }
      if (takes_all) leaving.clear();  // they are listed anew
      const RelPath& file = view.old.files.path(at.file);
      auto tell = [&](const std::vector<RelPath>& paths, const char* id, const char* verb) {
        if (paths.empty()) return;
        std::string who = paths.front().str();
        if (paths.size() > 1) who += fmt::format(" and {} more", paths.size() - 1);
        std::string message = fmt::format("takes what is in {}; {} {}{} it", folder.str(), who, verb,
                                          paths.size() == 1 ? "s" : "");
        if (told.emplace(file, at.span, message).second) out.push_back({id, file, at.span, true, message});
      };
      tell(leaving, "leaves-folder", "leave");
      tell(joining, "joins-folder", "join");
    }
  }
}

// Folders that a command copies or packs by their names, which change.
void add_copy_notices(const PlanView& view, std::vector<Notice>& out) {
  for (const HandedFolder& handed : view.old.handed) {
    auto now = handed.is_copied ? view.moves.map_folder(handed.folder) : std::nullopt;
    if (!now || now->name() == handed.folder.name()) continue;
    const RelPath& file = view.old.files.path(handed.at.file);
    auto bytes = view.tree.read(file);
    // "lib/." stands for what is in the folder.
    std::string_view word =
        bytes ? std::string_view(**bytes).substr(handed.at.span.begin, handed.at.span.size()) : "";
    if (word.ends_with('/') || word.ends_with("/.")) continue;
    out.push_back({"copied-as", file, handed.at.span, true,
                   fmt::format("copies or packs {} under its name, which is {} from now on",
                               handed.folder.str(), now->name())});
  }
}

// What a command took as one of all that is there, and takes with a folder from now on.
void add_deeper_notices(const PlanView& view, std::vector<Notice>& out) {
  std::set<std::pair<RelPath, Span>> told;
  for (const Reference& reference : view.old.references) {
    Standing at = standing_of(reference);
    if (at.file == kNoFile || !takes_all_there_is(reference)) continue;
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree) continue;
      RelPath now = view.tree.is_folder(target.path)
                        ? view.moves.map_folder(target.path).value_or(target.path)
                        : view.moves.map_file(target.path);
      RelPath folder = target.path.parent();
      if (now == target.path || now.parent() == folder || !now.is_within(folder)) continue;
      if (!told.emplace(view.old.files.path(at.file), at.span).second) continue;
      out.push_back(
          {"goes-deeper", view.old.files.path(at.file), at.span, true,
           fmt::format("\"{}\" took {} by itself, and takes it with the folder that it goes into from now on",
                       reference.text.text(), target.path.str())});
    }
  }
}

// A script that no other one reads is where somebody starts a build: that call is not in the tree.
void add_start_notices(const PlanView& view, std::vector<Notice>& out) {
  std::set<FileIndex> anchors;
  std::set<RelPath> scripts, reached;
  for (const Reference& reference : view.old.references) {
    FileIndex anchor = reference.base.anchor;
    bool is_script = reference.role != Role::include && !format_at(reference.format).reads_sources();
    // Settings may name things from the folder of another file.
    bool own =
        !reference.construct.empty() && std::any_of(reference.construct.begin(), reference.construct.end(),
                                                    [&](const Site& site) { return site.file == anchor; });
    if (is_script && own && anchor != kNoFile && anchors.insert(anchor).second)
      scripts.insert(view.old.files.path(anchor));
    // Who lists a folder for what defines it reads its script.
    bool is_entered = reference.role == Role::script || reference.role == Role::subfolder ||
                      (reference.role == Role::listed && reference.has_own_spelling());
    if (!is_entered) continue;
    for (const Target& target : reference.targets) reached.insert(target.path);
  }
  for (const Move& move : view.moves.files()) {
    if (!scripts.contains(move.from) || is_source_code(move.from) || reached.contains(move.from) ||
        reached.contains(move.from.parent()))
      continue;
    // What a tool finds by its name and folder it still finds if the folder went along.
    auto folder = view.moves.map_folder(move.from.parent());
    bool along = folder && *folder == move.to.parent() && move.from.name() == move.to.name();
    auto scopes = all_that_offer<DefinesScope>();
    bool by_name = std::any_of(scopes.begin(), scopes.end(),
                               [&](const auto& scope) { return scope->defines_scope(move.from); });
    if (along && (by_name || move.from.name().starts_with('.'))) continue;
    out.push_back({"start-moves",
                   move.from,
                   {},
                   false,
                   fmt::format("is read by no other script; what starts it must name {}", move.to.str())});
  }
}

// What is generated from a script that changes must be made anew before the next build.
void add_generated_notices(const PlanView& view, std::vector<Notice>& out) {
  std::set<RelPath> told;
  for (const Generated& file : view.old.generated) {
    auto edits = view.edits.find(file.script);
    bool changes = view.moves.moves(file.script) || (edits != view.edits.end() && !edits->second.empty());
    if (!changes || !view.tree.is_file(file.product) || !told.insert(file.product).second) continue;
    out.push_back({"generated",
                   file.product,
                   {},
                   false,
                   fmt::format("is generated from {}, which changes; make it anew with: {}",
                               file.script.str(), file.command)});
  }
}

// Includes that two files could answer from now on, and which of them does.
void add_shadow_notices(const PlanView& view, std::vector<Notice>& out) {
  std::set<std::pair<RelPath, RelPath>> before, told;
  for (const Shadowing& shadow : shadowed_includes(view.tree, view.old))
    before.emplace(view.moves.map_file(shadow.chosen), view.moves.map_file(shadow.other));
  for (const Shadowing& shadow : shadowed_includes(view.planned, view.now)) {
    if (before.contains({shadow.chosen, shadow.other}) || !told.emplace(shadow.chosen, shadow.other).second)
      continue;
    const Reference& reference = view.now.references[static_cast<std::size_t>(shadow.reference)];
    Standing at = standing_of(reference);
    RelPath file = at.file == kNoFile ? RelPath() : view.moves.unmap_file(view.now.files.path(at.file));
    out.push_back({"shadowed",
                   file,
                   {},
                   false,
                   fmt::format("{} means {} here, as now, and hides {}", reference.text.text(),
                               shadow.chosen.str(), shadow.other.str())});
  }
}

// The repository of its own that a path lies in, within the tree; the root for the one around everything.
RelPath repository_of(const TreeReader& tree, const RelPath& path) {
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    if (tree.find(up / ".git")) return up;
  }
  return {};
}

// What goes from one repository into another is no rename for either.
void add_repository_notices(const PlanView& view, std::vector<Notice>& out) {
  for (const Move& move : view.moves.files()) {
    RelPath before = repository_of(view.tree, move.from), after = repository_of(view.tree, move.to);
    if (before == after || view.moves.map_folder(before) == after) continue;
    std::string message = after.is_root() ? fmt::format("leaves {}, a repository of its own", before.str())
                                          : fmt::format("goes into {}, a repository of its own", after.str());
    out.push_back({"other-repository", move.from, {}, false, message + "; add and remove it there yourself"});
  }
}

}  // namespace

std::vector<Notice> notices_of(const PlanView& view, const std::vector<Mention>& mentions, bool verified) {
  std::vector<Notice> out;
  for (const RelPath& path : view.moves.left_behind()) {
    out.push_back({"left-behind", path, {}, false, "is ignored or protected and stays where it is"});
  }
  for (const Notice& notice : view.old.notices) {
    if (!notice.id.starts_with('~')) out.push_back(notice);  // those are formats' own, to compare trees by
  }
  for (const Mention& mention : mentions)
    out.push_back(
        {"mention", mention.file, mention.span, true, fmt::format("mentions {}", mention.named.str())});
  add_repository_notices(view, out);
  add_folder_notices(view, out);
  add_copy_notices(view, out);
  add_deeper_notices(view, out);
  add_start_notices(view, out);
  add_generated_notices(view, out);
  if (verified) add_shadow_notices(view, out);
  for (const auto& [file, edits] : view.edits) {
    const Entry* entry = view.tree.find(file);
    if (edits.empty() || !entry || entry->names < 2) continue;
    out.push_back(
        {"hard-link",
         file,
         {},
         false,
         fmt::format("has {} names (hard links); edited, it becomes a file of its own", entry->names)});
  }
  return out;
}

std::size_t references_kept(const PlanView& view) {
  std::size_t kept = 0;
  std::set<RelPath> moved;
  for (const Move& move : view.moves.files()) moved.insert(move.from);
  for (const Reference& reference : view.old.references) {
    bool touched = std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind == Target::Kind::tree && moved.contains(target.path);
    });
    if (touched) ++kept;
  }
  return kept;
}

}  // namespace yc
