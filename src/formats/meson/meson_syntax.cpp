#include "formats/meson/meson_syntax.h"

#include <algorithm>
#include <optional>
#include <set>

#include "formats/meson/meson_tokens.h"

namespace yc::meson {

namespace {

constexpr int kDepthLimit = 200;

class Parser {
 public:
  explicit Parser(std::string_view bytes) : bytes_(bytes), tokens_(tokens_of(bytes)) {}

  Syntax run() {
    out_.statements = block();
    while (peek().kind != Token::Kind::end) {
      problem("does not belong here");
      ++at_;
      std::vector<Statement> more = block();
      std::move(more.begin(), more.end(), std::back_inserter(out_.statements));
    }
    return std::move(out_);
  }

 private:
  using Kind = Node::Kind;

  const Token& peek(std::size_t ahead = 0) const {
    return tokens_[std::min(at_ + ahead, tokens_.size() - 1)];
  }
  std::string_view text(const Token& token) const {
    return bytes_.substr(token.span.begin, token.span.size());
  }
  bool is(std::string_view wanted) const {
    const Token& token = peek();
    return (token.kind == Token::Kind::word || token.kind == Token::Kind::sign) && text(token) == wanted;
  }
  bool accept(std::string_view wanted) {
    if (!is(wanted)) return false;
    ++at_;
    return true;
  }
  std::uint32_t last_end() const { return at_ ? tokens_[at_ - 1].span.end : 0; }
  void problem(std::string message) {
    std::string found = peek().kind == Token::Kind::end ? "the end" : "'" + std::string(text(peek())) + "'";
    if (found.size() > 40) found = "a string that is not closed";
    if (!failed_) out_.problems.emplace_back(peek().span.begin, found + " " + std::move(message));
    failed_ = true;
  }

  void skip_line() {
    while (peek().kind != Token::Kind::newline && peek().kind != Token::Kind::end) ++at_;
    failed_ = false;
  }

  // Statements up to a word that closes a block, which is left for the caller.
  std::vector<Statement> block() {
    static const std::set<std::string_view> borders = {"elif", "else", "endif", "endforeach"};
    std::vector<Statement> out;
    if (++depth_ > kDepthLimit) {
      problem("is nested too deeply");
      at_ = tokens_.size() - 1;
    }
    while (peek().kind != Token::Kind::end) {
      if (peek().kind == Token::Kind::newline) {
        ++at_;
        continue;
      }
      if (peek().kind == Token::Kind::word && borders.contains(text(peek()))) break;
      out.push_back(statement());
      bool ended = peek().kind == Token::Kind::newline || peek().kind == Token::Kind::end;
      if (!ended || failed_) {
        problem("was not expected here");
        skip_line();
      }
    }
    --depth_;
    return out;
  }

  Statement statement() {
    Statement out;
    out.span.begin = peek().span.begin;
    if (is("if")) {
      branches(out);
    } else if (is("foreach")) {
      loop(out);
    } else if (is("break") || is("continue")) {
      out.kind = is("break") ? Statement::Kind::leave : Statement::Kind::again;
      ++at_;
    } else if (peek().kind == Token::Kind::word && peek(1).kind == Token::Kind::sign &&
               (text(peek(1)) == "=" || text(peek(1)) == "+=")) {
      out.name = text(peek());
      out.kind = text(peek(1)) == "=" ? Statement::Kind::assign : Statement::Kind::append;
      at_ += 2;
      out.value = expression();
    } else {
      out.value = expression();
    }
    out.span.end = std::max(last_end(), out.span.begin);
    return out;
  }

  void branches(Statement& out) {
    out.kind = Statement::Kind::branches;
    ++at_;
    for (bool open = true, is_else = false; open;) {
      Branch branch;
      if (!is_else) branch.condition = expression();
      if (peek().kind != Token::Kind::newline) problem("was not expected here");
      if (failed_) skip_line();
      branch.body = block();
      out.branches.push_back(std::move(branch));
      is_else = false;
      if (accept("elif")) continue;
      if (accept("else")) {
        is_else = true;
        continue;
      }
      if (!accept("endif")) problem("comes where 'endif' is missing");
      open = false;
    }
  }

  void loop(Statement& out) {
    out.kind = Statement::Kind::loop;
    ++at_;
    do {
      if (peek().kind != Token::Kind::word) return problem("is not the name of a variable");
      out.variables.emplace_back(text(peek()));
      ++at_;
    } while (accept(","));
    if (!accept(":")) return problem("comes where ':' is missing");
    out.value = expression();
    if (failed_) skip_line();
    out.body = block();
    if (!accept("endforeach")) problem("comes where 'endforeach' is missing");
  }

  NodePtr make(Kind kind, std::uint32_t begin) {
    auto node = std::make_unique<Node>();
    node->kind = kind;
    node->span = {begin, last_end()};
    return node;
  }

  NodePtr operation(Kind kind, std::string op, NodePtr left, NodePtr right) {
    auto node = make(kind, left->span.begin);
    node->text = std::move(op);
    node->children.push_back(std::move(left));
    if (right) node->children.push_back(std::move(right));
    return node;
  }

  NodePtr expression() {
    if (++depth_ > kDepthLimit) {
      problem("is nested too deeply");
      at_ = tokens_.size() - 1;
    }
    NodePtr out = ternary();
    --depth_;
    return out;
  }

  // A chain of operations is a tree as deep as it is long.
  bool may_go_on(int& links) {
    constexpr int kLongest = 1000;
    if (++links <= kLongest) return true;
    problem("follows a chain of too many operations");
    at_ = tokens_.size() - 1;
    return false;
  }

  NodePtr ternary() {
    NodePtr condition = disjunction();
    if (!accept("?")) return condition;
    NodePtr yes = expression();
    if (!accept(":")) problem("comes where ':' is missing");
    NodePtr no = expression();
    auto node = operation(Kind::ternary, "?", std::move(condition), std::move(yes));
    node->children.push_back(std::move(no));
    return node;
  }

  NodePtr disjunction() {
    NodePtr left = conjunction();
    for (int links = 0; may_go_on(links) && accept("or");) {
      NodePtr right = conjunction();
      left = operation(Kind::binary, "or", std::move(left), std::move(right));
    }
    return left;
  }

  NodePtr conjunction() {
    NodePtr left = comparison();
    for (int links = 0; may_go_on(links) && accept("and");) {
      NodePtr right = comparison();
      left = operation(Kind::binary, "and", std::move(left), std::move(right));
    }
    return left;
  }

  NodePtr comparison() {
    NodePtr left = sum();
    for (std::string_view op : {"==", "!=", "<=", ">=", "<", ">", "in"}) {
      if (!accept(op)) continue;
      NodePtr right = sum();
      return operation(Kind::binary, std::string(op), std::move(left), std::move(right));
    }
    if (is("not") && peek(1).kind == Token::Kind::word && text(peek(1)) == "in") {
      at_ += 2;
      NodePtr right = sum();
      return operation(Kind::binary, "not in", std::move(left), std::move(right));
    }
    return left;
  }

  NodePtr sum() {
    NodePtr left = product();
    for (int links = 0; is("+") || is("-");) {
      if (!may_go_on(links)) break;
      std::string op(text(peek()));
      ++at_;
      NodePtr right = product();
      left = operation(Kind::binary, op, std::move(left), std::move(right));
    }
    return left;
  }

  NodePtr product() {
    NodePtr left = unary();
    for (int links = 0; is("*") || is("/") || is("%");) {
      if (!may_go_on(links)) break;
      std::string op(text(peek()));
      ++at_;
      NodePtr right = unary();
      left = operation(Kind::binary, op, std::move(left), std::move(right));
    }
    return left;
  }

  NodePtr unary() {
    if (!is("not") && !is("-")) return postfix();
    std::string op(text(peek()));
    std::uint32_t begin = peek().span.begin;
    ++at_;
    if (++depth_ > kDepthLimit) {
      problem("is nested too deeply");
      at_ = tokens_.size() - 1;
    }
    NodePtr inner = unary();
    --depth_;
    auto node = make(Kind::unary, begin);
    node->text = op;
    node->children.push_back(std::move(inner));
    return node;
  }

  NodePtr postfix() {
    NodePtr out = atom();
    for (int links = 0; !failed_;) {
      if ((is(".") || is("[")) && !may_go_on(links)) break;
      std::uint32_t begin = out->span.begin;
      if (accept(".")) {
        if (peek().kind != Token::Kind::word) {
          problem("is not the name of a method");
          break;
        }
        std::string name(text(peek()));
        ++at_;
        if (!accept("(")) {
          problem("comes where '(' is missing");
          break;
        }
        std::vector<Argument> arguments = list(")");
        auto node = make(Kind::method, begin);
        node->text = name;
        node->arguments = std::move(arguments);
        node->children.push_back(std::move(out));
        out = std::move(node);
      } else if (accept("[")) {
        NodePtr inner = expression();
        if (!accept("]")) problem("comes where ']' is missing");
        auto node = make(Kind::index, begin);
        node->children.push_back(std::move(out));
        node->children.push_back(std::move(inner));
        out = std::move(node);
      } else {
        break;
      }
    }
    return out;
  }

  NodePtr atom() {
    const Token token = peek();
    std::uint32_t begin = token.span.begin;
    if (token.kind == Token::Kind::string) {
      ++at_;
      auto node = make(Kind::string, begin);
      node->content = token.content;
      node->multiline = token.multiline;
      node->formatted = token.formatted;
      return node;
    }
    if (token.kind == Token::Kind::number) {
      ++at_;
      auto node = make(Kind::number, begin);
      node->text = text(token);
      return node;
    }
    if (token.kind == Token::Kind::word) {
      ++at_;
      std::string name(text(token));
      if (accept("(")) {
        std::vector<Argument> arguments = list(")");
        auto node = make(Kind::call, begin);
        node->text = name;
        node->arguments = std::move(arguments);
        return node;
      }
      auto node = make(name == "true" || name == "false" ? Kind::boolean : Kind::identifier, begin);
      node->text = name;
      return node;
    }
    for (auto [open, close, kind] : {std::tuple{"(", ")", Kind::group}, std::tuple{"[", "]", Kind::array},
                                     std::tuple{"{", "}", Kind::dictionary}}) {
      if (!accept(open)) continue;
      if (kind == Kind::group) {
        NodePtr inner = expression();
        if (!accept(")")) problem("comes where ')' is missing");
        auto node = make(kind, begin);
        node->children.push_back(std::move(inner));
        return node;
      }
      std::vector<Argument> arguments = list(close);
      auto node = make(kind, begin);
      node->arguments = std::move(arguments);
      return node;
    }
    problem("was not expected here");
    return make(Kind::number, begin);
  }

  // Arguments or elements up to `close`, which is taken.
  std::vector<Argument> list(std::string_view close) {
    std::vector<Argument> out;
    while (!failed_ && !accept(close)) {
      Argument argument;
      argument.span.begin = peek().span.begin;
      argument.value = expression();
      if (accept(":")) {
        if (argument.value->kind == Kind::identifier && close == ")")
          argument.keyword = argument.value->text;
        else
          argument.key = std::move(argument.value);
        argument.value = expression();
      }
      argument.span.end = last_end();
      out.push_back(std::move(argument));
      if (accept(",")) continue;
      if (!is(close)) problem("comes where ',' or '" + std::string(close) + "' is missing");
    }
    return out;
  }

  std::string_view bytes_;
  std::vector<Token> tokens_;
  std::size_t at_ = 0;
  int depth_ = 0;
  bool failed_ = false;
  Syntax out_;
};

template <typename Visit>
void walk(const Node& node, const Statement& statement, const Visit& visit) {
  visit(node, statement);
  for (const NodePtr& child : node.children) walk(*child, statement, visit);
  for (const Argument& argument : node.arguments) {
    if (argument.key) walk(*argument.key, statement, visit);
    walk(*argument.value, statement, visit);
  }
}

template <typename Visit>
void walk(const std::vector<Statement>& statements, const Visit& visit) {
  for (const Statement& statement : statements) {
    if (statement.value) walk(*statement.value, statement, visit);
    for (const Branch& branch : statement.branches) {
      if (branch.condition) walk(*branch.condition, statement, visit);
      walk(branch.body, visit);
    }
    walk(statement.body, visit);
  }
}

}  // namespace

Syntax parse(std::string_view bytes) {
  return Parser(bytes).run();
}

Enclosing enclosing(const Syntax& syntax, Span literal) {
  Enclosing out;
  walk(syntax.statements, [&](const Node& node, const Statement& statement) {
    if (!node.span.holds(literal)) return;
    out.statement = &statement;
    for (const Argument& argument : node.arguments) {
      if (argument.value->span.holds(literal)) out.argument = &argument, out.owner = &node;
    }
  });
  return out;
}

const Node* node_at(const Syntax& syntax, Span span) {
  const Node* out = nullptr;
  walk(syntax.statements, [&](const Node& node, const Statement&) {
    if (node.span == span) out = &node;
  });
  return out;
}

namespace {

// Where the expression ends that begins the bytes: at the end of its line, or at a bracket that it does not
// open. Nothing if the bytes end first.
std::optional<std::size_t> expression_end(std::string_view bytes) {
  int depth = 0;
  for (const Token& token : tokens_of(bytes)) {
    if (token.kind == Token::Kind::newline) return token.span.begin;
    if (token.kind == Token::Kind::garbage || token.kind == Token::Kind::end) return std::nullopt;
    if (token.kind != Token::Kind::sign) continue;
    std::string_view sign = bytes.substr(token.span.begin, token.span.size());
    if (sign == "(" || sign == "[" || sign == "{") ++depth;
    if ((sign == ")" || sign == "]" || sign == "}") && --depth < 0) return token.span.begin;
  }
  return std::nullopt;
}

}  // namespace

Syntax parse_expression(std::string_view bytes, std::uint32_t offset) {
  std::string_view rest = bytes.substr(std::min<std::size_t>(offset, bytes.size()));
  std::optional<std::size_t> end;
  for (std::size_t window = 2048; !end; window *= 4) {
    end = expression_end(rest.substr(0, window));
    if (!end && window >= rest.size()) end = rest.size();
  }
  return parse(std::string(offset, ' ').append(rest.substr(0, *end)));
}

const Node* call_at(const Syntax& syntax, std::uint32_t offset) {
  const Node* out = nullptr;
  walk(syntax.statements, [&](const Node& node, const Statement&) {
    bool is_call = node.kind == Node::Kind::call || node.kind == Node::Kind::method;
    if (is_call && node.span.begin == offset && (!out || node.span.end > out->span.end)) out = &node;
  });
  return out;
}

}  // namespace yc::meson
