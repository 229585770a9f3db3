#include "plan/unseen.h"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fnmatch.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <set>

#include "base/all_cores.h"
#include "base/name_search.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/whole_units.h"
#include "formats/unread_languages.h"

namespace yc {

namespace {

// Whether what the text is relative to moves along, or the folder before the first hole moves as a whole, so
// that the text can follow.
bool follows(const ReferenceGraph& graph, const Hole& hole, const Move& move, const MoveSet& moves) {
  if (hole.base.anchor != kNoFile && move.from.is_within(hole.base.folder)) {
    const RelPath& script = graph.files.path(hole.base.anchor);
    bool here = script.ancestor(hole.base.levels) == hole.base.folder;
    RelPath moved = moves.map_file(script).ancestor(hole.base.levels);
    if (here && move.to == moved / move.from.below(hole.base.folder)) return true;
  }
  std::string text = hole.text.text();
  std::string head = text.substr(0, text.find(kHoleMark));
  std::size_t cut = head.rfind('/');
  if (cut == std::string::npos) return false;
  Place folder = place_of(hole.base.folder, head.substr(0, cut));
  if (folder.space != Space::tree || folder.path.is_root()) return false;
  auto image = moves.map_folder(folder.path);
  return image && *image != folder.path && move.to == *image / move.from.below(folder.path);
}

// Without the steps back that are known: "pole/../icons/*.png" is "icons/*.png".
std::string normal_pattern(std::string_view pattern, bool absolute) {
  std::vector<std::string_view> parts;
  for (std::size_t at = 0; at <= pattern.size();) {
    std::size_t end = std::min(pattern.find('/', at), pattern.size());
    std::string_view part = pattern.substr(at, end - at);
    at = end + 1;
    if (part == "." || (part.empty() && at <= pattern.size() && !parts.empty())) continue;
    bool can_go_back = parts.size() > (absolute ? 1U : 0U) && parts.back() != ".." &&
                       parts.back().find_first_of("*?[") == std::string_view::npos;
    if (part == ".." && can_go_back) {
      parts.pop_back();
    } else {
      parts.push_back(part);
    }
  }
  return fmt::format("{}", fmt::join(parts, "/"));
}

// Whether any known part says more than punctuation would.
bool tells_anything(const TracedText& text) {
  std::string known = text.solid_text();
  return std::any_of(known.begin(), known.end(),
                     [](unsigned char c) { return std::isalnum(c) || c >= 0x80; });
}

// "$folder/error.$kind": of the folder nothing is known, of the name only how it begins. Or all of the name,
// but the script and the file stay where they are to one another. "$name.c": the name would have to climb out
// of the script's folder.
bool is_vague(const ReferenceGraph& graph, const Hole& hole, std::string_view pattern, const Move& move,
              const MoveSet& moves) {
  bool climbs = relative_text(hole.base.folder, move.from).starts_with("../");
  if (climbs && pattern.starts_with("*") && pattern.find('/') == std::string_view::npos) return true;
  if (!pattern.starts_with("*/") || pattern.find('/', 2) != std::string_view::npos) return false;
  std::size_t open = pattern.find('*', 2);
  if (open != std::string_view::npos) return open + 1 == pattern.size();
  FileIndex script = hole.text.first_origin().file;
  if (script == kNoFile) return false;
  const RelPath& path = graph.files.path(script);
  return relative_text(path, move.from) == relative_text(moves.map_file(path), move.to);
}

}  // namespace

UnseenReferences unseen_references(const ReferenceGraph& graph, const MoveSet& moves) {
  UnseenReferences out;
  std::set<std::pair<FileIndex, std::uint32_t>> seen, seen_vague;
  for (const Hole& hole : graph.holes) {
    if (hole.base.space != Space::tree || !tells_anything(hole.text)) continue;
    std::string pattern = hole.text.pattern_text();
    bool absolute = pattern.substr(0, kTreeMark.size()) == kTreeMark;
    if (!absolute && !pattern.empty() && pattern.front() == '/') continue;
    pattern = normal_pattern(pattern, absolute);
    for (const Move& move : moves.files()) {
      std::string text =
          absolute ? marked(Space::tree, move.from) : relative_text(hole.base.folder, move.from);
      bool fits = fnmatch(pattern.c_str(), text.c_str(), 0) == 0 ||
                  (pattern.substr(0, 2) == "*/" && fnmatch(pattern.c_str() + 2, text.c_str(), 0) == 0);
      if (!fits || follows(graph, hole, move, moves)) continue;
      Passage origin = hole.text.first_origin();
      // Another file that moves may be meant more clearly.
      bool vague = is_vague(graph, hole, pattern, move, moves);
      auto& told = vague ? seen_vague : seen;
      if (!told.emplace(origin.file, origin.span.begin).second) {
        if (vague) continue;
        break;
      }
      Blocker item;
      item.id = "unseen";
      if (origin.file != kNoFile) {
        item.file = graph.files.path(origin.file);
        item.span = origin.span;
      }
      std::string shown;
      for (char c : hole.text.text()) shown += c == kHoleMark ? "…" : std::string(1, c);
      item.text = shown;
      item.reason =
          fmt::format("has a part that is only known when it runs, and could name {}", move.from.str());
      if (vague) {
        if (item.span)
          out.vague.push_back(
              {"unseen", item.file, *item.span, true, fmt::format("\"{}\" {}", item.text, item.reason)});
        continue;
      }
      item.next =
          "move the whole folder so that the known part can follow, let a build judge (… -- BUILD COMMAND), "
          "settle "
          "it for good if it names nothing here (--settle FILE:LINE), or add --accept-unseen to move anyway, "
          "unproved";
      out.in_the_way.push_back(std::move(item));
      break;
    }
  }
  return out;
}

namespace {

constexpr std::string_view kRehearse =
    "let the project's own build judge: give its command behind the move (… -- BUILD COMMAND), which is run "
    "in "
    "copies; or add --accept-unseen to move anyway, unproved";

Blocker unread(const RelPath& path, std::string id, std::string reason, std::string next) {
  Blocker item;
  item.id = std::move(id);
  item.file = path;
  item.reason = std::move(reason);
  item.next = std::move(next);
  return item;
}

// Of files and of folders that move whole.
NameSearch names_that_move(const MoveSet& moves) {
  std::vector<std::string> names;
  for (const Move& move : moves.files()) names.emplace_back(move.from.name());
  for (const Move& move : moves.requested()) names.emplace_back(move.from.name());
  return NameSearch(names);
}

bool moves_within(const MoveSet& moves, const RelPath& folder) {
  return std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
    return move.from.is_within(folder) || move.to.is_within(folder);
  });
}

// What data are read in, whichever tool they are for: their paths are references.
bool is_read_as_data(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".toml" || ending == ".json" || ending == ".yaml" || ending == ".yml";
}

bool in_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-' || c == '.';
}

// Whether a name stands in a text, not as a part of a longer one.
bool has_name(std::string_view text, std::string_view name) {
  for (std::size_t at = text.find(name); at != std::string_view::npos; at = text.find(name, at + 1)) {
    std::size_t end = at + name.size();
    // A full stop may end a sentence.
    bool is_stop =
        end < text.size() && text[end] == '.' && (end + 1 == text.size() || !in_name(text[end + 1]));
    bool ends = end == text.size() || is_stop || !in_name(text[end]);
    if ((at == 0 || !in_name(text[at - 1])) && ends) return true;
  }
  return false;
}

// Whether a script in a language that is not read has the name of something that moves, or, for what lies
// below it, a pattern for files of its ending.
bool may_name(const TreeReader& tree, const RelPath& script, const MoveSet& moves) {
  auto bytes = tree.read(script);
  if (!bytes) return true;
  auto names = [&](const Move& move) { return has_name(**bytes, move.from.name()); };
  auto takes = [&](const Move& move) {
    std::string pattern = "*" + std::string(move.from.extension());
    bool is_below = move.from.is_within(script.parent()) || move.to.is_within(script.parent());
    return pattern.size() > 1 && is_below && (*bytes)->find(pattern) != std::string::npos;
  };
  return std::any_of(moves.files().begin(), moves.files().end(),
                     [&](const Move& move) { return names(move) || takes(move); }) ||
         std::any_of(moves.requested().begin(), moves.requested().end(), names);
}

// Sources of languages whose imports nobody reads here: one of each language is named, with how many there
// are.
void add_unread_sources(const ReadTree& tree, const MoveSet& moves, std::vector<Blocker>& out) {
  std::map<std::string_view, std::pair<RelPath, std::size_t>> found;
  std::set<RelPath> along;
  for (const auto& format : all_that_offer<WholeUnits>())
    along.merge(format->sources_of_whole_units(tree, moves));
  for (const Move& move : moves.files()) {
    if (along.contains(move.from)) continue;
    auto language = unread_source_language(move.from);
    if (!language) language = unread_source_language(move.to);
    if (!language) continue;
    auto [at, fresh] = found.try_emplace(*language, move.from, 0U);
    ++at->second.second;
  }
  for (const auto& [language, first] : found) {
    std::string more = first.second == 1 ? "" : fmt::format(" (and {} more)", first.second - 1);
    out.push_back(
        unread(first.first, "not-read",
               fmt::format("is {}{}: what such files import of each other is not read, so it is not "
                           "proved that this still builds",
                           language, more),
               std::string(kRehearse)));
  }
}

// Though its tool is on the list of those that are not.
bool is_read_whole(const RelPath& path) {
  return std::any_of(formats().begin(), formats().end(),
                     [&](const auto& format) { return offer<ReadsWhole>(*format) && format->claims(path); });
}

}  // namespace

namespace {

// Files of build tools that are not read.
void add_unread_scripts(const TreeReader& tree, const MoveSet& moves, std::vector<Blocker>& out) {
  const std::vector<RelPath>& all = tree.files();
  std::vector<std::optional<std::string_view>> tools(all.size());
  constexpr std::size_t kPart = 1024;
  on_all_cores((all.size() + kPart - 1) / kPart, [&](std::size_t part) {
    for (std::size_t i = part * kPart; i < std::min(all.size(), (part + 1) * kPart); ++i)
      tools[i] = unread_build_tool(all[i]);
  });
  for (std::size_t i = 0; i < all.size(); ++i) {
    const RelPath& path = all[i];
    if (!tools[i] || is_read_whole(path)) continue;
    const Entry* entry = tree.find(path);
    if (entry->guarded || entry->ignored || entry->kind != EntryKind::file) continue;
    if (!moves.moves(path) && (is_read_as_data(path) || !may_name(tree, path, moves))) continue;
    out.push_back(
        unread(path, "not-read",
               fmt::format("is for {}, which is not read, and {}", *tools[i],
                           moves.moves(path) ? "moves itself"
                                             : "has the name of something that moves, or a pattern for it"),
               std::string(kRehearse)));
  }
}

}  // namespace

std::vector<Blocker> unread_files(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                  const std::vector<RelPath>& unreadable) {
  std::vector<Blocker> out;
  if (moves.files().empty()) return out;
  NameSearch search = names_that_move(moves);
  auto could_name = [&](const RelPath& path) { return moves.moves(path) || tree.may_hold(path, search); };
  for (const auto& [path, why] : graph.unread) {
    if (why == Unread::no_access) continue;  // it is among the unreadable
    bool is_cut = why == Unread::cut_short && moves_within(moves, path.parent());
    if (!is_cut && !could_name(path)) continue;
    if (why == Unread::cut_short) {
      out.push_back(unread(path, "given-up", "was given up before its end, and could name what moves",
                           std::string(kRehearse)));
      continue;
    }
    if (why == Unread::partly) {
      out.push_back(
          unread(path, "given-up",
                 "has conditionals of which not every side was looked at, and the name of something "
                 "in it that moves",
                 std::string(kRehearse)));
      continue;
    }
    out.push_back(unread(
        path, "garbled", "cannot be read, and has the name of something in it that moves, or moves itself",
        "mend it (`check` tells where it is garbled), or add --accept-unseen to move anyway, unproved"));
  }
  for (const RelPath& path : unreadable) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->ignored) continue;
    if (entry->kind == EntryKind::folder) {
      out.push_back(
          unread(path, "unreadable",
                 "is a folder that cannot be looked into, so what is in it may name "
                 "what moves",
                 "make it readable, or name it as protected in yellow-compass.toml if nothing in it "
                 "belongs to the project; --accept-unseen moves anyway, unproved"));
    } else if (could_name(path)) {
      out.push_back(unread(path, "unreadable", "cannot be read, so it may name what moves",
                           "make it readable, or add --accept-unseen to move anyway, unproved"));
    }
  }
  add_unread_sources({tree, graph}, moves, out);
  add_unread_scripts(tree, moves, out);
  return out;
}

}  // namespace yc
