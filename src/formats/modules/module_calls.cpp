// Brackets, calls and strings of modules.
#include <cstring>

#include "formats/modules/module_scanner.h"

namespace yc::modules {

void Scanner::open_brace() {
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

void Scanner::close_brace() {
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

void Scanner::open_paren() {
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
std::string Scanner::key_before(std::size_t at) const {
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
void Scanner::take_join(Nest& nest, std::string_view word, bool member) {
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

void Scanner::take_call(Nest& nest, std::string_view word, bool member) {
  nest.statement = before_[3].at;
  if (!member) {
    if (word == "import") {
      nest.call = call_of(SpecifierKind::dynamic);
    } else if (word == "require") {
      nest.call = call_of(SpecifierKind::require);
    } else if (word == "URL" && is(1, "new")) {
      nest.call = call_of(SpecifierKind::url);
      nest.statement = before_[2].at;
    } else if ((word == "Worker" || word == "SharedWorker") && is(1, "new")) {
      nest.call = call_of(SpecifierKind::worker);
      nest.statement = before_[2].at;
    } else if (word == "importScripts") {
      nest.call = call_of(SpecifierKind::worker);
    }
    return;
  }
  const Word& owner = before_[1];
  if (word == "register" && owner.text == "serviceWorker") {
    nest.call = call_of(SpecifierKind::worker);
  } else if (word == "resolve" && owner.text == "require") {
    nest.call = call_of(SpecifierKind::require);
  } else if (word == "resolve" && owner.text == "meta" && is(3, ".")) {
    nest.call = call_of(SpecifierKind::dynamic);
  } else if (word == "context" && owner.text == "require") {
    nest.call = call_of(SpecifierKind::folder);
  } else if ((word == "glob" || word == "globEager") && owner.text == "meta") {
    nest.call = call_of(SpecifierKind::glob);
    nest.specifiers = true;
  } else if (owner.text == "jest" || owner.text == "vi" || owner.text == "vitest" || owner.text == "td") {
    if (takes_module(word)) nest.call = call_of(SpecifierKind::mock);
  } else {
    return;
  }
  nest.statement = owner.at;
}

// vi.importActual<typeof import("./x")>("./x"), import.meta.glob<Module>("./*.ts"): back over the types.
void Scanner::take_generic_call(Nest& nest) {
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
    if (name.text == "require") nest.call = call_of(SpecifierKind::require), nest.statement = name.at;
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

void Scanner::close(char c) {
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

void Scanner::add(SpecifierKind kind, std::size_t begin, std::size_t end, std::size_t statement) {
  std::string_view text = bytes_.substr(begin, end - begin);
  if (text.find('\\') != std::string_view::npos) return;  // written with escapes: no path is
  facts_.specifiers.push_back(
      {kind, std::string(text), span_of(begin, end), static_cast<std::uint32_t>(statement)});
}

// Whether this token is the first argument of the call whose paren was opened last.
bool Scanner::is_first_argument() const {
  return stack_.back().call != 0 && last_ == '(' && before_[3].at == stack_.back().begin;
}

void Scanner::take_string(std::size_t begin, std::size_t end) {
  if (on_string_) tell(begin, end);
  const Nest& nest = stack_.back();
  if (is_word_last() && is(0, "from") && !is_member() && bytes_[begin - 1] != '`') {
    add(SpecifierKind::import_from, begin, end, statement_);
    return;
  }
  if (is_word_last() && is(0, "import") && !is_member()) {
    add(SpecifierKind::import_from, begin, end, statement_);
    return;
  }
  if (is_word_last() && is(0, "module") && is(1, "declare")) {
    add(SpecifierKind::augmentation, begin, end, before_[2].at);
    return;
  }
  if (nest.specifiers) {
    bool first_paren = nest.kind == Nest::Kind::bracket || is_first_argument();
    if (first_paren) {
      add(SpecifierKind::glob, begin, end, begin);
      return;
    }
  }
  if (is_first_argument()) {
    auto kind = static_cast<SpecifierKind>(nest.call - 1);
    if (goes_on(end + 1)) {
      if (kind != SpecifierKind::url) add_computed(kind, begin, end, 0, 0, nest.statement);
      return;
    }
    if (kind != SpecifierKind::url || is_module_url(end + 1)) {
      add(kind, begin, end, nest.statement);
      if (kind == SpecifierKind::url) add_url_join(begin, end, nest.statement);
      return;
    }
  }
  if (nest.joined >= 0 && nest.kind == Nest::Kind::paren && last_ == ',') {
    Joined& joined = facts_.joined[static_cast<std::size_t>(nest.joined)];
    joined.parts.push_back(span_of(begin, end));
    return;
  }
  take_text(begin, end);
}

// fileURLToPath(new URL("./charts", import.meta.url)) as the value of an entry.
void Scanner::add_url_join(std::size_t begin, std::size_t end, std::uint32_t statement) {
  constexpr std::string_view kCall = "fileURLToPath(";
  std::size_t at = statement;
  if (bytes_.substr(0, at).ends_with(kCall)) at -= kCall.size();
  if (bytes_.substr(0, at).ends_with("url.")) at -= 4;
  std::string key = key_before(at);
  if (key.empty()) return;
  facts_.joined.push_back({{span_of(begin, end)}, key, statement});
}

// Whether more text is joined to a string.
bool Scanner::goes_on(std::size_t at) const {
  at = bytes_.find_first_not_of(" \t\r\n", at);
  return at != std::string_view::npos && bytes_[at] == '+';
}

bool Scanner::is_module_url(std::size_t at) const {
  at = bytes_.find_first_not_of(" \t\r\n", at);
  if (at == std::string_view::npos || bytes_[at] != ',') return false;
  at = bytes_.find_first_not_of(" \t\r\n", at + 1);
  return at != std::string_view::npos && bytes_.substr(at, 15) == "import.meta.url";
}

void Scanner::add_computed(SpecifierKind kind, std::size_t begin, std::size_t end, std::size_t tail,
                           std::size_t tail_end, std::uint32_t statement) {
  facts_.computed.push_back({kind, span_of(begin, end), span_of(tail, tail_end), statement});
}

void Scanner::begin_computed(std::size_t begin, std::size_t end) {
  if (!is_first_argument()) return;
  auto kind = static_cast<SpecifierKind>(stack_.back().call - 1);
  if (end == begin && kind != SpecifierKind::dynamic) return;
  computed_depth_ = stack_.size();
  add_computed(kind, begin, end, 0, 0, stack_.back().statement);
}

void Scanner::end_computed(std::size_t begin, std::size_t end) {
  if (computed_depth_ != stack_.size() || facts_.computed.empty()) return;
  facts_.computed.back().tail = span_of(begin, end);
  computed_depth_ = 0;
}

void Scanner::take_attribute(std::size_t begin, std::size_t end) {
  if (on_string_) tell(begin, end);
  take_text(begin, end);
}

void Scanner::take_text(std::size_t begin, std::size_t end) {
  if (end - begin < 3 || end - begin > 300) return;
  std::string_view text = bytes_.substr(begin, end - begin);
  if (!std::memchr(text.data(), '/', text.size()) && !std::memchr(text.data(), '.', text.size())) return;
  for (char c : text) {
    if (!kPathChars.holds(c) && static_cast<unsigned char>(c) < 0x80) return;
  }
  if (text.find('<') != std::string_view::npos && !text.starts_with("<rootDir>/")) return;
  facts_.texts.push_back({std::string(text), span_of(begin, end), last_ == ':' ? key_before(begin - 1) : ""});
}

}  // namespace yc::modules
