#include "formats/build_copies.h"

namespace yc {

namespace {

using Copies = std::map<std::string, BuildCopy>;

struct Original {
  const BuildCopy* copy = nullptr;
  RelPath path;  // in the tree
};

// What lies at a path of the build tree.
std::optional<Original> original(const Copies& copies, const RelPath& path) {
  for (RelPath up = path; !up.is_root(); up = up.parent()) {
    if (auto copy = copies.find(up.str()); copy != copies.end())
      return Original{&copy->second, copy->second.of / path.below(up)};
  }
  // A folder into which files are copied one by one is that of the files, if they keep their names.
  std::string head = path.str() + "/";
  auto first = copies.lower_bound(head);
  if (first == copies.end() || !first->first.starts_with(head)) return std::nullopt;
  std::string tail = "/" + first->first.substr(head.size());
  const std::string& of = first->second.of.str();
  if (!of.ends_with(tail)) return std::nullopt;
  return Original{&first->second, RelPath::from_normal(of.substr(0, of.size() - tail.size()))};
}

}  // namespace

CopyUse copied_path(const Scopes& scopes, const FileTable& files, const TreeReader& tree,
                    const TracedText& traced, Site site, std::uint8_t format) {
  const RelPath& user = files.path(site.file);
  CopyUse use;
  if (scopes.copies.empty() || traced.has_hole()) return use;
  std::string text = traced.text();
  if (text.find_first_not_of("./") == std::string::npos) return use;
  std::map<RelPath, FileIndex> starts = {{RelPath(), kNoFile}};
  for (const auto& [place, copy] : scopes.copies)
    starts.emplace(files.path(copy.script).parent(), copy.script);
  std::optional<RelPath> target;
  Base base;
  std::size_t known = 0;  // bytes of the text
  for (const auto& [folder, script] : starts) {
    // Of what the program writes into a folder that was copied, the folder is known.
    std::optional<Original> found;
    std::size_t size = text.size();
    while (true) {
      auto place = RelPath::resolve(folder, text.substr(0, size));
      found = place && !place->is_root() ? original(scopes.copies, *place) : std::nullopt;
      if (!found || tree.find(found->path)) break;
      size = text.rfind('/', size - 1);
      if (size == std::string::npos || size == 0) break;
    }
    if (!found || !tree.find(found->path)) continue;
    bool theirs = !found->copy->is_of_project ||
                  (files.path(found->copy->script).parent() == folder && user.is_within(folder));
    if (!theirs) continue;
    use.any = true;
    known = size;
    if (target && *target != found->path) return use;
    target = found->path;
    base = {folder, script, Space::build};
  }
  if (!target) return use;
  Reference reference = Reference::of(Role::argument, format, {site}, base, traced.substr(0, known))
                            .guessed()
                            .in(ConstructPart::of(base.folder))
                            .spelled_by_format()
                            .leading_to(*target);
  use.reference = std::move(reference);
  return use;
}

bool names_copy(const Reference& reference) {
  return reference.role == Role::argument && reference.has_own_spelling() &&
         reference.base.space == Space::build;
}

std::optional<Spellings::Reason> why_no_copy(const ReferenceGraph& graph, const Reference& reference) {
  if (!names_copy(reference) || graph.copies.empty()) return std::nullopt;
  FileIndex script = reference.base.anchor;
  if (script == kNoFile) script = graph.copies.begin()->second.script;
  return Spellings::Reason{
      "is opened in the build tree, where " + graph.files.path(script).str() + " copies it from there alone",
      "have the script copy it from the new place, too, then move again"};
}

std::vector<Proposal> spelled_in_copy(const RewriteRequest& need) {
  const Reference& reference = need.reference;
  const std::vector<Piece>& pieces = reference.text.pieces();
  if (!names_copy(reference) || pieces.size() != 1 || !pieces[0].has_origin() || need.wanted.size() != 1)
    return {};
  const RelPath& target = reference.targets.front().path;
  auto place = RelPath::resolve(reference.base.folder, reference.text.text());
  for (const auto& [at, copy] : need.graph.copies) {
    RelPath top = RelPath::from_normal(at);
    if (!place || !place->is_within(top) || !target.is_within(copy.of)) continue;
    auto of = need.tree.is_folder(copy.of) ? need.moves.map_folder(copy.of) : need.moves.map_file(copy.of);
    if (!of || !need.wanted[0].path.is_within(*of)) continue;
    RelPath now = copy.named_after ? top.parent() / std::string(of->name()) : top;
    now = now / need.wanted[0].path.below(*of);
    // Whatever folder of the script becomes, its twin holds the copy as it did.
    std::string path = PathStyle::of(pieces[0].text).apply(relative_text(reference.base.folder, now));
    auto text = format_at(reference.format).write(path, pieces[0].style);
    if (!text || *text == pieces[0].text) return {};
    return {{{Edit{need.graph.files.path(pieces[0].file), pieces[0].span, *text}}, ""}};
  }
  return {};
}

}  // namespace yc
