#include "base/traced_text.h"

#include <algorithm>

namespace yc {

TracedText TracedText::plain(std::string text) {
  TracedText out;
  Piece piece;
  piece.text = std::move(text);
  out.append(std::move(piece));
  return out;
}

TracedText TracedText::literal(std::string text, FileIndex file, Span span, WritingStyle style) {
  TracedText out;
  Piece piece;
  piece.verbatim = text.size() == span.size();
  piece.text = std::move(text);
  piece.file = file;
  piece.span = span;
  piece.style = style;
  out.append(std::move(piece));
  return out;
}

TracedText TracedText::hole() {
  TracedText out;
  Piece piece;
  piece.nature = Piece::Nature::hole;
  piece.text = std::string(1, kHoleMark);
  out.append(std::move(piece));
  return out;
}

TracedText TracedText::folder(Piece::Nature nature, FileIndex anchor, std::string text) {
  TracedText out;
  Piece piece;
  piece.nature = nature;
  piece.anchor = anchor;
  piece.text = std::move(text);
  out.append(std::move(piece));
  return out;
}

void TracedText::append(Piece piece) {
  if (piece.text.empty() && piece.nature == Piece::Nature::literal) return;
  size_ += piece.text.size();
  if (!pieces_.empty() && piece.nature == Piece::Nature::literal) {
    Piece& last = pieces_.back();
    bool joins = last.nature == Piece::Nature::literal && last.file == piece.file &&
                 last.style == piece.style && last.automatic == piece.automatic && last.verbatim &&
                 piece.verbatim && last.via == piece.via &&
                 (piece.file == kNoFile || last.span.end == piece.span.begin);
    if (joins) {
      last.text += piece.text;
      last.span.end = piece.span.end;
      return;
    }
  }
  pieces_.push_back(std::move(piece));
}

void TracedText::append(const TracedText& other) {
  for (const Piece& piece : other.pieces_) append(piece);
}

void TracedText::append_char(char c, FileIndex file, std::uint32_t offset, WritingStyle style) {
  if (!pieces_.empty()) {
    Piece& last = pieces_.back();
    if (last.nature == Piece::Nature::literal && last.verbatim && last.file == file && last.via.empty() &&
        last.style == style && last.span.end == offset) {
      last.text += c;
      ++last.span.end;
      ++size_;
      return;
    }
  }
  append(literal(std::string(1, c), file, {offset, offset + 1}, style));
}

std::string TracedText::text() const {
  if (pieces_.size() == 1) return pieces_.front().text;
  std::string out;
  out.reserve(size());
  for (const Piece& piece : pieces_) out += piece.text;
  return out;
}

std::string TracedText::solid_text() const {
  std::string out;
  for (const Piece& piece : pieces_) {
    if (piece.nature != Piece::Nature::hole) out += piece.text;
  }
  return out;
}

bool TracedText::is_only_holes() const {
  return std::all_of(pieces_.begin(), pieces_.end(),
                     [](const Piece& piece) { return piece.nature == Piece::Nature::hole; });
}

std::string TracedText::pattern_text() const {
  std::string out;
  for (const Piece& piece : pieces_) {
    if (piece.nature == Piece::Nature::hole) {
      out += '*';
      continue;
    }
    for (char c : piece.text) {
      if (c == '*' || c == '?' || c == '[' || c == '\\') out += '\\';
      out += c;
    }
  }
  return out;
}

bool TracedText::has_hole() const {
  return std::any_of(pieces_.begin(), pieces_.end(),
                     [](const Piece& piece) { return piece.nature == Piece::Nature::hole; });
}

bool TracedText::is_automatic() const {
  return std::any_of(pieces_.begin(), pieces_.end(), [](const Piece& piece) { return piece.automatic; });
}

void TracedText::mark_automatic() {
  for (Piece& piece : pieces_) piece.automatic = true;
}

namespace {

// A part of a piece. A piece that cannot be cut keeps no origin for its parts, so nobody edits half of it.
Piece cut_piece(const Piece& piece, std::size_t from, std::size_t count) {
  if (from == 0 && count == piece.text.size()) return piece;
  Piece part;
  part.text.assign(piece.text, from, count);
  part.nature = piece.nature;
  part.file = piece.file;
  part.span = piece.span;
  part.style = piece.style;
  part.verbatim = piece.verbatim;
  part.automatic = piece.automatic;
  part.anchor = piece.anchor;
  part.via = piece.via;
  if (piece.nature != Piece::Nature::literal) {
    part.nature = Piece::Nature::literal;
    part.file = kNoFile;
  } else if (piece.has_origin() && piece.verbatim) {
    part.span.begin = piece.span.begin + static_cast<std::uint32_t>(from);
    part.span.end = part.span.begin + static_cast<std::uint32_t>(count);
  } else {
    part.file = kNoFile;
  }
  return part;
}

template <typename IsBreak>
std::vector<TracedText> divide(const std::vector<Piece>& pieces, IsBreak is_break, bool keep_empty) {
  std::vector<TracedText> out;
  TracedText current;
  bool any = keep_empty;
  for (const Piece& piece : pieces) {
    if (piece.nature != Piece::Nature::literal) {
      current.append(piece);
      any = true;
      continue;
    }
    std::size_t at = 0;
    while (at < piece.text.size()) {
      std::size_t end = at;
      while (end < piece.text.size() && !is_break(piece.text[end])) ++end;
      if (end > at) {
        current.append(cut_piece(piece, at, end - at));
        any = true;
      }
      if (end < piece.text.size()) {
        if (any) out.push_back(std::move(current));
        current = TracedText();
        any = keep_empty;
        ++end;
      }
      at = end;
    }
  }
  if (any) out.push_back(std::move(current));
  return out;
}

}  // namespace

TracedText TracedText::substr(std::size_t from, std::size_t count) const {
  TracedText out;
  std::size_t at = 0;
  for (const Piece& piece : pieces_) {
    if (count != std::string::npos && at >= from + count) break;
    std::size_t size = piece.text.size();
    std::size_t begin = std::max(from, at);
    std::size_t end = count == std::string::npos ? at + size : std::min(from + count, at + size);
    if (begin < end) out.append(cut_piece(piece, begin - at, end - begin));
    at += size;
  }
  return out;
}

std::vector<TracedText> TracedText::words(std::string_view blanks) const {
  return divide(
      pieces_, [&](char c) { return blanks.find(c) != std::string_view::npos; }, false);
}

std::vector<TracedText> TracedText::split(char separator) const {
  return divide(
      pieces_, [&](char c) { return c == separator; }, true);
}

TracedText TracedText::trimmed(std::string_view blanks) const {
  std::string all = text();
  std::size_t begin = all.find_first_not_of(blanks);
  if (begin == std::string::npos) return {};
  return substr(begin, all.find_last_not_of(blanks) + 1 - begin);
}

TracedText TracedText::through(const Passage& passage) const {
  TracedText out = *this;  // pieces that did not join before do not join with one more passage either
  for (Piece& piece : out.pieces_) piece.via.enclose(passage);
  return out;
}

TracedText TracedText::through(const Passages& passages, WritingStyle style) const {
  TracedText out = *this;
  std::vector<Passage> inwards(passages.begin(), passages.end());
  for (Piece& piece : out.pieces_) {
    piece.style = style;
    for (auto passage = inwards.rbegin(); passage != inwards.rend(); ++passage) piece.via.enclose(*passage);
  }
  return out;
}

Passage TracedText::first_origin() const {
  for (const Piece& piece : pieces_) {
    if (!piece.via.empty() && piece.via.front().file != kNoFile) return piece.via.front();
    if (piece.has_origin()) return {piece.file, piece.span};
  }
  return {};
}

Cutter::Cutter(const TracedText& text) : text_(text) {
  std::size_t end = 0;
  for (const Piece& piece : text.pieces()) ends_.push_back(end += piece.text.size());
}

TracedText Cutter::part(std::size_t from, std::size_t count) const {
  TracedText out;
  auto first = std::upper_bound(ends_.begin(), ends_.end(), from);
  for (std::size_t i = static_cast<std::size_t>(first - ends_.begin()); i < ends_.size(); ++i) {
    const Piece& piece = text_.pieces()[i];
    std::size_t at = ends_[i] - piece.text.size();
    if (count != std::string::npos && at >= from + count) break;
    std::size_t begin = std::max(from, at);
    std::size_t end = count == std::string::npos ? ends_[i] : std::min(from + count, ends_[i]);
    out.append(cut_piece(piece, begin - at, end - begin));
  }
  return out;
}

TracedText join(const std::vector<TracedText>& words, std::string_view separator) {
  TracedText out;
  for (std::size_t i = 0; i < words.size(); ++i) {
    if (i > 0) out.append(TracedText::plain(std::string(separator)));
    out.append(words[i]);
  }
  return out;
}

}  // namespace yc
