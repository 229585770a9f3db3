// What a piece of a text must become, and whether everything else that uses it can live with that.
#include "plan/climbs.h"
#include "plan/rewriter.h"

#include <algorithm>
#include <set>

namespace yc {

std::string ReferenceRewriter::spelled(const Reference& reference, const Wanted& want,
                                       const RelPath& base) const {
  PathStyle style = PathStyle::of(reference.text.text());
  return style.apply(relative_text(base, want.place.path));
}

// The text that piece `index` must become so that the whole leads to `want` from `base`, all else unchanged.
std::optional<std::string> ReferenceRewriter::solve(const Reference& reference, std::size_t index,
                                                    const Wanted& want, const RelPath& base) const {
  const auto& pieces = reference.text.pieces();
  std::string head, tail;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    if (i < index) head += new_text(pieces[i]);
    if (i > index) tail += new_text(pieces[i]);
  }
  if (head.find(kHoleMark) != std::string::npos || tail.find(kHoleMark) != std::string::npos)
    return std::nullopt;
  const std::string& old = pieces[index].text;
  bool trailing = tail.empty() && old.size() > 1 && old.back() == '/';
  bool tail_slash = tail.size() > 1 && tail.back() == '/';
  std::string_view ending =
      tail_slash ? std::string_view(tail).substr(0, tail.size() - 1) : std::string_view(tail);

  std::string lead, fragment;
  Place from{Space::tree, base};
  if (!head.empty()) {
    std::size_t cut = head.rfind('/');
    bool whole = head.back() == '/' || (!old.empty() && old.front() == '/');
    if (whole) {
      from = place_of(base, head, Space::tree);
      if (head.back() != '/') lead = "/";
    } else {
      fragment = cut == std::string::npos ? head : head.substr(cut + 1);
      if (cut != std::string::npos) from = place_of(base, head.substr(0, cut));
    }
  } else if (want.place.space != Space::tree) {
    return std::nullopt;
  }
  if (from.space != want.place.space) return std::nullopt;
  std::string text = relative_text(from.path, want.place.path);
  if (text.compare(0, fragment.size(), fragment) != 0) return std::nullopt;
  text.erase(0, fragment.size());
  if (!ending.empty() && ending.front() == '/' && text == ending.substr(1)) {
    text = lead.empty() ? "." : "";
    lead.clear();
  } else {
    if (text.size() < ending.size() || text.compare(text.size() - ending.size(), ending.size(), ending) != 0)
      return std::nullopt;
    text.resize(text.size() - ending.size());
  }
  if (text.empty() && head.empty()) return std::nullopt;
  text = lead + text;
  if (trailing) text += "/";
  if (head.empty() && index == 0 && old.substr(0, 2) == "./")
    text = PathStyle{"./", false, false}.apply(text);
  Place reached = place_of(base, head + text + tail);
  if (!(reached == want.place)) return std::nullopt;
  if (missing_on_the_way(planned_, base, head + text + tail)) return std::nullopt;
  return text;
}

// Whether a part of a path stands in its last component, with folders before that. What takes names apart,
// takes it out of the name again, however many folders come before it then.
bool ReferenceRewriter::is_of_name(FileIndex file, Span whole, Span part) const {
  Bytes bytes = bytes_of(file);
  if (whole.end > bytes->size()) return false;
  std::size_t slash = std::string_view(*bytes).substr(whole.begin, whole.size()).rfind('/');
  return slash != std::string_view::npos && part.begin > whole.begin + slash;
}

std::string ReferenceRewriter::with_change(const Reference& reference, FileIndex file, Span span,
                                           const std::string& text) const {
  std::string out;
  for (const Piece& piece : reference.text.pieces()) {
    bool touched = piece.has_origin() && piece.file == file && piece.span.begin < span.end &&
                   span.begin < piece.span.end;
    if (!touched) {
      out += new_text(piece);
    } else if (piece.span == span) {
      out += text;
    } else if (piece.span.holds(span) && piece.verbatim) {
      out += piece.text.substr(0, span.begin - piece.span.begin) + text +
             piece.text.substr(span.end - piece.span.begin);
    } else if (span.holds(piece.span)) {
      // This piece is a part of what changes; it keeps the part that the change keeps around it.
      std::size_t before = piece.span.begin - span.begin, after = span.end - piece.span.end;
      if (is_of_name(file, span, piece.span)) before = text.rfind('/') + 1;  // 0 where there is no slash
      if (text.size() < before + after) return std::string(1, kHoleMark);
      out += text.substr(before, text.size() - before - after);
    } else {
      return std::string(1, kHoleMark);
    }
  }
  return out;
}

bool ReferenceRewriter::suits(const Reference& reference, const std::string& text) const {
  if (reference.targets.empty()) return true;
  auto base = base_of(reference);
  if (!base) return true;
  if (reference.role == Role::include || reference.has_own_spelling())
    return false;  // they are respelled one by one
  if (reference.is_pattern()) {
    auto place = pattern_place(reference, false);
    return place && place_of(*base, text) == *place;
  }
  // What is made of a source may be called otherwise, and lie elsewhere, once that is: the comparison judges.
  const Target& target = reference.targets.back();
  bool is_made = std::any_of(reference.targets.begin(), reference.targets.end(),
                             [](const Target& one) { return one.kind == Target::Kind::made; });
  if (is_made) return true;
  auto want = wanted(reference, target);
  if (!want) return true;
  if (place_of(*base, text) == want->place) return true;
  for (const Base& search : reference.search) {
    auto folder = image_.of_base(search);
    if (folder && place_of(*folder, text) == want->place) return true;
  }
  return false;
}

bool ReferenceRewriter::suits_all(FileIndex file, Span span, const std::string& text) const {
  auto at = uses_.find(file);
  if (at == uses_.end()) return true;
  for (auto use = at->second.upper_bound(span.begin); use != at->second.end(); ++use) {
    if (is_behind(file, use->first, span)) break;
    const Reference& reference = graph_.references[static_cast<std::size_t>(use->second.reference)];
    const Piece& piece = reference.text.pieces()[use->second.piece];
    if (piece.span.begin >= span.end) continue;
    std::string changed = with_change(reference, file, span, text);
    bool is_untouched = changed == with_change(reference, kNoFile, {}, "");
    if (!is_untouched && !suits(reference, changed)) return false;
  }
  return true;
}

std::optional<Edit> ReferenceRewriter::edit_for(FileIndex file, Span span, const std::string& text,
                                                WritingStyle style, std::uint8_t format) const {
  Bytes bytes = bytes_of(file);
  if (span.end > bytes->size()) return std::nullopt;
  // A '%' that stood there before has the meaning that it had, and needs no writing.
  bool is_percent_form =
      std::string_view(*bytes).substr(span.begin, span.size()).find('%') != std::string_view::npos;
  std::optional<std::string> written = "";
  std::size_t at = 0;
  while (written && at <= text.size()) {
    std::size_t end = is_percent_form ? std::min(text.find('%', at), text.size()) : text.size();
    auto part = format_at(format).write(std::string_view(text).substr(at, end - at), style);
    written = part ? std::optional(*written + *part + (end < text.size() ? "%" : "")) : std::nullopt;
    at = end + 1;
  }
  if (!written) return std::nullopt;
  if (bytes->compare(span.begin, span.size(), *written) == 0) return std::nullopt;
  return Edit{graph_.files.path(file), span, *written};
}

}  // namespace yc
