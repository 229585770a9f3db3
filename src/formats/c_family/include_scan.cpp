#include "formats/c_family/include_scan.h"

#include <algorithm>
#include <cctype>

#include "base/char_class.h"
#include "formats/c_family/assembler_scan.h"

namespace yc::c_family {

namespace {

constexpr CharClass kNameChars = CharClass::alphanumeric_and("_$");
// What means nothing here once a line has begun with something else than a directive.
constexpr CharClass kInLine = CharClass::all_but("\n\"'/\\");
constexpr CharClass kBegins = CharClass::all_but("\n\"'/\\#% \t\r\f\v");

bool is_name_char(char c) {
  return kNameChars.holds(c);
}

// Walks over source text: comments, strings, character constants and raw strings are stepped over as wholes.
class Scanner {
 public:
  explicit Scanner(std::string_view bytes) : bytes_(bytes) {
    if (bytes_.substr(0, 3) == "\xEF\xBB\xBF") at_ = 3;
  }

  IncludeFacts run() {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (kBegins.holds(c) || (!line_start_ && kInLine.holds(c))) {
        line_start_ = false;
        do {
          ++at_;
        } while (at_ < bytes_.size() && kInLine.holds(bytes_[at_]));
      } else if (c == '\n') {
        line_start_ = true;
        ++at_;
      } else if (c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v') {
        ++at_;
      } else if (splice(at_) > at_) {
        at_ = splice(at_);
      } else if (c == '/' && comment(at_) > at_) {
        at_ = comment(at_);
      } else if (line_start_ && (c == '#' || bytes_.substr(at_, 2) == "%:")) {
        at_ += c == '#' ? 1 : 2;
        line_start_ = false;
        directive();
      } else {
        line_start_ = false;
        token();
      }
    }
    scan_assembler(bytes_, facts_.includes);
    if (writes_names_) facts_.written.insert(facts_.written.end(), names_.begin(), names_.end());
    return std::move(facts_);
  }

 private:
  // After a backslash and a line end at `at`, else `at` itself.
  std::size_t splice(std::size_t at) const {
    if (at >= bytes_.size() || bytes_[at] != '\\') return at;
    std::size_t next = at + 1;
    if (next < bytes_.size() && bytes_[next] == '\r') ++next;
    return next < bytes_.size() && bytes_[next] == '\n' ? next + 1 : at;
  }

  std::size_t comment(std::size_t at) const {
    if (bytes_.substr(at, 2) == "/*") {
      std::size_t end = bytes_.find("*/", at + 2);
      return end == std::string_view::npos ? bytes_.size() : end + 2;
    }
    if (bytes_.substr(at, 2) == "//") {
      std::size_t i = at + 2;
      while (i < bytes_.size() && bytes_[i] != '\n') i = splice(i) > i ? splice(i) : i + 1;
      return i;
    }
    return at;
  }

  // At a character that stands for itself, or a quote.
  void token() {
    char c = bytes_[at_];
    if (c != '"' && c != '\'') {
      ++at_;
      return;
    }
    std::string_view name = name_before(at_);
    if (c == '"' && (name == "R" || name == "LR" || name == "uR" || name == "UR" || name == "u8R")) {
      raw_string();
    } else if (c == '\'' && !name.empty() && std::isdigit(static_cast<unsigned char>(name.front())) &&
               at_ + 1 < bytes_.size() && is_name_char(bytes_[at_ + 1])) {
      ++at_;  // separates digits
    } else {
      quoted(c);
    }
  }

  // The name or number that ends at `at`, with what separates its digits.
  std::string_view name_before(std::size_t at) const {
    std::size_t begin = at;
    while (begin > 0 && (is_name_char(bytes_[begin - 1]) ||
                         (bytes_[begin - 1] == '\'' && begin > 1 && is_name_char(bytes_[begin - 2]))))
      --begin;
    return bytes_.substr(begin, at - begin);
  }

  void note_literal(std::size_t begin, std::size_t end) {
    static constexpr std::size_t kLongest = 300;
    std::string_view text = bytes_.substr(begin, end - begin);
    // Behind an escape or a placeholder stands what only the program knows; the folder before it can still
    // follow.
    std::size_t known = text.find_first_of("\\%{*$");
    if (known != std::string_view::npos) {
      text = text.substr(0, known);
      text = text.substr(0, text.rfind('/') == std::string_view::npos ? 0 : text.rfind('/') + 1);
      if (std::none_of(text.begin(), text.end(), is_name_char) || text.find("..") != std::string_view::npos)
        return;
    }
    if (text.size() > kLongest || text.find('/') == std::string_view::npos || text.front() == '/') return;
    if (text.find("//") != std::string_view::npos) return;  // no path that a person writes
    bool is_path = std::all_of(text.begin(), text.end(), [](char c) {
      return is_name_char(c) || c == '/' || c == '.' || c == '-' || c == '+';
    });
    if (is_path) facts_.literals.push_back({std::string(text), span_of(begin, begin + text.size())});
  }

  // Include directives in the text of a string, and names of headers.
  void note_written(std::size_t begin, std::size_t end) {
    std::string_view text = bytes_.substr(begin, end - begin);
    auto add = [&](std::vector<PathLiteral>& list, std::size_t from, std::size_t to) {
      list.push_back({std::string(text.substr(from, to - from)), span_of(begin + from, begin + to)});
    };
    auto is_name = [](std::string_view name) {
      return !name.empty() && std::all_of(name.begin(), name.end(), [](char c) {
        return is_name_char(c) || c == '.' || c == '-' || c == '+' || c == '/';
      });
    };
    constexpr std::string_view kWord = "#include ";
    for (std::size_t at = 0; (at = text.find(kWord, at)) != std::string_view::npos; ++at) {
      std::size_t open = at + kWord.size();
      bool quoted = text.substr(open, 2) == "\\\"", angled = text.substr(open, 1) == "<";
      if (!quoted && !angled) continue;
      std::size_t from = open + (quoted ? 2 : 1);
      std::size_t to = text.find(quoted ? "\\\"" : ">", from);
      writes_names_ = writes_names_ || (from < text.size() && text[from] == '%');
      if (to != std::string_view::npos && is_name(text.substr(from, to - from)))
        add(facts_.written, from, to);
    }
    bool is_header = text.ends_with(".h") || text.ends_with(".hpp") || text.ends_with(".hh");
    if (is_header && text.size() < 100 && is_name(text)) add(names_, 0, text.size());
  }

  void quoted(char quote) {
    std::size_t begin = ++at_;
    while (at_ < bytes_.size() && bytes_[at_] != quote && bytes_[at_] != '\n') {
      std::size_t next = splice(at_);
      at_ = next > at_ ? next : bytes_[at_] == '\\' ? at_ + 2 : at_ + 1;
    }
    if (at_ < bytes_.size() && bytes_[at_] == quote) {
      if (quote == '"' && at_ > begin) note_literal(begin, at_);
      if (quote == '"') note_written(begin, at_);
      if (quote == '"') scan_inline_assembler(bytes_.substr(begin, at_ - begin), begin, facts_.includes);
      ++at_;
    }
    at_ = std::min(at_, bytes_.size());
  }

  void raw_string() {
    std::size_t open = bytes_.find('(', at_);
    if (open == std::string_view::npos || open - at_ > 18) {
      quoted('"');
      return;
    }
    std::string close = ")" + std::string(bytes_.substr(at_ + 1, open - at_ - 1)) + "\"";
    std::size_t end = bytes_.find(close, open);
    at_ = end == std::string_view::npos ? bytes_.size() : end + close.size();
  }

  // Blanks, comments and splices inside a directive.
  void skip_blanks() {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == ' ' || c == '\t' || c == '\f' || c == '\v') {
        ++at_;
      } else if (splice(at_) > at_) {
        at_ = splice(at_);
      } else if (c == '/' && bytes_.substr(at_, 2) == "/*") {
        at_ = comment(at_);
      } else {
        return;
      }
    }
  }

  std::string word() {
    std::string out;
    while (at_ < bytes_.size()) {
      if (splice(at_) > at_) {
        at_ = splice(at_);
      } else if (is_name_char(bytes_[at_])) {
        out += bytes_[at_++];
      } else {
        break;
      }
    }
    return out;
  }

  // A path in its quotes at the cursor, else nothing.
  bool path(Include& out) {
    if (at_ >= bytes_.size()) return false;
    char open = bytes_[at_];
    if (open != '"' && open != '<') return false;
    std::size_t end = bytes_.find_first_of(open == '"' ? "\"\n" : ">\n", at_ + 1);
    if (end == std::string_view::npos || bytes_[end] == '\n') return false;
    out.form = open == '"' ? Include::Form::quoted : Include::Form::angled;
    out.span = span_of(at_ + 1, end);
    out.text = bytes_.substr(at_ + 1, end - at_ - 1);
    at_ = end + 1;
    return !out.text.empty();
  }

  void directive() {
    std::size_t begin = at_ - 1;
    skip_blanks();
    std::string name = word();
    skip_blanks();
    Include include;
    include.line_start = static_cast<std::uint32_t>(begin);
    if (name == "include" || name == "include_next" || name == "import" || name == "embed") {
      include.next = name == "include_next";
      include.data = name == "embed";
      if (!path(include)) {
        std::size_t from = at_;
        include.form = Include::Form::macro;
        include.text = word();
        include.span = span_of(from, at_);
        if (include.text.empty()) return;
      }
      facts_.includes.push_back(std::move(include));
    } else if (name == "define") {
      define();
    } else if (name == "if" || name == "elif") {
      tests();
    } else if (name == "error" || name == "warning" || name == "pragma") {
      rest_of_line();  // apostrophes in its prose are not quotes
    }
  }

  void rest_of_line() {
    while (at_ < bytes_.size() && bytes_[at_] != '\n') at_ = splice(at_) > at_ ? splice(at_) : at_ + 1;
  }

  void define() {
    std::string name = word();
    if (name.empty() || (at_ < bytes_.size() && bytes_[at_] == '(')) return;
    std::size_t from = at_;
    skip_blanks();
    Include body;
    if (!path(body)) {
      at_ = from;
      return;
    }
    std::size_t after = at_;
    skip_blanks();
    bool alone =
        at_ >= bytes_.size() || bytes_[at_] == '\n' || bytes_[at_] == '\r' || bytes_.substr(at_, 2) == "//";
    at_ = after;
    if (alone) facts_.path_macros.emplace(std::move(name), std::move(body));
  }

  // __has_include(<x>) anywhere in a condition.
  void tests() {
    while (at_ < bytes_.size() && bytes_[at_] != '\n') {
      if (splice(at_) > at_) {
        at_ = splice(at_);
      } else if (bytes_[at_] == '/' && comment(at_) > at_) {
        at_ = comment(at_);
      } else if (is_name_char(bytes_[at_])) {
        std::size_t begin = at_;
        std::string name = word();
        if (name != "__has_include" && name != "__has_include_next" && name != "__has_embed") continue;
        skip_blanks();
        if (at_ < bytes_.size() && bytes_[at_] == '(') ++at_;
        skip_blanks();
        Include include;
        include.line_start = static_cast<std::uint32_t>(begin);
        include.test = true;
        include.next = name == "__has_include_next";
        include.data = name == "__has_embed";
        if (path(include)) facts_.includes.push_back(std::move(include));
      } else if (bytes_[at_] == '"' || bytes_[at_] == '\'') {
        quoted(bytes_[at_]);
      } else {
        ++at_;
      }
    }
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
  bool line_start_ = true;
  bool writes_names_ = false;       // includes of names that other strings hold
  std::vector<PathLiteral> names_;  // of headers
  IncludeFacts facts_;
};

}  // namespace

IncludeFacts scan_includes(std::string_view bytes) {
  if (bytes.find('\0') != std::string_view::npos) return {};  // no source
  return Scanner(bytes).run();
}

}  // namespace yc::c_family
