#include "formats/modules/script_bodies.h"

#include <optional>
#include <set>

namespace yc::modules {

namespace {

constexpr std::size_t kLongestBody = 600;   // tokens
constexpr std::size_t kMostElements = 100;  // of a list

class BodyFinder {
 public:
  explicit BodyFinder(const ScriptCode& code) : code_(code) {}

  ScriptBodies run() {
    for (std::size_t i = 0; i < code_.size(); ++i) {
      if (i > 0 && code_.is_op(i - 1, '.')) continue;
      std::string_view word = code_.text(i);
      if (word == "function") function(i);
      if (word == "const" || word == "let" || word == "var") declared(i);
      if (word == "for") loop(i);
      if ((code_.is_op(i, '[') && !continues(i)) || lists_.contains(std::string(word))) for_each(i);
    }
    for (const std::string& name : twice_) out_.functions.erase(name);
    return std::move(out_);
  }

 private:
  using Kind = ScriptToken::Kind;
  using Texts = std::vector<std::size_t>;

  bool is_arrow(std::size_t i) const { return code_.is_op(i, '=') && code_.is_op(i + 1, '>'); }
  bool is_spread(std::size_t i) const {
    return code_.is_op(i, '.') && code_.is_op(i + 1, '.') && code_.is_op(i + 2, '.');
  }
  // Whether a bracket at i belongs to a value before it.
  bool continues(std::size_t i) const {
    return i > 0 && (code_.is_kind(i - 1, Kind::name) || code_.is_op(i - 1, ')') || code_.is_op(i - 1, ']'));
  }

  // Behind the bracket that closes the one at `open`, or behind an expression or a statement that begins
  // there.
  std::size_t behind(std::size_t open, bool is_statement) const {
    std::size_t nest = 0, i = open;
    for (; i < code_.size() && i - open < kLongestBody; ++i) {
      bool opens = code_.is_op(i, '(') || code_.is_op(i, '[') || code_.is_op(i, '{');
      bool closes = code_.is_op(i, ')') || code_.is_op(i, ']') || code_.is_op(i, '}');
      if (closes && nest == 0) return i;
      if (nest == 0 && i > open && (code_.is_op(i, ';') || (!is_statement && code_.is_op(i, ',')))) return i;
      if (nest == 0 && i > open && code_[i].on_new_line && code_.is_kind(i, Kind::name)) return i;
      if (opens) ++nest;
      if (closes && --nest == 0 && code_.is_op(open, '{')) return i + 1;
    }
    return i;
  }

  // The names between the parentheses at `at`, which goes behind them. False if there is anything else.
  bool parameters(std::size_t& at, ScriptBody& out) const {
    if (code_.is_kind(at, Kind::name) && is_arrow(at + 1)) {
      out.parameters.emplace_back(code_.text(at++));
      return true;
    }
    if (!code_.is_op(at++, '(')) return false;
    while (!code_.is_op(at, ')')) {
      if (out.takes_rest) return false;
      if (is_spread(at)) out.takes_rest = true, at += 3;
      if (!code_.is_kind(at, Kind::name)) return false;
      out.parameters.emplace_back(code_.text(at++));
      if (code_.is_op(at, ':') && code_.is_kind(at + 1, Kind::name)) at += 2;  // a type
      if (code_.is_op(at, '[') && code_.is_op(at + 1, ']')) at += 2;
      if (code_.is_op(at, ',')) ++at;
    }
    ++at;
    return !out.parameters.empty();
  }

  // (name) => …, from the token at `at`.
  std::optional<ScriptBody> arrow(std::size_t at) const {
    ScriptBody out;
    if (code_.text(at) == "async") ++at;
    if (!parameters(at, out)) return std::nullopt;
    if (code_.is_op(at, ':') && code_.is_kind(at + 1, Kind::name)) at += 2;
    if (!is_arrow(at)) return std::nullopt;
    block(at + 2, out);
    return out;
  }

  void block(std::size_t at, ScriptBody& out) const {
    out.begin = at;
    out.is_value = !code_.is_op(at, '{');
    out.end = behind(at, false);
    bool gives = code_.is_op(at, '{') && code_.text(at + 1) == "return";
    if (gives) out.begin = at + 2, out.is_value = true;
  }

  void add(std::string_view name, ScriptBody body) {
    if (!out_.functions.emplace(name, std::move(body)).second) twice_.insert(std::string(name));
  }

  void function(std::size_t i) {
    ScriptBody body;
    std::size_t at = i + 2;
    if (!code_.is_kind(i + 1, Kind::name) || !parameters(at, body)) return;
    if (code_.is_op(at, ':') && code_.is_kind(at + 1, Kind::name)) at += 2;
    if (!code_.is_op(at, '{')) return;
    block(at, body);
    add(code_.text(i + 1), std::move(body));
  }

  void declared(std::size_t i) {
    if (!code_.is_kind(i + 1, Kind::name) || !code_.is_op(i + 2, '=')) return;
    if (auto body = arrow(i + 3)) add(code_.text(i + 1), std::move(*body));
    if (auto texts = list(i + 3)) lists_[std::string(code_.text(i + 1))] = *texts;
  }

  // ["a", "b"]
  std::optional<Texts> list(std::size_t at) const {
    Texts out;
    if (!code_.is_op(at++, '[')) return std::nullopt;
    while (code_.is_kind(at, Kind::string) && out.size() < kMostElements) {
      out.push_back(at++);
      if (code_.is_op(at, ',')) ++at;
    }
    return code_.is_op(at, ']') && !out.empty() ? std::optional(std::move(out)) : std::nullopt;
  }

  void add_loop(ScriptBody body, const Texts& texts) {
    for (std::size_t one : texts) body.rounds.push_back({one});
    out_.loops.push_back(std::move(body));
  }

  // for (const name of ["a", "b"]) …, or of a constant that is such a list.
  void loop(std::size_t i) {
    bool is_told = code_.is_op(i + 1, '(') && code_.is_kind(i + 3, Kind::name) && code_.text(i + 4) == "of";
    if (!is_told) return;
    auto texts = list(i + 5);
    std::size_t close = texts ? texts->back() + 1 : i + 6;
    if (texts && code_.is_op(close, ',')) ++close;
    if (texts) ++close;
    auto known = texts ? lists_.end() : lists_.find(std::string(code_.text(i + 5)));
    if (known != lists_.end()) texts = known->second;
    if (!texts || !code_.is_op(close, ')')) return;
    ScriptBody body;
    body.parameters.emplace_back(code_.text(i + 3));
    body.begin = close + 1;
    body.end = behind(close + 1, true);
    add_loop(std::move(body), *texts);
  }

  // ["a", "b"].forEach((name) => …), also of a constant that is such a list.
  void for_each(std::size_t i) {
    auto known = lists_.find(std::string(code_.text(i)));
    auto texts = known == lists_.end() ? list(i) : std::optional(known->second);
    if (!texts) return;
    std::size_t at = known == lists_.end() ? texts->back() + 1 : i + 1;
    while (code_.is_op(at, ',') || code_.is_op(at, ']')) ++at;
    bool is_called = code_.is_op(at, '.') && code_.is_op(at + 2, '(');
    bool is_each = code_.text(at + 1) == "forEach" || code_.text(at + 1) == "map" ||
                   code_.text(at + 1) == "flatMap" || code_.text(at + 1) == "every" ||
                   code_.text(at + 1) == "some";
    auto body = is_called && is_each ? arrow(at + 3) : std::nullopt;
    if (body && body->parameters.size() == 1 && !body->takes_rest) add_loop(std::move(*body), *texts);
  }

  const ScriptCode& code_;
  std::map<std::string, Texts> lists_;
  std::set<std::string> twice_;
  ScriptBodies out_;
};

}  // namespace

ScriptBodies script_bodies(const ScriptCode& code) {
  return BodyFinder(code).run();
}

}  // namespace yc::modules
