// Ways for one reference: at its own bytes, at an expansion it came through, by a word beside a list.
#include "plan/rewriter.h"

#include <algorithm>
#include <set>

#include "base/joint.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"

namespace yc {

namespace {

bool climbs(const std::string& text) {
  return text.find("..") != std::string::npos;
}

}  // namespace

void ReferenceRewriter::piece_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                                   std::vector<Proposal>& plain, std::vector<Proposal>& climbing) const {
  const auto& pieces = reference.text.pieces();
  struct Found {
    Proposal way;
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

std::size_t ReferenceRewriter::shared_by(const Piece& piece) const {
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
bool ReferenceRewriter::alone_in(const Passage& passage, const Reference& reference,
                                 const Wanted& want) const {
  auto at = passages_.find(passage);
  if (at == passages_.end()) return true;
  const Coming& all = coming_through(passage, at->second);
  bool is_wanted = !all.place || *all.place == want.place;
  return all.is_one && is_wanted && all.text == reference.text.text();
}

// Asked for each of them, so it is found out once.
const ReferenceRewriter::Coming& ReferenceRewriter::coming_through(
    const Passage& passage, const std::set<std::int32_t>& references) const {
  auto [at, fresh] = coming_.try_emplace(passage);
  Coming& out = at->second;
  if (!fresh) return out;
  out.text = graph_.references[static_cast<std::size_t>(*references.begin())].text.text();
  for (std::int32_t index : references) {
    const Reference& one = graph_.references[static_cast<std::size_t>(index)];
    out.is_one = one.text.text() == out.text;
    bool has_place = !one.targets.empty() && one.targets.back().kind != Target::Kind::made;
    auto place = has_place && out.is_one ? wanted(one, one.targets.back()) : std::nullopt;
    if (has_place) out.is_one = place && (!out.place || *out.place == place->place);
    if (!out.is_one) break;
    if (place) out.place = place->place;
  }
  return out;
}

void ReferenceRewriter::place_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                                   std::vector<Proposal>& out) const {
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

// What all rounds of a loop put together, as "${name}.c", and need the same folder before it: that is written
// once, where they meet.
void ReferenceRewriter::lead_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                                  std::vector<Proposal>& out) const {
  const auto& pieces = reference.text.pieces();
  if (pieces.size() < 2 || reference.is_pattern() || want.place.space != Space::tree) return;
  std::optional<Joint> joint = joint_of(reference.text);
  if (!joint || !joint->is_expanded) return;
  WritingStyle style = 0;
  for (const Piece& piece : pieces) {
    bool literal = piece.file == joint->file && joint->whole.holds(piece.span);
    if (literal) style = piece.style;
  }
  auto lead_of = [&](const Reference& one, const Wanted& place, const RelPath& from) {
    std::string now = spelled(one, place, from), text = one.text.text();
    return now.size() > text.size() && now.ends_with(text) ? now.substr(0, now.size() - text.size())
                                                           : std::string();
  };
  std::string lead = lead_of(reference, want, base);
  if (!lead.ends_with('/')) return;
  auto through = passages_.find(Passage{joint->file, joint->first});
  std::size_t others = 0;
  for (std::int32_t index : through == passages_.end() ? std::set<std::int32_t>() : through->second) {
    const Reference& other = graph_.references[static_cast<std::size_t>(index)];
    auto from = base_of(other);
    auto place = other.targets.empty() ? std::nullopt : wanted(other, other.targets.back());
    if (!place || !from) continue;
    if (lead_of(other, *place, *from) != lead) return;
    ++others;
  }
  if (others < 2) return;
  Span before{joint->first.begin, joint->first.begin};
  if (auto edit = edit_for(joint->file, before, lead, style, reference.format)) out.push_back({{*edit}, ""});
}

// What a program is given by the absolute path of a script's folder goes on being absolute: it says nothing
// of where a relative one would be counted from.
void ReferenceRewriter::folder_ways(const Reference& reference, const Wanted& want,
                                    std::vector<Proposal>& out) const {
  const auto& pieces = reference.text.pieces();
  const auto* spellings = offer<Spellings>(reference.format);
  bool is_folder = pieces.size() == 1 && pieces[0].nature == Piece::Nature::tree_folder;
  if (!is_folder || !spellings || reference.role != Role::argument || reference.is_pattern()) return;
  Place from = place_of({}, new_text(pieces[0]));
  if (from.space != want.place.space || from == want.place) return;
  // The innermost one, where the folder comes from, first.
  for (std::size_t level = pieces[0].via.size(); level-- > 0;) {
    const Passage& passage = pieces[0].via[level];
    Bytes bytes = bytes_of(passage.file);
    auto behind =
        spellings->behind_folder(std::string_view(*bytes).substr(passage.span.begin, passage.span.size()),
                                 relative_text(from.path, want.place.path));
    Span end{passage.span.end, passage.span.end};
    if (behind) out.push_back({{Edit{graph_.files.path(passage.file), end, *behind}}, ""});
  }
}

// Whether all that flows through a piece leads to the same thing, so that taking the piece away harms nothing
// else.
bool ReferenceRewriter::is_alone_at(const Piece& piece, const Reference& reference) const {
  auto source_of = [](const Reference& one) {
    return one.targets.empty() ? RelPath() : one.targets.front().path;
  };
  auto at = uses_.find(piece.file);
  if (at == uses_.end()) return true;
  for (auto use = at->second.upper_bound(piece.span.begin); use != at->second.end(); ++use) {
    if (is_behind(piece.file, use->first, piece.span)) break;
    const Reference& other = graph_.references[static_cast<std::size_t>(use->second.reference)];
    const Piece& touched = other.text.pieces()[use->second.piece];
    if (touched.span.begin >= piece.span.end) continue;
    if (source_of(other) != source_of(reference)) return false;
  }
  return true;
}

std::optional<Proposal> ReferenceRewriter::removal(const Reference& reference) const {
  const Piece* own = nullptr;
  std::size_t fewest = 0;
  for (const Piece& piece : reference.text.pieces()) {
    if (!piece.has_origin()) continue;
    std::size_t shared = shared_by(piece);
    if (!own || shared < fewest) own = &piece, fewest = shared;
  }
  if (!own || !is_alone_at(*own, reference)) return std::nullopt;
  Bytes bytes = bytes_of(own->file);
  const auto* words = offer<ListWords>(reference.format);
  auto span = words ? words->without(*bytes, words->word_at(*bytes, own->span)) : std::nullopt;
  if (!span) return std::nullopt;
  return Proposal{{Edit{graph_.files.path(own->file), *span, ""}}, ""};
}

std::optional<std::string> product_of(const Derivation& rule, std::string_view source) {
  bool fits = source.size() >= rule.source_head.size() + rule.source_tail.size() &&
              source.starts_with(rule.source_head) && source.ends_with(rule.source_tail);
  if (!fits) return std::nullopt;
  source.remove_prefix(rule.source_head.size());
  source.remove_suffix(rule.source_tail.size());
  return rule.name_head + std::string(source) + rule.name_tail;
}

// The list goes through something that cannot be changed for one member: take the member out, name it beside.
void ReferenceRewriter::split_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                                   std::vector<Proposal>& out) const {
  const TracedText& through = reference.derivation ? reference.derivation->name : reference.text;
  std::string word = relative_text(base, want.place.path);
  if (reference.derivation) {
    auto product = product_of(*reference.derivation, word);
    if (!product) return;
    word = *product;
  }
  auto taken = removal(reference);
  const auto* words = offer<ListWords>(reference.format);
  if (!words) return;
  std::size_t levels = common_levels(through);
  for (std::size_t level = levels; level-- > 0;) {
    const Passage& passage = through.pieces().front().via[level];
    auto text = words->beside(*bytes_of(passage.file), passage.span, word);
    if (!text) continue;
    Proposal way;
    // Others may be named there too.
    way.edits.push_back(
        {graph_.files.path(passage.file), {passage.span.end, passage.span.end}, *text, *text});
    if (taken) {
      Proposal both = way;
      both.edits.push_back(taken->edits.front());
      out.push_back(std::move(both));
    } else {
      out.push_back(std::move(way));
    }
  }
}

// Another word of the same construct may already bring the new path; then this one only has to go.
void ReferenceRewriter::cover_ways(const Reference& reference, const Wanted& want,
                                   std::vector<Proposal>& out) const {
  auto same_key =
      reference.is_pattern() ? patterns_by_key_.end() : patterns_by_key_.find(reference.construct);
  if (same_key == patterns_by_key_.end()) return;
  for (std::int32_t index : same_key->second) {
    const Reference& other = graph_.references[static_cast<std::size_t>(index)];
    auto base = base_of(other);
    auto place = pattern_place(other, false);
    if (!base || !place) continue;
    std::vector<RelPath> now = other.is_deep()
                                   ? match_deep(planned_, {}, place->path.str() + "/" + other.glob()->names)
                                   : match_paths(planned_, {}, place->path.str());
    if (std::find(now.begin(), now.end(), want.place.path) == now.end()) continue;
    if (auto way = removal(reference)) out.push_back(*way);
    return;
  }
}

}  // namespace yc
