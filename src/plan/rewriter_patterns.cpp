// Ways for patterns: where they should lead, what stands beside them, what they must leave out.
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "plan/rewriter.h"

#include <algorithm>
#include <set>

namespace yc {

namespace {

std::vector<RelPath> files_below(const TreeReader& tree, const RelPath& folder) {
  std::vector<RelPath> out = match_deep(tree, {}, folder.str() + "/*");
  std::erase_if(out, [&](const RelPath& path) { return tree.is_folder(path); });
  return out;
}

}  // namespace

// Where the folder `head`, which a pattern names, goes for one path that the pattern takes; nothing if what
// stands below it does not stay the same.
std::optional<RelPath> ReferenceRewriter::new_head(const RelPath& target, const RelPath& head) const {
  if (!moves_.moves(target) && !moves_.folders().contains(target)) return head;
  auto image = image_.of(target);
  std::string below(target.below(head));
  if (!image || image->str().size() < below.size()) return std::nullopt;
  std::string path = image->str();
  if (path == below) return RelPath();
  if (!path.ends_with("/" + below)) return std::nullopt;
  return RelPath::from_normal(path.substr(0, path.size() - below.size() - 1));
}

// Where a pattern's text should lead, wildcards and all: its folder goes where all it matched went together.
std::optional<Place> ReferenceRewriter::pattern_place(const Reference& reference, bool strict) const {
  std::string text = reference.text.text();
  if (reference.text.has_hole()) return std::nullopt;
  Place old_place = place_of(reference.base.folder, text, reference.base.space);
  // One that takes in all below its base follows it.
  if (text.empty() && reference.is_deep()) {
    if (auto base = base_of(reference); base && !strict) return Place{Space::tree, *base};
    old_place = {Space::tree, reference.base.folder};
  }
  if (old_place.space != Space::tree) return std::nullopt;
  std::string full = old_place.path.str();
  std::size_t wild = reference.is_deep()
                         ? full.size()
                         : std::min(full.find_first_of(reference.is_percent() ? "%" : "*?["), full.size());
  std::size_t cut = reference.is_deep() ? full.size() : full.rfind('/', wild);
  RelPath head = RelPath::from_normal(cut == std::string::npos ? "" : full.substr(0, cut));
  std::string rest = reference.is_deep() ? "" : std::string(old_place.path.below(head));
  std::optional<RelPath> common;
  for (const Target& target : reference.targets) {
    auto folder = new_head(target.path, head);
    if (!folder || (common && *common != *folder)) return strict ? std::nullopt : std::optional(old_place);
    common = std::move(folder);
  }
  if (!common) return old_place;
  return Place{Space::tree, *common / rest};
}

std::vector<Proposal> ReferenceRewriter::exclusions(const RelPath& new_path) const {
  std::vector<Proposal> out;
  for (const Reference& pattern : graph_.references) {
    if (!pattern.is_pattern() || pattern.is_percent()) continue;
    auto base = base_of(pattern);
    auto place = pattern_place(pattern, false);
    if (!base || !place) continue;
    std::vector<RelPath> now = pattern.is_deep()
                                   ? match_deep(planned_, {}, place->path.str() + "/" + pattern.glob()->names)
                                   : match_paths(planned_, {}, place->path.str());
    if (std::find(now.begin(), now.end(), new_path) == now.end()) continue;
    Target before{Target::Kind::tree, moves_.unmap_file(new_path), {}};
    if (std::binary_search(pattern.targets.begin(), pattern.targets.end(), before)) continue;
    const auto* lists = offer<PatternLists>(pattern.format);
    auto way = lists ? lists->exclude(graph_, pattern, relative_text(*base, new_path), tree_) : std::nullopt;
    if (!way) continue;
    if (out.empty()) {
      out.push_back(std::move(*way));
    } else {
      // Every pattern that drew it in must let it go.
      for (Edit& edit : way->edits) {
        if (std::find(out[0].edits.begin(), out[0].edits.end(), edit) == out[0].edits.end())
          out[0].edits.push_back(std::move(edit));
      }
    }
  }
  return out;
}

std::vector<std::int32_t> ReferenceRewriter::excluders_of(const RelPath& old_path) const {
  std::vector<std::int32_t> out;
  Target target{Target::Kind::tree, old_path, {}};
  for (std::int32_t index : excluders_) {
    const Reference& reference = graph_.references[static_cast<std::size_t>(index)];
    if (std::binary_search(reference.targets.begin(), reference.targets.end(), target)) out.push_back(index);
  }
  return out;
}

bool ReferenceRewriter::is_emptied(const Reference& pattern) const {
  const std::vector<std::int32_t>& beside = by_key_.at(pattern.construct);
  bool has_sibling = std::any_of(beside.begin(), beside.end(), [&](std::int32_t index) {
    const Reference& other = graph_.references[static_cast<std::size_t>(index)];
    return &other != &pattern && other.role == pattern.role && other.in_list &&
           other.text.text() != pattern.text.text();
  });
  if (!has_sibling) return false;
  auto place = pattern_place(pattern, false);
  if (!place) return false;
  bool moved_along = place_of(pattern.base.folder, pattern.text.text(), pattern.base.space) != *place;
  if (moved_along) return false;
  return pattern.is_deep() ? !matches_any_deep(planned_, {}, place->path.str() + "/" + pattern.glob()->names)
                           : match_paths(planned_, {}, place->path.str()).empty();
}

std::vector<std::int32_t> ReferenceRewriter::patterns_of(const RelPath& old_file) const {
  if (!patterns_) {
    patterns_.emplace();
    for (std::size_t i = 0; i < graph_.references.size(); ++i) {
      if (!graph_.references[i].is_pattern()) continue;
      for (const Target& target : graph_.references[i].targets)
        (*patterns_)[target.path].push_back(static_cast<std::int32_t>(i));
    }
  }
  auto at = patterns_->find(old_file);
  return at == patterns_->end() ? std::vector<std::int32_t>() : at->second;
}

std::vector<std::string> ReferenceRewriter::sibling_texts(const Reference& pattern,
                                                          const std::vector<RelPath>& lost,
                                                          const RelPath& base) const {
  std::vector<std::string> out;
  std::set<RelPath> folders;
  for (const RelPath& path : lost) folders.insert(path.parent());
  std::string text = pattern.text.text();
  std::string last = text.substr(text.rfind('/') == std::string::npos ? 0 : text.rfind('/') + 1);
  std::set<RelPath> left(lost.begin(), lost.end());
  if (!pattern.is_deep() && has_wildcard(last)) {
    for (const RelPath& folder : folders) {
      RelPath widened = folder / last;
      std::vector<RelPath> now = match_paths(planned_, {}, widened.str());
      bool exact = !now.empty() && std::all_of(now.begin(), now.end(),
                                               [&](const RelPath& path) { return left.contains(path); });
      if (!exact) continue;
      out.push_back(relative_text(base, widened));
      for (const RelPath& path : now) left.erase(path);
    }
  }
  // A word that stands for all that is in a folder has one for each folder that took only what was lost.
  bool whole_folders =
      pattern.is_deep() && pattern.glob()->names == "*" && pattern.glob()->whole.text() == text;
  while (whole_folders && !left.empty()) {
    RelPath highest = *left.begin();
    for (RelPath up = highest.parent(); !up.is_root(); up = up.parent()) {
      std::vector<RelPath> now = files_below(planned_, up);
      bool exact =
          std::all_of(now.begin(), now.end(), [&](const RelPath& path) { return left.contains(path); });
      if (!exact) break;
      highest = up;
    }
    out.push_back(relative_text(base, highest));
    std::erase_if(left, [&](const RelPath& path) { return path.is_within(highest); });
  }
  for (const RelPath& path : left) out.push_back(relative_text(base, path));
  return out;
}

// No byte spells the pattern, so what it no longer takes in is listed by name.
std::optional<Proposal> ReferenceRewriter::implied_way(const Reference& pattern, const RelPath& base,
                                                       const std::optional<RelPath>& excluded) const {
  std::vector<RelPath> now = match_deep(planned_, base, pattern.glob()->names);
  std::vector<std::string> lost;
  for (const Target& target : pattern.targets) {
    auto image = image_.of(target.path);
    bool is_lost = target.path == excluded || (image && !std::binary_search(now.begin(), now.end(), *image));
    if (image && is_lost) lost.push_back(relative_text(base, *image));
  }
  const auto* lists = offer<PatternLists>(pattern.format);
  return lost.empty() || !lists ? std::nullopt : lists->list_by_name(graph_, pattern, lost, tree_);
}

// Words of the same list that take in what a pattern loses.
std::optional<Proposal> ReferenceRewriter::words_beside(const Reference& pattern,
                                                        const std::vector<RelPath>& lost, bool is_emptied,
                                                        const RelPath& base) const {
  // A word whose head alone is the text is put together with its wildcards.
  bool is_head = pattern.is_deep() && !pattern.glob()->whole.pieces().empty();
  const Piece& last = is_head ? pattern.glob()->whole.pieces().back() : pattern.text.pieces().back();
  if (!last.has_origin()) return std::nullopt;
  const auto* words = offer<ListWords>(pattern.format);
  if (!words) return std::nullopt;
  Bytes bytes = bytes_of(last.file);
  Span word = words->word_at(*bytes, last.span);
  // A folder variable at the pattern's head is kept in the words beside it.
  const Piece& first = pattern.text.pieces().front();
  std::string head;
  RelPath head_folder = base;
  if (first.nature == Piece::Nature::tree_folder && first.via.size() == 1 && first.via[0].file == last.file) {
    Span span = first.via[0].span;
    head = bytes->substr(span.begin, span.size()) + "/";
    head_folder = place_of({}, new_text(first)).path;
  }
  std::string inserted;
  std::vector<std::string> texts = sibling_texts(pattern, lost, head_folder);
  // A pattern that takes nothing any more gives its place to the first of them.
  std::vector<Edit> edits;
  bool is_whole = word == last.span || (word.begin + 1 == last.span.begin && word.end == last.span.end + 1);
  if (is_emptied && !texts.empty() && head.empty() && pattern.text.pieces().size() == 1 &&
      !pattern.is_deep() && is_whole) {
    if (auto edit = edit_for(last.file, last.span, texts.front(), last.style, pattern.format)) {
      edits.push_back(std::move(*edit));
      texts.erase(texts.begin());
    }
  }
  for (const std::string& text : texts) {
    bool plain = text.substr(0, 2) == ".." || head.empty();
    std::string full = plain && !head.empty() ? head + text : text;
    auto piece = words->beside(*bytes, word,
                               plain && head.empty() ? text : std::string(head.empty() ? full : head + text));
    if (!piece) return std::nullopt;
    inserted += *piece;
  }
  // A shell takes a pattern for a name that finds nothing: what cannot be respelled is replaced.
  bool replaces = is_emptied && edits.empty() && !pattern.is_deep() && inserted.starts_with(' ');
  if (replaces)
    edits.push_back({graph_.files.path(last.file), word, inserted.substr(1)});
  else if (!inserted.empty())
    edits.push_back({graph_.files.path(last.file), {word.end, word.end}, inserted});
  return Proposal{std::move(edits), ""};
}

std::vector<Proposal> ReferenceRewriter::pattern_ways(std::int32_t index,
                                                      const std::optional<RelPath>& lost_file) const {
  const Reference& pattern = graph_.references[static_cast<std::size_t>(index)];
  std::vector<Proposal> out;
  auto base = base_of(pattern);
  if (!base || pattern.is_percent()) return out;
  if (auto place = pattern_place(pattern, true)) {
    std::vector<Proposal> climbing;
    climb_ways(pattern, {*place, false}, *base, out, climbing);
    piece_ways(pattern, {*place, false}, *base, out, climbing);
    place_ways(pattern, {*place, false}, *base, out);
    out.insert(out.end(), climbing.begin(), climbing.end());
  }
  if (pattern.text.pieces().empty()) {
    if (auto way = implied_way(pattern, *base, lost_file)) out.push_back(std::move(*way));
    return out;
  }
  if (!pattern.in_list) return out;
  auto stays = pattern_place(pattern, false);
  if (!stays) return out;
  std::vector<RelPath> now = pattern.is_deep()
                                 ? match_deep(planned_, {}, stays->path.str() + "/" + pattern.glob()->names)
                                 : match_paths(planned_, {}, stays->path.str());
  std::vector<RelPath> lost;
  for (const Target& target : pattern.targets) {
    auto image = image_.of(target.path);
    if (image && !std::binary_search(now.begin(), now.end(), *image)) lost.push_back(*image);
  }
  if (lost.empty()) return out;
  if (auto way = words_beside(pattern, lost, now.empty(), *base)) out.push_back(std::move(*way));
  return out;
}

}  // namespace yc
