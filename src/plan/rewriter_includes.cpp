// Respelling includes: against a search root that the units already have, relative, or with one more root.
#include <algorithm>
#include <set>

#include "formats/capabilities/spellings.h"
#include "plan/rewriter.h"
#include "words/plan.h"

namespace yc {

void ReferenceRewriter::implied_roots(const std::string& text, const Target& lost,
                                      std::vector<RelPath>& roots) const {
  // Where no build script tells, the folder that the text was relative to counts as a root.
  std::string full = lost.path.str();
  auto normal = RelPath::resolve({}, text);
  if (normal && full.size() > normal->str().size() && full.ends_with("/" + normal->str())) {
    RelPath folder = RelPath::from_normal(full.substr(0, full.size() - normal->str().size() - 1));
    if (auto image = moves_.map_folder(folder)) roots.push_back(*image);
  } else if (normal && full == normal->str()) {
    roots.push_back({});
  }
}

bool ReferenceRewriter::is_made_in_place(const Target& target) const {
  auto made = graph_.made.find(target.path);
  return target.kind == Target::Kind::build && made != graph_.made.end() &&
         made->second.contains(kBuildsInPlace);
}

// The folders that are searched in one context, as they will be, in which such an include may be found.
ReferenceRewriter::CommonRoots ReferenceRewriter::roots_in(const Context& context, const Reference& reference,
                                                           const Target& lost) const {
  bool is_made = lost.kind == Target::Kind::build, in_place = is_made_in_place(lost);
  bool is_in_build = is_made && !in_place;
  std::string old = reference.text.text();
  CommonRoots out;
  for (const SearchRoot& root : context.roots) {
    bool is_passed_over = root.place.space != (is_in_build ? Space::build : Space::tree) ||
                          (root.as_built && !is_made) || (root.quoted_only && reference.is_angled());
    if (is_passed_over) continue;
    auto image = root.place.path.is_root() ? std::optional(root.place.path)
                 : is_in_build             ? std::optional(image_.of_build(root.place.path))
                                           : moves_.map_folder(root.place.path);
    if (!image) continue;
    if (auto hit = RelPath::resolve(root.place.path, old); hit && *hit == lost.path && !out.used)
      out.used = *image;
    out.roots.push_back(*image);
  }
  // What an assembler includes is looked for where that is started, too.
  const Place& start = context.start;
  bool is_started_here = reference.is_angled() && !is_in_build && start.space == Space::tree;
  auto there = is_started_here ? RelPath::resolve(start.path, old) : std::nullopt;
  if (there && *there == lost.path && !out.used) {
    out.used = start.path.is_root() ? start.path : moves_.map_folder(start.path).value_or(start.path);
    out.roots.push_back(*out.used);
  }
  return out;
}

ReferenceRewriter::CommonRoots ReferenceRewriter::common_roots(const Reference& reference,
                                                               const Target& lost) const {
  CommonRoots out;
  bool first = true;
  for (const InContext& in : reference.contexts) {
    if (!in.found) continue;  // where it leads nowhere now, it need not lead anywhere
    // Where one unit finds what is made and another what is written, each has folders of its own to look in.
    if (in.context != kNoContext && in.is_made != (lost.kind == Target::Kind::build)) continue;
    if (in.context == kNoContext) {
      implied_roots(reference.text.text(), lost, out.roots);
      first = false;
      continue;
    }
    CommonRoots here = roots_in(graph_.contexts[static_cast<std::size_t>(in.context)], reference, lost);
    if (!out.used) out.used = here.used;
    if (first) {
      out.roots = std::move(here.roots);
    } else {
      std::erase_if(out.roots, [&](const RelPath& root) {
        return std::find(here.roots.begin(), here.roots.end(), root) == here.roots.end();
      });
    }
    first = false;
  }
  return out;
}

namespace {

// Whether a path has a folder that people make for headers, to be searched.
bool is_in_header_folder(const RelPath& path) {
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    if (words::plan::header_folders().contains(up.name())) return true;
  }
  return false;
}

// How a path is spelled from the folders that are searched: from the one through which it was found first,
// then the shortest.
std::vector<std::string> texts_by_root(const std::vector<RelPath>& roots, const std::optional<RelPath>& used,
                                       const RelPath& target, bool is_made) {
  std::vector<std::string> out;
  for (const RelPath& root : roots) {
    if (target.is_within(root) && target != root) out.push_back(std::string(target.below(root)));
  }
  std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.size() < b.size(); });
  if (is_made && out.empty()) {
    // Through the twin of a folder in the build tree, which may lie beside what is made.
    for (const RelPath& root : roots) out.push_back(relative_text(root, target));
  }
  if (used && target.is_within(*used)) out.insert(out.begin(), std::string(target.below(*used)));
  return out;
}

}  // namespace

// A header that goes to a folder made for headers is looked for in it, where the includes can stay as they
// are by that and no folder made for headers is searched that holds it already.
bool ReferenceRewriter::is_for_headers(const std::string& text, const RelPath& old_target,
                                       const RelPath& target, const std::vector<RelPath>& roots) const {
  bool stays = target.str() == text || target.str().ends_with("/" + text);
  bool is_searched = std::any_of(roots.begin(), roots.end(), [&](const RelPath& root) {
    return target.is_within(root) && is_in_header_folder(root / target.name());
  });
  return stays && !is_searched && is_in_header_folder(target) && !is_in_header_folder(old_target);
}

void ReferenceRewriter::include_ways(const Reference& reference, const Target& lost, const RelPath& now,
                                     std::vector<Proposal>& out) const {
  bool is_built = lost.kind == Target::Kind::build;
  RelPath target = is_built ? image_.of_build(lost.path) : moves_.map_file(lost.path);
  std::size_t before = out.size();
  include_ways_to(reference, lost, target, now, out);
  if (!is_made_in_place(lost) || target == lost.path) return;
  // As it stands, once the rule that makes it has followed. A rule may also make it where it did, though what
  // it is made of moved.
  if (out.size() == before) out.emplace_back();
  include_ways_to(reference, lost, lost.path, now, out);
}

void ReferenceRewriter::include_ways_to(const Reference& reference, const Target& lost, const RelPath& target,
                                        const RelPath& now, std::vector<Proposal>& out) const {
  if (reference.text.pieces().size() != 1) return;
  const Piece& piece = reference.text.pieces().front();
  RelPath includer = moves_.map_file(graph_.files.path(reference.construct.front().file));
  // What is made among the sources is named as they are.
  bool is_made = lost.kind == Target::Kind::build && !is_made_in_place(lost);
  std::string old = reference.text.text();

  auto [roots, used] = common_roots(reference, lost);
  // If nothing else is found instead and the text fits as it stands, what is wrong lies elsewhere.
  auto leads = [&](const RelPath& folder) {
    auto path = RelPath::resolve(folder, old);
    return path && *path == target;
  };
  if (now.is_root() && ((!reference.is_angled() && !is_made && leads(includer.parent())) ||
                        std::any_of(roots.begin(), roots.end(), leads)))
    return;
  std::vector<std::string> by_root = texts_by_root(roots, used, target, is_made);
  auto propose = [&](const std::string& text) {
    if (auto edit = edit_for(piece.file, piece.span, text, piece.style, reference.format))
      out.push_back({{*edit}, ""});
  };
  PathStyle style = PathStyle::of(old);
  auto beside = RelPath::resolve(reference.base.folder, old);
  bool climbs = old.starts_with("../") || old.starts_with("./");
  bool is_plainly_relative = !reference.is_angled() && !is_made && beside && *beside == lost.path &&
                             (climbs || (!used && old.find('/') != std::string::npos));
  for (IncludeForm form : include_order_) {
    if (form == IncludeForm::header_root) {
      if (!is_made && is_for_headers(old, lost.path, target, roots)) new_root_ways(reference, target, out);
    } else if (form == IncludeForm::habit) {
      if (is_plainly_relative) propose(style.apply(relative_text(includer.parent(), target)));
    } else if (form == IncludeForm::root) {
      for (const std::string& text : by_root) propose(text);
    } else if (is_made) {
      continue;  // it stands in no folder of the tree
    } else if (form == IncludeForm::relative) {
      if (!reference.is_angled()) propose(style.apply(relative_text(includer.parent(), target)));
    } else {
      new_root_ways(reference, target, out);
    }
  }
  // As the language says it where nothing that is searched holds the file any more. Where no build script
  // tells how it was found, nothing is known that it could be said for.
  bool is_told = std::any_of(reference.contexts.begin(), reference.contexts.end(),
                             [](const InContext& in) { return in.found && in.context != kNoContext; });
  if (!reference.is_angled() || is_made || !is_told || !by_root.empty() || !moves_.moves(lost.path)) return;
  std::vector<Proposal> last =
      late_proposals(request(reference, {Target::Kind::tree, target, {}}, includer.parent()));
  out.insert(out.end(), last.begin(), last.end());
}

// One unit for each place that defines units which compile something in these contexts.
const std::vector<std::int32_t>& ReferenceRewriter::units_with(const std::set<ContextIndex>& contexts) const {
  auto [at, fresh] = units_.try_emplace(contexts);
  if (!fresh) return at->second;
  std::set<std::pair<Site, std::string>> done;
  for (const Compilation& item : graph_.compilations) {
    if (!contexts.contains(item.context) || item.unit < 0) continue;
    const Unit& unit = graph_.units[static_cast<std::size_t>(item.unit)];
    if (done.emplace(unit.site, unit.name).second) at->second.push_back(item.unit);
  }
  return at->second;
}

// Gives every unit that reaches the including file the folder that makes the old text right again.
void ReferenceRewriter::new_root_ways(const Reference& reference, const RelPath& target,
                                      std::vector<Proposal>& out) const {
  std::string text = reference.text.text();
  auto normal = RelPath::resolve({}, text);
  RelPath root = target.parent();
  bool same_tail = normal && target.str().ends_with(normal->str()) &&
                   (target.str().size() == normal->str().size() ||
                    target.str()[target.str().size() - normal->str().size() - 1] == '/');
  if (same_tail) {
    root = RelPath::from_normal(target.str().size() == normal->str().size()
                                    ? ""
                                    : target.str().substr(0, target.str().size() - normal->str().size() - 1));
  }
  // Some compilers, and Meson, take no folder that is not there.
  if (!root.is_root() && !planned_.is_folder(root)) return;
  std::set<ContextIndex> contexts;
  for (const InContext& in : reference.contexts) {
    if (in.context != kNoContext && in.found) contexts.insert(in.context);
  }
  std::vector<std::vector<Proposal>> choices;
  for (std::int32_t index : units_with(contexts)) {
    const Unit& unit = graph_.units[static_cast<std::size_t>(index)];
    auto [known, fresh] = root_ways_.try_emplace({unit.site, unit.name, root});
    if (fresh) known->second = add_search_root(graph_, unit, root, tree_);
    if (known->second.empty()) return;
    choices.push_back(known->second);
  }
  if (choices.empty()) return;
  std::size_t most = 0;
  for (const auto& ways : choices) most = std::max(most, ways.size());
  for (std::size_t i = 0; i < most; ++i) {
    Proposal way;
    for (const auto& ways : choices) {
      const Proposal& pick = ways[std::min(i, ways.size() - 1)];
      way.edits.insert(way.edits.end(), pick.edits.begin(), pick.edits.end());
    }
    if (!same_tail) {
      const Piece& piece = reference.text.pieces().front();
      auto edit = edit_for(piece.file, piece.span, std::string(target.name()), piece.style, reference.format);
      if (edit) way.edits.push_back(*edit);
    }
    out.push_back(std::move(way));
  }
}

}  // namespace yc
