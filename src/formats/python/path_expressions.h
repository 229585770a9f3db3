// What the expressions of one source come to: their grammar (path_evaluator.cpp), and the names that stand in
// them (path_names.cpp).
#pragma once

#include <optional>
#include <set>

#include "formats/python/path_evaluator.h"

namespace yc::python {

// Expressions within each other, and constants that name constants.
inline constexpr std::size_t kDeepest = 40;

class PathExpressions {
 public:
  PathExpressions(const Source& source, GraphBuilder& out, Constants& memo, std::size_t depth, Emit emit)
      : source_(source),
        out_(out),
        memo_(memo),
        tokens_(source.facts->tokens),
        file_(out.files().index(source.path)),
        depth_(depth),
        emit_(std::move(emit)) {}

  // The expression that begins at a token.
  Value expression(std::size_t token) {
    at_ = token;
    return sum();
  }

  // Every expression of the file, the largest ones.
  void sweep_all() { sweep(tokens_.size()); }
  // The same of a function's body, called with these arguments.
  void sweep_body(const FunctionBody& function, const std::vector<Value>& arguments);

  // A name of the module's own top level, or one that an import brings.
  Value constant(const std::string& name);

 private:
  // Tokens.
  std::string_view text(std::size_t i) const {
    return i < tokens_.size()
               ? std::string_view(*source_.bytes).substr(tokens_[i].span.begin, tokens_[i].span.size())
               : std::string_view();
  }
  bool is_op(std::string_view op) const {
    return at_ < tokens_.size() && tokens_[at_].kind == Token::Kind::op && text(at_) == op;
  }
  bool at_end() const { return at_ >= tokens_.size(); }

  // The grammar. Each takes what begins at `at_`, and goes behind it.
  bool is_owner_in_parentheses() const;
  void sweep(std::size_t end);
  void sweep_bracket();  // all up to the bracket that closes the one before `at_`
  Value nested_sum();
  Value sum();  // a + b, a / b, a % b
  Value primary();
  Value strings();                                            // that stand behind each other: they are one
  void formatted(const StringShape& shape, TracedText& out);  // an f-string, whose fields follow as tokens
  Value postfix(Value value, std::size_t first);
  // The value of an expression that begins at `first`, ends before `at_` and climbs to a folder above.
  Value climbed(Value value, std::size_t first) const;
  Value subscript(Value value);  // parents[1]; of anything else the brackets are looked into
  Value member_of(Value value, const std::string& member);
  Value member_of_name(const std::string& owner, const std::string& member, Span span);
  std::vector<Value> arguments(std::vector<std::size_t>& firsts);
  Value call(Value callee);
  std::optional<Value> method_of_path(Value callee, const std::string& method, std::vector<Value> values,
                                      std::size_t first);
  std::optional<Value> function_of_paths(const std::string& name, const std::string& method,
                                         std::vector<Value>& values, const std::vector<std::size_t>& firsts);

  // The expression at a token, without telling anybody of what is in it.
  Value at_token(std::size_t token);

  // Names.
  Value name();
  // What a name means that an import of the libraries for paths brings: "osp" is "os.path".
  std::string called(const std::string& name) const;
  TracedText own_file() const;
  // The name as the innermost function that binds it has it; null if none does.
  const LocalName* local_of(const std::string& name, Span at) const;
  Value local_constant(const LocalName& local);
  // A constant that an import brings; one of a module; settings.DATA, where settings is a module of the tree.
  Value imported(const Import& statement, const std::string& bound);
  Value constant_of(const Found& module, const std::string& name);
  Value member_constant(const std::string& module_name, const std::string& name);
  std::optional<Found> resolve(const Import& statement, const std::string& name) const;
  // The folder of a package that is named by a string, or of this file's own.
  Value package_folder(const Value& argument);
  // What a function of this module, or one that an import brings, gives back for these arguments.
  void with_function(const std::string& name,
                     const std::function<void(const Source&, const std::string&)>& take);
  Value given_back(const std::string& name, const std::vector<Value>& arguments);
  Value apply(const Source& source, const Shorthand& function, const std::vector<Value>& arguments);
  // Hands out what a function opens that is called with texts: load("tides.csv"), which opens ASSETS + name.
  // Gives the arguments that are a part of that.
  std::set<std::size_t> opened_by(const std::string& name, const std::vector<Value>& arguments,
                                  const std::vector<std::size_t>& firsts);
  std::set<std::size_t> opened_in(const Source& source, const FunctionBody& function,
                                  const std::vector<Value>& arguments,
                                  const std::vector<std::size_t>& firsts);

  const Source& source_;
  GraphBuilder& out_;
  Constants& memo_;
  const std::vector<Token>& tokens_;
  FileIndex file_;
  std::map<std::string, std::vector<Value>> given_;  // the arguments of the function whose value is wanted
  bool is_inlined_ = false;                          // it is the body of a function that another one calls
  std::size_t at_ = 0;
  std::size_t depth_ = 0;
  Emit emit_;
};

}  // namespace yc::python
