#include "formats/glued_paths/texts_below.h"

namespace yc::glued_paths {

std::optional<TextsBelow> texts_below(const TreeReader& tree, const ReferenceGraph& graph,
                                      const std::vector<const Reference*>& references,
                                      const RelPath& folder) {
  TextsBelow out;
  for (const Reference* reference : references) {
    const auto& pieces = reference->text.pieces();
    if (pieces.size() != 1 || !pieces[0].has_origin() || !pieces[0].verbatim || !pieces[0].via.empty())
      return std::nullopt;
    const RelPath& file = graph.files.path(pieces[0].file);
    auto bytes = tree.read(file);
    std::uint32_t begin = pieces[0].span.begin;
    std::string text = relative_text(reference->base.folder, folder) + "/";
    bool is_below = bytes && begin <= (*bytes)->size() && (*bytes)->compare(begin, text.size(), text) == 0;
    if (!is_below || (!out.prefix.empty() && out.prefix != text)) return std::nullopt;
    out.prefix = text;
    out.cuts.push_back({file, {begin, begin + static_cast<std::uint32_t>(text.size())}, ""});
  }
  if (out.cuts.empty()) return std::nullopt;
  return out;
}

}  // namespace yc::glued_paths
