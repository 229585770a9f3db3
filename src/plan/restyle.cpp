#include "plan/restyle.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/capabilities/words.h"
#include "formats/format.h"
#include "plan/compare.h"

namespace yc {

namespace {

bool is_asked(const RestyleRequest& request, const RelPath& file) {
  return request.paths.empty() || std::any_of(request.paths.begin(), request.paths.end(),
                                              [&](const RelPath& path) { return file.is_within(path); });
}

bool is_relative(const std::string& text) {
  return text == "." || text == ".." || text.starts_with("./") || text.starts_with("../");
}

std::size_t climbs_out(std::string_view text) {
  std::size_t out = 0;
  while (text.starts_with("../") || text == "..") {
    ++out;
    text.remove_prefix(std::min<std::size_t>(3, text.size()));
  }
  return out;
}

// What of a target's path the old text left out, and so the new one does: an ending, or "/index.ts".
std::string tail_left_out(const Reference& reference, const RelPath& target) {
  std::string text = reference.text.text();
  RelPath from = reference.base.folder;
  if (!reference.search.empty()) {
    from = reference.search.front().folder;
    text = text.substr(std::min(reference.lead().size(), text.size()));
  }
  auto named = RelPath::resolve(from, text);
  const std::string& full = target.str();
  if (named && full.starts_with(named->str())) return full.substr(named->str().size());
  return "";
}

// The text for a target without what is left out; an ending that stands for another one is kept.
std::string shortened(const Reference& reference, const RelPath& target, const std::string& path) {
  std::string tail = tail_left_out(reference, target);
  if (!tail.empty() && path.ends_with(tail)) return path.substr(0, path.size() - tail.size());
  std::string old_ending = ending_of(reference.text.text()), ending = ending_of(path);
  bool stands_for =
      tail.empty() && !old_ending.empty() && old_ending != ending && target.extension() == ending;
  return stands_for ? path.substr(0, path.size() - ending.size()) + old_ending : path;
}

std::vector<std::string> texts_for(const RestyleRequest& request, const ReferenceGraph& graph,
                                   const Reference& reference, const RelPath& file) {
  std::vector<std::string> out;
  const RelPath& target = reference.targets.front().path;
  std::string old = reference.text.text();
  if (request.to == Spelling::relative) {
    if (is_relative(old)) return out;
    std::string path = shortened(reference, target, relative_text(reference.base.folder, target));
    // A name that stood for the whole path shows no habit.
    const auto* specifiers = offer<Specifiers>(reference.format);
    if (ending_of(old).empty() && specifiers)
      path = specifiers->as_specified(graph, reference.construct.front().file, path);
    // A stylesheet's name is relative as it stands.
    bool bare = reference.search.empty() || (reference.lead().empty() && old.find('/') == std::string::npos);
    if (!is_relative(path)) out.push_back("./" + path);
    if (bare || is_relative(path)) out.push_back(path);
    return out;
  }
  if (!is_relative(old) && !(request.to == Spelling::alias && request.steps == 0 && reference.search.empty()))
    return out;
  if (climbs_out(old) < request.steps) return out;
  std::vector<const Alias*> fitting;
  for (const Alias& alias : graph.aliases) {
    bool plain = alias.open && alias.before.empty() && alias.tail.empty();
    bool rooted = alias.head.empty();
    bool wanted = request.to == Spelling::root ? rooted : !rooted;
    bool named = request.alias.empty() || alias.head == request.alias;
    if (plain && wanted && named && target.is_within(alias.place) && target != alias.place &&
        file.is_within(alias.scope))
      fitting.push_back(&alias);
  }
  std::stable_sort(fitting.begin(), fitting.end(), [](const Alias* a, const Alias* b) {
    return a->place.str().size() > b->place.str().size();
  });
  for (const Alias* alias : fitting) {
    std::string path(target.below(alias->place));
    if (!alias->after.empty()) {
      if (!path.ends_with(alias->after)) continue;
      out.push_back(alias->head + path.substr(0, path.size() - alias->after.size()));
      continue;
    }
    out.push_back(alias->head + shortened(reference, target, path));
  }
  return out;
}

// The file that a reference stands in, if it is a specifier that stands there whole.
std::optional<RelPath> respellable(const ReferenceGraph& graph, const Reference& reference) {
  if (reference.role != Role::module || reference.targets.empty() || reference.text.pieces().size() != 1)
    return std::nullopt;
  const Piece& piece = reference.text.pieces().front();
  return piece.has_origin() ? std::optional(graph.files.path(piece.file)) : std::nullopt;
}

struct Candidate {
  std::int32_t reference = -1;
  std::vector<std::string> texts;
  std::size_t next = 0;
};

}  // namespace

std::vector<AgainstRule> against_rule(const ReferenceGraph& graph, std::size_t alias_from) {
  std::vector<AgainstRule> out;
  for (std::size_t i = 0; i < graph.references.size(); ++i) {
    const Reference& reference = graph.references[i];
    auto file = respellable(graph, reference);
    if (!file || !offer<Specifiers>(reference.format)) continue;
    std::string old = reference.text.text();
    RestyleRequest request;
    bool relative = is_relative(old);
    std::size_t steps =
        climbs_out(relative ? old : relative_text(reference.base.folder, reference.targets.front().path));
    // Only an alias that stands for a folder was a choice; a package's own name is how it is found.
    bool by_alias = !relative && !reference.search.empty() && !reference.lead().empty();
    if (relative == (steps < alias_from) || (!relative && !by_alias)) continue;
    request.to = relative ? Spelling::alias : Spelling::relative;
    request.steps = relative ? alias_from : 0;
    std::vector<std::string> texts = texts_for(request, graph, reference, *file);
    if (!texts.empty()) out.push_back({static_cast<std::int32_t>(i), steps, texts.front()});
  }
  return out;
}

namespace {

// Edits for the spelling of each that is in force.
void put_in(const ReferenceGraph& graph, const std::vector<Candidate>& candidates, EditMap& edits) {
  for (const Candidate& candidate : candidates) {
    if (candidate.next >= candidate.texts.size()) continue;
    const Reference& reference = graph.references[static_cast<std::size_t>(candidate.reference)];
    const Piece& piece = reference.text.pieces().front();
    auto written = format_at(reference.format).write(candidate.texts[candidate.next], piece.style);
    if (written && *written != piece.text) edits[graph.files.path(piece.file)].add(piece.span, *written);
  }
}

// The next spelling of those that lead elsewhere; false if there is none.
bool take_next(const std::vector<Mismatch>& wrong, std::vector<Candidate>& candidates) {
  bool changed = false;
  for (const Mismatch& mismatch : wrong) {
    for (Candidate& candidate : candidates) {
      if (candidate.reference != mismatch.reference || candidate.next >= candidate.texts.size()) continue;
      ++candidate.next;
      changed = true;
      break;
    }
  }
  return changed;
}

}  // namespace

Result<Plan> restyle(const TreeReader& tree, const RestyleRequest& request) {
  Plan plan;
  if (!request.new_alias.empty()) {
    if (Status ok = add_alias(tree, request.new_alias, request.alias_folder, plan); !ok) return ok.error();
  }
  const EditMap settings = plan.edits;
  OverlayTree overlay(tree, plan.moves, plan.changes);
  overlay.set_edits(&plan.edits);
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  plan.references_read = graph.references.size();
  // With the alias in place; the references themselves stand where they stood.
  ReferenceGraph with_alias = read_graph(overlay, cache);
  std::vector<Candidate> candidates;
  for (std::size_t i = 0; i < graph.references.size(); ++i) {
    const Reference& reference = graph.references[i];
    auto file = respellable(graph, reference);
    if (!file || !request.convert || !is_asked(request, *file) || settings.contains(*file)) continue;
    Candidate candidate{static_cast<std::int32_t>(i), texts_for(request, with_alias, reference, *file), 0};
    if (!candidate.texts.empty()) candidates.push_back(std::move(candidate));
  }
  // All at once; what then leads elsewhere takes its next spelling, or is left.
  for (std::size_t round = 0; round < 8; ++round) {
    plan.edits = settings;
    put_in(graph, candidates, plan.edits);
    overlay.set_edits(&plan.edits);
    ReferenceGraph now = read_graph(overlay, cache);
    std::vector<Mismatch> wrong = compare_graphs(tree, graph, now, plan.moves, plan.edits);
    if (wrong.empty()) {
      plan.verified = true;
      break;
    }
    if (!take_next(wrong, candidates)) break;
  }
  plan.rounds = 1;
  if (!plan.verified) {
    plan.edits.clear();
    plan.blockers.push_back({"lost",
                             {},
                             {},
                             "",
                             "the references could not all be led to where they lead now",
                             "name fewer files"});
  }
  list_edits(
      tree, [](const RelPath&, const Span&) { return false; }, plan);
  return plan;
}

}  // namespace yc
