#include "formats/code_paths/string_scan.h"

#include <algorithm>

#include "base/char_class.h"
#include "base/text.h"

namespace yc::code_paths {

namespace {

constexpr std::size_t kKept = 100, kKeptAfter = 20;
constexpr CharClass kNameChars = CharClass::alphanumeric_and("_");

class Scanner {
 public:
  Scanner(std::string_view bytes, Language language) : bytes_(bytes), language_(language) {}

  std::vector<CodeString> run() {
    while (at_ < bytes_.size()) step();
    finish_last();
    return std::move(out_);
  }

 private:
  bool starts(std::string_view text) const { return bytes_.compare(at_, text.size(), text) == 0; }
  char peek(std::size_t ahead) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }

  void code(char c) {
    if (c != ' ' && c != '\t' && c != '\n' && c != '\r') code_ += c;
    if (code_.size() > 4 * kKept) code_.erase(0, code_.size() - kKept);
    if (tail_.size() < kKeptAfter && c != ' ' && c != '\t' && c != '\n' && c != '\r') tail_ += c;
  }

  void step() {
    char c = bytes_[at_];
    if (std::size_t behind = behind_comment(bytes_, at_); behind > at_) {
      at_ = behind;
    } else if (c == '"') {
      string();
    } else if (c == '\'') {
      character();
    } else if (c == '`' && language_ == Language::go) {
      take(at_ + 1, std::min(bytes_.find('`', at_ + 1), bytes_.size()), true, 1);
    } else if (kNameChars.holds(c)) {
      std::size_t end = at_;
      while (end < bytes_.size() && kNameChars.holds(bytes_[end])) ++end;
      for (; at_ < end; ++at_) code(bytes_[at_]);
      // Two words are two words without the blank, too.
      if (peek(0) == ' ' && kNameChars.holds(peek(1))) code_ += ' ';
    } else {
      code(c);
      ++at_;
    }
  }

  // 'x', '\n', or in Rust the name of a lifetime.
  void character() {
    std::size_t end = at_ + 1;
    if (peek(1) == '\\') {
      end = bytes_.find('\'', at_ + 3);
    } else {
      end = bytes_.find('\'', at_ + 1);
      if (end != std::string_view::npos && end > at_ + 5) end = std::string_view::npos;
    }
    at_ = end == std::string_view::npos ? at_ + 1 : end + 1;
    code('\'');
  }

  void take(std::size_t begin, std::size_t end, bool plain, std::size_t closing) {
    finish_last();
    CodeString out;
    out.span = span_of(begin, end);
    out.plain = plain;
    out.before = code_.size() > kKept ? code_.substr(code_.size() - kKept) : code_;
    out_.push_back(std::move(out));
    code_.clear();
    tail_.clear();
    at_ = std::min(end + closing, bytes_.size());
  }

  void finish_last() {
    if (!out_.empty() && out_.back().after.empty()) out_.back().after = tail_;
  }

  // The word that touches `end`: the prefix of a literal.
  std::string_view word_before(std::size_t end) const {
    std::size_t begin = end;
    while (begin > 0 && kNameChars.holds(bytes_[begin - 1])) --begin;
    return bytes_.substr(begin, end - begin);
  }

  bool is_raw(std::size_t end) const {
    std::string_view word = word_before(end);
    if (language_ == Language::rust) return word == "r" || word == "br" || word == "cr";
    return word == "R" || word == "LR" || word == "uR" || word == "UR" || word == "u8R";
  }

  void string() {
    char mark = code_.empty() ? '\0' : code_.back();
    bool valued =
        language_ == Language::csharp && (mark == '$' || code_.ends_with("$@") || code_.ends_with("@$"));
    if (language_ == Language::c && is_raw(at_)) {  // R"tag(…)tag"
      std::size_t open = bytes_.find('(', at_);
      if (open != std::string_view::npos && open - at_ < 20) {
        std::string closing = ")" + std::string(bytes_.substr(at_ + 1, open - at_ - 1)) + "\"";
        std::size_t end = std::min(bytes_.find(closing, open), bytes_.size());
        take(open + 1, end, true, closing.size());
        return;
      }
    }
    if (language_ == Language::rust) {  // r#"…"#
      std::size_t hashes = 0;
      while (hashes < at_ && bytes_[at_ - 1 - hashes] == '#') ++hashes;
      if (is_raw(at_ - hashes)) {
        std::string closing = "\"" + std::string(hashes, '#');
        take(at_ + 1, std::min(bytes_.find(closing, at_ + 1), bytes_.size()), true, closing.size());
        return;
      }
    }
    bool verbatim = language_ == Language::csharp && (mark == '@' || code_.ends_with("@$"));
    if (starts("\"\"\"")) {
      std::size_t end = std::min(bytes_.find("\"\"\"", at_ + 3), bytes_.size());
      take(at_ + 3, end, false, 3);
      return;
    }
    std::size_t begin = at_ + 1, end = begin;
    bool plain = !valued;
    while (end < bytes_.size() && bytes_[end] != '"') {
      if (bytes_[end] == '\\' && !verbatim) {
        plain = false;
        ++end;
      }
      if (bytes_[end] == '\n' && !verbatim && language_ != Language::rust) break;
      ++end;
    }
    take(begin, std::min(end, bytes_.size()), plain, 1);
  }

  std::string_view bytes_;
  Language language_;
  std::size_t at_ = 0;
  std::string code_, tail_;
  std::vector<CodeString> out_;
};

}  // namespace

std::vector<CodeString> scan_strings(std::string_view bytes, Language language) {
  return Scanner(bytes, language).run();
}

}  // namespace yc::code_paths
