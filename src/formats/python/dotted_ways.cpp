#include "formats/python/dotted_ways.h"

namespace yc::python {

std::vector<Proposal> dotted_ways(const RewriteRequest& need,
                                  const std::function<bool(const PythonResolver::Root&)>& takes) {
  std::vector<Proposal> out;
  const Piece& piece = need.reference.text.pieces().front();
  RelPath file = need.graph.files.path(piece.file);
  std::vector<RelPath> roots;
  PythonResolver resolver(need.tree, need.graph);
  if (!need.reference.search.empty()) roots.push_back(need.reference.search.front().folder);
  for (const PythonResolver::Root& root : resolver.roots(file)) {
    if (takes(root)) roots.push_back(root.folder);
  }
  for (const RelPath& root : roots) {
    RelPath image = root.is_root() ? root : need.moves.map_folder(root).value_or(root);
    auto text = dotted_name(need.wanted.front().path, image);
    if (!text) continue;
    // As it stands, for its root may follow.
    if (*text == need.reference.text.text()) {
      out.push_back({});
    } else {
      out.push_back({{{file, piece.span, *text}}, ""});
    }
  }
  return out;
}

}  // namespace yc::python
