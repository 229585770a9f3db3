#include "plan/unseen.h"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fnmatch.h>

#include <algorithm>
#include <cctype>
#include <set>

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

namespace {

// Files, and folders that move whole: a text may name either.
std::vector<Move> all_that_moves(const MoveSet& moves) {
  std::vector<Move> out = moves.files();
  std::size_t files = out.size();
  for (const auto& [from, to] : moves.folders()) {
    if (to && *to != from) out.push_back({from, *to});
  }
  std::sort(out.begin() + static_cast<std::ptrdiff_t>(files), out.end(),
            [](const Move& a, const Move& b) { return a.from < b.from; });
  return out;
}

}  // namespace

UnseenReferences unseen_references(const ReferenceGraph& graph, const MoveSet& moves) {
  UnseenReferences out;
  std::vector<Move> moving = all_that_moves(moves);
  std::set<std::pair<FileIndex, std::uint32_t>> seen, seen_vague;
  for (const Hole& hole : graph.holes) {
    if (hole.base.space != Space::tree || !tells_anything(hole.text)) continue;
    std::string pattern = hole.text.pattern_text();
    bool absolute = pattern.substr(0, kTreeMark.size()) == kTreeMark;
    if (!absolute && !pattern.empty() && pattern.front() == '/') continue;
    pattern = normal_pattern(pattern, absolute);
    for (const Move& move : moving) {
      std::string text =
          absolute ? marked(Space::tree, move.from) : relative_text(hole.base.folder, move.from);
      bool fits = fnmatch(pattern.c_str(), text.c_str(), 0) == 0 ||
                  (pattern.substr(0, 2) == "*/" && fnmatch(pattern.c_str() + 2, text.c_str(), 0) == 0);
      if (!fits || follows(graph, hole, move, moves)) continue;
      Passage origin = hole.text.first_origin();
      // Another file that moves may be meant more clearly.
      bool is_folder = moves.folders().contains(move.from);  // by its name alone many another could be meant
      bool vague = is_folder || is_vague(graph, hole, pattern, move, moves);
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

}  // namespace yc
