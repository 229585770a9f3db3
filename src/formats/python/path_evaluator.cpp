#include "formats/python/path_evaluator.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/python/loops_over_texts.h"
#include "formats/python/path_expressions.h"
#include "words/python.h"

namespace yc::python {

namespace {

std::string last_part(const std::string& name) {
  std::size_t dot = name.rfind('.');
  return dot == std::string::npos ? name : name.substr(dot + 1);
}

// What a program finds that looks into a folder.
Value listed(const Value& folder) {
  Value out = join({folder, known(TracedText::plain("*"), true, false)});
  out.name.clear();
  return out;
}

}  // namespace

Value PathExpressions::at_token(std::size_t token) {
  std::size_t before = at_;
  at_ = token;
  ++depth_;
  Emit emit = std::move(emit_);
  emit_ = nullptr;
  Value out = sum();
  emit_ = std::move(emit);
  --depth_;
  at_ = before;
  return out;
}

// "(HERE / 'tides').glob('*.csv')": what stands in parentheses is part of a larger expression.
bool PathExpressions::is_owner_in_parentheses() const {
  constexpr std::size_t kLongest = 60;  // tokens
  bool is_call =
      at_ > 0 && (tokens_[at_ - 1].kind != Token::Kind::op || text(at_ - 1) == ")" || text(at_ - 1) == "]");
  if (!is_op("(") || is_call) return false;
  std::size_t nest = 0;
  for (std::size_t i = at_; i < std::min(at_ + kLongest, tokens_.size()); ++i) {
    if (tokens_[i].kind != Token::Kind::op) continue;
    if (text(i) == "(") ++nest;
    if (text(i) == ")" && --nest == 0) return i + 1 < tokens_.size() && text(i + 1) == ".";
  }
  return false;
}

void PathExpressions::sweep(std::size_t end) {
  while (at_ < end && at_ < tokens_.size()) {
    Token::Kind kind = tokens_[at_].kind;
    bool member = at_ > 0 && tokens_[at_ - 1].kind == Token::Kind::op && text(at_ - 1) == ".";
    if (kind == Token::Kind::string || (kind == Token::Kind::name && !member) || is_owner_in_parentheses()) {
      std::size_t first = at_;
      Value value = sum();
      if (emit_ && value.known && value.literal) emit_(value, first);
      if (at_ == first) ++at_;
    } else {
      ++at_;
    }
  }
}

Value PathExpressions::nested_sum() {
  if (depth_ > kDeepest) return {};
  ++depth_;
  Value out = sum();
  --depth_;
  return out;
}

void PathExpressions::sweep_bracket() {
  // Nobody wants to know what stands in it, or it is too deep.
  if (++depth_ > kDeepest || !emit_) {
    std::size_t nest = 1;
    for (; !at_end() && nest > 0; ++at_) {
      if (is_op("(") || is_op("[") || is_op("{")) ++nest;
      if (is_op(")") || is_op("]") || is_op("}")) --nest;
    }
    --depth_;
    return;
  }
  while (!at_end() && !is_op(")") && !is_op("]") && !is_op("}")) {
    if (tokens_[at_].kind == Token::Kind::newline) break;
    if (is_op("(") || is_op("[") || is_op("{")) {
      ++at_;
      sweep_bracket();
    } else {
      sweep(at_ + 1);
    }
  }
  if (!at_end() && tokens_[at_].kind == Token::Kind::op) ++at_;
  --depth_;
}

Value PathExpressions::sum() {
  Value left = primary();
  while (true) {
    bool plus = is_op("+"), slash = is_op("/"), percent = is_op("%");
    if (!plus && !slash && !percent) return left;
    if (!left.known && !left.name.empty()) return left;
    ++at_;
    Value right = primary();
    if (percent) {
      left.text = with_holes(left.text, "%");
      continue;
    }
    if (!left.known && !right.known) continue;
    Value both = slash ? join({left, right}) : known(text_of(left), left.is_path || right.is_path, false);
    if (plus) both.text.append(text_of(right));
    both.literal = left.literal || right.literal;
    // No path has so many parts; a text that doubles again and again has.
    if (both.text.pieces().size() > kMostPieces) both = {};
    left = std::move(both);
  }
}

Value PathExpressions::primary() {
  Value out;
  if (at_end()) return out;
  std::size_t first = at_;
  if (tokens_[at_].kind == Token::Kind::string) {
    out = strings();
  } else if (tokens_[at_].kind == Token::Kind::name) {
    out = name();
  } else if (is_op("(")) {
    ++at_;
    std::size_t inner = at_;
    out = nested_sum();
    if (is_op(")")) {
      ++at_;
    } else {
      // A tuple or something else: what stands in it is looked at by itself.
      if (emit_ && out.known && out.literal) emit_(out, inner);
      sweep_bracket();
      out = {};
    }
  } else if (is_op("[") || is_op("{")) {
    ++at_;
    sweep_bracket();
  } else {
    return out;
  }
  return postfix(std::move(out), first);
}

Value PathExpressions::strings() {
  TracedText whole;
  while (!at_end() && tokens_[at_].kind == Token::Kind::string) {
    StringShape shape = shape_of(*source_.bytes, tokens_[at_]);
    std::string_view body = std::string_view(*source_.bytes).substr(shape.body.begin, shape.body.size());
    ++at_;
    if (shape.formatted) {
      formatted(shape, whole);
    } else if (body.find_first_of("\\\n") != std::string_view::npos || shape.bytes) {
      whole.append(TracedText::hole());
    } else {
      whole.append(TracedText::literal(std::string(body), file_, shape.body));
    }
  }
  return known(std::move(whole), false, true);
}

void PathExpressions::formatted(const StringShape& shape, TracedText& out) {
  std::uint32_t from = shape.body.begin;
  auto literal = [&](std::uint32_t end) {
    if (end <= from) return;
    std::string piece = source_.bytes->substr(from, end - from);
    if (piece.find_first_of("\\\n{}") != std::string::npos) {
      out.append(TracedText::hole());
    } else {
      out.append(TracedText::literal(std::move(piece), file_, {from, end}));
    }
  };
  while (!at_end() && tokens_[at_].kind == Token::Kind::field) {
    literal(tokens_[at_].span.begin);
    ++at_;
    Value inner = sum();
    out.append(text_of(inner));
    std::size_t nest = 1;
    while (!at_end() && nest > 0) {
      if (tokens_[at_].kind == Token::Kind::newline) break;
      if (tokens_[at_].kind == Token::Kind::field) ++nest;
      if (tokens_[at_].kind == Token::Kind::field_end && --nest == 0) from = tokens_[at_].span.end;
      ++at_;
    }
  }
  literal(shape.body.end);
}

Value PathExpressions::climbed(Value value, std::size_t first) const {
  const auto& pieces = value.text.pieces();
  if (!value.known || pieces.empty() || pieces[0].nature != Piece::Nature::tree_folder) return value;
  Span span{tokens_[first].span.begin, tokens_[at_ - 1].span.end};
  // It may be the beginning that climbed already.
  std::vector<Piece> bare(pieces.begin(), pieces.end());
  for (Piece& piece : bare) {
    bool is_longer =
        !piece.via.empty() && piece.via[0].file == file_ && piece.via[0].span.begin == span.begin;
    if (is_longer) piece.via = piece.via.rest();
  }
  value.text = TracedText::of(std::move(bare)).through({file_, span});
  return value;
}

Value PathExpressions::postfix(Value value, std::size_t first) {
  while (!at_end()) {
    if (is_op(".") && at_ + 1 < tokens_.size() && tokens_[at_ + 1].kind == Token::Kind::name) {
      std::string member(text(at_ + 1));
      Span span = tokens_[at_ + 1].span;
      at_ += 2;
      bool climbs = value.known && member == "parent";
      value = value.known ? member_of(std::move(value), member) : member_of_name(value.name, member, span);
      if (climbs) value = climbed(std::move(value), first);
    } else if (is_op("(")) {
      bool climbs = !value.known && last_part(value.name) == "dirname";
      value = call(std::move(value));
      if (climbs) value = climbed(std::move(value), first);
    } else if (is_op("[")) {
      value = climbed(subscript(std::move(value)), first);
    } else {
      return value;
    }
  }
  return value;
}

Value PathExpressions::member_of(Value value, const std::string& member) {
  if (member == "parent") return parent_of(std::move(value));
  if (member == "name" || member == "stem" || member == "suffix") return {};
  value.name = "." + member;
  return value;
}

Value PathExpressions::member_of_name(const std::string& owner, const std::string& member, Span span) {
  Value out;
  if (owner.empty()) return out;
  std::string whole = owner + "." + member;
  if (whole == "os.pardir" || whole == "os.path.pardir") return known(TracedText::plain(".."), true, false);
  if (whole == "os.curdir" || whole == "os.path.curdir") return known(TracedText::plain("."), true, false);
  if (whole == "os.sep" || whole == "os.path.sep") return known(TracedText::plain("/"), true, false);
  if (!is_op("(") && owner.find('.') == std::string::npos) {
    Value constant = member_constant(owner, member);
    if (constant.known) {
      constant.text = constant.text.through({file_, span});
      constant.literal = false;
      return constant;
    }
  }
  out.name = whole;
  return out;
}

Value PathExpressions::subscript(Value value) {
  std::string member = value.known ? value.name : "";
  ++at_;
  if (member == ".parents" && tokens_[at_].kind == Token::Kind::number) {
    int times = text(at_)[0] - '0';
    sweep_bracket();
    value.name.clear();
    for (int i = 0; i <= times && i < 10; ++i) value = parent_of(std::move(value));
    return value;
  }
  sweep_bracket();
  return {};
}

std::vector<Value> PathExpressions::arguments(std::vector<std::size_t>& firsts) {
  std::vector<Value> out;
  ++at_;
  while (!at_end() && !is_op(")")) {
    if (tokens_[at_].kind == Token::Kind::newline) break;
    bool keyword = tokens_[at_].kind == Token::Kind::name && text(at_ + 1) == "=";
    bool is_folder = keyword && text(at_) == "cwd";
    if (keyword) at_ += 2;
    bool spread = is_op("*");
    if (is_op("*") || is_op("**")) ++at_;
    std::size_t first = at_;
    auto rest = spread ? given_.find(std::string(text(at_))) : given_.end();
    if (rest != given_.end() && (text(at_ + 1) == "," || text(at_ + 1) == ")")) {
      for (const Value& each : rest->second) {
        out.push_back(each);
        firsts.push_back(first);
      }
      ++at_;
      if (is_op(",")) ++at_;
      continue;
    }
    Value value = sum();
    bool whole = is_op(",") || is_op(")");
    if (!whole) {
      if (emit_ && value.known && value.literal) emit_(value, first);
      value = {};
      // What is left of the argument.
      while (!at_end() && !is_op(",") && !is_op(")") && tokens_[at_].kind != Token::Kind::newline) {
        if (is_op("(") || is_op("[") || is_op("{")) {
          ++at_;
          sweep_bracket();
        } else {
          sweep(at_ + 1);
        }
      }
    }
    if (!keyword) {
      out.push_back(std::move(value));
      firsts.push_back(first);
    } else if (emit_ && value.known && (value.literal || is_folder)) {
      emit_(value, first);
    }
    if (is_op(",")) ++at_;
  }
  if (is_op(")")) ++at_;
  return out;
}

// What a method of a path comes to; nothing of one that only uses the path.
std::optional<Value> PathExpressions::method_of_path(Value callee, const std::string& method,
                                                     std::vector<Value> values, std::size_t first) {
  callee.name.clear();
  bool globs = (method == "glob" || method == "rglob") && values.size() == 1 && values[0].known;
  if (method == "joinpath" || globs) {
    if (method == "rglob") values.insert(values.begin(), known(TracedText::plain("**"), true, false));
    values.insert(values.begin(), std::move(callee));
    return join(values);
  }
  if (method == "format") {
    callee.text = with_holes(callee.text, "{");
    return callee;
  }
  if (words::python::same_path_calls().contains(method)) return callee;
  if (method == "iterdir" && values.empty()) {
    if (emit_) emit_(listed(callee), first);
    return Value();
  }
  if (method == "with_name" && values.size() == 1 && values[0].known) {
    values[0].text = values[0].text.through({}, kNameAlone);
    return join({parent_of(std::move(callee)), values[0]});
  }
  return std::nullopt;
}

// What a function that takes paths comes to; nothing of another.
std::optional<Value> PathExpressions::function_of_paths(const std::string& name, const std::string& method,
                                                        std::vector<Value>& values,
                                                        const std::vector<std::size_t>& firsts) {
  bool is_one = values.size() == 1 && values[0].known;
  if ((method == "join" && name.ends_with("path.join")) || (values.size() > 1 && method.ends_with("Path")))
    return values.empty() ? Value() : join(values);
  if (method == "dirname" && is_one) return parent_of(std::move(values[0]));
  if (words::python::same_path_calls().contains(method) && is_one) {
    values[0].is_path = true;
    return std::move(values[0]);
  }
  if (Value made = given_back(name, values); made.known) return made;
  if (method == "files" && values.size() == 1) return package_folder(values[0]);
  if (method == "PackageLoader" && !values.empty()) {
    // Templates of a package, in a folder that is called so where nothing else is said.
    bool is_told = values.size() >= 2 && values[1].known;
    Value folder = is_told ? values[1] : known(TracedText::plain("templates"), true, true);
    Value whole = join({package_folder(values[0]), folder});
    if (emit_ && whole.text.text().starts_with(kTreeMark)) emit_(whole, firsts[is_told ? 1 : 0]);
    return Value();
  }
  if (is_package_data(method) && values.size() >= 2 && values[1].known) {
    Value whole = join({package_folder(values[0]), values[1]});
    if (emit_ && whole.text.text().starts_with(kTreeMark)) emit_(whole, firsts[1]);
    return Value();
  }
  return std::nullopt;
}

Value PathExpressions::call(Value callee) {
  if (depth_ > kDeepest) {
    ++at_;
    sweep_bracket();
    return {};
  }
  ++depth_;
  std::vector<std::size_t> firsts;
  std::vector<Value> values = arguments(firsts);
  --depth_;
  const std::string name = callee.name, method = last_part(name);
  std::size_t first = firsts.empty() ? at_ - 1 : firsts.front();
  auto made = callee.known ? method_of_path(callee, method, values, first)
                           : function_of_paths(name, method, values, firsts);
  if (made) return std::move(*made);
  if (!emit_) return {};
  // The text itself is used by a method, as are the arguments.
  callee.name.clear();
  if (callee.known && callee.literal) emit_(callee, first);
  bool is_one = values.size() == 1 && values[0].known;
  // os.listdir(TABLES), os.scandir(TABLES)
  if (is_one && (method == "listdir" || method == "scandir")) emit_(listed(values[0]), first);
  // A program that goes to a folder names it, even by what it is called here.
  if (is_one && method == "chdir" && !values[0].literal) emit_(values[0], first);
  // So does one that has modules looked up there.
  bool is_search = name == "sys.path.insert" || name == "sys.path.append" || method == "addsitedir";
  if (is_search && !values.empty() && values.back().known && !values.back().literal)
    emit_(values.back(), firsts.back());
  std::set<std::size_t> taken = opened_by(callee.known ? "" : name, values, firsts);
  for (std::size_t i = 0; i < values.size(); ++i) {
    if (values[i].known && values[i].literal && !taken.contains(i)) emit_(values[i], firsts[i]);
  }
  return {};
}

namespace {

// What is put together from the texts that loops go over.
class Loops {
 public:
  Loops(const Source& source, GraphBuilder& out, Constants& memo) {
    for (const TextLoop& loop : loops_over_texts(*source.bytes, source.facts->tokens)) {
      std::map<std::size_t, std::size_t> times;  // that an expression is known
      for (std::size_t text : loop.texts) go_through(source, out, memo, loop, text, times);
      for (const auto& [token, count] : times) {
        if (count >= loop.texts.size()) known_.insert(token);
      }
    }
  }

  // Whether an expression that begins at a token is known in each round of a loop that it stands in.
  bool know(std::size_t token) const { return known_.contains(token); }

  void hand_out(const Emit& emit) const {
    for (const auto& [value, token] : found_) emit(value, token);
  }

 private:
  void go_through(const Source& source, GraphBuilder& out, Constants& memo, const TextLoop& loop,
                  std::size_t text, std::map<std::size_t, std::size_t>& times) {
    Span span = source.facts->tokens[text].span;
    auto take = [&](const Value& value, std::size_t first) {
      const auto& pieces = value.text.pieces();
      bool is_from_text =
          pieces.size() > 1 && std::any_of(pieces.begin(), pieces.end(), [&](const Piece& piece) {
            return piece.has_origin() && span.begin <= piece.span.begin && piece.span.end <= span.end;
          });
      if (is_from_text) found_.emplace_back(value, text);
      if (!value.text.has_hole()) ++times[first];
    };
    PathExpressions body(source, out, memo, 1, take);
    body.sweep_body({"", {loop.name}, loop.begin, loop.end}, {evaluate_at(source, out, memo, text)});
  }

  std::vector<std::pair<Value, std::size_t>> found_;  // with the token of the text
  std::set<std::size_t> known_;
};

}  // namespace

void evaluate_all(const Source& source, GraphBuilder& out, Constants& memo, Emit emit) {
  Loops loops(source, out, memo);
  auto unless_known = [&](const Value& value, std::size_t first) {
    if (!value.text.has_hole() || !loops.know(first)) emit(value, first);
  };
  PathExpressions(source, out, memo, 0, unless_known).sweep_all();
  loops.hand_out(emit);
}

Value evaluate_at(const Source& source, GraphBuilder& out, Constants& memo, std::size_t token) {
  return PathExpressions(source, out, memo, 0, nullptr).expression(token);
}

}  // namespace yc::python
