#include "formats/rust/rust_documentation.h"

#include <algorithm>

#include "base/text.h"
#include "formats/rust/rust_imports.h"

namespace yc::rust {

namespace {

class Examples {
 public:
  Examples(std::string_view bytes, std::int32_t scope, SourceFacts& out)
      : bytes_(bytes), scope_(scope), out_(out) {}

  // Imports of examples, and paths: only those that say by their first word where they begin can be told.
  void run(const std::vector<Span>& lines) {
    for (std::size_t i = 0; i < lines.size(); ++i) {
      std::string_view line = cut(bytes_, lines[i]);
      if (line.starts_with("use ") && line.find("::") != std::string_view::npos) {
        std::size_t taken = import_in_documentation(lines, i);
        i += taken;
        if (taken > 0) --i;
        if (taken > 0) continue;
      }
      paths_in_documentation(lines[i]);
    }
  }

 private:
  // The number of lines that an import takes, from that at `first` on; 0 if it is none.
  std::size_t import_in_documentation(const std::vector<Span>& lines, std::size_t first) {
    constexpr std::size_t kMostLines = 40;
    std::vector<Token> tokens;
    for (std::size_t i = first; i < lines.size() && i < first + kMostLines; ++i) {
      Tokens source(bytes_.substr(0, lines[i].end), lines[i].begin);
      for (Token one = source.next(); one.kind != TokenKind::end; one = source.next()) {
        tokens.push_back(one);
        if (one.kind != TokenKind::punctuation || bytes_[one.begin] != ';') continue;
        Import common;
        common.scope = scope_;
        common.is_documentation = true;
        common.item = span_of(lines[first].begin, one.end);
        tokens.push_back({TokenKind::end, {one.end, one.end}, one.end, one.end});
        return read_imports(bytes_, tokens, 1, common, out_.imports) > 0 ? i + 1 - first : 0;
      }
    }
    return 0;
  }

  void paths_in_documentation(Span span) {
    std::string_view whole = cut(bytes_, span);
    for (std::size_t at = whole.find("::"); at != std::string_view::npos;) {
      std::size_t begin = at;
      while (begin > 0 && is_name_byte(whole[begin - 1])) --begin;
      Path out{Path::Kind::documentation, false, false, scope_, {}};
      out.segments.push_back(span_of(span.begin + begin, span.begin + at));
      std::size_t next = at;
      while (whole.substr(next, 2) == "::") {
        std::size_t end = next + 2;
        while (end < whole.size() && is_name_byte(whole[end])) ++end;
        if (end == next + 2) break;
        out.segments.push_back(span_of(span.begin + next + 2, span.begin + end));
        next = end;
      }
      bool is_path = begin < at && (begin == 0 || whole[begin - 1] != ':');
      at = whole.find("::", std::max(next, at + 2));
      if (is_path) out_.paths.push_back(std::move(out));
    }
  }

  std::string_view bytes_;
  std::int32_t scope_;
  SourceFacts& out_;
};

// The lines of a comment, without its marks.
void add_lines(std::string_view bytes, Span comment, std::vector<Span>& out) {
  std::string_view whole = cut(bytes, comment);
  bool is_line = whole.starts_with("//");
  for_each_line(whole, [&](std::string_view line, std::size_t begin) {
    std::size_t from = begin == 0 ? 3 : 0;
    from = std::min(line.find_first_not_of(is_line ? " \t" : " \t*", from), line.size());
    // "# use …" stands in an example and is not shown.
    if (line.substr(from, 2) == "# ") from = std::min(line.find_first_not_of(' ', from + 2), line.size());
    out.push_back(span_of(comment.begin + begin + from, comment.begin + begin + line.size()));
  });
}

}  // namespace

std::size_t read_documentation(std::string_view bytes, const std::vector<Token>& tokens, std::size_t at,
                               std::int32_t scope, SourceFacts& out) {
  std::vector<Span> lines;
  for (TokenKind first = tokens[at].kind; tokens[at].kind == first; ++at)
    add_lines(bytes, tokens[at].span, lines);
  Examples(bytes, scope, out).run(lines);
  return at;
}

}  // namespace yc::rust
