#include "formats/python/path_evaluator.h"

#include <algorithm>
#include <set>

namespace yc::python {

namespace {

constexpr std::size_t kDeepest = 40;  // expressions within each other, and constants that name constants

class Evaluator {
 public:
  Evaluator(const Source& source, GraphBuilder& out, Constants& memo, std::size_t depth, Emit emit)
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

  Value constant(const std::string& name) {
    const Binding* own = find_binding(source_.facts->constants, name);
    const Binding* brought = own ? nullptr : find_binding(source_.facts->brought, name);
    if ((!own && !brought) || depth_ > kDeepest) return {};
    auto [slot, fresh] = memo_.try_emplace({source_.path, name});
    if (!fresh) return slot->second;
    Value value = own ? at_token(own->at) : imported(source_.facts->imports[brought->at], name);
    return memo_[{source_.path, name}] = std::move(value);
  }

 private:
  // The expression at a token, without telling anybody of what is in it.
  Value at_token(std::size_t token) {
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

  std::string_view text(std::size_t i) const {
    return i < tokens_.size()
               ? std::string_view(*source_.bytes).substr(tokens_[i].span.begin, tokens_[i].span.size())
               : std::string_view();
  }
  bool is_op(std::string_view op) const {
    return at_ < tokens_.size() && tokens_[at_].kind == Token::Kind::op && text(at_) == op;
  }
  bool at_end() const { return at_ >= tokens_.size(); }

  void sweep(std::size_t end) {
    while (at_ < end && at_ < tokens_.size()) {
      Token::Kind kind = tokens_[at_].kind;
      bool member = at_ > 0 && tokens_[at_ - 1].kind == Token::Kind::op && text(at_ - 1) == ".";
      if (kind == Token::Kind::string || (kind == Token::Kind::name && !member)) {
        std::size_t first = at_;
        Value value = sum();
        if (emit_ && value.known && value.literal) emit_(value, first);
        if (at_ == first) ++at_;
      } else {
        ++at_;
      }
    }
  }

  Value nested_sum() {
    if (depth_ > kDeepest) return {};
    ++depth_;
    Value out = sum();
    --depth_;
    return out;
  }

  // Everything up to the bracket that closes the one before `at_`.
  void sweep_bracket() {
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

  // a + b, a / b, a % b
  Value sum() {
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

  Value primary() {
    Value out;
    if (at_end()) return out;
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
    return postfix(std::move(out));
  }

  // Strings that stand behind each other are one.
  Value strings() {
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

  // An f-string, whose fields follow as tokens.
  void formatted(const StringShape& shape, TracedText& out) {
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

  TracedText own_file() const {
    TracedText out =
        TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, source_.path.parent()));
    out.append(TracedText::plain("/" + std::string(source_.path.name())));
    return out;
  }

  Value name() {
    std::string word(text(at_));
    Span span = tokens_[at_].span;
    ++at_;
    if (auto argument = given_.find(word); argument != given_.end())
      return argument->second.empty() ? Value() : argument->second.front();
    if (word == "__file__") return known(own_file(), true, false);
    if (word == "__package__" || word == "__name__") {
      Value out;
      out.name = "__package__";
      return out;
    }
    bool call_or_member = is_op("(") || is_op(".");
    const LocalName* local = local_of(word, span);
    Value value = local ? local_constant(*local) : constant(word);
    if (value.known) {
      value.text = value.text.through({file_, span});
      value.literal = false;  // it stands where it is named
      return value;
    }
    Value out;
    if (call_or_member) out.name = word;
    return out;
  }

  // The name as the innermost function that binds it has it; null if none does.
  const LocalName* local_of(const std::string& name, Span at) const {
    const LocalName* out = nullptr;
    const Binding* first = find_binding(source_.facts->local_names, name);
    const auto& all = source_.facts->local_names;
    for (const Binding* one = first; first && one != all.data() + all.size() && one->name == name; ++one) {
      const LocalName& local = source_.facts->locals[one->at];
      if (local.scope.holds(at) && (!out || out->scope.holds(local.scope))) out = &local;
    }
    return out;
  }

  Value local_constant(const LocalName& local) {
    if (local.value == 0 || depth_ > kDeepest) return {};
    std::pair key{source_.path, local.name + "@" + std::to_string(local.value)};
    if (!given_.empty()) return at_token(local.value);  // it may depend on the arguments
    auto [slot, fresh] = memo_.try_emplace(key);
    if (!fresh) return slot->second;
    Value value = at_token(local.value);
    return memo_[key] = std::move(value);
  }

  static const Shorthand* find_shorthand(const PythonFacts& facts, const std::string& name) {
    for (const Shorthand& each : facts.shorthands) {
      if (each.name == name) return &each;
    }
    return nullptr;
  }

  // What a function of this module, or one that an import brings, gives back for these arguments.
  Value given_back(const std::string& name, const std::vector<Value>& arguments) {
    if (depth_ > kDeepest || name.empty()) return {};
    if (const Shorthand* own = find_shorthand(*source_.facts, name))
      return apply(source_, *own, arguments, memo_, depth_ + 1);
    const Binding* brought = find_binding(source_.facts->brought, name);
    if (!brought) return {};
    const Import& statement = source_.facts->imports[brought->at];
    for (const ImportName& each : statement.names) {
      if (!statement.from || each.bound != name) continue;
      auto module = resolve(statement, statement.module);
      if (!module || source_.tree.is_folder(module->files.front()) || module->files.front() == source_.path)
        return {};
      auto bytes = source_.tree.read(module->files.front());
      if (!bytes || (*bytes)->find("def " + each.name) == std::string::npos) return {};
      auto facts = facts_of(source_.tree, source_.cache, source_.format, module->files.front());
      if (!facts) return {};
      const Shorthand* other = find_shorthand(*facts, each.name);
      if (!other) return {};
      Source there{source_.tree,          source_.cache, source_.format, source_.resolver,
                   module->files.front(), *bytes,        facts};
      return apply(there, *other, arguments, memo_, depth_ + 1);
    }
    return {};
  }

  Value apply(const Source& source, const Shorthand& function, const std::vector<Value>& arguments,
              Constants& memo, std::size_t depth) {
    Evaluator body(source, out_, memo, depth, nullptr);
    for (std::size_t i = 0; i < function.parameters.size(); ++i) {
      std::vector<Value>& slot = body.given_[function.parameters[i]];
      bool rest = function.takes_rest && i + 1 == function.parameters.size();
      for (std::size_t k = i; k < arguments.size() && (rest || k == i); ++k) slot.push_back(arguments[k]);
    }
    Value out = body.expression(function.value);
    bool any =
        std::any_of(arguments.begin(), arguments.end(), [](const Value& value) { return value.literal; });
    // A text that only repeats what it was given says no more than that.
    if (!out.known || !out.is_path || !out.text.text().starts_with(kTreeMark)) return {};
    out.literal = any;
    return out;
  }

  // A constant that an import brings.
  Value imported(const Import& statement, const std::string& bound) {
    if (!statement.from) return {};
    for (const ImportName& each : statement.names) {
      if (each.bound != bound) continue;
      auto module = resolve(statement, statement.module);
      return module ? constant_of(*module, each.name) : Value();
    }
    return {};
  }

  std::optional<Found> resolve(const Import& statement, const std::string& name) const {
    return statement.level > 0 ? source_.resolver.relative(source_.path, statement.level, name)
                               : source_.resolver.absolute(source_.path, name);
  }

  Value constant_of(const Found& module, const std::string& name) {
    const RelPath& path = module.files.front();
    if (path == source_.path || source_.tree.is_folder(path)) return {};
    if (auto known = memo_.find({path, name}); known != memo_.end()) return known->second;
    auto bytes = source_.tree.read(path);
    // Most of what is imported is no constant, and then the module need not be scanned.
    if (!bytes || !may_be_constant(**bytes, name)) return memo_[{path, name}] = {};
    auto facts = facts_of(source_.tree, source_.cache, source_.format, path);
    Source other{source_.tree, source_.cache, source_.format, source_.resolver, path, *bytes, facts};
    return Evaluator(other, out_, memo_, depth_ + 1, nullptr).constant(name);
  }

  static bool may_be_constant(const std::string& bytes, const std::string& name) {
    return bytes.find(name) != std::string::npos && bytes.find("\nclass " + name) == std::string::npos &&
           bytes.find("\ndef " + name) == std::string::npos;
  }

  // settings.DATA, where settings is a module of the tree.
  Value member_constant(const std::string& module_name, const std::string& name) {
    const Binding* brought = find_binding(source_.facts->brought, module_name);
    if (!brought || depth_ > kDeepest) return {};
    const Import& statement = source_.facts->imports[brought->at];
    for (const ImportName& each : statement.names) {
      if (each.bound != module_name) continue;
      std::string dotted = each.name;
      if (statement.from) dotted = statement.module + (statement.module.empty() ? "" : ".") + each.name;
      auto module = resolve(statement, dotted);
      return module ? constant_of(*module, name) : Value();
    }
    return {};
  }

  Value postfix(Value value) {
    while (!at_end()) {
      if (is_op(".") && at_ + 1 < tokens_.size() && tokens_[at_ + 1].kind == Token::Kind::name) {
        std::string member(text(at_ + 1));
        Span span = tokens_[at_ + 1].span;
        at_ += 2;
        value = value.known ? member_of(std::move(value), member) : member_of_name(value.name, member, span);
      } else if (is_op("(")) {
        value = call(std::move(value));
      } else if (is_op("[")) {
        value = subscript(std::move(value));
      } else {
        return value;
      }
    }
    return value;
  }

  Value member_of(Value value, const std::string& member) {
    if (member == "parent") return parent_of(std::move(value));
    if (member == "name" || member == "stem" || member == "suffix") return {};
    value.name = "." + member;
    return value;
  }

  Value member_of_name(const std::string& owner, const std::string& member, Span span) {
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

  // parents[1]; of anything else the brackets are looked into.
  Value subscript(Value value) {
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

  std::vector<Value> arguments(std::vector<std::size_t>& firsts) {
    std::vector<Value> out;
    ++at_;
    while (!at_end() && !is_op(")")) {
      if (tokens_[at_].kind == Token::Kind::newline) break;
      bool keyword = tokens_[at_].kind == Token::Kind::name && text(at_ + 1) == "=";
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
      } else if (emit_ && value.known && value.literal) {
        emit_(value, first);
      }
      if (is_op(",")) ++at_;
    }
    if (is_op(")")) ++at_;
    return out;
  }

  static std::string last_part(const std::string& name) {
    std::size_t dot = name.rfind('.');
    return dot == std::string::npos ? name : name.substr(dot + 1);
  }

  Value call(Value callee) {
    if (depth_ > kDeepest) {
      ++at_;
      sweep_bracket();
      return {};
    }
    ++depth_;
    std::vector<std::size_t> firsts;
    std::vector<Value> values = arguments(firsts);
    --depth_;
    std::string method = last_part(callee.name);
    static const std::set<std::string> kSame = {
        "abspath", "realpath", "normpath",  "resolve",    "absolute", "fspath",        "str",     "as_posix",
        "Path",    "PurePath", "PosixPath", "expanduser", "fsencode", "PurePosixPath", "normcase"};
    if (callee.known) {
      if (method == "joinpath") {
        values.insert(values.begin(), callee);
        return join(values);
      }
      if (method == "format") {
        callee.text = with_holes(callee.text, "{");
        callee.name.clear();
        return callee;
      }
      if (kSame.contains(method)) {
        callee.name.clear();
        return callee;
      }
      // The text itself is used by a method, as are the arguments.
      callee.name.clear();
      if (emit_ && callee.literal) emit_(callee, firsts.empty() ? at_ - 1 : firsts.front());
    } else if ((method == "join" && callee.name.ends_with("path.join")) ||
               (values.size() > 1 && method.ends_with("Path"))) {
      return values.empty() ? Value() : join(values);
    } else if (method == "dirname" && values.size() == 1 && values[0].known) {
      return parent_of(std::move(values[0]));
    } else if (kSame.contains(method) && values.size() == 1 && values[0].known) {
      values[0].is_path = true;
      return std::move(values[0]);
    } else if (Value made = given_back(callee.name, values); made.known) {
      return made;
    } else if (method == "files" && values.size() == 1) {
      return package_folder(values[0]);
    } else if (is_package_data(method) && values.size() >= 2 && values[1].known) {
      Value whole = join({package_folder(values[0]), values[1]});
      if (emit_ && whole.text.text().starts_with(kTreeMark)) emit_(whole, firsts[1]);
      return {};
    }
    for (std::size_t i = 0; i < values.size(); ++i) {
      if (emit_ && values[i].known && values[i].literal) emit_(values[i], firsts[i]);
    }
    return {};
  }

  // The folder of a package that is named by a string, or of this file's own.
  Value package_folder(const Value& argument) {
    if (argument.name == "__package__")
      return known(
          TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, source_.path.parent())),
          true, false);
    std::string dotted = argument.known ? argument.text.text() : "";
    auto found = is_dotted_name(dotted) ? source_.resolver.absolute(source_.path, dotted) : std::nullopt;
    if (!found || !found->is_package) return {};
    const RelPath& init = found->files.front();
    if (source_.tree.is_folder(init)) return {};
    return known(TracedText::folder(Piece::Nature::tree_folder, out_.files().index(init),
                                    marked(Space::tree, init.parent())),
                 true, false);
  }

  const Source& source_;
  GraphBuilder& out_;
  Constants& memo_;
  const std::vector<Token>& tokens_;
  FileIndex file_;
  std::map<std::string, std::vector<Value>> given_;  // the arguments of the function whose value is wanted
  std::size_t at_ = 0;
  std::size_t depth_ = 0;
  Emit emit_;
};

}  // namespace

void evaluate_all(const Source& source, GraphBuilder& out, Constants& memo, Emit emit) {
  Evaluator(source, out, memo, 0, std::move(emit)).sweep_all();
}

Value evaluate_at(const Source& source, GraphBuilder& out, Constants& memo, std::size_t token) {
  return Evaluator(source, out, memo, 0, nullptr).expression(token);
}

}  // namespace yc::python
