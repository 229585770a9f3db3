// Build scripts of Meson as written ("Syntax" in the Meson reference manual): statements and expressions with
// the bytes that they stand in. Nothing is evaluated here.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "base/span.h"

namespace yc::meson {

struct Node;
using NodePtr = std::unique_ptr<Node>;

// An argument of a call, an element of an array, an entry of a dictionary.
struct Argument {
  std::string keyword;  // empty for a positional argument and for elements
  NodePtr key;          // of a dictionary's entry
  NodePtr value;
  Span span;  // keyword or key included
};

struct Node {
  enum class Kind : unsigned char {
    string,      // content between the quotes at `content`
    number,      // text is its spelling
    boolean,     // text is "true" or "false"
    identifier,  // text
    array,       // arguments
    dictionary,  // arguments
    call,        // text(arguments)
    method,      // children[0].text(arguments)
    index,       // children[0][children[1]]
    binary,      // children[0] text children[1]
    unary,       // text children[0]
    ternary,     // children[0] ? children[1] : children[2]
    group,       // (children[0])
  };
  Kind kind = Kind::number;
  Span span;
  std::string text;
  Span content;            // of a string
  bool multiline = false;  // '''…''', in which nothing is escaped
  bool formatted = false;  // f'…', in which @name@ is replaced
  std::vector<NodePtr> children;
  std::vector<Argument> arguments;
};

struct Statement;
struct Branch {
  NodePtr condition;  // null for else
  std::vector<Statement> body;
};

struct Statement {
  enum class Kind : unsigned char { expression, assign, append, branches, loop, leave, again };
  Kind kind = Kind::expression;
  Span span;                           // of the whole statement
  std::string name;                    // assigned to
  NodePtr value;                       // expression, assigned value or what a loop runs over
  std::vector<Branch> branches;        // of if
  std::vector<std::string> variables;  // of foreach
  std::vector<Statement> body;         // of foreach
};

struct Syntax {
  std::vector<Statement> statements;
  std::vector<std::pair<std::uint32_t, std::string>> problems;  // offset and what is wrong there
};

// Never fails: what cannot be understood is passed over to the next line and named among the problems.
Syntax parse(std::string_view bytes);

// The same of the expression that begins at `offset` alone, with spans as in the whole script.
Syntax parse_expression(std::string_view bytes, std::uint32_t offset);

// The innermost argument or element that holds `literal`, and the call, array or dictionary it belongs to.
struct Enclosing {
  const Argument* argument = nullptr;
  const Node* owner = nullptr;
  const Statement* statement = nullptr;
};
Enclosing enclosing(const Syntax& syntax, Span literal);
// The node whose span is exactly this one; null if there is none.
const Node* node_at(const Syntax& syntax, Span span);
// The call that begins at `offset` and is no part of a longer one that does; null if there is none.
const Node* call_at(const Syntax& syntax, std::uint32_t offset);

}  // namespace yc::meson
