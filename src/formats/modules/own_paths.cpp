#include "formats/modules/own_paths.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>
#include <string>

#include "formats/modules/script_bodies.h"
#include "formats/modules/script_tokens.h"
#include "words/modules.h"

namespace yc::modules {

namespace {

constexpr std::size_t kDeepest = 12;        // expressions in each other
constexpr std::size_t kMostParts = 20;      // no path has more
constexpr std::size_t kMostNames = 8;       // constants that a part came through
constexpr std::size_t kMostBodies = 3;      // that are gone through in each other
constexpr std::size_t kMostAgain = 50'000;  // tokens that are gone through again

struct Value {
  enum class Kind : std::uint8_t { unknown, text, own };
  Kind kind = Kind::unknown;
  bool is_file = false;  // own: the module itself rather than its folder
  bool is_open = false, is_apart = false;
  bool is_listed = false;  // what is in the folder, by a call that lists that
  bool is_named = false;   // of a constant, which is told where it is declared
  std::uint32_t ups = 0;   // folders that calls climb above the module's own
  Span climb;              // the outermost of these calls
  std::vector<OwnPart> parts;
  bool is_own() const { return kind == Kind::own; }
};

Value own(bool is_file) {
  Value out;
  out.kind = Value::Kind::own;
  out.is_file = is_file;
  return out;
}

class Evaluator {
 public:
  explicit Evaluator(std::string_view bytes) : code_(bytes), bodies_(script_bodies(code_)) {
    find_constants();
    find_known_calls();
    for (const ScriptBody& body : bodies_.loops) known_.emplace_back(body.begin, body.end);
  }

  std::vector<OwnPath> run() {
    sweep(0, code_.size());
    for (const ScriptBody& body : bodies_.loops) {
      for (const std::vector<std::size_t>& round : body.rounds) {
        std::vector<Value> values;
        for (std::size_t token : round) values.push_back(text_at(token));
        emit(value_of(body, std::move(values), round.front()), round.front());
      }
    }
    return std::move(out_);
  }

 private:
  using Kind = ScriptToken::Kind;

  bool begins_value() const {
    return code_.is_kind(at_, Kind::name) || code_.is_kind(at_, Kind::string) ||
           code_.is_kind(at_, Kind::template_begin) || code_.is_op(at_, '(');
  }

  // Every expression from a token to another, the largest ones.
  void sweep(std::size_t begin, std::size_t end) {
    for (at_ = begin; at_ < end;) {
      std::size_t first = at_;
      bool member = first > 0 && code_.is_op(first - 1, '.');
      if (!member && begins_value()) emit(sum(), first);
      if (at_ == first) ++at_;
    }
  }

  Value text_at(std::size_t token) const {
    Value out;
    out.kind = Value::Kind::text;
    out.parts.push_back({code_[token].span, false, {}});
    return out;
  }

  // Functions that are used for nothing but calls with texts.
  void find_known_calls() {
    std::map<std::string_view, bool> is_known;
    for (std::size_t i = 0; i < code_.size(); ++i) {
      bool is_member = i > 0 && code_.is_op(i - 1, '.');
      auto function = is_member ? bodies_.functions.end() : bodies_.functions.find(code_.text(i));
      if (function == bodies_.functions.end()) continue;
      std::string_view before = i > 0 ? code_.text(i - 1) : "";
      bool is_declared = before == "function" || before == "const" || before == "let" || before == "var";
      bool is_exported = is_declared && i > 1 && code_.text(i - 2) == "export";
      if (is_declared && !is_exported) continue;
      bool& known = is_known.try_emplace(function->first, true).first->second;
      known = known && !is_exported && is_called_with_texts(i + 1);
    }
    for (const auto& [name, known] : is_known) {
      const ScriptBody& body = bodies_.functions.find(name)->second;
      if (known) known_.emplace_back(body.begin, body.end);
    }
  }

  // ("a", "b")
  bool is_called_with_texts(std::size_t at) const {
    if (!code_.is_op(at, '(') || !code_.is_kind(at + 1, Kind::string)) return false;
    for (++at; code_.is_kind(at, Kind::string); ++at) {
      if (code_.is_op(at + 1, ',')) ++at;
    }
    return code_.is_op(at, ')');
  }

  // Goes through a body with the values of its parameters, for a call at a token, and tells what these lead
  // to. Gives what a call gives.
  Value value_of(const ScriptBody& body, std::vector<Value> values, std::size_t site) {
    std::size_t size = body.end - body.begin;
    if (bound_.size() >= kMostBodies || again_ + size > kMostAgain || depth_ >= kDeepest) return {};
    again_ += size;
    Bound bound{{}, &body, site};
    for (std::size_t i = 0; i < body.parameters.size(); ++i) {
      std::vector<Value>& own = bound.values[body.parameters[i]];
      bool is_rest = body.takes_rest && i + 1 == body.parameters.size();
      for (std::size_t j = i; j < values.size() && (is_rest || j == i); ++j) own.push_back(values[j]);
    }
    bound_.push_back(std::move(bound));
    std::size_t before = at_;
    at_ = body.begin;
    Value out = body.is_value && begins_value() ? sum() : Value();
    sweep(at_, body.end);
    at_ = before;
    bound_.pop_back();
    return out;
  }

  // Whether a value has a part that a body is given.
  bool is_given(const Value& value) const {
    Span first = code_[bound_.back().body->begin].span, last = code_[bound_.back().body->end - 1].span;
    return std::any_of(value.parts.begin(), value.parts.end(), [&](const OwnPart& part) {
      return part.span.begin < first.begin || part.span.begin >= last.end;
    });
  }

  // Names that get a value once, where they are declared, or as what the module hands out.
  void find_constants() {
    std::map<std::string, std::size_t, std::less<>> times;
    for (std::size_t i = 0; i + 2 < code_.size(); ++i) {
      if (!code_.is_kind(i, Kind::name) || (i > 0 && code_.is_op(i - 1, '.'))) continue;
      std::size_t sign = i;
      std::string name = chain(sign);
      bool declared =
          i > 0 && (code_.text(i - 1) == "const" || code_.text(i - 1) == "let" || code_.text(i - 1) == "var");
      declared = declared || name.starts_with("exports.") || name.starts_with("module.exports.");
      if (declared && code_.is_op(sign, ':') && code_.is_kind(sign + 1, Kind::name)) sign += 2;  // a type
      bool gets = code_.is_op(sign, '=') && !code_.is_op(sign + 1, '=') && !code_.is_op(sign + 1, '>');
      if (!gets && (!declared || name.find('.') != std::string::npos)) continue;
      ++times[name];
      if (gets && declared) constants_[name] = sign + 1;
    }
    std::erase_if(constants_, [&](const auto& one) { return times[one.first] > 1; });
  }

  // A name with its members, from the token at `at`, which goes behind it.
  std::string chain(std::size_t& at) const {
    std::string out(code_.text(at++));
    for (; code_.is_op(at, '.') && code_.is_kind(at + 1, Kind::name); at += 2)
      out += "." + std::string(code_.text(at + 1));
    return out;
  }

  // Whether an expression from a token to the present one is more than a constant's declaration, or other
  // modules get the constant.
  bool is_used(std::size_t first) const {
    std::string_view before = first > 0 ? code_.text(first - 1) : "";
    if (code_.is_op(at_, '=') || before == "const" || before == "let" || before == "var") return false;
    if (first < 2 || !code_.is_op(first - 1, '=')) return true;
    std::size_t name = first - 2;
    while (name > 1 && code_.is_op(name - 1, '.')) name -= 2;
    return code_.text(name) == "exports" || code_.text(name) == "module" ||
           (name > 1 && code_.text(name - 2) == "export");
  }

  void emit(const Value& value, std::size_t first) {
    bool is_folder = value.parts.empty() && !value.is_file && !value.is_open;
    bool any = is_folder && is_used(first);
    for (const OwnPart& part : value.parts) any = any || part.via.empty();
    if (!is_told_ || !value.is_own() || (!any && !value.is_open)) return;
    if (value.is_open && value.parts.empty() && value.ups == 0 && !value.is_listed) return;
    if (!bound_.empty() && !value.is_open && !is_given(value)) return;
    // What all calls say is told of each of them.
    bool is_known = value.is_open && bound_.empty() &&
                    std::any_of(known_.begin(), known_.end(),
                                [&](const auto& body) { return body.first <= first && first < body.second; });
    if (is_known) return;
    std::size_t site = bound_.empty() ? first : bound_.front().site;
    out_.push_back(
        {value.parts, code_[site].span.begin, value.ups, value.climb, value.is_open, value.is_apart});
  }

  Value sum() {
    if (++depth_ > kDeepest) {
      --depth_;
      ++at_;
      return {};
    }
    Value left = primary();
    while (code_.is_op(at_, '+') && !code_.is_op(at_ + 1, '+') && !code_.is_op(at_ + 1, '=')) {
      ++at_;
      std::size_t second = at_;
      Value right = primary();
      if (!left.is_own()) {
        emit(right, second);
        left = {};
      } else {
        append(left, right, false);
      }
    }
    --depth_;
    return left;
  }

  static void append(Value& left, const Value& right, bool separated) {
    if (left.is_open) return;
    bool fits = right.kind == Value::Kind::text && !left.is_file &&
                left.parts.size() + right.parts.size() <= kMostParts;
    if (!fits) {
      left.is_open = true;
      left.is_apart = separated;
      return;
    }
    for (OwnPart part : right.parts) {
      part.separated = separated;
      left.parts.push_back(std::move(part));
    }
    left.is_open = right.is_open;
  }

  Value primary() {
    if (code_.is_kind(at_, Kind::string)) {
      Value out;
      out.kind = Value::Kind::text;
      out.parts.push_back({code_[at_++].span, false, {}});
      return postfix(std::move(out));
    }
    if (code_.is_kind(at_, Kind::template_begin)) return postfix(in_template());
    if (code_.is_op(at_, '(')) {
      std::size_t open = at_++;
      Value out = begins_value() ? sum() : Value();
      if (code_.is_op(at_, ')')) {
        ++at_;
        return postfix(std::move(out));
      }
      emit(out, open);
      return {};
    }
    if (code_.is_kind(at_, Kind::name)) return postfix(named());
    return {};
  }

  // `${ROOT}/tides/low.csv`
  Value in_template() {
    ++at_;
    Value out;
    bool is_first = true;
    while (at_ < code_.size() && !code_.is_kind(at_, Kind::template_end)) {
      Value next;
      if (code_.is_kind(at_, Kind::chunk)) {
        next.kind = Value::Kind::text;
        if (code_[at_].span.size() > 0) next.parts.push_back({code_[at_].span, false, {}});
        ++at_;
        if (next.parts.empty()) continue;
      } else if (code_.is_kind(at_, Kind::hole_begin)) {
        ++at_;
        std::size_t inner = at_;
        next = begins_value() ? sum() : Value();
        std::size_t nest = 1;
        if (!code_.is_kind(at_, Kind::hole_end)) {
          emit(next, inner);
          next = {};
        }
        for (; at_ < code_.size() && nest > 0; ++at_) {
          if (code_.is_kind(at_, Kind::hole_begin)) ++nest;
          if (code_.is_kind(at_, Kind::hole_end)) --nest;
        }
      } else {
        ++at_;
        continue;
      }
      if (is_first) {
        out = std::move(next);
      } else if (out.is_own()) {
        append(out, next, false);
      } else {
        out = {};
      }
      is_first = false;
    }
    if (at_ < code_.size()) ++at_;
    return out;
  }

  // A name with its members, and the call that it is of.
  Value named() {
    if (code_.text(at_) == "new") ++at_;
    std::size_t first = at_;
    Value out = meant(chain(at_), first);
    bool is_declared_so = out.is_named && out.ups > 0;
    if (out.is_own() && !out.is_file && out.parts.empty() && !is_declared_so)
      out.climb = {code_[first].span.begin, code_[at_ - 1].span.end};
    return out;
  }

  Value meant(const std::string& chain, std::size_t first) {
    if (chain == "__dirname" || chain == "import.meta.dirname") return own(false);
    if (chain == "__filename" || chain == "import.meta.filename" || chain == "import.meta.url")
      return own(true);
    if (code_.is_op(at_, '(')) return call(chain, first);
    if (const std::vector<Value>* given = given_for(chain))
      return given->size() == 1 ? given->front() : Value();
    Value out = constant(chain);
    out.is_named = true;
    if (!out.parts.empty() && out.parts.front().via.size() >= kMostNames) return {};
    for (OwnPart& part : out.parts) part.via.push_back(code_[first].span);
    return out;
  }

  // The values of a parameter; null if the name is none.
  const std::vector<Value>* given_for(std::string_view name) const {
    if (bound_.empty()) return nullptr;
    auto known = bound_.back().values.find(name);
    return known == bound_.back().values.end() ? nullptr : &known->second;
  }

  Value constant(const std::string& name) {
    auto known = constants_.find(name);
    if (known == constants_.end() || depth_ >= kDeepest) return {};
    std::size_t token = known->second;
    // One of a body has another value for each call; one outside knows nothing of the body's names.
    bool is_inside = std::any_of(bound_.begin(), bound_.end(), [&](const Bound& bound) {
      return bound.body->begin <= token && token < bound.body->end;
    });
    if (auto memo = memo_.find(token); !is_inside && memo != memo_.end()) return memo->second;
    // While it is found out, it is unknown.
    if (!open_.insert(token).second) return {};
    std::vector<Bound> outer;
    if (!is_inside) outer.swap(bound_);
    std::size_t before = at_;
    bool told = is_told_;
    at_ = token;
    is_told_ = false;
    Value out = begins_value() ? sum() : Value();
    // What goes on is another value.
    bool ends =
        at_ >= code_.size() || code_.is_op(at_, ';') || code_.is_op(at_, ',') || code_[at_].on_new_line;
    if (!ends || !out.is_own()) out = {};
    at_ = before;
    is_told_ = told;
    if (!is_inside) outer.swap(bound_);
    open_.erase(token);
    if (!is_inside) memo_[token] = out;
    return out;
  }

  // The value of each argument.
  std::vector<Value> arguments(std::vector<std::size_t>& firsts) {
    std::vector<Value> out;
    ++at_;
    while (at_ < code_.size() && !code_.is_op(at_, ')')) {
      std::size_t first = at_;
      if (spread(out, firsts)) continue;
      Value value = begins_value() ? sum() : Value();
      if (!code_.is_op(at_, ',') && !code_.is_op(at_, ')')) {
        emit(value, first);
        value = {};
        skip_argument();
      }
      out.push_back(std::move(value));
      firsts.push_back(first);
      if (code_.is_op(at_, ',') || at_ == first) ++at_;
    }
    if (at_ < code_.size()) ++at_;
    return out;
  }

  // "...names", where these are known.
  bool spread(std::vector<Value>& out, std::vector<std::size_t>& firsts) {
    bool is_spread = code_.is_op(at_, '.') && code_.is_op(at_ + 1, '.') && code_.is_op(at_ + 2, '.') &&
                     (code_.is_op(at_ + 4, ',') || code_.is_op(at_ + 4, ')'));
    const std::vector<Value>* given = is_spread ? given_for(code_.text(at_ + 3)) : nullptr;
    if (!given) return false;
    out.insert(out.end(), given->begin(), given->end());
    firsts.resize(out.size(), at_ + 3);
    at_ += code_.is_op(at_ + 4, ',') ? 5 : 4;
    return true;
  }

  // To the comma or the parenthesis that ends it.
  void skip_argument() {
    std::size_t nest = 0;
    while (at_ < code_.size()) {
      if (nest == 0 &&
          (code_.is_op(at_, ',') || code_.is_op(at_, ')') || code_.is_op(at_, ']') || code_.is_op(at_, '}')))
        return;
      std::size_t first = at_;
      if (begins_value() && !code_.is_op(at_ - 1, '.')) emit(sum(), first);
      if (at_ > first) continue;
      if (code_.is_op(at_, '(') || code_.is_op(at_, '[') || code_.is_op(at_, '{')) ++nest;
      if (nest > 0 && (code_.is_op(at_, ')') || code_.is_op(at_, ']') || code_.is_op(at_, '}'))) --nest;
      ++at_;
    }
  }

  Value call(const std::string& chain, std::size_t first) {
    std::string callee = chain.substr(chain.rfind('.') + 1);
    std::vector<std::size_t> firsts;
    if (++depth_ > kDeepest) {
      --depth_;
      ++at_;
      return {};
    }
    std::vector<Value> values = arguments(firsts);
    --depth_;
    bool is_led = !values.empty() && values[0].is_own();
    if ((callee == "join" || callee == "resolve") && is_led && !values[0].is_file) {
      Value out = std::move(values[0]);
      for (std::size_t i = 1; i < values.size(); ++i) append(out, values[i], true);
      return out;
    }
    if (callee == "dirname" && is_led && !values[0].is_open &&
        (values[0].is_file || values[0].parts.empty())) {
      if (!values[0].is_file) ++values[0].ups;
      values[0].is_named = false;
      values[0].is_file = false;
      return std::move(values[0]);
    }
    // What lists a folder goes on with anything in it.
    if (is_led && !values[0].is_file && words::modules::listing_calls().contains(callee))
      values[0].is_open = values[0].is_apart = values[0].is_listed = true;
    if (is_led && words::modules::same_path_calls().contains(callee)) return std::move(values[0]);
    if (callee == "URL" && values.size() == 2 && values[0].kind == Value::Kind::text && values[1].is_own() &&
        values[1].is_file) {
      Value out = own(false);
      append(out, values[0], true);
      return out;
    }
    for (std::size_t i = 0; i < values.size(); ++i) emit(values[i], firsts[i]);
    auto function = bodies_.functions.find(chain);
    bool is_declared = first > 0 && code_.text(first - 1) == "function";
    if (function == bodies_.functions.end() || is_declared) return {};
    return value_of(function->second, std::move(values), first);
  }

  Value postfix(Value value) {
    while (code_.is_op(at_, '.') && code_.is_kind(at_ + 1, Kind::name)) {
      std::string member(code_.text(at_ + 1));
      at_ += 2;
      if (code_.is_op(at_, '(')) {
        if (value.kind == Value::Kind::unknown) {
          value = call("." + member, at_ - 1);
          continue;
        }
        std::vector<std::size_t> firsts;
        arguments(firsts);
      }
      if (!words::modules::same_path_members().contains(member)) value = {};
    }
    if (code_.is_op(at_, '[')) value = {};
    return value;
  }

  ScriptCode code_;
  ScriptBodies bodies_;
  std::vector<std::pair<std::size_t, std::size_t>> known_;  // bodies whose parameters have known values only
  struct Bound {
    std::map<std::string, std::vector<Value>, std::less<>> values;  // of the parameters
    const ScriptBody* body;
    std::size_t site;  // the token of the call
  };
  std::vector<Bound> bound_;  // the bodies that are gone through now
  std::size_t again_ = 0;
  std::map<std::string, std::size_t, std::less<>> constants_;  // the token that their value begins with
  std::map<std::size_t, Value> memo_;
  std::set<std::size_t> open_;  // constants that are found out now
  std::size_t at_ = 0, depth_ = 0;
  bool is_told_ = true;
  std::vector<OwnPath> out_;
};

}  // namespace

std::vector<OwnPath> scan_own_paths(std::string_view bytes) {
  bool has_place = bytes.find("__dirname") != std::string_view::npos ||
                   bytes.find("__filename") != std::string_view::npos ||
                   bytes.find("import.meta") != std::string_view::npos;
  return has_place ? Evaluator(bytes).run() : std::vector<OwnPath>();
}

}  // namespace yc::modules
