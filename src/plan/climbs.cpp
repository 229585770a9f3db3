#include "plan/climbs.h"

#include <fmt/format.h>

namespace yc {

std::optional<RelPath> missing_on_the_way(const TreeReader& tree, const RelPath& base,
                                          std::string_view text) {
  if (text.find("/..") == std::string_view::npos || text.find(kHoleMark) != std::string_view::npos)
    return std::nullopt;
  RelPath at = base;
  if (text.starts_with(kTreeMark)) {
    at = {};
    text.remove_prefix(kTreeMark.size());
  } else if (text.starts_with('/') || text.front() == kTreeMark.front()) {
    return std::nullopt;  // outside, or in the build tree
  }
  bool was_name = false;
  for (std::size_t begin = 0; begin <= text.size();) {
    std::size_t end = std::min(text.find('/', begin), text.size());
    std::string_view part = text.substr(begin, end - begin);
    begin = end + 1;
    if (part.empty() || part == ".") continue;
    if (part == "..") {
      if (was_name && !tree.is_folder(at)) return at;
      at = at.parent();
    } else {
      at = at / part;
    }
    was_name = part != "..";
  }
  return std::nullopt;
}

namespace {

// Modules and links are put together as text, and nobody looks at what they climb out of.
bool is_walked(const Reference& reference) {
  return reference.role != Role::module && reference.role != Role::link && !reference.targets.empty() &&
         reference.base.space == Space::tree && !reference.has_own_spelling();
}

}  // namespace

std::optional<Proposal> straight_way(const PlanView& view, const Reference& reference) {
  const std::vector<Piece>& pieces = reference.text.pieces();
  if (!is_walked(reference) || pieces.size() != 1 || !pieces.front().has_origin()) return std::nullopt;
  const RelPath& folder = reference.base.folder;
  bool is_kept = folder.is_root() || view.moves.map_folder(folder) == folder;
  std::string text = reference.text.text();
  auto place = is_kept ? RelPath::resolve(folder, text) : std::nullopt;
  auto missing = place ? missing_on_the_way(view.planned, folder, text) : std::nullopt;
  // A folder that is not there before either is none of the move's business.
  if (!missing || !view.tree.is_folder(*missing)) return std::nullopt;
  auto written = format_at(reference.format).write(relative_text(folder, *place), pieces.front().style);
  if (!written) return std::nullopt;
  return Proposal{{Edit{view.old.files.path(pieces.front().file), pieces.front().span, *written}}, ""};
}

std::vector<Blocker> lost_ways(const PlanView& view) {
  std::vector<Blocker> out;
  for (const Reference& reference : view.now.references) {
    if (!is_walked(reference)) continue;
    auto missing = missing_on_the_way(view.planned, reference.base.folder, reference.text.text());
    if (!missing || !view.tree.is_folder(*missing)) continue;
    Standing at = standing_of(reference);
    if (at.file == kNoFile) continue;
    Blocker one;
    one.id = "lost-way";
    one.file = view.moves.unmap_file(view.now.files.path(at.file));
    one.text = reference.text.text();
    one.reason = fmt::format("would climb out of {}, which would not be there any more", missing->str());
    auto place = RelPath::resolve(reference.base.folder, one.text);
    std::string plain = place ? relative_text(reference.base.folder, *place) : "";
    // Where the text itself is the path, it is told how it would be without the detour.
    bool is_told = !plain.empty() && reference.text.pieces().size() == 1 && !one.text.starts_with(kTreeMark);
    one.next = is_told ? fmt::format("write \"{}\" for it first, or keep something in that folder", plain)
                       : "write that path without a detour first, or keep something in that folder";
    out.push_back(std::move(one));
  }
  return out;
}

}  // namespace yc
