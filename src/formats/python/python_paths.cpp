// Paths that a program puts together: evaluated as far as that goes without running it, with the trace of
// every piece.
#include <algorithm>
#include <set>

#include "formats/literal_paths.h"
#include "formats/python/python_references.h"

namespace yc::python {

namespace {

constexpr std::size_t kMostPieces = 60;
constexpr std::size_t kDeepest = 40;  // expressions within each other, and constants that name constants

// What an expression is found to be.
struct Value {
  TracedText text;
  bool known = false;    // it is text, perhaps with holes
  bool is_path = false;  // it was joined or taken for a path, so that a name alone means a file or folder
  bool literal = false;  // a string of this file is in it
  std::string name;      // of a function or module that is not text: "os.path.join"
};

// Constants of a module: where the expression begins that a name gets, once, at the top.
using Constants = std::map<std::string, std::size_t>;

Constants constants_of(const PythonFacts& facts, std::string_view bytes) {
  Constants out;
  std::set<std::string> twice;
  const auto& tokens = facts.tokens;
  for (std::size_t i = 0; i + 2 < tokens.size(); ++i) {
    bool starts = i == 0 || tokens[i - 1].kind == Token::Kind::newline;
    if (!starts || tokens[i].kind != Token::Kind::name) continue;
    bool top = tokens[i].span.begin == 0 || bytes[tokens[i].span.begin - 1] == '\n';
    bool assigned = tokens[i + 1].kind == Token::Kind::op && bytes[tokens[i + 1].span.begin] == '=' &&
                    tokens[i + 1].span.size() == 1;
    if (!top || !assigned) continue;
    std::string name(bytes.substr(tokens[i].span.begin, tokens[i].span.size()));
    if (!out.emplace(name, i + 2).second) twice.insert(name);
  }
  for (const std::string& name : twice) out.erase(name);
  return out;
}

class Evaluator {
 public:
  using Emit = std::function<void(const Value&, std::size_t first)>;

  // Constants that were evaluated, of all modules; one that is being evaluated is unknown.
  using Memo = std::map<std::pair<RelPath, std::string>, Value>;

  Evaluator(const Source& source, GraphBuilder& out, Memo& memo, std::size_t depth, Emit emit)
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
    if (!constants_) {
      constants_ = constants_of(*source_.facts, *source_.bytes);
      for (const auto& item : *constants_) named_.insert(item.first);
      for (const Import& statement : source_.facts->imports) {
        for (const ImportName& each : statement.names) named_.insert(each.bound);
      }
    }
    if (!named_.contains(name)) return {};
    auto [slot, fresh] = memo_.try_emplace({source_.path, name});
    if (fresh) {
      Value value = evaluated(name);
      memo_[{source_.path, name}] = std::move(value);
    }
    return memo_[{source_.path, name}];
  }

 private:
  Value evaluated(const std::string& name) {
    if (!constants_) constants_ = constants_of(*source_.facts, *source_.bytes);
    auto at = constants_->find(name);
    if (at == constants_->end() || depth_ > kDeepest) return imported(name);
    std::size_t before = at_;
    at_ = at->second;
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

  static Value known(TracedText text, bool is_path, bool literal) {
    Value out;
    out.text = std::move(text);
    out.known = true;
    out.is_path = is_path;
    out.literal = literal;
    return out;
  }
  static TracedText text_of(const Value& value) { return value.known ? value.text : TracedText::hole(); }

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

  static Value join(const std::vector<Value>& parts) {
    TracedText out;
    bool literal = false;
    for (const Value& part : parts) {
      TracedText text = text_of(part);
      std::string plain = text.text();
      literal = literal || part.literal;
      bool absolute = plain.starts_with("/");
      if (absolute) out = {};
      if (!out.empty() && !out.text().ends_with("/")) out.append(TracedText::plain("/"));
      if (out.pieces().size() + text.pieces().size() > kMostPieces) return {};
      out.append(text);
    }
    return known(std::move(out), true, literal);
  }

  // What a formatted text leaves open: "%s", "%(name)s", "{}".
  static TracedText with_holes(const TracedText& text, const std::string& kind) {
    TracedText out;
    std::string plain = text.text();
    std::size_t at = 0;
    while (at < plain.size()) {
      std::size_t mark = plain.find(kind == "%" ? '%' : '{', at);
      if (mark == std::string::npos) break;
      std::size_t end = mark + 1;
      if (kind == "%") {
        if (end < plain.size() && plain[end] == '(') end = plain.find(')', end);
        end = end == std::string::npos ? end : plain.find_first_of("sdifrxg%", end);
      } else {
        end = plain.find('}', end);
      }
      if (end == std::string::npos) break;
      out.append(text.substr(at, mark - at));
      out.append(TracedText::hole());
      at = end + 1;
    }
    out.append(text.substr(at));
    return out;
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
    if (word == "__file__") return known(own_file(), true, false);
    if (word == "__package__" || word == "__name__") {
      Value out;
      out.name = "__package__";
      return out;
    }
    bool call_or_member = is_op("(") || is_op(".");
    Value value = constant(word);
    if (value.known && !shadowed(word, span)) {
      value.text = value.text.through({file_, span});
      value.literal = false;  // it stands where it is named
      return value;
    }
    Value out;
    if (call_or_member) out.name = word;
    return out;
  }

  bool shadowed(const std::string& name, Span at) const {
    return std::any_of(source_.facts->locals.begin(), source_.facts->locals.end(),
                       [&](const LocalName& local) { return local.name == name && local.scope.holds(at); });
  }

  // A constant that an import brings.
  Value imported(const std::string& name) {
    if (depth_ > kDeepest) return {};
    for (const Import& statement : source_.facts->imports) {
      for (std::size_t i = 0; i < statement.names.size(); ++i) {
        if (statement.names[i].bound != name || !statement.from) continue;
        auto module = statement.level > 0
                          ? source_.resolver.relative(source_.path, statement.level, statement.module)
                          : source_.resolver.absolute(source_.path, statement.module);
        return module ? constant_of(*module, statement.names[i].name) : Value();
      }
    }
    return {};
  }

  Value constant_of(const Found& module, const std::string& name) {
    const RelPath& path = module.files.front();
    auto facts = facts_of(source_.tree, source_.cache, source_.format, path);
    if (!facts || path == source_.path) return {};
    auto bytes = source_.tree.read(path);
    Source other{source_.tree, source_.cache, source_.format, source_.resolver, path, *bytes, facts};
    return Evaluator(other, out_, memo_, depth_ + 1, nullptr).constant(name);
  }

  // settings.DATA, where settings is a module of the tree.
  Value member_constant(const std::string& module_name, const std::string& name) {
    for (const Import& statement : source_.facts->imports) {
      for (const ImportName& each : statement.names) {
        if (each.bound != module_name) continue;
        std::string dotted = each.name;
        if (statement.from) dotted = statement.module + (statement.module.empty() ? "" : ".") + each.name;
        auto module = statement.level > 0 ? source_.resolver.relative(source_.path, statement.level, dotted)
                                          : source_.resolver.absolute(source_.path, dotted);
        return module && depth_ < kDeepest ? constant_of(*module, name) : Value();
      }
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

  static Value parent_of(Value value) {
    std::string plain = value.text.text();
    std::size_t cut = plain.rfind('/');
    bool in_mark = plain.starts_with(kTreeMark) && cut != std::string::npos && cut < kTreeMark.size();
    const auto& pieces = value.text.pieces();
    // The name of the file itself goes; above its folder one climbs.
    bool cuts_folder = pieces.size() == 1 && pieces[0].nature == Piece::Nature::tree_folder;
    bool climbs = plain.ends_with("/..");
    if (cut == std::string::npos || cuts_folder || climbs || in_mark) {
      value.text.append(TracedText::plain("/.."));
    } else {
      value.text = value.text.substr(0, cut);
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
      if (is_op("*") || is_op("**")) ++at_;
      std::size_t first = at_;
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

  static bool is_package_data(const std::string& method) {
    static const std::set<std::string> kKnown = {"get_data",        "resource_filename", "resource_string",
                                                 "resource_stream", "open_text",         "open_binary",
                                                 "read_text",       "read_binary",       "path",
                                                 "is_resource",     "resource_exists",   "resource_listdir"};
    return kKnown.contains(method);
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
  Memo& memo_;
  const std::vector<Token>& tokens_;
  FileIndex file_;
  std::size_t at_ = 0;
  std::size_t depth_ = 0;
  Emit emit_;
  std::optional<Constants> constants_;
  std::set<std::string> named_;  // what could be a constant: those of the file, and what imports bring
};

// Whether every folder that a path goes back from is there: the system looks, unlike a reader of the text.
bool can_be_walked(const TreeReader& tree, const RelPath& base, std::string_view text) {
  if (text.starts_with(kTreeMark)) text.remove_prefix(std::min(kTreeMark.size() + 1, text.size()));
  RelPath at = base;
  for (std::size_t begin = 0; begin <= text.size();) {
    std::size_t end = std::min(text.find('/', begin), text.size());
    std::string_view part = text.substr(begin, end - begin);
    begin = end + 1;
    if (part.empty() || part == ".") continue;
    if (part == "..") {
      const Entry* entry = at.is_root() ? nullptr : tree.find(at);
      // From a file one goes back to its folder by its name.
      if (!at.is_root() && (!entry || entry->kind == EntryKind::link)) return false;
      at = at.parent();
    } else {
      at = at / part;
    }
  }
  return true;
}

class Emitter {
 public:
  Emitter(const Source& source, GraphBuilder& out)
      : source_(source), out_(out), file_(out.files().index(source.path)), whole_(out.wants(source.path)) {}

  void emit(const Value& value, std::size_t first) {
    std::string plain = value.text.text();
    if (plain.size() < 2 || plain.size() > 400 || plain.find_first_of("\n\r\t") != std::string::npos) return;
    if (plain.find("://") != std::string::npos) return;
    if (value.text.has_hole()) {
      open(value, plain);
      return;
    }
    if (!whole_ && !out_.wants_any_name(plain)) return;
    bool anchored = plain.starts_with(kTreeMark);
    if (!anchored && value.text.pieces().size() == 1) {
      lone(value, plain, first);
      return;
    }
    if (anchored) {
      // One that a package's file anchors is no other one's.
      Place place = place_of({}, plain);
      const Entry* entry =
          place.space == Space::tree && !place.path.is_root() ? source_.tree.find(place.path) : nullptr;
      if (!entry || entry->ignored || place.path == source_.path) return;
      if (!can_be_walked(source_.tree, {}, plain)) return;
      add(value.text, first, {source_.path.parent(), file_, Space::tree}, place.path, Certainty::certain);
      return;
    }
    if (plain.starts_with("/")) return;
    for (RelPath up = source_.path.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, plain);
      const Entry* entry = place && !place->is_root() ? source_.tree.find(*place) : nullptr;
      if (entry && !entry->ignored && can_be_walked(source_.tree, up, plain)) {
        add(value.text, first, {up, kNoFile, Space::tree}, *place, Certainty::likely);
        return;
      }
      if (up.is_root()) return;
    }
  }

 private:
  void add(TracedText text, std::size_t first, Base base, const RelPath& target, Certainty certainty) {
    Reference reference;
    reference.role = Role::argument;
    reference.format = source_.format;
    reference.certainty = certainty;
    reference.key = {{file_, source_.facts->tokens[first].span.begin}};
    // What is found from another folder, is another reference.
    reference.instance = certainty == Certainty::likely ? base.folder : RelPath::from_normal("path");
    reference.base = std::move(base);
    reference.text = std::move(text);
    reference.targets.push_back({Target::Kind::tree, target, {}});
    out_.add(std::move(reference));
  }

  // A string by itself.
  void lone(const Value& value, const std::string& plain, std::size_t first) {
    const Piece& piece = value.text.pieces().front();
    bool telling = plain.find('/') != std::string::npos ||
                   (plain.find('.') != std::string::npos && plain[0] != '.') || value.is_path;
    if (!telling || plain.starts_with("/") || plain.find(' ') == 0 || !piece.has_origin() ||
        piece.file != file_)
      return;
    auto found =
        literal_path(source_.tree, source_.path, file_, plain, piece.span, piece.style, source_.format);
    if (found) {
      found->key = {{file_, source_.facts->tokens[first].span.begin}};
      out_.add(std::move(*found));
      return;
    }
    by_role(plain, piece);
  }

  // What is found by its name in a folder that a framework looks into.
  void by_role(const std::string& plain, const Piece& piece) {
    if (ending_of(plain).empty()) return;
    std::optional<RelPath> base, target;
    for (RelPath up = source_.path.parent();; up = up.parent()) {
      for (const char* role : {"templates", "static", "assets", "resources", "data"}) {
        auto place = RelPath::resolve(up / role, plain);
        const Entry* entry = place ? source_.tree.find(*place) : nullptr;
        if (!entry || entry->ignored || entry->kind == EntryKind::folder) continue;
        if (target) return;  // two things it could mean
        base = up / role;
        target = place;
      }
      if (up.is_root()) break;
    }
    if (!target) return;
    Reference reference;
    reference.role = Role::argument;
    reference.format = source_.format;
    reference.certainty = Certainty::likely;
    reference.key = {{file_, piece.span.begin}};
    // What was found otherwise before, is another reference; a folder that is called otherwise now still is
    // it.
    reference.instance = *base;
    reference.base = {*base, kNoFile, Space::tree};
    reference.text = TracedText::literal(plain, file_, piece.span, piece.style);
    reference.targets.push_back({Target::Kind::tree, *target, {}});
    out_.add(std::move(reference));
  }

  // "icons/" + name: the folder is named, and what is in it perhaps.
  void open(const Value& value, const std::string& plain) {
    std::size_t hole = plain.find(kHoleMark);
    std::size_t slash = plain.rfind('/', hole);
    if (slash == std::string::npos || slash == 0 || hole == 0) return;
    std::string head = plain.substr(0, slash);
    if (head.find_first_not_of("./") == std::string::npos) return;
    bool anchored = head.starts_with(kTreeMark);
    TracedText text = value.text.substr(0, slash);
    Base base{source_.path.parent(), file_, Space::tree};
    if (anchored) {
      Place place = place_of({}, head);
      if (place.space != Space::tree || place.path.is_root() || !source_.tree.is_folder(place.path)) return;
      folder(text, base, place.path, Certainty::certain);
    } else {
      if (head.starts_with("/") || head.find(' ') != std::string::npos) return;
      std::optional<RelPath> found;
      for (RelPath up = source_.path.parent(); !found; up = up.parent()) {
        auto place = RelPath::resolve(up, head);
        if (place && !place->is_root() && source_.tree.is_folder(*place))
          found = place, base = {up, kNoFile, Space::tree};
        if (up.is_root()) break;
      }
      if (!found) return;
      folder(text, base, *found, Certainty::likely);
    }
    out_.hole(value.text, base, source_.format);
  }

  void folder(const TracedText& text, const Base& base, const RelPath& place, Certainty certainty) {
    const Entry* entry = source_.tree.find(place);
    bool spelled = std::any_of(text.pieces().begin(), text.pieces().end(),
                               [](const Piece& piece) { return piece.has_origin(); });
    if (!entry || entry->ignored || !spelled || (!whole_ && !out_.wants_any_name(place.str()))) return;
    Reference reference;
    reference.role = Role::argument;
    reference.format = source_.format;
    reference.certainty = certainty;
    reference.base = base;
    reference.instance = certainty == Certainty::likely ? base.folder : RelPath::from_normal("folder");
    reference.key = {{file_, text.first_origin().span.begin}};
    reference.text = text;
    reference.targets.push_back({Target::Kind::tree, place, {}});
    out_.add(std::move(reference));
  }

  const Source& source_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
};

}  // namespace

std::vector<RelPath> added_roots(const Source& source, GraphBuilder& out) {
  std::vector<RelPath> found;
  const std::vector<Token>& tokens = source.facts->tokens;
  auto word = [&](std::size_t i) {
    return i < tokens.size()
               ? std::string_view(*source.bytes).substr(tokens[i].span.begin, tokens[i].span.size())
               : std::string_view();
  };
  for (std::size_t i = 0; i + 6 < tokens.size(); ++i) {
    bool call = word(i) == "sys" && word(i + 1) == "." && word(i + 2) == "path" && word(i + 3) == "." &&
                word(i + 5) == "(";
    if (!call || (word(i + 4) != "insert" && word(i + 4) != "append")) continue;
    std::size_t argument = i + 6;
    if (word(i + 4) == "insert") {
      while (argument < tokens.size() && word(argument) != "," &&
             tokens[argument].kind != Token::Kind::newline)
        ++argument;
      ++argument;
    }
    Evaluator::Memo memo;
    Value value = Evaluator(source, out, memo, 0, nullptr).expression(argument);
    if (!value.known || value.text.has_hole()) continue;
    std::string text = value.text.text();
    for (RelPath up = source.path.parent();; up = up.parent()) {
      Place place = place_of(up, text);
      bool there = place.space == Space::tree && (place.path.is_root() || source.tree.is_folder(place.path));
      if (there) found.push_back(place.path);
      if (there || up.is_root() || text.starts_with("/")) break;
    }
  }
  return found;
}

void emit_paths(const Source& source, GraphBuilder& out) {
  if (source.path.name() == "setup.py" || source.path.extension() == ".pyi") return;
  Emitter emitter(source, out);
  Evaluator::Memo memo;
  Evaluator(source, out, memo, 0, [&](const Value& value, std::size_t first) {
    emitter.emit(value, first);
  }).sweep_all();
}

}  // namespace yc::python
