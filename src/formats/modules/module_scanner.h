// The walk over the tokens of a module, in three parts: module_scan.cpp tells tokens apart, module_calls.cpp
// knows what brackets, calls and strings mean, module_elements.cpp reads elements (JSX).
#pragma once

#include <array>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "base/char_class.h"
#include "formats/modules/module_scan.h"

namespace yc::modules {

using SpecifierKind = Specifier::Kind;

inline constexpr CharClass kNameChars = CharClass::alphanumeric_and("_$").and_beyond_ascii();
inline constexpr CharClass kTagChars = CharClass::alphanumeric_and("_$.-:");
// What paths are made of, apart from letters and digits.
inline constexpr CharClass kPathChars = CharClass::alphanumeric_and("_-./@+~$ ()[],&=%!#*{}<>");

inline bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

// Words after which an expression begins, so that '/' begins a regular expression and '<' an element.
inline bool begins_expression(std::string_view word) {
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
inline bool takes_module(std::string_view method) {
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

  ModuleFacts run();

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

  void skip_line();

  void skip_block_comment();

  // {import("./x").Gauge} and @import { Gauge } from "./x"
  void doc_comment(std::size_t begin, std::size_t end);

  // /// <reference path="x" /> and its kin, which stand before all statements.
  void line_comment();

  void token();
  void slash();
  void less_than();
  void sign(char c);
  void exclamation();
  void other_token(char c);

  std::uint32_t at32() const { return static_cast<std::uint32_t>(at_); }

  Nest& open(Nest::Kind kind, bool specifiers = false);

  // Remembers a token that is no word.
  void punctuation(char c);

  // The words before the last token, newest last; a sign is a word of one character.
  void shift();

  void number();

  // Whether the number that ends here is one in which 'e' begins an exponent.
  bool is_decimal() const;

  void word();

  bool is(std::size_t back, std::string_view text) const { return before_[3 - back].text == text; }
  // Whether the word that was read last belongs to what stands before it: "a.b", but not "...b".
  bool is_member() const;

  void string(char quote);

  // From the back quote, or from the '}' that ends a hole.
  void template_text(bool opens);

  void open_brace();

  bool is_word_last() const { return last_ == 'a'; }
  bool is_arrow() const { return last_ == '>' && before_[3].at > 0 && bytes_[before_[3].at - 1] == '='; }

  void close_brace();

  void open_paren();

  // The key of the entry whose value begins at `at`: "key: value", or nothing.
  std::string key_before(std::size_t at) const;

  // path.join(__dirname, …): its strings are parts of a path.
  void take_join(Nest& nest, std::string_view word, bool member);

  static std::uint8_t call_of(SpecifierKind kind) {
    return static_cast<std::uint8_t>(static_cast<int>(kind) + 1);
  }

  void take_call(Nest& nest, std::string_view word, bool member);

  // vi.importActual<typeof import("./x")>("./x"), import.meta.glob<Module>("./*.ts"): back over the types.
  void take_generic_call(Nest& nest);

  void close(char c);

  void regular_expression();

  // Whether the '<' here, where an expression may begin, begins an element rather than a list of type
  // parameters.
  bool begins_element() const;

  // An element from behind its '<': name, attributes, and then its children or its end.
  void element();

  void skip_blank();

  void skip_type_arguments();

  void tell(std::size_t begin, std::size_t end) const;

  // Attributes up to the end of the tag. A '{' leaves for the tokens of an expression; its '}' comes back
  // here.
  void attributes();

  // After an element: the children around it go on, or the attributes of the one whose value it was, or the
  // expression.
  void end_element();

  void child_text();

  void add(SpecifierKind kind, std::size_t begin, std::size_t end, std::size_t statement);

  // Whether this token is the first argument of the call whose paren was opened last.
  bool is_first_argument() const;

  void take_string(std::size_t begin, std::size_t end);

  // fileURLToPath(new URL("./charts", import.meta.url)) as the value of an entry.
  void add_url_join(std::size_t begin, std::size_t end, std::uint32_t statement);

  // Whether more text is joined to a string.
  bool goes_on(std::size_t at) const;

  bool is_module_url(std::size_t at) const;

  void add_computed(SpecifierKind kind, std::size_t begin, std::size_t end, std::size_t tail,
                    std::size_t tail_end, std::uint32_t statement);

  void begin_computed(std::size_t begin, std::size_t end);

  void end_computed(std::size_t begin, std::size_t end);

  void take_attribute(std::size_t begin, std::size_t end);

  void take_text(std::size_t begin, std::size_t end);

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

}  // namespace yc::modules
