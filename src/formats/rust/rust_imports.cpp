#include "formats/rust/rust_imports.h"

#include <algorithm>

#include "base/text.h"

namespace yc::rust {

namespace {

class ImportReader {
 public:
  ImportReader(std::string_view bytes, const std::vector<Token>& tokens, std::size_t at, const Import& common,
               std::vector<Import>& out)
      : bytes_(bytes), tokens_(tokens), at_(at), common_(common), out_(out) {}

  std::size_t run() {
    if (!tree({}, 0) || !is_mark(';')) return 0;
    return at_ + 1;
  }

 private:
  const Token& token() const { return tokens_[std::min(at_, tokens_.size() - 1)]; }
  bool is_mark(char c) const { return token().kind == TokenKind::punctuation && bytes_[token().begin] == c; }
  bool is_name() const { return token().kind == TokenKind::name; }

  bool tree(std::vector<Segment> prefix, std::uint32_t group) {
    constexpr std::uint32_t kDeepest = 64;
    if (group > kDeepest) return false;
    bool is_global = false;
    if (token().kind == TokenKind::path_joint) {
      is_global = prefix.empty();
      ++at_;
    }
    if (is_global) common_.is_global = true;
    while (is_name()) {
      prefix.push_back({token().span, group});
      ++at_;
      if (token().kind != TokenKind::path_joint) return leaf(std::move(prefix), false);
      ++at_;
    }
    if (is_mark('*')) {
      ++at_;
      return leaf(std::move(prefix), true);
    }
    return is_mark('{') && members(prefix, group + 1);
  }

  bool leaf(std::vector<Segment> segments, bool takes_all) {
    Import one = common_;
    one.takes_all = takes_all;
    // "tide::{self}" binds "tide".
    std::size_t named = segments.size();
    if (named > 1 && cut(bytes_, segments.back().span) == "self") --named;
    if (!takes_all && named > 0) one.bound = segments[named - 1].span;
    if (is_name() && cut(bytes_, token().span) == "as") {
      ++at_;
      one.bound = is_name() && cut(bytes_, token().span) != "_" ? token().span : Span{};
      ++at_;
    }
    one.segments = std::move(segments);
    one.tail = tokens_[at_ - 1].end;
    out_.push_back(std::move(one));
    return true;
  }

  bool members(const std::vector<Segment>& prefix, std::uint32_t group) {
    ++at_;
    std::uint32_t last_end = 0;
    while (!is_mark('}')) {
      std::size_t first = out_.size();
      std::uint32_t begin = token().begin;
      if (!tree(prefix, group)) return false;
      Span element = span_of(begin, tokens_[at_ - 1].end);
      bool has_comma = is_mark(',');
      if (has_comma) ++at_;
      if (!has_comma && !is_mark('}')) return false;
      // Up to the next one, or with the comma before it.
      Span without = !is_mark('}') ? span_of(begin, token().begin)
                                   : span_of(last_end > 0 ? last_end : begin, element.end);
      for (std::size_t i = first; i < out_.size(); ++i) out_[i].elements.push_back({element, without});
      last_end = element.end;
    }
    ++at_;
    return true;
  }

  std::string_view bytes_;
  const std::vector<Token>& tokens_;
  std::size_t at_;
  Import common_;
  std::vector<Import>& out_;
};

}  // namespace

std::size_t read_imports(std::string_view bytes, const std::vector<Token>& tokens, std::size_t at,
                         const Import& common, std::vector<Import>& out) {
  return ImportReader(bytes, tokens, at, common, out).run();
}

}  // namespace yc::rust
