#include "formats/modules/module_scan.h"

#include <algorithm>
#include <cstring>

#include "base/text.h"
#include "formats/modules/module_scanner.h"

namespace yc::modules {

ModuleFacts Scanner::run() {
  if (bytes_.substr(0, 3) == "\xEF\xBB\xBF") at_ = 3;
  if (bytes_.substr(at_, 2) == "#!") skip_line();
  open(Nest::Kind::block);
  while (at_ < bytes_.size()) {
    if (stack_.back().kind == Nest::Kind::children) {
      child_text();
    } else {
      token();
    }
  }
  return std::move(facts_);
}

void Scanner::skip_line() {
  const void* end = std::memchr(bytes_.data() + at_, '\n', bytes_.size() - at_);
  at_ = end ? static_cast<std::size_t>(static_cast<const char*>(end) - bytes_.data()) : bytes_.size();
}

void Scanner::skip_block_comment() {
  std::size_t begin = at_;
  at_ = behind_comment(bytes_, at_);
  if (bytes_.substr(begin, at_ - begin).find('\n') != std::string_view::npos) line_break_ = true;
  if (bytes_.substr(begin, 3) == "/**") doc_comment(begin, at_);
}

// {import("./x").Gauge} and @import { Gauge } from "./x"
void Scanner::doc_comment(std::size_t begin, std::size_t end) {
  std::string_view text = bytes_.substr(0, end);
  for (std::size_t at = text.find("import", begin); at != std::string_view::npos;
       at = text.find("import", at + 6)) {
    std::size_t open = std::string_view::npos;
    bool tag = text[at - 1] == '@';
    if (!tag && !kNameChars.holds(text[at - 1])) {
      open = text.find_first_not_of(" \t", at + 6);
      if (open == std::string_view::npos || text[open] != '(') continue;
      open = text.find_first_not_of(" \t\r\n*", open + 1);
    } else if (tag) {
      std::size_t from = text.find(" from ", at);
      std::size_t next_tag = text.find('@', at + 1);
      if (from == std::string_view::npos || from > next_tag) continue;
      open = text.find_first_not_of(" \t", from + 6);
    }
    if (open == std::string_view::npos || (text[open] != '"' && text[open] != '\'')) continue;
    std::size_t close = text.find(text[open], open + 1);
    if (close == std::string_view::npos) continue;
    add(SpecifierKind::dynamic, open + 1, close, at);
  }
}

// /// <reference path="x" /> and its kin, which stand before all statements.
void Scanner::line_comment() {
  std::size_t begin = at_;
  skip_line();
  std::string_view line = bytes_.substr(begin, at_ - begin);
  if (any_token_ || line.substr(0, 3) != "///") return;
  std::size_t tag = line.find_first_not_of(" \t", 3);
  if (tag == std::string_view::npos || line.substr(tag, 10) != "<reference") return;
  for (auto [name, kind] : {std::pair(std::string_view("path"), SpecifierKind::reference),
                            std::pair(std::string_view("types"), SpecifierKind::types)}) {
    std::size_t at = line.find(name, tag + 10);
    if (at == std::string_view::npos) continue;
    std::size_t equals = line.find_first_not_of(" \t", at + name.size());
    if (equals == std::string_view::npos || line[equals] != '=') continue;
    std::size_t quote = line.find_first_not_of(" \t", equals + 1);
    if (quote == std::string_view::npos || (line[quote] != '"' && line[quote] != '\'')) continue;
    std::size_t close = line.find(line[quote], quote + 1);
    if (close != std::string_view::npos) add(kind, begin + quote + 1, begin + close, begin);
  }
}

void Scanner::token() {
  char c = bytes_[at_];
  switch (c) {
    case '\n':
      line_break_ = true;
      ++at_;
      return;
    case ' ':
    case '\t':
    case '\r':
    case '\f':
    case '\v':
      ++at_;
      return;
    case '/':
      slash();
      return;
    case '"':
    case '\'':
      string(c);
      return;
    case '`':
      template_text(true);
      return;
    case '{':
      open_brace();
      return;
    case '}':
      close_brace();
      return;
    case '(':
      open_paren();
      return;
    case '[':
      open(Nest::Kind::bracket, stack_.back().specifiers);
      ++at_;
      punctuation('[');
      return;
    case ')':
    case ']':
      close(c);
      return;
    case '<':
      less_than();
      return;
    case '+':
    case '-':
      sign(c);
      return;
    case '!':
      exclamation();
      return;
    default:
      other_token(c);
  }
}

void Scanner::slash() {
  if (peek(1) == '/') {
    line_comment();
  } else if (peek(1) == '*') {
    skip_block_comment();
  } else if (operand_) {
    ++at_;
    punctuation('/');
  } else {
    regular_expression();
  }
}

void Scanner::less_than() {
  if (!operand_ && dialect_ != Dialect::typed && begins_element()) {
    ++at_;
    any_token_ = true;
    element();
  } else {
    at_ += peek(1) == '<' ? 2 : 1;  // in 1 << x no element begins
    punctuation('<');
  }
}

// '+' and '-', also doubled.
void Scanner::sign(char c) {
  bool is_doubled = peek(1) == c;
  // After an operand on the same line it belongs to that; else to the one that follows.
  bool postfix = operand_ && !line_break_;
  at_ += is_doubled ? 2 : 1;
  punctuation(c);
  if (is_doubled) operand_ = postfix;
}

void Scanner::exclamation() {
  bool assertion = dialect_ != Dialect::script && operand_ && !line_break_ && peek(1) != '=';
  ++at_;
  if (!assertion) punctuation('!');  // x! is an operand as x is
}

void Scanner::other_token(char c) {
  if (is_digit(c) || (c == '.' && is_digit(peek(1)))) {
    number();
  } else if (kNameChars.holds(c) || c == '#' || c == '\\') {
    word();
  } else {
    ++at_;
    punctuation(c);
  }
}

Scanner::Nest& Scanner::open(Nest::Kind kind, bool specifiers) {
  Nest& nest = stack_.emplace_back();
  nest.kind = kind;
  nest.specifiers = specifiers;
  nest.begin = at32();
  return nest;
}

// Remembers a token that is no word.
void Scanner::punctuation(char c) {
  shift();
  last_ = c;
  operand_ = false;
  line_break_ = false;
  any_token_ = true;
}

// The words before the last token, newest last; a sign is a word of one character.
void Scanner::shift() {
  before_[0] = before_[1];
  before_[1] = before_[2];
  before_[2] = before_[3];
  before_[3] = Word{bytes_.substr(at_ > 0 ? at_ - 1 : 0, 1), at_ > 0 ? at32() - 1 : 0};
}

void Scanner::number() {
  ++at_;
  while (at_ < bytes_.size() && (kNameChars.holds(bytes_[at_]) || bytes_[at_] == '.' ||
                                 ((bytes_[at_] == '-' || bytes_[at_] == '+') &&
                                  (bytes_[at_ - 1] == 'e' || bytes_[at_ - 1] == 'E') && is_decimal())))
    ++at_;
  shift();
  last_ = '0';
  operand_ = true;
  line_break_ = false;
  any_token_ = true;
}

// Whether the number that ends here is one in which 'e' begins an exponent.
bool Scanner::is_decimal() const {
  std::size_t begin = at_ - 1;
  while (begin > 0 && (kNameChars.holds(bytes_[begin - 1]) || bytes_[begin - 1] == '.')) --begin;
  return bytes_[begin] != '0' || (bytes_[begin + 1] != 'x' && bytes_[begin + 1] != 'X');
}

void Scanner::word() {
  std::size_t begin = at_++;
  while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
  while (at_ < bytes_.size() && (bytes_[at_] == '\\' || kNameChars.holds(bytes_[at_]))) {
    // An escape within a name: \u0061 or \u{61}.
    ++at_;
    if (peek() == '{' && bytes_[at_ - 1] == 'u') {
      std::size_t end = bytes_.find('}', at_);
      at_ = end == std::string_view::npos ? bytes_.size() : end + 1;
    }
  }
  std::string_view text = bytes_.substr(begin, at_ - begin);
  bool spread = before_[3].at > 0 && bytes_[before_[3].at - 1] == '.';
  bool member = last_ == '.' && !spread;
  before_[0] = before_[1];
  before_[1] = before_[2];
  before_[2] = before_[3];
  before_[3] = Word{text, static_cast<std::uint32_t>(begin)};
  last_ = 'a';
  line_break_ = false;
  any_token_ = true;
  operand_ = member || !begins_expression(text);
  if (!member && (text == "import" || text == "export")) statement_ = static_cast<std::uint32_t>(begin);
}

// Whether the word that was read last belongs to what stands before it: "a.b", but not "...b".
bool Scanner::is_member() const {
  const Word& sign = before_[2];
  return sign.text == "." && (sign.at == 0 || bytes_[sign.at - 1] != '.');
}

void Scanner::string(char quote) {
  std::size_t begin = ++at_;
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == quote || c == '\n') break;
    if (c == '\\') {
      if (peek(1) == '\r' && peek(2) == '\n') ++at_;
      at_ += 2;
    } else {
      ++at_;
    }
  }
  if (at_ > bytes_.size()) at_ = bytes_.size();
  std::size_t end = at_;
  bool closed = at_ < bytes_.size() && bytes_[at_] == quote;
  if (closed) ++at_;
  if (closed) take_string(begin, end);
  shift();
  last_ = '"';
  operand_ = true;
  line_break_ = false;
  any_token_ = true;
}

// From the back quote, or from the '}' that ends a hole.
void Scanner::template_text(bool opens) {
  std::size_t begin = ++at_;
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == '`') {
      if (opens) {
        take_string(begin, at_);
      } else {
        end_computed(begin, at_);
      }
      ++at_;
      shift();
      last_ = '"';
      operand_ = true;
      line_break_ = false;
      any_token_ = true;
      return;
    }
    if (c == '$' && peek(1) == '{') {
      if (opens) {
        std::size_t known = facts_.computed.size();
        begin_computed(begin, at_);
        bool telling = bytes_.substr(begin, at_ - begin).find('/') != std::string_view::npos;
        if (telling && facts_.computed.size() == known)
          facts_.heads.push_back({static_cast<std::uint32_t>(begin), at32()});
      }
      open(Nest::Kind::hole);
      at_ += 2;
      punctuation('{');
      return;
    }
    at_ += c == '\\' ? 2 : 1;
  }
  if (at_ > bytes_.size()) at_ = bytes_.size();
}

void Scanner::regular_expression() {
  std::size_t begin = at_++;
  bool in_class = false;
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == '\n') {
      // No regular expression: a division after something that looked like a place for one.
      at_ = begin + 1;
      punctuation('/');
      return;
    }
    if (c == '\\') {
      at_ += 2;
      continue;
    }
    if (c == '[') in_class = true;
    if (c == ']') in_class = false;
    ++at_;
    if (c == '/' && !in_class) break;
  }
  if (at_ > bytes_.size()) at_ = bytes_.size();
  while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
  shift();
  last_ = '/';
  operand_ = true;
  line_break_ = false;
  any_token_ = true;
}
std::optional<Dialect> dialect_of(const RelPath& path) {
  std::string_view ending = path.extension();
  if (ending == ".ts" || ending == ".mts" || ending == ".cts") return Dialect::typed;
  if (ending == ".tsx") return Dialect::typed_jsx;
  if (ending == ".js" || ending == ".mjs" || ending == ".cjs" || ending == ".jsx") return Dialect::script;
  return std::nullopt;
}

ModuleFacts scan_module(std::string_view bytes, Dialect dialect, const std::function<void(Span)>* on_string) {
  if (bytes.size() > 0xFFFFFFF0U || std::memchr(bytes.data(), '\0', bytes.size())) return {};
  return Scanner(bytes, dialect, on_string).run();
}

ModuleFacts scan_glued_module(std::string_view bytes, Dialect dialect) {
  std::vector<Span> strings;
  std::function<void(Span)> note = [&](Span span) {
    if (bytes.substr(span.begin, span.size()).find('\\') == std::string_view::npos) strings.push_back(span);
  };
  ModuleFacts facts = scan_module(bytes, dialect, &note);
  std::vector<std::uint32_t> open;
  for (const Span& head : facts.heads) open.push_back(head.begin);
  strings.insert(strings.end(), facts.heads.begin(), facts.heads.end());
  std::sort(strings.begin(), strings.end(), [](Span a, Span b) { return a.begin < b.begin; });
  facts.glue = glued_paths::scan_glue(bytes, strings, glued_paths::Language::script, open);
  facts.own_paths = scan_own_paths(bytes);
  return facts;
}

}  // namespace yc::modules
