// Text whose every piece remembers the bytes it came from.
//
// Evaluating a build script glues paths from pieces that stand in different places. To change the result, one
// of those places must be edited, so each piece keeps its origin and the expansions it came through on its
// way.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "base/passages.h"

namespace yc {

inline constexpr char kHoleMark = '\x03';  // stands for a hole in text()

// How a literal was written, so that it can be written again. Formats give their own meaning to the numbers.
using WritingStyle = std::uint8_t;

struct Piece {
  enum class Nature : std::uint8_t {
    literal,       // stands in a file (origin set) or is fixed by a tool (no origin)
    hole,          // evaluation cannot know it
    tree_folder,   // the folder of file `anchor`, as an absolute text that follows a move of that file
    build_folder,  // the build-tree twin of that folder
  };
  std::string text;
  Nature nature = Nature::literal;
  FileIndex file = kNoFile;  // origin; kNoFile when no byte spells this piece
  Span span;
  WritingStyle style = 0;
  bool verbatim = true;    // the bytes at `span` are exactly `text`; only then can it be cut
  bool automatic = false;  // stands for what one recipe is about, as make's $@ and $<
  FileIndex anchor = kNoFile;
  Passages via;  // expansions that it came through

  bool has_origin() const { return file != kNoFile; }
};

class TracedText {
 public:
  TracedText() = default;
  TracedText(const TracedText&) = default;
  TracedText& operator=(const TracedText&) = default;
  TracedText(TracedText&& other) noexcept
      : pieces_(std::move(other.pieces_)), size_(std::exchange(other.size_, 0)) {}
  TracedText& operator=(TracedText&& other) noexcept {
    pieces_ = std::move(other.pieces_);
    size_ = std::exchange(other.size_, 0);
    return *this;
  }

  static TracedText plain(std::string text);  // fixed by a tool, stands nowhere
  static TracedText literal(std::string text, FileIndex file, Span span, WritingStyle style = 0);
  static TracedText hole();
  // Of pieces that stood in a text like this.
  static TracedText of(std::vector<Piece> pieces) {
    TracedText out;
    out.pieces_ = std::move(pieces);
    for (const Piece& piece : out.pieces_) out.size_ += piece.text.size();
    return out;
  }
  // A folder piece: `nature` is tree_folder or build_folder, `text` the folder with its mark (see marked()).
  static TracedText folder(Piece::Nature nature, FileIndex anchor, std::string text);

  void append(Piece piece);
  void append(const TracedText& other);
  void append_char(char c, FileIndex file, std::uint32_t offset, WritingStyle style = 0);

  std::string text() const;                   // a hole is one kHoleMark
  std::string solid_text() const;             // without the holes
  std::string pattern_text() const;           // holes are '*', other special characters escaped
  std::size_t size() const { return size_; }  // in bytes of text()
  bool empty() const { return size_ == 0; }
  bool is_only_holes() const;
  bool has_hole() const;
  bool is_automatic() const;  // in any part
  const std::vector<Piece>& pieces() const { return pieces_; }
  TracedText substr(std::size_t from, std::size_t count = std::string::npos) const;
  // Words between blanks; a hole is part of the word it touches.
  std::vector<TracedText> words(std::string_view blanks = " \t\r\n") const;
  std::vector<TracedText> split(char separator) const;
  TracedText trimmed(std::string_view blanks = " \t\r\n") const;
  // The same text, known to have come through `passage`, which encloses all passages it already has.
  TracedText through(const Passage& passage) const;
  // The same, through all of `passages` and in another writing style.
  TracedText through(const Passages& passages, WritingStyle style) const;
  void mark_automatic();
  // The first byte in a file that this text came from, for messages; kNoFile if from nowhere.
  Passage first_origin() const;

 private:
  std::vector<Piece> pieces_;
  std::size_t size_ = 0;
};

// Takes many parts out of one long text, quicker than substr() does. The text must outlive it.
class Cutter {
 public:
  explicit Cutter(const TracedText& text);
  TracedText part(std::size_t from, std::size_t count = std::string::npos) const;

 private:
  const TracedText& text_;
  std::vector<std::size_t> ends_;  // of the pieces, in bytes of the text
};

TracedText join(const std::vector<TracedText>& words, std::string_view separator);

}  // namespace yc
