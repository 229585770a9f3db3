#include "plan/rebase.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace yc {

namespace {

class Rebaser {
 public:
  Rebaser(const Rebase& what, std::vector<Blocker>& blockers)
      : what_(what), blockers_(blockers), file_(what.graph.files.find(what.script)) {
    if (auto bytes = what.tree.read(what.script)) bytes_ = *bytes;
  }

  std::vector<Edit> run() {
    if (file_ == kNoFile || !bytes_) return {};
    for (const Reference& reference : what_.graph.references) {
      bool stands_here =
          std::any_of(reference.construct.begin(), reference.construct.end(), [&](const Site& site) {
            return holds(site.file, {site.offset, site.offset});
          });
      bool is_path =
          reference.targets.empty() ||
          std::any_of(reference.targets.begin(), reference.targets.end(), [](const Target& target) {
            return target.kind == Target::Kind::tree || target.kind == Target::Kind::output;
          });
      if (stands_here && is_path) respell(reference.text, reference.base, reference.format);
    }
    for (const Hole& hole : what_.graph.holes) respell(hole.text, hole.base, hole.format);
    std::vector<Edit> out;
    for (const auto& [span, text] : texts_) {
      if (bytes_->compare(span.begin, span.size(), text) != 0) out.push_back({what_.script, span, text});
    }
    std::vector<ScriptPart> parts = what_.carver.parts(*bytes_);
    bool is_top =
        std::any_of(parts.begin(), parts.end(), [](const ScriptPart& part) { return part.is_head; });
    std::string way = relative_text(what_.folder, what_.script.parent());
    for (const Span& span : what_.spans) {
      std::vector<Edit> more = what_.carver.keep_build_folder(what_.script, *bytes_, span, way, is_top);
      std::move(more.begin(), more.end(), std::back_inserter(out));
    }
    return out;
  }

 private:
  bool holds(FileIndex file, const Span& span) const {
    return file == file_ && std::any_of(what_.spans.begin(), what_.spans.end(),
                                        [&](const Span& own) { return own.holds(span); });
  }

  void respell(const TracedText& text, const Base& base, std::uint8_t format) {
    // What is relative to another folder, as a command's working folder, stays as it is.
    bool is_own = base.folder == what_.script.parent() && base.space == Space::tree && base.anchor == file_;
    if (!is_own || text.empty()) return;
    const std::vector<Piece>& pieces = text.pieces();
    const Piece& first = pieces.front();
    if (first.nature == Piece::Nature::tree_folder) {
      from_folder(text, first, format);
    } else if (first.nature == Piece::Nature::literal && first.has_origin() &&
               holds(first.file, first.span)) {
      from_literal(text, base, format);
    }
  }

  // "${CMAKE_CURRENT_SOURCE_DIR}/src/a.c": the folder becomes another one, so what follows must too.
  void from_folder(const TracedText& text, const Piece& first, std::uint8_t format) {
    auto own = std::find_if(first.via.begin(), first.via.end(), [&](const Passage& passage) {
      return holds(passage.file, passage.span) && what_.carver.is_own_folder(std::string_view(*bytes_).substr(
                                                      passage.span.begin, passage.span.size()));
    });
    if (own == first.via.end()) return;
    if (text.pieces().size() == 1) {
      put({own->span.end, own->span.end}, "/" + relative_text(what_.folder, what_.script.parent()), text);
      return;
    }
    std::string joined;
    for (std::size_t i = 1; i < text.pieces().size(); ++i) joined += text.pieces()[i].text;
    bool slash = joined.starts_with("/");
    Place place = place_of(what_.script.parent(), slash ? joined.substr(1) : joined);
    if (place.space != Space::tree) return fail(text);
    std::string fresh = (slash ? "/" : "") + relative_text(what_.folder, place.path);
    // The first piece of these statements that can take the change.
    std::string before;
    for (std::size_t i = 1; i < text.pieces().size(); ++i) {
      const Piece& piece = text.pieces()[i];
      std::string rest = joined.substr(before.size() + piece.text.size());
      bool is_own =
          piece.nature == Piece::Nature::literal && piece.has_origin() && holds(piece.file, piece.span);
      bool fits =
          fresh.starts_with(before) && fresh.ends_with(rest) && fresh.size() >= before.size() + rest.size();
      bool is_text = piece.text.find_first_not_of('/') != std::string::npos;
      if (is_own && fits && is_text) return finish(text, piece, fresh.substr(before.size()), rest, format);
      before += piece.text;
    }
    fail(text);
  }

  void from_literal(const TracedText& text, const Base& base, std::uint8_t format) {
    std::string rest;
    for (std::size_t i = 1; i < text.pieces().size(); ++i) {
      bool is_hole = text.pieces()[i].nature == Piece::Nature::hole;
      rest += is_hole ? std::string(1, kHoleMark) : text.pieces()[i].text;
    }
    std::string whole = text.pieces().front().text + rest;
    if (whole.starts_with("/")) return;
    Place place = place_of(base.folder, whole, base.space);
    if (place.space != Space::tree) return;
    PathStyle style = PathStyle::of(whole);
    finish(text, text.pieces().front(), style.apply(relative_text(what_.folder, place.path)), rest, format);
  }

  // `whole` as the text must become, of which `rest` stands elsewhere and stays.
  void finish(const TracedText& text, const Piece& piece, std::string whole, const std::string& rest,
              std::uint8_t format) {
    // "src" of "src/deep/c.c" becomes "." where what follows it begins with the slash.
    if (!whole.ends_with(rest) && ("./" + whole).ends_with(rest)) whole.insert(0, "./");
    if (!whole.ends_with(rest) || !piece.verbatim) return fail(text);
    std::string fresh = whole.substr(0, whole.size() - rest.size());
    auto written = format_at(format).write(fresh, piece.style);
    if (!written) return fail(text);
    put(piece.span, *written, text);
  }

  void put(const Span& span, const std::string& written, const TracedText& text) {
    auto [at, fresh] = texts_.emplace(span, written);
    if (!fresh && at->second != written) fail(text);
  }

  void fail(const TracedText& text) {
    Blocker item;
    item.id = "lost";
    Passage origin = text.first_origin();
    item.file = what_.script;
    if (origin.file == file_) item.span = origin.span;
    for (char c : text.text()) item.text += c == kHoleMark ? std::string("…") : std::string(1, c);
    item.reason =
        fmt::format("cannot be spelled from {}", what_.folder.is_root() ? "the root" : what_.folder.str());
    item.next = "spell this path in one piece, then carve again";
    blockers_.push_back(std::move(item));
  }

  const Rebase& what_;
  std::vector<Blocker>& blockers_;
  FileIndex file_;
  Bytes bytes_;
  std::map<Span, std::string> texts_;
};

}  // namespace

std::vector<Edit> rebased(const Rebase& what, std::vector<Blocker>& blockers) {
  return Rebaser(what, blockers).run();
}

}  // namespace yc
