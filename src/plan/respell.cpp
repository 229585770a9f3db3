#include "plan/respell.h"

#include <algorithm>
#include <set>

namespace yc {

Respeller::Respeller(const TreeReader& old_tree, const TreeReader& planned, const ReferenceGraph& graph,
                     const MoveSet& moves, std::vector<IncludeForm> include_order)
    : tree_(old_tree),
      planned_(planned),
      graph_(graph),
      moves_(moves),
      image_(old_tree, graph, moves, no_edits_),
      include_order_(std::move(include_order)) {
  for (std::size_t i = 0; i < graph.references.size(); ++i) {
    const Reference& reference = graph.references[i];
    for (std::size_t p = 0; p < reference.text.pieces().size(); ++p) {
      const Piece& piece = reference.text.pieces()[p];
      for (const Passage& passage : piece.via) passages_[passage].insert(static_cast<std::int32_t>(i));
      if (piece.has_origin()) uses_[piece.file].emplace(piece.span.end, Use{static_cast<std::int32_t>(i), p});
    }
    by_key_[reference.key].push_back(static_cast<std::int32_t>(i));
    if (!reference.is_pattern) continue;
    for (const Target& target : reference.targets)
      patterns_[target.path].push_back(static_cast<std::int32_t>(i));
  }
}

Bytes Respeller::bytes_of(FileIndex file) const {
  auto bytes = tree_.read(graph_.files.path(file));
  return bytes ? *bytes : std::make_shared<const std::string>();
}

std::string Respeller::new_text(const Piece& piece) const {
  if (piece.nature != Piece::Nature::tree_folder && piece.nature != Piece::Nature::build_folder)
    return piece.text;
  Place place = place_of({}, piece.text);
  auto folder = image_.of_base(Base{place.path, piece.anchor, Space::tree});
  return marked(place.space, folder.value_or(place.path));
}

std::optional<RelPath> Respeller::base_of(const Reference& reference) const {
  return image_.of_base(reference.base);
}

std::optional<Respeller::Wanted> Respeller::wanted(const Reference& reference, const Target& target) const {
  if (target.kind == Target::Kind::build) return Wanted{{Space::build, image_.of_build(target.path)}, false};
  if (target.kind == Target::Kind::output) return Wanted{{Space::tree, image_.of_build(target.path)}, false};
  if (target.kind != Target::Kind::tree) return std::nullopt;
  if (reference.is_pattern) {
    auto place = pattern_place(reference, true);
    return place ? std::optional(Wanted{*place, false}) : std::nullopt;
  }
  auto path = image_.of(target.path);
  if (!path) return std::nullopt;
  return Wanted{{Space::tree, *path}, tree_.is_folder(target.path)};
}

// Where a pattern's text should lead, wildcards and all: its folder goes where all it matched went together.
std::optional<Place> Respeller::pattern_place(const Reference& reference, bool strict) const {
  std::string text = reference.text.text();
  if (reference.text.has_hole()) return std::nullopt;
  Place old_place = place_of(reference.base.folder, text, reference.base.space);
  if (old_place.space != Space::tree) return std::nullopt;
  std::string full = old_place.path.str();
  std::size_t wild = reference.deep
                         ? full.size()
                         : std::min(full.find_first_of(reference.percent ? "%" : "*?["), full.size());
  std::size_t cut = reference.deep ? full.size() : full.rfind('/', wild);
  RelPath head = RelPath::from_normal(cut == std::string::npos ? "" : full.substr(0, cut));
  std::string rest = reference.deep ? "" : std::string(old_place.path.below(head));
  std::optional<RelPath> common;
  for (const Target& target : reference.targets) {
    auto image = image_.of(target.path);
    std::string_view below = target.path.below(head);
    if (!image || image->str().size() < below.size()) return strict ? std::nullopt : std::optional(old_place);
    std::string path = image->str();
    bool tail_fits = path.compare(path.size() - below.size(), below.size(), below) == 0 &&
                     (path.size() == below.size() || path[path.size() - below.size() - 1] == '/');
    if (!tail_fits) return strict ? std::nullopt : std::optional(old_place);
    RelPath folder = RelPath::from_normal(
        path.size() == below.size() ? "" : path.substr(0, path.size() - below.size() - 1));
    if (common && *common != folder) return strict ? std::nullopt : std::optional(old_place);
    common = folder;
  }
  if (!common) return old_place;
  return Place{Space::tree, *common / rest};
}

std::string Respeller::spelled(const Reference& reference, const Wanted& want, const RelPath& base) const {
  PathStyle style = PathStyle::of(reference.text.text());
  return style.apply(relative_text(base, want.place.path));
}

// The text that piece `index` must become so that the whole leads to `want` from `base`, all else unchanged.
std::optional<std::string> Respeller::solve(const Reference& reference, std::size_t index, const Wanted& want,
                                            const RelPath& base) const {
  const auto& pieces = reference.text.pieces();
  std::string head, tail;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    if (i < index) head += new_text(pieces[i]);
    if (i > index) tail += new_text(pieces[i]);
  }
  if (head.find(kHoleMark) != std::string::npos || tail.find(kHoleMark) != std::string::npos)
    return std::nullopt;
  const std::string& old = pieces[index].text;
  bool trailing = tail.empty() && old.size() > 1 && old.back() == '/';
  bool tail_slash = tail.size() > 1 && tail.back() == '/';
  std::string_view ending =
      tail_slash ? std::string_view(tail).substr(0, tail.size() - 1) : std::string_view(tail);

  std::string lead, fragment;
  Place from{Space::tree, base};
  if (!head.empty()) {
    std::size_t cut = head.rfind('/');
    bool whole = head.back() == '/' || (!old.empty() && old.front() == '/');
    if (whole) {
      from = place_of(base, head.back() == '/' && head.size() > 1 ? head : head, Space::tree);
      if (head.back() != '/') lead = "/";
    } else {
      fragment = cut == std::string::npos ? head : head.substr(cut + 1);
      if (cut != std::string::npos) from = place_of(base, head.substr(0, cut));
    }
  } else if (want.place.space != Space::tree) {
    return std::nullopt;
  }
  if (from.space != want.place.space) return std::nullopt;
  std::string text = relative_text(from.path, want.place.path);
  if (text.compare(0, fragment.size(), fragment) != 0) return std::nullopt;
  text.erase(0, fragment.size());
  if (!ending.empty() && ending.front() == '/' && text == ending.substr(1)) {
    text = lead.empty() ? "." : "";
    lead.clear();
  } else {
    if (text.size() < ending.size() || text.compare(text.size() - ending.size(), ending.size(), ending) != 0)
      return std::nullopt;
    text.resize(text.size() - ending.size());
  }
  if (text.empty() && head.empty()) return std::nullopt;
  text = lead + text;
  if (trailing) text += "/";
  if (head.empty() && index == 0 && old.substr(0, 2) == "./")
    text = PathStyle{"./", false, false}.apply(text);
  Place reached = place_of(base, head + text + tail);
  if (!(reached == want.place)) return std::nullopt;
  return text;
}

std::string Respeller::with_change(const Reference& reference, FileIndex file, Span span,
                                   const std::string& text) const {
  std::string out;
  for (const Piece& piece : reference.text.pieces()) {
    bool touched = piece.has_origin() && piece.file == file && piece.span.begin < span.end &&
                   span.begin < piece.span.end;
    if (!touched) {
      out += new_text(piece);
    } else if (piece.span == span) {
      out += text;
    } else if (piece.span.holds(span) && piece.verbatim) {
      out += piece.text.substr(0, span.begin - piece.span.begin) + text +
             piece.text.substr(span.end - piece.span.begin);
    } else if (span.holds(piece.span)) {
      // This piece is a part of what changes; it keeps the part that the change keeps around it.
      std::size_t before = piece.span.begin - span.begin, after = span.end - piece.span.end;
      if (text.size() < before + after) return std::string(1, kHoleMark);
      out += text.substr(before, text.size() - before - after);
    } else {
      return std::string(1, kHoleMark);
    }
  }
  return out;
}

bool Respeller::suits(const Reference& reference, const std::string& text) const {
  if (reference.targets.empty()) return true;
  auto base = base_of(reference);
  if (!base) return true;
  if (reference.role == Role::include) return false;  // includes are respelled one by one
  if (reference.is_pattern) {
    auto place = pattern_place(reference, false);
    return place && place_of(*base, text) == *place;
  }
  const Target& target = reference.targets.back();
  if (target.kind == Target::Kind::made) return true;
  auto want = wanted(reference, target);
  if (!want) return true;
  if (place_of(*base, text) == want->place) return true;
  for (const Base& search : reference.search) {
    auto folder = image_.of_base(search);
    if (folder && place_of(*folder, text) == want->place) return true;
  }
  return false;
}

bool Respeller::suits_all(FileIndex file, Span span, const std::string& text) const {
  auto at = uses_.find(file);
  if (at == uses_.end()) return true;
  for (auto use = at->second.upper_bound(span.begin); use != at->second.end(); ++use) {
    const Reference& reference = graph_.references[static_cast<std::size_t>(use->second.reference)];
    const Piece& piece = reference.text.pieces()[use->second.piece];
    if (piece.span.begin >= span.end) {
      if (piece.span.begin > span.end + 100000) break;
      continue;
    }
    if (!suits(reference, with_change(reference, file, span, text))) return false;
  }
  return true;
}

std::optional<Edit> Respeller::edit_for(FileIndex file, Span span, const std::string& text,
                                        WritingStyle style, std::uint8_t format) const {
  Bytes bytes = bytes_of(file);
  if (span.end > bytes->size()) return std::nullopt;
  // A '%' that stood there before has the meaning that it had, and needs no writing.
  bool is_percent_form =
      std::string_view(*bytes).substr(span.begin, span.size()).find('%') != std::string_view::npos;
  std::optional<std::string> written = "";
  std::size_t at = 0;
  while (written && at <= text.size()) {
    std::size_t end = is_percent_form ? std::min(text.find('%', at), text.size()) : text.size();
    auto part = format_at(format).write(std::string_view(text).substr(at, end - at), style);
    written = part ? std::optional(*written + *part + (end < text.size() ? "%" : "")) : std::nullopt;
    at = end + 1;
  }
  if (!written) return std::nullopt;
  if (bytes->compare(span.begin, span.size(), *written) == 0) return std::nullopt;
  return Edit{graph_.files.path(file), span, *written};
}

namespace {

bool climbs(const std::string& text) {
  return text.find("..") != std::string::npos;
}

}  // namespace

void Respeller::piece_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                           std::vector<Way>& plain, std::vector<Way>& climbing) const {
  const auto& pieces = reference.text.pieces();
  struct Found {
    Way way;
    std::size_t shared;
  };
  std::vector<Found> found;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    if (!pieces[i].has_origin()) continue;
    auto text = solve(reference, i, want, base);
    if (!text) continue;
    auto edit = edit_for(pieces[i].file, pieces[i].span, *text, pieces[i].style, reference.format);
    if (!edit || !suits_all(pieces[i].file, pieces[i].span, *text)) continue;
    // A ".." behind a folder's name is a detour, unless the way there climbs anyhow.
    bool new_climb = climbs(*text) && !climbs(pieces[i].text) && pieces.size() > 1 &&
                     !climbs(relative_text(base, want.place.path));
    if (new_climb) {
      climbing.push_back({{*edit}, ""});
    } else {
      found.push_back({{{*edit}, ""}, shared_by(pieces[i])});
    }
  }
  // One edit that serves many is better than many edits.
  std::stable_sort(found.begin(), found.end(),
                   [](const Found& a, const Found& b) { return a.shared > b.shared; });
  for (Found& item : found) plain.push_back(std::move(item.way));
}

std::size_t Respeller::shared_by(const Piece& piece) const {
  auto at = uses_.find(piece.file);
  if (at == uses_.end()) return 0;
  return at->second.count(piece.span.end);
}

namespace {

// The spans a piece shows at each level of expansion, outermost first; its own bytes come last.
std::optional<Passage> at_level(const Piece& piece, std::size_t level) {
  if (level < piece.via.size()) return piece.via[level];
  if (level == piece.via.size() && piece.has_origin()) return Passage{piece.file, piece.span};
  return std::nullopt;
}

std::size_t common_levels(const TracedText& text) {
  std::size_t level = 0;
  while (true) {
    std::optional<Passage> first;
    for (const Piece& piece : text.pieces()) {
      if (level >= piece.via.size()) return level;
      if (first && *first != piece.via[level]) return level;
      first = piece.via[level];
    }
    if (!first) return level;
    ++level;
  }
}

}  // namespace

// Whether everything that comes through an expansion is the same thing, so that a literal may stand in its
// place.
bool Respeller::alone_in(const Passage& passage, const Reference& reference, const Wanted& want) const {
  auto at = passages_.find(passage);
  if (at == passages_.end()) return true;
  std::string text = reference.text.text();
  return std::all_of(at->second.begin(), at->second.end(), [&](std::int32_t index) {
    const Reference& other = graph_.references[static_cast<std::size_t>(index)];
    if (other.targets.empty() || other.targets.back().kind == Target::Kind::made)
      return other.text.text() == text;
    auto place = wanted(other, other.targets.back());
    return place && place->place == want.place && other.text.text() == text;
  });
}

void Respeller::place_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                           std::vector<Way>& out) const {
  const auto& pieces = reference.text.pieces();
  if (pieces.empty() || want.place.space != Space::tree) return;
  for (std::size_t level = common_levels(reference.text) + 1; level-- > 0;) {
    std::optional<Passage> region;
    bool fits = true;
    WritingStyle style = 0;
    for (const Piece& piece : pieces) {
      auto span = at_level(piece, level);
      if (span && level < piece.via.size() && !alone_in(*span, reference, want)) span.reset();
      if (!span || (region && (span->file != region->file ||
                               (span->span != region->span && span->span.begin != region->span.end)))) {
        fits = false;
        break;
      }
      if (!region) {
        region = span;
      } else {
        region->span.end = span->span.end;
      }
      if (level >= piece.via.size()) style = piece.style;
    }
    if (!fits || !region) continue;
    if (pieces.size() == 1 && region->span == pieces.front().span) continue;
    if (auto edit =
            edit_for(region->file, region->span, spelled(reference, want, base), style, reference.format)) {
      out.push_back({{*edit}, ""});
    }
  }
}

// Whether all that flows through a piece leads to the same thing, so that taking the piece away harms nothing
// else.
bool Respeller::is_alone_at(const Piece& piece, const Reference& reference) const {
  auto source_of = [](const Reference& one) {
    return one.targets.empty() ? RelPath() : one.targets.front().path;
  };
  auto at = uses_.find(piece.file);
  if (at == uses_.end()) return true;
  for (auto use = at->second.upper_bound(piece.span.begin); use != at->second.end(); ++use) {
    const Reference& other = graph_.references[static_cast<std::size_t>(use->second.reference)];
    const Piece& touched = other.text.pieces()[use->second.piece];
    if (touched.span.begin >= piece.span.end) continue;
    if (source_of(other) != source_of(reference)) return false;
  }
  return true;
}

std::optional<Way> Respeller::removal(const Reference& reference) const {
  const Piece* own = nullptr;
  std::size_t fewest = 0;
  for (const Piece& piece : reference.text.pieces()) {
    if (!piece.has_origin()) continue;
    std::size_t shared = shared_by(piece);
    if (!own || shared < fewest) own = &piece, fewest = shared;
  }
  if (!own || !is_alone_at(*own, reference)) return std::nullopt;
  Bytes bytes = bytes_of(own->file);
  const Format& format = format_at(reference.format);
  auto span = format.without(*bytes, format.word_at(*bytes, own->span));
  if (!span) return std::nullopt;
  return Way{{Edit{graph_.files.path(own->file), *span, ""}}, ""};
}

// The list goes through something that cannot be changed for one member: take the member out, name it beside.
void Respeller::split_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                           std::vector<Way>& out) const {
  const TracedText& through = reference.derivation ? reference.derivation->name : reference.text;
  std::string word = relative_text(base, want.place.path);
  if (reference.derivation) {
    const Derivation& rule = *reference.derivation;
    if (word.size() < rule.source_head.size() + rule.source_tail.size() ||
        word.compare(0, rule.source_head.size(), rule.source_head) != 0 ||
        word.compare(word.size() - rule.source_tail.size(), std::string::npos, rule.source_tail) != 0) {
      return;
    }
    word = rule.name_head +
           word.substr(rule.source_head.size(),
                       word.size() - rule.source_head.size() - rule.source_tail.size()) +
           rule.name_tail;
  }
  auto taken = removal(reference);
  const Format& format = format_at(reference.format);
  std::size_t levels = common_levels(through);
  for (std::size_t level = levels; level-- > 0;) {
    const Passage& passage = through.pieces().front().via[level];
    auto text = format.beside(*bytes_of(passage.file), passage.span, word);
    if (!text) continue;
    Way way;
    way.edits.push_back({graph_.files.path(passage.file), {passage.span.end, passage.span.end}, *text});
    if (taken) {
      Way both = way;
      both.edits.push_back(taken->edits.front());
      out.push_back(std::move(both));
    } else {
      out.push_back(std::move(way));
    }
  }
}

// Another word of the same construct may already bring the new path; then this one only has to go.
void Respeller::cover_ways(const Reference& reference, const Wanted& want, std::vector<Way>& out) const {
  if (reference.is_pattern) return;
  for (const Reference& other : graph_.references) {
    if (!other.is_pattern || other.percent || other.key != reference.key || &other == &reference) continue;
    auto base = base_of(other);
    auto place = pattern_place(other, false);
    if (!base || !place) continue;
    std::vector<RelPath> now = other.deep ? match_deep(planned_, {}, place->path.str() + "/" + other.filter)
                                          : match_paths(planned_, {}, place->path.str());
    if (std::find(now.begin(), now.end(), want.place.path) == now.end()) continue;
    if (auto way = removal(reference)) out.push_back(*way);
    return;
  }
}

std::vector<Way> Respeller::ways(std::int32_t index, const Target& lost, const RelPath& now) const {
  const Reference& reference = graph_.references[static_cast<std::size_t>(index)];
  std::vector<Way> out;
  if (reference.role == Role::include) {
    include_ways(reference, lost, now, out);
    return out;
  }
  // A product that a rule puts into a folder of the tree goes where that folder goes.
  auto output = std::find_if(reference.targets.begin(), reference.targets.end(),
                             [](const Target& target) { return target.kind == Target::Kind::output; });
  bool by_output = lost.kind == Target::Kind::made && output != reference.targets.end();
  auto want = wanted(reference, by_output ? *output : lost);
  auto base = base_of(reference);
  // If the text is right as it stands, what is wrong lies elsewhere.
  if (want && base) {
    std::string text;
    for (const Piece& piece : reference.text.pieces()) text += new_text(piece);
    if (place_of(*base, text) == want->place && !reference.is_pattern && reference.search.empty()) return out;
  }
  if (want && base) {
    std::vector<RelPath> bases;
    for (const Base& search : reference.search) {
      if (auto folder = image_.of_base(search); folder && want->place.path.is_within(*folder))
        bases.push_back(*folder);
    }
    bases.push_back(*base);
    std::vector<Way> climbing;
    cover_ways(reference, *want, out);
    for (const RelPath& from : bases) piece_ways(reference, *want, from, out, climbing);
    place_ways(reference, *want, *base, out);
    out.insert(out.end(), climbing.begin(), climbing.end());
    // What a rule for many says is said for all of them: one member cannot be named beside.
    if (!reference.is_pattern && reference.instance.is_root()) split_ways(reference, *want, *base, out);
  }
  if (reference.is_pattern) {
    std::vector<Way> more = pattern_ways(index);
    out.insert(out.end(), more.begin(), more.end());
  }
  if (want && base) {
    Need need{graph_, reference, {Target{Target::Kind::tree, want->place.path, {}}}, *base, tree_};
    std::vector<Way> own = format_at(reference.format).further_ways(need);
    out.insert(out.end(), own.begin(), own.end());
  }
  return out;
}

std::optional<Way> Respeller::without_detour(const Reference& reference) const {
  bool plain = reference.text.pieces().size() == 1 && reference.text.pieces().front().has_origin() &&
               reference.text.pieces().front().verbatim;
  if (!plain || reference.targets.size() != 1 || reference.is_pattern || reference.angled)
    return std::nullopt;
  const Target& target = reference.targets.front();
  auto base = base_of(reference);
  if (target.kind != Target::Kind::tree || !base || *base == reference.base.folder) return std::nullopt;
  std::string text = reference.text.text();
  PathStyle style = PathStyle::of(text);
  auto path = image_.of(target.path);
  if (!path || text.find("..") == std::string::npos ||
      style.apply(relative_text(reference.base.folder, target.path)) != text)
    return std::nullopt;
  const Piece& piece = reference.text.pieces().front();
  auto edit = edit_for(piece.file, piece.span, style.apply(relative_text(*base, *path)), piece.style,
                       reference.format);
  return edit ? std::optional(Way{{*edit}, ""}) : std::nullopt;
}

bool Respeller::leads_nowhere(const Reference& reference) const {
  auto base = base_of(reference);
  if (!base || reference.text.has_hole()) return false;
  std::string text;
  for (const Piece& piece : reference.text.pieces()) text += new_text(piece);
  Place place = place_of(*base, text);
  return place.space == Space::tree && !planned_.find(place.path);
}

std::int32_t Respeller::bearer(std::int32_t index, const Target& lost) const {
  const Reference& product = graph_.references[static_cast<std::size_t>(index)];
  if (lost.kind != Target::Kind::made || lost.path.is_root()) return index;
  Target source{Target::Kind::tree, lost.path, {}};
  auto same_key = by_key_.find(product.key);
  if (same_key == by_key_.end()) return index;
  std::string name = product.text.text();
  for (std::int32_t other : same_key->second) {
    const Reference& reference = graph_.references[static_cast<std::size_t>(other)];
    bool found_by_name = reference.derivation && reference.instance == product.instance &&
                         reference.derivation->name.text() == name;
    if (found_by_name && std::binary_search(reference.targets.begin(), reference.targets.end(), source))
      return other;
  }
  return index;
}

std::vector<Way> Respeller::exclusions(const RelPath& new_path) const {
  std::vector<Way> out;
  for (const Reference& pattern : graph_.references) {
    if (!pattern.is_pattern || pattern.percent) continue;
    auto base = base_of(pattern);
    auto place = pattern_place(pattern, false);
    if (!base || !place) continue;
    std::vector<RelPath> now = pattern.deep
                                   ? match_deep(planned_, {}, place->path.str() + "/" + pattern.filter)
                                   : match_paths(planned_, {}, place->path.str());
    if (std::find(now.begin(), now.end(), new_path) == now.end()) continue;
    Target before{Target::Kind::tree, moves_.unmap_file(new_path), {}};
    if (std::binary_search(pattern.targets.begin(), pattern.targets.end(), before)) continue;
    auto way = format_at(pattern.format).exclude(graph_, pattern, relative_text(*base, new_path), tree_);
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

std::vector<std::int32_t> Respeller::excluders_of(const RelPath& old_path) const {
  std::vector<std::int32_t> out;
  Target target{Target::Kind::tree, old_path, {}};
  for (std::size_t i = 0; i < graph_.references.size(); ++i) {
    const Reference& reference = graph_.references[i];
    if (reference.excludes && std::binary_search(reference.targets.begin(), reference.targets.end(), target))
      out.push_back(static_cast<std::int32_t>(i));
  }
  return out;
}

bool Respeller::is_emptied(const Reference& pattern) const {
  auto place = pattern_place(pattern, false);
  if (!place) return false;
  bool moved_along = place_of(pattern.base.folder, pattern.text.text(), pattern.base.space) != *place;
  if (moved_along) return false;
  bool has_sibling =
      std::any_of(graph_.references.begin(), graph_.references.end(), [&](const Reference& other) {
        return &other != &pattern && other.key == pattern.key && other.role == pattern.role &&
               other.in_list && other.text.text() != pattern.text.text();
      });
  if (!has_sibling) return false;
  return pattern.deep ? match_deep(planned_, {}, place->path.str() + "/" + pattern.filter).empty()
                      : match_paths(planned_, {}, place->path.str()).empty();
}

std::vector<std::int32_t> Respeller::patterns_of(const RelPath& old_file) const {
  auto at = patterns_.find(old_file);
  return at == patterns_.end() ? std::vector<std::int32_t>() : at->second;
}

std::vector<std::string> Respeller::sibling_texts(const Reference& pattern, const std::vector<RelPath>& lost,
                                                  const RelPath& base) const {
  std::vector<std::string> out;
  std::set<RelPath> folders;
  for (const RelPath& path : lost) folders.insert(path.parent());
  std::string text = pattern.text.text();
  std::string last = text.substr(text.rfind('/') == std::string::npos ? 0 : text.rfind('/') + 1);
  std::set<RelPath> left(lost.begin(), lost.end());
  if (!pattern.deep && has_wildcard(last)) {
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
  for (const RelPath& path : left) out.push_back(relative_text(base, path));
  return out;
}

std::vector<Way> Respeller::pattern_ways(std::int32_t index) const {
  const Reference& pattern = graph_.references[static_cast<std::size_t>(index)];
  std::vector<Way> out;
  auto base = base_of(pattern);
  if (!base || pattern.percent) return out;
  if (auto place = pattern_place(pattern, true)) {
    std::vector<Way> climbing;
    piece_ways(pattern, {*place, false}, *base, out, climbing);
    place_ways(pattern, {*place, false}, *base, out);
    out.insert(out.end(), climbing.begin(), climbing.end());
  }
  if (!pattern.in_list || pattern.text.pieces().empty()) return out;
  auto stays = pattern_place(pattern, false);
  if (!stays) return out;
  std::vector<RelPath> now = pattern.deep ? match_deep(planned_, {}, stays->path.str() + "/" + pattern.filter)
                                          : match_paths(planned_, {}, stays->path.str());
  std::vector<RelPath> lost;
  for (const Target& target : pattern.targets) {
    auto image = image_.of(target.path);
    if (image && std::find(now.begin(), now.end(), *image) == now.end()) lost.push_back(*image);
  }
  if (lost.empty()) return out;
  const Piece& last = pattern.text.pieces().back();
  if (!last.has_origin()) return out;
  Bytes bytes = bytes_of(last.file);
  const Format& format = format_at(pattern.format);
  Span word = format.word_at(*bytes, last.span);
  // A folder variable at the pattern's head is kept in the words beside it.
  const Piece& first = pattern.text.pieces().front();
  std::string head;
  RelPath head_folder = *base;
  if (first.nature == Piece::Nature::tree_folder && first.via.size() == 1 && first.via[0].file == last.file) {
    Span span = first.via[0].span;
    head = bytes->substr(span.begin, span.size()) + "/";
    head_folder = place_of({}, new_text(first)).path;
  }
  std::string inserted;
  for (const std::string& text : sibling_texts(pattern, lost, head_folder)) {
    bool plain = text.substr(0, 2) == ".." || head.empty();
    std::string full = plain && !head.empty() ? head + text : text;
    auto piece = format.beside(*bytes, word,
                               plain && head.empty() ? text : std::string(head.empty() ? full : head + text));
    if (!piece) return out;
    inserted += *piece;
  }
  out.push_back({{Edit{graph_.files.path(last.file), {word.end, word.end}, inserted}}, ""});
  return out;
}

}  // namespace yc
