#include "plan/rewriter.h"
#include "formats/capabilities/spellings.h"

#include <algorithm>
#include <set>

namespace yc {

ReferenceRewriter::ReferenceRewriter(const TreeReader& old_tree, const TreeReader& planned,
                                     const ReferenceGraph& graph, const MoveSet& moves,
                                     IncludeOrder include_order, std::size_t alias_from, FactsCache* cache)
    : tree_(old_tree),
      planned_(planned),
      graph_(graph),
      moves_(moves),
      image_(old_tree, graph, moves, no_edits_),
      include_order_(std::move(include_order)),
      alias_from_(alias_from),
      cache_(cache) {
  for (std::size_t i = 0; i < graph.references.size(); ++i) {
    const Reference& reference = graph.references[i];
    for (std::size_t p = 0; p < reference.text.pieces().size(); ++p) {
      const Piece& piece = reference.text.pieces()[p];
      for (const Passage& passage : piece.via) passages_[passage].insert(static_cast<std::int32_t>(i));
      if (!piece.has_origin()) continue;
      uses_[piece.file].emplace(piece.span.end, Use{static_cast<std::int32_t>(i), p});
      std::uint32_t& longest = longest_[piece.file];
      longest = std::max(longest, piece.span.size());
    }
    by_key_[reference.construct].push_back(static_cast<std::int32_t>(i));
    if (reference.is_pattern() && !reference.is_percent())
      patterns_by_key_[reference.construct].push_back(static_cast<std::int32_t>(i));
    if (reference.excludes) excluders_.push_back(static_cast<std::int32_t>(i));
  }
}

Bytes ReferenceRewriter::bytes_of(FileIndex file) const {
  auto bytes = tree_.read(graph_.files.path(file));
  return bytes ? *bytes : std::make_shared<const std::string>();
}

std::string ReferenceRewriter::new_text(const Piece& piece) const {
  if (piece.nature != Piece::Nature::tree_folder && piece.nature != Piece::Nature::build_folder)
    return piece.text;
  Place place = place_of({}, piece.text);
  auto folder = image_.of_base(Base{place.path, piece.anchor, Space::tree});
  return marked(place.space, folder.value_or(place.path));
}

std::optional<RelPath> ReferenceRewriter::base_of(const Reference& reference) const {
  if (staying_.contains(reference.base.anchor)) return reference.base.folder;
  return image_.of_base(reference.base);
}

std::optional<ReferenceRewriter::Wanted> ReferenceRewriter::wanted(const Reference& reference,
                                                                   const Target& target) const {
  if (target.kind == Target::Kind::build) return Wanted{{Space::build, image_.of_build(target.path)}, false};
  if (target.kind == Target::Kind::output) return Wanted{{Space::tree, image_.of_build(target.path)}, false};
  // What is made there goes on being made there, whatever folder its name is counted from.
  bool is_made = std::any_of(reference.text.pieces().begin(), reference.text.pieces().end(),
                             [](const Piece& piece) { return piece.nature == Piece::Nature::build_folder; });
  if (target.kind == Target::Kind::name && is_made) return Wanted{{Space::build, target.path}, false};
  if (target.kind != Target::Kind::tree) return std::nullopt;
  if (reference.is_pattern()) {
    auto place = pattern_place(reference, true);
    return place ? std::optional(Wanted{*place, false}) : std::nullopt;
  }
  auto path = image_.of(target.path);
  if (!path) return std::nullopt;
  return Wanted{{Space::tree, *path}, tree_.is_folder(target.path)};
}

namespace {

// How a source and its product, which both hold a stem that the same bytes spell, are called after it.
std::optional<Derivation> derivation_of(const TracedText& source, const TracedText& product) {
  std::size_t in_product = 0;
  for (const Piece& whole : product.pieces()) {
    std::size_t in_source = 0;
    for (const Piece& stem : source.pieces()) {
      bool shared = whole.has_origin() && stem.file == whole.file && whole.span.holds(stem.span) &&
                    whole.verbatim && stem.verbatim;
      if (shared) {
        std::size_t at = in_product + (stem.span.begin - whole.span.begin);
        std::string name = product.text(), path = source.text();
        return Derivation{product,
                          name.substr(0, at),
                          name.substr(at + stem.text.size()),
                          path.substr(0, in_source),
                          path.substr(in_source + stem.text.size()),
                          {},
                          0};
      }
      in_source += stem.text.size();
    }
    in_product += whole.text.size();
  }
  return std::nullopt;
}

}  // namespace

// A product that a rule for many names after its source, which goes elsewhere: it will be made there.
std::optional<ReferenceRewriter::Wanted> ReferenceRewriter::renamed_product(const Reference& reference,
                                                                            const Target& lost,
                                                                            const RelPath& base) const {
  if (lost.kind != Target::Kind::made) return std::nullopt;
  const std::string name = reference.text.text();
  for (const Reference& product : graph_.references) {
    // Another script's rules name its own products.
    bool names_it = product.role == Role::product && product.base.folder == reference.base.folder &&
                    product.construct.front().file == reference.construct.front().file &&
                    product.text.text() == name;
    if (!names_it) continue;
    // Which of the sources that the same rule names is spelled by the same bytes.
    auto same_rule = by_key_.find(product.construct);
    for (std::int32_t index : same_rule == by_key_.end() ? std::vector<std::int32_t>() : same_rule->second) {
      const Reference& other = graph_.references[static_cast<std::size_t>(index)];
      if (other.targets.size() != 1 || other.targets[0].kind != Target::Kind::tree) continue;
      const RelPath& source = other.targets[0].path;
      bool is_meant = lost.path.is_root() ? moves_.moves(source) : source == lost.path;
      auto path = is_meant ? image_.of(source) : std::nullopt;
      if (!path) continue;
      std::optional<Derivation> rule = derivation_of(other.text, product.text);
      auto made = rule ? product_of(*rule, relative_text(base, *path)) : std::nullopt;
      auto place = made ? RelPath::resolve(base, *made) : std::nullopt;
      if (place) return Wanted{{Space::tree, *place}, false};
    }
  }
  return std::nullopt;
}

RewriteRequest ReferenceRewriter::request(const Reference& reference, Target wanted, RelPath base) const {
  return {graph_,      reference, {std::move(wanted)},         std::move(base), tree_, moves_,
          alias_from_, cache_,    &memories_[reference.format]};
}

std::string ReferenceRewriter::new_text(const Reference& reference) const {
  std::string text;
  for (const Piece& piece : reference.text.pieces()) text += new_text(piece);
  return text;
}

// Then what is wrong lies elsewhere.
bool ReferenceRewriter::is_right_as_it_stands(const Reference& reference, const Wanted& wanted,
                                              const RelPath& base) const {
  return !reference.is_pattern() && reference.search.empty() &&
         place_of(base, new_text(reference)) == wanted.place;
}

// Whether it will be right once the folder that it is looked up in has followed.
bool ReferenceRewriter::follows_its_folder(const Reference& reference, const Wanted& wanted) const {
  std::string text = new_text(reference);
  return std::any_of(reference.search.begin(), reference.search.end(), [&](const Base& search) {
    auto folder = image_.of_base(search);
    return folder && *folder != search.folder && place_of(*folder, text) == wanted.place;
  });
}

// The ways that any language has.
void ReferenceRewriter::general_ways(const Reference& reference, const Wanted& wanted, const RelPath& base,
                                     std::vector<Proposal>& out) const {
  std::vector<RelPath> bases;
  for (const Base& search : reference.search) {
    if (auto folder = image_.of_base(search); folder && wanted.place.path.is_within(*folder))
      bases.push_back(*folder);
  }
  bases.push_back(base);
  std::vector<Proposal> climbing;
  cover_ways(reference, wanted, out);
  lead_ways(reference, wanted, base, out);
  climb_ways(reference, wanted, base, out, climbing);
  for (const RelPath& from : bases) piece_ways(reference, wanted, from, out, climbing);
  folder_ways(reference, wanted, out);
  place_ways(reference, wanted, base, out);
  out.insert(out.end(), climbing.begin(), climbing.end());
}

// What is looked for only where these do not do: it takes looking through whole scripts.
std::vector<Proposal> ReferenceRewriter::further_ways(std::int32_t index, const Target& lost,
                                                      const Wanted* want, const RelPath* base) const {
  const Reference& reference = graph_.references[static_cast<std::size_t>(index)];
  std::vector<Proposal> out;
  auto append = [&](const std::vector<Proposal>& more) { out.insert(out.end(), more.begin(), more.end()); };
  // What a rule for many says is said for all of them: one member cannot be named beside.
  if (want && base && !reference.is_pattern() && !reference.construct_part.is_one_of_many())
    split_ways(reference, *want, *base, out);
  if (reference.is_pattern())
    append(pattern_ways(index, lost.kind == Target::Kind::tree ? std::optional(lost.path) : std::nullopt));
  if (want && base)
    append(late_proposals(request(reference, {Target::Kind::tree, want->place.path, {}}, *base)));
  return out;
}

std::optional<Target> ReferenceRewriter::homeless_product(const Reference& reference) const {
  Place place = place_of(reference.base.folder, reference.text.text(), reference.base.space);
  RelPath folder = place.path.parent();
  bool is_homeless = place.space == Space::tree && !folder.is_root() && tree_.is_folder(folder) &&
                     !planned_.is_folder(folder);
  return is_homeless ? std::optional(Target{Target::Kind::output, place.path, {}}) : std::nullopt;
}

Ways ReferenceRewriter::ways(std::int32_t index, const Target& lost, const RelPath& now) const {
  const Reference& reference = graph_.references[static_cast<std::size_t>(index)];
  std::vector<Proposal> out;
  if (reference.role == Role::include) {
    include_ways(reference, lost, now, out);
    return out;
  }
  if (reference.has_own_spelling()) {
    auto base = base_of(reference);
    auto path = lost.kind == Target::Kind::name ? std::nullopt : image_.of(lost.path);
    if (!base || !path) return out;
    return own_proposals(request(reference, {lost.kind, *path, {}}, *base));
  }
  // A product called after its source keeps its name where the language can say it.
  if (reference.role == Role::product && lost.kind == Target::Kind::name) {
    if (auto base = base_of(reference)) {
      std::vector<Proposal> named = late_proposals(request(reference, lost, *base));
      out.insert(out.end(), named.begin(), named.end());
    }
  }
  // A product that a rule puts into a folder of the tree goes where that folder goes.
  auto output = std::find_if(reference.targets.begin(), reference.targets.end(),
                             [](const Target& target) { return target.kind == Target::Kind::output; });
  bool by_output = lost.kind == Target::Kind::made && output != reference.targets.end();
  auto homeless = lost.kind == Target::Kind::made && !by_output ? homeless_product(reference) : std::nullopt;
  auto want = wanted(reference, by_output ? *output : homeless ? *homeless : lost);
  auto base = base_of(reference);
  if (!want && base) want = renamed_product(reference, lost, *base);
  if (want && base) {
    if (is_right_as_it_stands(reference, *want, *base)) {
      // Another reference may need what this one is counted from to be climbed to again.
      climb_ways(reference, *want, *base, out, out);
      return out;
    }
    if (!reference.is_pattern()) {
      if (follows_its_folder(reference, *want)) out.push_back({});
      std::vector<Proposal> own =
          early_proposals(request(reference, {Target::Kind::tree, want->place.path, {}}, *base));
      out.insert(out.end(), own.begin(), own.end());
    }
  }
  if (want && base) general_ways(reference, *want, *base, out);
  Ways all(std::move(out));
  all.later = [this, index, lost, want, base] {
    return further_ways(index, lost, want ? &*want : nullptr, base ? &*base : nullptr);
  };
  return all;
}

std::optional<Proposal> ReferenceRewriter::without_detour(const Reference& reference) const {
  bool plain = reference.text.pieces().size() == 1 && reference.text.pieces().front().has_origin() &&
               reference.text.pieces().front().verbatim;
  if (!plain || reference.targets.size() != 1 || reference.is_pattern() || reference.is_angled())
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
  return edit ? std::optional(Proposal{{*edit}, ""}) : std::nullopt;
}

bool ReferenceRewriter::leads_nowhere(const Reference& reference) const {
  auto base = base_of(reference);
  if (!base || reference.text.has_hole()) return false;
  std::string text;
  for (const Piece& piece : reference.text.pieces()) text += new_text(piece);
  Place place = place_of(*base, text);
  return place.space == Space::tree && !planned_.find(place.path);
}

std::int32_t ReferenceRewriter::bearer(std::int32_t index, const Target& lost) const {
  const Reference& product = graph_.references[static_cast<std::size_t>(index)];
  if (lost.kind != Target::Kind::made || lost.path.is_root()) return index;
  Target source{Target::Kind::tree, lost.path, {}};
  auto same_key = by_key_.find(product.construct);
  if (same_key == by_key_.end()) return index;
  std::string name = product.text.text();
  for (std::int32_t other : same_key->second) {
    const Reference& reference = graph_.references[static_cast<std::size_t>(other)];
    bool found_by_name = reference.derivation && reference.construct_part == product.construct_part &&
                         reference.derivation->name.text() == name;
    if (found_by_name && std::binary_search(reference.targets.begin(), reference.targets.end(), source))
      return other;
  }
  return index;
}

}  // namespace yc
