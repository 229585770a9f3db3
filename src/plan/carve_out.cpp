#include "plan/carve_out.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/capabilities/carving.h"
#include "plan/rebase.h"

namespace yc {

namespace {

constexpr std::size_t kNone = static_cast<std::size_t>(-1);

bool is_content(Role role) {
  return role == Role::source || role == Role::listed || role == Role::pattern || role == Role::subfolder ||
         role == Role::script;
}

// Names of variables; others have a mark in front.
bool is_variable(const std::string& name) {
  return name.find(':') == std::string::npos && !name.starts_with('!');
}

bool meet(const std::set<std::string>& a, const std::set<std::string>& b) {
  return std::any_of(a.begin(), a.end(), [&](const std::string& name) { return b.contains(name); });
}

}  // namespace

CarveOut::CarveOut(const TreeReader& tree, const ReferenceGraph& graph, std::uint8_t format,
                   const RelPath& script, const RelPath& folder)
    : tree_(tree),
      graph_(graph),
      format_(format),
      carver_(offer<Carving>(format)->carver()),
      script_(script),
      folder_(folder),
      below_(relative_text(script.parent(), folder)),
      file_(graph.files.find(script)) {
  auto bytes = tree.read(script);
  bytes_ = bytes ? *bytes : std::make_shared<const std::string>();
  child_ = folder / carver_.script_name(*bytes_);
  parts_ = carver_.parts(*bytes_);
  about_.resize(parts_.size());
}

std::size_t CarveOut::part_at(FileIndex file, std::uint32_t offset) const {
  if (file != file_ || file == kNoFile) return kNone;
  auto at =
      std::upper_bound(parts_.begin(), parts_.end(), offset,
                       [](std::uint32_t wanted, const ScriptPart& part) { return wanted < part.span.begin; });
  if (at == parts_.begin()) return kNone;
  --at;
  return offset < at->span.end ? static_cast<std::size_t>(at - parts_.begin()) : kNone;
}

void CarveOut::look_at_references() {
  for (const Reference& reference : graph_.references) {
    bool here = false, elsewhere = false, whole = false, root_here = false, root_elsewhere = false;
    if (reference.targets.empty() && !reference.text.has_hole()) {
      // A file that is not there (yet).
      Place place = place_of(reference.base.folder, reference.text.text(), reference.base.space);
      here = place.space == Space::tree && place.path != folder_ && place.path.is_within(folder_);
    }
    for (const Target& target : reference.targets) {
      if (target.kind != Target::Kind::tree) continue;
      bool inside = target.path.is_within(folder_);
      bool is_root = reference.role == Role::search_root;
      root_here = root_here || (is_root && inside);
      root_elsewhere = root_elsewhere || (is_root && !inside);
      here = here || (inside && !is_root);
      elsewhere = elsewhere || (!inside && is_content(reference.role));
      whole = whole || (target.path == folder_ && reference.role != Role::search_root);
    }
    std::set<std::size_t> parts;
    for (const Site& site : reference.construct) parts.insert(part_at(site.file, site.offset));
    for (const Piece& piece : reference.text.pieces()) {
      std::size_t index = part_at(piece.file, piece.span.begin);
      parts.insert(index);
      if (index != kNone && here) about_[index].spells = true;
    }
    for (std::size_t index : parts) {
      if (index == kNone) continue;
      About& about = about_[index];
      about.here = about.here || here;
      about.elsewhere = about.elsewhere || elsewhere;
      about.root_here = about.root_here || root_here;
      about.root_elsewhere = about.root_elsewhere || root_elsewhere;
      about.names_folder = about.names_folder || whole;
    }
  }
}

void CarveOut::look_at_units() {
  if (!carver_.is_relative()) return;  // a makefile is one unit
  for (const Compilation& item : graph_.compilations) {
    if (item.unit < 0) continue;
    const Site& site = graph_.units[static_cast<std::size_t>(item.unit)].site;
    std::size_t index = part_at(site.file, site.offset);
    if (index == kNone) continue;
    bool inside = item.source.is_within(folder_);
    about_[index].here = about_[index].here || inside;
    about_[index].has_unit = about_[index].has_unit || inside;
    about_[index].elsewhere = about_[index].elsewhere || !inside;
  }
}

// What is said of a thing goes where the thing goes.
void CarveOut::add_companions() {
  std::set<std::string> made;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (about_[i].moves) made.insert(parts_[i].sets.begin(), parts_[i].sets.end());
  }
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    bool belongs = !parts_[i].belongs_to.empty() && made.contains(parts_[i].belongs_to);
    if (belongs && !about_[i].elsewhere && !parts_[i].is_fixed) about_[i].moves = true;
  }
}

bool CarveOut::drop_orphans() {
  std::set<std::string> made;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (about_[i].moves) made.insert(parts_[i].sets.begin(), parts_[i].sets.end());
  }
  bool changed = false;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    bool orphan = about_[i].moves && !parts_[i].belongs_to.empty() && !made.contains(parts_[i].belongs_to);
    if (orphan) drop(i), changed = true;
  }
  return changed;
}

// A path that is relative to the script is right in the place where it is spelled and used, so both go or
// both stay.
bool CarveOut::drop_relative_strangers() {
  if (!carver_.is_relative()) return false;
  bool changed = false;
  for (const Reference& reference : graph_.references) {
    if (reference.base.folder != script_.parent() || reference.base.space != Space::tree ||
        reference.text.pieces().empty())
      continue;
    const Piece& first = reference.text.pieces().front();
    if (first.nature != Piece::Nature::literal || first.text.starts_with("/") || !first.has_origin())
      continue;
    std::size_t spelled = part_at(first.file, first.span.begin);
    for (const Site& site : reference.construct) {
      std::size_t used = part_at(site.file, site.offset);
      if (used == kNone || used == spelled) continue;
      bool spelled_moves = spelled != kNone && about_[spelled].moves;
      if (about_[used].moves == spelled_moves) continue;
      if (about_[used].moves) drop(used);
      if (spelled_moves) drop(spelled);
      changed = true;
    }
  }
  return changed;
}

bool CarveOut::drop_shared_names() {
  bool changed = false;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (!about_[i].moves) continue;
    for (const std::string& name : parts_[i].sets) {
      if (!is_variable(name)) continue;
      for (std::size_t j = 0; j < parts_.size(); ++j) {
        if (about_[j].moves || !about_[i].moves) continue;
        // Where all scripts share their names, only what is looked up in the end ties a variable to its
        // place.
        bool tied = parts_[j].later_uses.contains(name) ||
                    (parts_[j].uses.contains(name) && (!carver_.shares_names() || !carver_.is_relative()));
        if (tied) drop(i), changed = true;
      }
    }
  }
  return changed;
}

// Whether two statements must keep their order.
bool CarveOut::depends(const std::set<std::string>& sets, const std::set<std::string>& uses,
                       const ScriptPart& other) const {
  return meet(sets, other.uses) || meet(uses, other.sets) || meet(sets, other.sets);
}

void CarveOut::drop(std::size_t index) {
  about_[index].moves = false;
  about_[index].was_dropped = true;
  about_[index].split.reset();
}

// A statement between two that go, which needs the one and is needed by the other, comes along; if it cannot,
// one of them stays. Whether anything changed.
bool CarveOut::bring_along_or_drop() {
  auto tied = [&](std::size_t a, std::size_t b) {
    return depends(parts_[a].sets, parts_[a].uses, parts_[b]);
  };
  for (std::size_t j = 0; j < parts_.size(); ++j) {
    if (about_[j].moves || about_[j].split) continue;
    std::size_t first = kNone, last = kNone;
    for (std::size_t i = 0; i < parts_.size(); ++i) {
      if (i == j || !about_[i].moves || !tied(i, j)) continue;
      if (i < j && first == kNone) first = i;
      if (i > j) last = i;
    }
    if (first == kNone || last == kNone) continue;
    bool can_go = !parts_[j].is_fixed && !about_[j].elsewhere && !about_[j].names_folder &&
                  !about_[j].was_dropped && parts_[j].enters.empty();
    if (can_go) {
      about_[j].moves = true;
    } else {
      // What is built is what a folder gets a script for.
      drop(about_[first].has_unit && !about_[last].has_unit ? last : first);
    }
    return true;
  }
  return false;
}

// Finds the place of the call. Where there is none that respects the order of definition, one statement less
// moves, and false is the answer.
bool CarveOut::fit_order() {
  if (bring_along_or_drop()) return false;
  std::size_t low = 0, high = parts_.size(), first = parts_.size(), last_cause = kNone;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    const About& about = about_[i];
    if (parts_[i].is_head) low = i + 1;
    if (!about.moves && !about.split) continue;
    if (about.moves || !about.split->sets.empty()) first = std::min(first, i);
    for (std::size_t j = 0; j < parts_.size(); ++j) {
      if (about_[j].moves) continue;
      bool bound = about.moves && j != i && depends(parts_[i].sets, parts_[i].uses, parts_[j]);
      if (bound && j < i && j + 1 > low) low = j + 1, last_cause = i;
      if (bound && j > i) high = std::min(high, j);
      if (!about.split) continue;
      // The part that is split uses what the folder's script sets, or the other way round.
      bool before = meet(about.split->sets, parts_[j].uses) || (j == i && !about.split->sets.empty());
      bool after = meet(about.split->uses, parts_[j].sets);
      if (before) high = std::min(high, j);
      if (after && j + 1 > low) low = j + 1, last_cause = i;
    }
  }
  std::size_t wanted = entered_at_ ? *entered_at_ : first < parts_.size() ? first : low;
  bool fits = low <= high && (!entered_at_ || (low <= wanted && wanted <= high));
  if (!fits) {
    std::size_t victim = last_cause != kNone ? last_cause : first;
    if (victim >= parts_.size()) return true;
    drop(victim);
    return false;
  }
  call_at_ = std::clamp(wanted, low, high);
  return true;
}

// Lists that name files of several folders lose the words about this one to the folder's script.
void CarveOut::split_lists() {
  std::set<std::string> names;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (about_[i].moves || !about_[i].here || !parts_[i].is_list) continue;
    std::map<Span, RelPath> words;
    for (const Reference& reference : graph_.references) {
      bool plain = reference.role == Role::source && reference.text.pieces().size() == 1 &&
                   reference.targets.size() == 1 && reference.targets.front().path.is_within(folder_);
      if (!plain) continue;
      const Piece& piece = reference.text.pieces().front();
      if (part_at(piece.file, piece.span.begin) == i && piece.verbatim &&
          parts_[i].sentence.holds(piece.span) && tree_.is_file(reference.targets.front().path))
        words[piece.span] = reference.targets.front().path;
    }
    std::set<std::string> units;
    std::vector<Span> spans;
    std::vector<std::string> paths;
    for (const auto& [span, path] : words) {
      spans.push_back(span);
      paths.push_back(relative_text(folder_, path));
      for (const Compilation& item : graph_.compilations) {
        if (item.source == path && item.unit >= 0 &&
            graph_.units[static_cast<std::size_t>(item.unit)].format == format_)
          units.insert(graph_.units[static_cast<std::size_t>(item.unit)].name);
      }
    }
    if (spans.empty() || units.empty()) continue;
    auto split = carver_.split(script_, *bytes_, parts_[i], spans, paths, below_,
                               units.size() == 1 ? *units.begin() : "");
    if (!split || meet(split->sets, names)) continue;
    names.insert(split->sets.begin(), split->sets.end());
    about_[i].split = std::move(split);
  }
}

bool CarveOut::drop_misfits() {
  return drop_orphans() || drop_relative_strangers() || drop_shared_names();
}

bool CarveOut::choose() {
  if (file_ == kNoFile || parts_.empty()) return false;
  look_at_references();
  look_at_units();
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    About& about = about_[i];
    auto entered = RelPath::resolve(script_.parent(), parts_[i].enters);
    bool enters_folder = !parts_[i].enters.empty() && entered && *entered == folder_;
    if (enters_folder) entered_at_ = i;
    // A statement about folders to look in is about this one if it names no other.
    about.here = about.here || (about.root_here && !about.root_elsewhere);
    about.moves =
        about.here && !about.elsewhere && !about.names_folder && !parts_[i].is_fixed && !enters_folder;
  }
  if (tree_.is_file(child_) && !entered_at_) return false;  // somebody else reads it
  add_companions();
  while (drop_misfits()) {
  }
  split_lists();
  // Every round that does not fit takes one statement less.
  while (!fit_order()) {
    while (drop_misfits()) {
    }
  }
  // A fragment that only sets variables would be none.
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    bool says_more =
        carver_.is_relative() || std::any_of(parts_[i].sets.begin(), parts_[i].sets.end(),
                                             [](const std::string& name) { return !is_variable(name); });
    if (about_[i].split || (about_[i].moves && says_more)) return true;
  }
  return false;
}

// What the statements of a range become in the folder's script.
std::string CarveOut::child_text(std::size_t from, std::size_t to, std::vector<Blocker>& blockers) const {
  std::vector<Span> spans;
  for (std::size_t i = from; i < to; ++i) {
    if (about_[i].moves) spans.push_back(parts_[i].span);
  }
  std::vector<Edit> edits;
  if (carver_.is_relative()) edits = rebased({tree_, graph_, carver_, script_, spans, folder_}, blockers);
  for (const Unit& unit : graph_.units) {
    std::size_t index =
        looks_above_ && unit.format == format_ ? part_at(unit.site.file, unit.site.offset) : kNone;
    if (index == kNone || index < from || index >= to || !about_[index].moves) continue;
    std::vector<Edit> more =
        carver_.look_above(graph_, unit, tree_, relative_text(folder_, script_.parent()));
    std::move(more.begin(), more.end(), std::back_inserter(edits));
  }
  std::string out;
  std::size_t last = kNone;
  for (std::size_t i = from; i < to; ++i) {
    if (!about_[i].moves) continue;
    const Span& span = parts_[i].span;
    FileEdits own;
    for (const Edit& edit : edits) {
      if (span.holds(edit.span))
        own.add({edit.span.begin - span.begin, edit.span.end - span.begin}, edit.text);
    }
    bool adjacent = last != kNone && parts_[last].span.end == span.begin;
    if (last != kNone && !adjacent) out += "\n";
    out += own.apply(std::string_view(*bytes_).substr(span.begin, span.size()));
    if (!out.ends_with("\n")) out += "\n";
    last = i;
  }
  for (std::size_t i = from; i < to; ++i) {
    if (about_[i].split) out += (out.empty() ? "" : "\n") + about_[i].split->text;
  }
  return out;
}

void CarveOut::parent_edits(Plan& plan) const {
  FileEdits& edits = plan.edits[script_];
  std::string call = entered_at_ ? "" : carver_.call(below_, std::string(child_.name()));
  std::string_view text = *bytes_;
  auto is_moved = [&](std::size_t i) { return i < parts_.size() && about_[i].moves; };
  if (!call.empty() && !is_moved(call_at_)) {
    std::uint32_t at = call_at_ > 0 ? parts_[call_at_ - 1].span.end : parts_[call_at_].span.begin;
    bool needs_end = at > 0 && text[at - 1] != '\n';
    edits.add({at, at}, (needs_end ? "\n" : "") + call);
  }
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (!is_moved(i)) continue;
    // Statements that stand together go together; of the blank lines around them, one stays.
    Span span = parts_[i].span;
    bool has_call = call_at_ == i;
    while (is_moved(i + 1) && parts_[i + 1].span.begin == span.end && !(call_at_ == i + 1 && !call.empty()))
      span.end = parts_[++i].span.end;
    has_call = has_call && !call.empty();
    bool blank_before = span.begin == 0 || text.substr(0, span.begin).ends_with("\n\n");
    bool blank_after = span.end < text.size() && text[span.end] == '\n';
    if (!has_call && blank_before && blank_after) ++span.end;
    edits.add(span, has_call ? call : "");
  }
  for (const About& about : about_) {
    if (!about.split) continue;
    for (const Edit& edit : about.split->edits) edits.add(edit.span, edit.text);
  }
}

void CarveOut::put_into(Plan& plan, bool looks_above) {
  looks_above_ = looks_above;
  std::size_t all = parts_.size();
  if (auto there = tree_.is_file(child_) ? tree_.read(child_) : Result<Bytes>(Bytes()); there && *there) {
    // What was read before the folder's script goes before what that says, the rest behind it.
    const std::string& bytes = **there;
    std::string before = child_text(0, call_at_, plan.blockers),
                after = child_text(call_at_, all, plan.blockers);
    std::vector<ScriptPart> own = carver_.parts(bytes);
    std::uint32_t begin = own.empty() ? 0 : own.front().span.begin,
                  end = static_cast<std::uint32_t>(bytes.size());
    if (!before.empty()) plan.edits[child_].add({begin, begin}, before + "\n");
    std::string gap = bytes.empty() ? "" : bytes.ends_with("\n") ? "\n" : "\n\n";
    if (!after.empty()) plan.edits[child_].add({end, end}, gap + after);
  } else {
    plan.changes.made[child_] = child_text(0, all, plan.blockers);
  }
  parent_edits(plan);
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    const About& about = about_[i];
    if (!about.spells || about.moves || about.split || i == entered_at_) continue;
    std::string why = about.elsewhere      ? "names files of other folders too"
                      : about.names_folder ? "names the folder as a whole"
                      : parts_[i].is_fixed ? "can only be said in this script"
                                           : "is tied to statements that stay";
    plan.notices.push_back(
        {"stays", script_, parts_[i].sentence, true, fmt::format("{}, so it stays here", why)});
  }
}

}  // namespace yc
