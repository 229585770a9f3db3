#include "base/joint.h"

namespace yc {

namespace {

// How many expansions all pieces came through together, counted from the outermost.
std::size_t shared_levels(const std::vector<Piece>& pieces) {
  for (std::size_t level = 0;; ++level) {
    for (const Piece& piece : pieces) {
      if (level >= piece.via.size() || piece.via[level] != pieces.front().via[level]) return level;
    }
  }
}

}  // namespace

std::optional<Joint> joint_of(const TracedText& text) {
  const std::vector<Piece>& pieces = text.pieces();
  if (pieces.size() < 2) return std::nullopt;
  std::size_t level = shared_levels(pieces);
  std::optional<Joint> out;
  Span last;
  for (const Piece& piece : pieces) {
    bool expanded = level < piece.via.size();
    if (!expanded && !piece.has_origin()) return std::nullopt;
    Passage place = expanded ? piece.via[level] : Passage{piece.file, piece.span};
    if (!out) {
      out = Joint{place.file, place.span, place.span, expanded};
    } else if (place.file != out->file || (place.span != last && place.span.begin != last.end)) {
      return std::nullopt;
    }
    last = place.span;
    out->whole.end = last.end;
  }
  return out->whole == out->first ? std::nullopt : out;
}

}  // namespace yc
