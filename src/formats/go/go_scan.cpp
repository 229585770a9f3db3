#include "formats/go/go_scan.h"

#include <algorithm>

#include "base/text.h"

namespace yc::go {

namespace {

bool is_name(char c) {
  auto byte = static_cast<unsigned char>(c);
  return std::isalnum(byte) || c == '_' || byte >= 0x80;
}

class Scanner {
 public:
  explicit Scanner(std::string_view bytes) : bytes_(bytes) {}

  SourceFacts run() {
    if (bytes_.starts_with("\xEF\xBB\xBF")) at_ = 3;
    clause();
    while (word() == "import") import();
    // Directives may stand before any declaration.
    while (at_ < bytes_.size()) step();
    return std::move(out_);
  }

 private:
  // Past white space and comments; directives are taken on the way.
  void space() {
    while (at_ < bytes_.size()) {
      if (std::isspace(static_cast<unsigned char>(bytes_[at_]))) {
        ++at_;
        continue;
      }
      std::size_t next = behind_comment(bytes_, at_);
      if (next == at_) return;
      comment(bytes_.substr(at_, next - at_));
      at_ = next;
    }
  }

  std::string_view word() {
    space();
    std::size_t end = at_;
    while (end < bytes_.size() && is_name(bytes_[end])) ++end;
    return bytes_.substr(at_, end - at_);
  }

  void clause() {
    if (word() != "package") return;
    at_ += std::string_view("package").size();
    std::string_view name = word();
    out_.package = std::string(name);
    at_ += name.size();
    semicolon();
  }

  void semicolon() {
    space();
    if (at_ < bytes_.size() && bytes_[at_] == ';') ++at_;
  }

  void import() {
    at_ += std::string_view("import").size();
    space();
    if (at_ >= bytes_.size() || bytes_[at_] != '(') {
      specification();
      return;
    }
    ++at_;
    for (space(); at_ < bytes_.size() && bytes_[at_] != ')'; space()) {
      std::size_t before = at_;
      specification();
      if (at_ == before) ++at_;
    }
    if (at_ < bytes_.size()) ++at_;
    semicolon();
  }

  // [name] "path"
  void specification() {
    Import found;
    std::string_view name = word();
    if (name.empty() && at_ < bytes_.size() && bytes_[at_] == '.') name = bytes_.substr(at_, 1);
    if (!name.empty()) {
      found.name = std::string(name);
      at_ += name.size();
      space();
    }
    if (at_ >= bytes_.size() || (bytes_[at_] != '"' && bytes_[at_] != '`')) return;
    std::size_t begin = at_ + 1, end = bytes_.find(bytes_[at_], begin);
    if (end == std::string_view::npos) end = bytes_.size();
    found.span = span_of(begin, end);
    found.path = std::string(cut(bytes_, found.span));
    at_ = std::min(end + 1, bytes_.size());
    out_.uses_c = out_.uses_c || found.path == "C";
    out_.imports.push_back(std::move(found));
    semicolon();
  }

  // One token of what follows the imports.
  void step() {
    std::size_t next = bytes_.find_first_of("/\"'`", at_);
    if (next == std::string_view::npos) {
      at_ = bytes_.size();
      return;
    }
    at_ = next;
    char c = bytes_[at_];
    if (c == '/') {
      next = behind_comment(bytes_, at_);
      if (next == at_) {
        ++at_;
        return;
      }
      comment(bytes_.substr(at_, next - at_));
      at_ = next;
      return;
    }
    for (++at_; at_ < bytes_.size() && bytes_[at_] != c; ++at_) {
      if (c != '`' && bytes_[at_] == '\\') ++at_;
      if (c != '`' && at_ < bytes_.size() && bytes_[at_] == '\n') break;
    }
    at_ = std::min(at_ + 1, bytes_.size());
  }

  // Directives begin at the beginning of a line, without a blank behind the slashes.
  void comment(std::string_view text) {
    if (line_begin(bytes_, at_) != at_) return;
    auto rest_of = [&](std::string_view head) {
      bool fits = text.starts_with(head) && text.size() > head.size() && is_blank(text[head.size()]);
      return fits ? std::optional(at_ + head.size()) : std::nullopt;
    };
    if (auto begin = rest_of("//go:embed")) {
      words(*begin, at_ + text.size(), out_.embeds);
    } else if (auto line = rest_of("//go:generate")) {
      std::string_view command = trimmed(text.substr(*line - at_));
      std::size_t from = at_ + text.find(command, *line - at_);
      if (!command.empty())
        out_.generates.push_back({std::string(command), span_of(from, from + command.size())});
    } else if (auto link = rest_of("//go:linkname")) {
      std::vector<Word> found;
      words(*link, at_ + text.size(), found);
      if (found.size() == 2) out_.links.push_back(std::move(found[1]));
    } else if (text.starts_with("//go:build ignore") || text.starts_with("// +build ignore")) {
      out_.is_left_out = out_.is_left_out || out_.package.empty();
    }
  }

  void words(std::size_t at, std::size_t end, std::vector<Word>& out) const {
    while (at < end) {
      if (is_blank(bytes_[at])) {
        ++at;
        continue;
      }
      char quote = bytes_[at];
      bool quoted = quote == '"' || quote == '`';
      std::size_t begin = quoted ? at + 1 : at;
      std::size_t close = begin;
      while (close < end && (quoted ? bytes_[close] != quote : !is_blank(bytes_[close]))) ++close;
      Span span = span_of(begin, close);
      if (span.size() > 0) out.push_back({std::string(cut(bytes_, span)), span});
      at = close + (quoted ? 1 : 0);
    }
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
  SourceFacts out_;
};

}  // namespace

SourceFacts scan_source(std::string_view bytes) {
  return Scanner(bytes).run();
}

}  // namespace yc::go
