#include "formats/modules/module_scan.h"

#include <array>
#include <cstring>

#include "base/char_class.h"

namespace yc::modules {

namespace {

using Kind = Specifier::Kind;

constexpr CharClass kNameChars = CharClass::alphanumeric_and("_$").and_beyond_ascii();
constexpr CharClass kTagChars = CharClass::alphanumeric_and("_$.-:");
// What paths are made of, apart from letters and digits.
constexpr CharClass kPathChars = CharClass::alphanumeric_and("_-./@+~$ ()[],&=%!#*{}<>");

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

// Words after which an expression begins, so that '/' begins a regular expression and '<' an element.
bool begins_expression(std::string_view word) {
  switch (word.size()) {
    case 2:
      return word == "in" || word == "do" || word == "of";
    case 3:
      return word == "new";
    case 4:
      return word == "case" || word == "else" || word == "void";
    case 5:
      return word == "throw" || word == "yield" || word == "await";
    case 6:
      return word == "return" || word == "typeof" || word == "delete" || word == "export";
    case 7:
      return word == "default" || word == "extends";
    case 10:
      return word == "instanceof";
    default:
      return false;
  }
}

// Calls of test runners whose first argument is a module.
bool takes_module(std::string_view method) {
  static constexpr std::string_view kTakers =
      " mock doMock unmock doUnmock dontMock deepUnmock setMock requireMock requireActual importActual "
      "importMock "
      "unstable_mockModule createMockFromModule replace ";
  std::size_t at = kTakers.find(method);
  return at != std::string_view::npos && kTakers[at - 1] == ' ' && kTakers[at + method.size()] == ' ';
}

// Walks over the tokens of a source. What counts as one is decided by the token before it: whether that ends
// an operand.
class Scanner {
 public:
  Scanner(std::string_view bytes, Dialect dialect, const std::function<void(Span)>* on_string)
      : bytes_(bytes), dialect_(dialect), on_string_(on_string) {}

  ModuleFacts run() {
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

 private:
  struct Nest {
    enum class Kind : std::uint8_t {
      block,
      braces,
      paren,
      bracket,
      hole,
      child_hole,
      attribute_hole,
      children
    };
    Kind kind = Kind::block;
    bool control = false;     // a paren after `if` and its like: what follows it begins a statement
    bool specifiers = false;  // the strings right in it are patterns of a glob import
    std::uint32_t begin = 0;
    std::uint8_t call = 0;  // kCallNone or the kind of specifier that its first argument is, plus one
    std::uint32_t statement = 0;
    std::int32_t joined = -1;    // the path that its strings are parts of
    bool operand_after = false;  // braces: what follows them goes on with an expression
  };
  struct Word {
    std::string_view text;
    std::uint32_t at = 0;
  };

  char peek(std::size_t ahead = 0) const { return at_ + ahead < bytes_.size() ? bytes_[at_ + ahead] : '\0'; }

  void skip_line() {
    const void* end = std::memchr(bytes_.data() + at_, '\n', bytes_.size() - at_);
    at_ = end ? static_cast<std::size_t>(static_cast<const char*>(end) - bytes_.data()) : bytes_.size();
  }

  void skip_block_comment() {
    std::size_t begin = at_;
    std::size_t end = bytes_.find("*/", at_ + 2);
    at_ = end == std::string_view::npos ? bytes_.size() : end + 2;
    if (bytes_.substr(begin, at_ - begin).find('\n') != std::string_view::npos) line_break_ = true;
    if (bytes_.substr(begin, 3) == "/**") doc_comment(begin, at_);
  }

  // {import("./x").Gauge} and @import { Gauge } from "./x"
  void doc_comment(std::size_t begin, std::size_t end) {
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
      add(Kind::dynamic, open + 1, close, at);
    }
  }

  // /// <reference path="x" /> and its kin, which stand before all statements.
  void line_comment() {
    std::size_t begin = at_;
    skip_line();
    std::string_view line = bytes_.substr(begin, at_ - begin);
    if (any_token_ || line.substr(0, 3) != "///") return;
    std::size_t tag = line.find_first_not_of(" \t", 3);
    if (tag == std::string_view::npos || line.substr(tag, 10) != "<reference") return;
    for (auto [name, kind] : {std::pair(std::string_view("path"), Kind::reference),
                              std::pair(std::string_view("types"), Kind::types)}) {
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

  void token() {
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
        if (!operand_ && dialect_ != Dialect::typed && begins_element()) {
          ++at_;
          any_token_ = true;
          element();
        } else {
          at_ += peek(1) == '<' ? 2 : 1;  // in 1 << x no element begins
          punctuation('<');
        }
        return;
      case '+':
      case '-':
        if (peek(1) == c) {
          // After an operand on the same line it belongs to that; else to the one that follows.
          bool postfix = operand_ && !line_break_;
          at_ += 2;
          punctuation(c);
          operand_ = postfix;
          return;
        }
        ++at_;
        punctuation(c);
        return;
      case '!': {
        bool assertion = dialect_ != Dialect::script && operand_ && !line_break_ && peek(1) != '=';
        ++at_;
        if (assertion) return;  // x! is an operand as x is
        punctuation('!');
        return;
      }
      default:
        break;
    }
    if (is_digit(c) || (c == '.' && is_digit(peek(1)))) {
      number();
    } else if (kNameChars.holds(c) || c == '#' || c == '\\') {
      word();
    } else {
      ++at_;
      punctuation(c);
    }
  }

  std::uint32_t at32() const { return static_cast<std::uint32_t>(at_); }

  Nest& open(Nest::Kind kind, bool specifiers = false) {
    Nest& nest = stack_.emplace_back();
    nest.kind = kind;
    nest.specifiers = specifiers;
    nest.begin = at32();
    return nest;
  }

  // Remembers a token that is no word.
  void punctuation(char c) {
    shift();
    last_ = c;
    operand_ = false;
    line_break_ = false;
    any_token_ = true;
  }

  // The words before the last token, newest last; a sign is a word of one character.
  void shift() {
    before_[0] = before_[1];
    before_[1] = before_[2];
    before_[2] = before_[3];
    before_[3] = Word{bytes_.substr(at_ > 0 ? at_ - 1 : 0, 1), at_ > 0 ? at32() - 1 : 0};
  }

  void number() {
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
  bool is_decimal() const {
    std::size_t begin = at_ - 1;
    while (begin > 0 && (kNameChars.holds(bytes_[begin - 1]) || bytes_[begin - 1] == '.')) --begin;
    return bytes_[begin] != '0' || (bytes_[begin + 1] != 'x' && bytes_[begin + 1] != 'X');
  }

  void word() {
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

  bool is(std::size_t back, std::string_view text) const { return before_[3 - back].text == text; }
  // Whether the word that was read last belongs to what stands before it: "a.b", but not "...b".
  bool is_member() const {
    const Word& sign = before_[2];
    return sign.text == "." && (sign.at == 0 || bytes_[sign.at - 1] != '.');
  }

  void string(char quote) {
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
  void template_text(bool opens) {
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
        if (opens) begin_computed(begin, at_);
        open(Nest::Kind::hole);
        at_ += 2;
        punctuation('{');
        return;
      }
      at_ += c == '\\' ? 2 : 1;
    }
    if (at_ > bytes_.size()) at_ = bytes_.size();
  }

  void open_brace() {
    bool block = true;
    if (last_ == ':') {
      // After a label or a case it is a block; within braces of an object, and in types, it makes no odds.
      block = stack_.back().kind != Nest::Kind::braces;
    } else if (is_word_last()) {
      block = !begins_expression(before_[3].text) || is(0, "else") || is(0, "do");
    } else {
      block = last_ == 0 || last_ == ';' || last_ == ')' || last_ == '}' || last_ == '{' || is_arrow();
    }
    open(block ? Nest::Kind::block : Nest::Kind::braces).operand_after = !block;
    ++at_;
    punctuation('{');
  }

  bool is_word_last() const { return last_ == 'a'; }
  bool is_arrow() const { return last_ == '>' && before_[3].at > 0 && bytes_[before_[3].at - 1] == '='; }

  void close_brace() {
    Nest::Kind kind = stack_.back().kind;
    if (kind == Nest::Kind::paren || kind == Nest::Kind::bracket) {
      // Unbalanced: find the brace that this one ends.
      while (stack_.size() > 1 &&
             (stack_.back().kind == Nest::Kind::paren || stack_.back().kind == Nest::Kind::bracket))
        stack_.pop_back();
      kind = stack_.back().kind;
    }
    bool operand = stack_.back().operand_after;
    if (stack_.size() > 1) stack_.pop_back();
    if (kind == Nest::Kind::hole) {
      template_text(false);
      return;
    }
    ++at_;
    if (kind == Nest::Kind::child_hole) return;
    if (kind == Nest::Kind::attribute_hole) {
      attributes();
      return;
    }
    punctuation('}');
    operand_ = operand;
  }

  void open_paren() {
    Nest& nest = open(Nest::Kind::paren);
    if (is_word_last()) {
      std::string_view word = before_[3].text;
      bool member = is_member();
      nest.control = !member && (word == "if" || word == "while" || word == "for" || word == "with");
      // `for await (…)`
      if (word == "await" && is(1, "for")) nest.control = true;
      take_call(nest, word, member);
      take_join(nest, word, member);
    } else if (last_ == '>' && !is_arrow()) {
      take_generic_call(nest);
    }
    ++at_;
    punctuation('(');
  }

  // The key of the entry whose value begins at `at`: "key: value", or nothing.
  std::string key_before(std::size_t at) const {
    auto back = [&] {
      while (at > 0 && std::strchr(" \t\r\n", bytes_[at - 1])) --at;
    };
    back();
    if (at == 0 || bytes_[at - 1] != ':') return "";
    --at;
    back();
    if (at == 0) return "";
    char last = bytes_[at - 1];
    if (last == '"' || last == '\'' || last == '`') {
      std::size_t begin = at >= 2 ? bytes_.rfind(last, at - 2) : std::string_view::npos;
      return begin == std::string_view::npos ? "" : std::string(bytes_.substr(begin + 1, at - begin - 2));
    }
    std::size_t begin = at;
    while (begin > 0 && kNameChars.holds(bytes_[begin - 1])) --begin;
    return std::string(bytes_.substr(begin, at - begin));
  }

  // path.join(__dirname, …): its strings are parts of a path.
  void take_join(Nest& nest, std::string_view word, bool member) {
    if (word != "join" && word != "resolve") return;
    std::size_t next = bytes_.find_first_not_of(" \t\r\n", at_ + 1);
    if (next == std::string_view::npos) return;
    bool own = bytes_.substr(next, 9) == "__dirname" || bytes_.substr(next, 19) == "import.meta.dirname";
    if (!own) return;
    std::uint32_t begin = member ? before_[1].at : before_[3].at;
    if (member && before_[1].text == ")") {  // require("path").join(…)
      std::size_t call = bytes_.substr(0, begin).rfind("require(");
      if (call != std::string_view::npos && begin - call < 24) begin = static_cast<std::uint32_t>(call);
    }
    nest.joined = static_cast<std::int32_t>(facts_.joined.size());
    facts_.joined.push_back({{}, key_before(begin), begin});
  }

  static std::uint8_t call_of(Kind kind) { return static_cast<std::uint8_t>(static_cast<int>(kind) + 1); }

  void take_call(Nest& nest, std::string_view word, bool member) {
    nest.statement = before_[3].at;
    if (!member) {
      if (word == "import") {
        nest.call = call_of(Kind::dynamic);
      } else if (word == "require") {
        nest.call = call_of(Kind::require);
      } else if (word == "URL" && is(1, "new")) {
        nest.call = call_of(Kind::url);
        nest.statement = before_[2].at;
      } else if ((word == "Worker" || word == "SharedWorker") && is(1, "new")) {
        nest.call = call_of(Kind::worker);
        nest.statement = before_[2].at;
      } else if (word == "importScripts") {
        nest.call = call_of(Kind::worker);
      }
      return;
    }
    const Word& owner = before_[1];
    if (word == "resolve" && owner.text == "require") {
      nest.call = call_of(Kind::require);
    } else if (word == "resolve" && owner.text == "meta" && is(3, ".")) {
      nest.call = call_of(Kind::dynamic);
    } else if (word == "context" && owner.text == "require") {
      nest.call = call_of(Kind::folder);
    } else if ((word == "glob" || word == "globEager") && owner.text == "meta") {
      nest.call = call_of(Kind::glob);
      nest.specifiers = true;
    } else if (owner.text == "jest" || owner.text == "vi" || owner.text == "vitest" || owner.text == "td") {
      if (takes_module(word)) nest.call = call_of(Kind::mock);
    } else {
      return;
    }
    nest.statement = owner.at;
  }

  // vi.importActual<typeof import("./x")>("./x"), import.meta.glob<Module>("./*.ts"): back over the types.
  void take_generic_call(Nest& nest) {
    std::size_t depth = 0, at = before_[3].at + 1;
    while (at > 0) {
      char c = bytes_[--at];
      if (c == '>' && (at == 0 || bytes_[at - 1] != '=')) ++depth;
      if (c == '<' && --depth == 0) break;
      if (c == ';' || before_[3].at - at > 400) return;
    }
    auto word_before = [&](std::size_t end) {
      std::size_t begin = end;
      while (begin > 0 && kNameChars.holds(bytes_[begin - 1])) --begin;
      return Word{bytes_.substr(begin, end - begin), static_cast<std::uint32_t>(begin)};
    };
    Word name = word_before(at);
    if (name.text.empty() || name.at < 2 || bytes_[name.at - 1] != '.') {
      if (name.text == "require") nest.call = call_of(Kind::require), nest.statement = name.at;
      return;
    }
    Word owner = word_before(name.at - 1);
    auto kept = before_;
    before_[3] = name;
    before_[2] = Word{".", name.at - 1};
    before_[1] = owner;
    before_[0] = owner.at > 0 && bytes_[owner.at - 1] == '.' ? Word{".", owner.at - 1} : Word{};
    take_call(nest, name.text, true);
    before_ = kept;
  }

  void close(char c) {
    Nest::Kind wanted = c == ')' ? Nest::Kind::paren : Nest::Kind::bracket;
    bool control = false;
    if (stack_.back().kind == wanted) {
      control = stack_.back().control;
      stack_.pop_back();
    }
    ++at_;
    punctuation(c);
    operand_ = !control;
  }

  void regular_expression() {
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

  // Whether the '<' here, where an expression may begin, begins an element rather than a list of type
  // parameters.
  bool begins_element() const {
    std::size_t at = at_ + 1;
    if (at >= bytes_.size()) return false;
    if (bytes_[at] == '>') return bytes_.find("</", at) != std::string_view::npos;
    if (!kNameChars.holds(bytes_[at]) || is_digit(bytes_[at])) return false;
    std::size_t end = at;
    while (end < bytes_.size() && kTagChars.holds(bytes_[end])) ++end;
    if (dialect_ == Dialect::script) return true;
    std::string_view name = bytes_.substr(at, end - at);
    std::size_t next = bytes_.find_first_not_of(" \t\r\n", end);
    if (next == std::string_view::npos || bytes_[next] == ',' || bytes_[next] == '=') return false;
    if (name == "const" && kNameChars.holds(bytes_[next])) return false;
    bool constrained = bytes_.substr(next, 7) == "extends" && next + 7 < bytes_.size() &&
                       !kNameChars.holds(bytes_[next + 7]) && bytes_[next + 7] != '=' &&
                       bytes_[next + 7] != '>' && bytes_[next + 7] != '/';
    if (constrained) return false;
    if (bytes_[next] == '>') {
      // <T>(x: T) => …: an element of this name would be closed somewhere.
      std::size_t after = bytes_.find_first_not_of(" \t\r\n", next + 1);
      if (after == std::string_view::npos || bytes_[after] != '(') return true;
      return bytes_.find("</" + std::string(name), next) != std::string_view::npos;
    }
    return true;
  }

  // An element from behind its '<': name, attributes, and then its children or its end.
  void element() {
    skip_blank();
    while (at_ < bytes_.size() && (kTagChars.holds(bytes_[at_]) || kNameChars.holds(bytes_[at_]))) ++at_;
    if (peek() == '<') skip_type_arguments();
    attributes();
  }

  void skip_blank() {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == ' ' || c == '\t' || c == '\r' || c == '\n') {
        ++at_;
      } else if (c == '/' && peek(1) == '/') {
        skip_line();
      } else if (c == '/' && peek(1) == '*') {
        std::size_t end = bytes_.find("*/", at_ + 2);
        at_ = end == std::string_view::npos ? bytes_.size() : end + 2;
      } else {
        return;
      }
    }
  }

  void skip_type_arguments() {
    std::size_t depth = 0;
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == '"' || c == '\'') {
        std::size_t begin = at_ + 1;
        at_ = begin;
        while (at_ < bytes_.size() && bytes_[at_] != c && bytes_[at_] != '\n')
          at_ += bytes_[at_] == '\\' ? 2 : 1;
        if (on_string_ && at_ < bytes_.size()) tell(begin, at_);
      } else if (c == '<') {
        ++depth;
      } else if (c == '>' && bytes_[at_ - 1] != '=' && --depth == 0) {
        ++at_;
        return;
      }
      ++at_;
    }
  }

  void tell(std::size_t begin, std::size_t end) const {
    (*on_string_)(Span{static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)});
  }

  // Attributes up to the end of the tag. A '{' leaves for the tokens of an expression; its '}' comes back
  // here.
  void attributes() {
    while (at_ < bytes_.size()) {
      skip_blank();
      char c = peek();
      if (c == '{') {
        open(Nest::Kind::attribute_hole);
        ++at_;
        punctuation('{');
        return;
      }
      if (c == '"' || c == '\'') {
        std::size_t begin = at_ + 1;
        std::size_t end = bytes_.find(c, begin);
        if (end == std::string_view::npos) end = bytes_.size();
        take_attribute(begin, end);
        at_ = end + 1;
      } else if (c == '/' && peek(1) == '>') {
        at_ += 2;
        end_element();
        return;
      } else if (c == '>') {
        ++at_;
        open(Nest::Kind::children);
        return;
      } else if (c == '<') {
        // An element as an attribute's value.
        ++at_;
        value_depth_.push_back(stack_.size());
        element();
        return;
      } else {
        ++at_;
      }
      if (at_ > bytes_.size()) at_ = bytes_.size();
    }
  }

  // After an element: the children around it go on, or the attributes of the one whose value it was, or the
  // expression.
  void end_element() {
    if (!value_depth_.empty() && value_depth_.back() == stack_.size()) {
      value_depth_.pop_back();
      attributes();
      return;
    }
    if (stack_.back().kind == Nest::Kind::children) return;
    shift();
    last_ = '>';
    before_[3] = Word{"/>", at32() - 1};
    last_ = '"';
    operand_ = true;
    line_break_ = false;
  }

  void child_text() {
    while (at_ < bytes_.size() && bytes_[at_] != '{' && bytes_[at_] != '<') ++at_;
    if (at_ >= bytes_.size()) return;
    if (bytes_[at_] == '{') {
      open(Nest::Kind::child_hole);
      ++at_;
      punctuation('{');
      return;
    }
    std::size_t next = at_ + 1;
    ++at_;
    skip_blank();
    if (peek() == '/') {
      std::size_t end = bytes_.find('>', next);
      at_ = end == std::string_view::npos ? bytes_.size() : end + 1;
      stack_.pop_back();
      end_element();
      return;
    }
    element();
  }

  void add(Kind kind, std::size_t begin, std::size_t end, std::size_t statement) {
    std::string_view text = bytes_.substr(begin, end - begin);
    if (text.find('\\') != std::string_view::npos) return;  // written with escapes: no path is
    facts_.specifiers.push_back({kind,
                                 std::string(text),
                                 {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)},
                                 static_cast<std::uint32_t>(statement)});
  }

  // Whether this token is the first argument of the call whose paren was opened last.
  bool is_first_argument() const {
    return stack_.back().call != 0 && last_ == '(' && before_[3].at == stack_.back().begin;
  }

  void take_string(std::size_t begin, std::size_t end) {
    if (on_string_) tell(begin, end);
    const Nest& nest = stack_.back();
    if (is_word_last() && is(0, "from") && !is_member() && bytes_[begin - 1] != '`') {
      add(Kind::import_from, begin, end, statement_);
      return;
    }
    if (is_word_last() && is(0, "import") && !is_member()) {
      add(Kind::import_from, begin, end, statement_);
      return;
    }
    if (is_word_last() && is(0, "module") && is(1, "declare")) {
      add(Kind::augmentation, begin, end, before_[2].at);
      return;
    }
    if (nest.specifiers) {
      bool first_paren = nest.kind == Nest::Kind::bracket || is_first_argument();
      if (first_paren) {
        add(Kind::glob, begin, end, begin);
        return;
      }
    }
    if (is_first_argument()) {
      auto kind = static_cast<Kind>(nest.call - 1);
      if (goes_on(end + 1)) {
        if (kind != Kind::url) add_computed(kind, begin, end, 0, 0, nest.statement);
        return;
      }
      if (kind != Kind::url || is_module_url(end + 1)) {
        add(kind, begin, end, nest.statement);
        if (kind == Kind::url) add_url_join(begin, end, nest.statement);
        return;
      }
    }
    if (nest.joined >= 0 && nest.kind == Nest::Kind::paren && last_ == ',') {
      Joined& joined = facts_.joined[static_cast<std::size_t>(nest.joined)];
      joined.parts.push_back({static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)});
      return;
    }
    take_text(begin, end);
  }

  // fileURLToPath(new URL("./charts", import.meta.url)) as the value of an entry.
  void add_url_join(std::size_t begin, std::size_t end, std::uint32_t statement) {
    constexpr std::string_view kCall = "fileURLToPath(";
    std::size_t at = statement;
    if (bytes_.substr(0, at).ends_with(kCall)) at -= kCall.size();
    if (bytes_.substr(0, at).ends_with("url.")) at -= 4;
    std::string key = key_before(at);
    if (key.empty()) return;
    facts_.joined.push_back(
        {{{static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)}}, key, statement});
  }

  // Whether more text is joined to a string.
  bool goes_on(std::size_t at) const {
    at = bytes_.find_first_not_of(" \t\r\n", at);
    return at != std::string_view::npos && bytes_[at] == '+';
  }

  bool is_module_url(std::size_t at) const {
    at = bytes_.find_first_not_of(" \t\r\n", at);
    if (at == std::string_view::npos || bytes_[at] != ',') return false;
    at = bytes_.find_first_not_of(" \t\r\n", at + 1);
    return at != std::string_view::npos && bytes_.substr(at, 15) == "import.meta.url";
  }

  void add_computed(Kind kind, std::size_t begin, std::size_t end, std::size_t tail, std::size_t tail_end,
                    std::uint32_t statement) {
    facts_.computed.push_back({kind,
                               {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)},
                               {static_cast<std::uint32_t>(tail), static_cast<std::uint32_t>(tail_end)},
                               statement});
  }

  void begin_computed(std::size_t begin, std::size_t end) {
    if (!is_first_argument()) return;
    auto kind = static_cast<Kind>(stack_.back().call - 1);
    if (end == begin && kind != Kind::dynamic) return;
    computed_depth_ = stack_.size();
    add_computed(kind, begin, end, 0, 0, stack_.back().statement);
  }

  void end_computed(std::size_t begin, std::size_t end) {
    if (computed_depth_ != stack_.size() || facts_.computed.empty()) return;
    facts_.computed.back().tail = {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)};
    computed_depth_ = 0;
  }

  void take_attribute(std::size_t begin, std::size_t end) {
    if (on_string_) tell(begin, end);
    take_text(begin, end);
  }

  void take_text(std::size_t begin, std::size_t end) {
    if (end - begin < 3 || end - begin > 300) return;
    std::string_view text = bytes_.substr(begin, end - begin);
    if (!std::memchr(text.data(), '/', text.size()) && !std::memchr(text.data(), '.', text.size())) return;
    for (char c : text) {
      if (!kPathChars.holds(c) && static_cast<unsigned char>(c) < 0x80) return;
    }
    if (text.find('<') != std::string_view::npos && !text.starts_with("<rootDir>/")) return;
    facts_.texts.push_back({std::string(text),
                            {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)},
                            last_ == ':' ? key_before(begin - 1) : ""});
  }

  std::string_view bytes_;
  Dialect dialect_;
  const std::function<void(Span)>* on_string_;
  ModuleFacts facts_;
  std::size_t at_ = 0;
  std::vector<Nest> stack_;
  std::vector<std::size_t> value_depth_;  // of the stack, where an element is an attribute's value
  std::array<Word, 4> before_;            // the last tokens, newest last
  char last_ = 0;                         // the last token: a sign, 'a' a word, '"' a string, '0' a number
  bool operand_ = false;                  // whether it ends an operand
  bool line_break_ = false;               // since the last token
  bool any_token_ = false;
  std::uint32_t statement_ = 0;  // where the last import or export began
  std::size_t computed_depth_ = 0;
};

}  // namespace

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

}  // namespace yc::modules
