#include "formats/modules/script_bodies.h"

#include <optional>
#include <set>

namespace yc::modules {

namespace {

constexpr std::size_t kLongestBody = 600;   // tokens
constexpr std::size_t kMostElements = 100;  // of a list

class BodyFinder {
 public:
  BodyFinder(std::string_view bytes, const std::vector<ScriptToken>& tokens)
      : bytes_(bytes), tokens_(tokens) {}

  ScriptBodies run() {
    for (std::size_t i = 0; i < tokens_.size(); ++i) {
      if (i > 0 && is_op(i - 1, '.')) continue;
      std::string_view word = text(i);
      if (word == "function") function(i);
      if (word == "const" || word == "let" || word == "var") declared(i);
      if (word == "for") loop(i);
      if ((is_op(i, '[') && !continues(i)) || lists_.contains(std::string(word))) for_each(i);
    }
    for (const std::string& name : twice_) out_.functions.erase(name);
    return std::move(out_);
  }

 private:
  using Kind = ScriptToken::Kind;
  using Texts = std::vector<std::size_t>;

  bool is_kind(std::size_t i, Kind kind) const { return i < tokens_.size() && tokens_[i].kind == kind; }
  bool is_op(std::size_t i, char sign) const {
    return is_kind(i, Kind::sign) && bytes_[tokens_[i].span.begin] == sign;
  }
  std::string_view text(std::size_t i) const {
    return is_kind(i, Kind::name) ? bytes_.substr(tokens_[i].span.begin, tokens_[i].span.size())
                                  : std::string_view();
  }
  bool is_arrow(std::size_t i) const { return is_op(i, '=') && is_op(i + 1, '>'); }
  bool is_spread(std::size_t i) const { return is_op(i, '.') && is_op(i + 1, '.') && is_op(i + 2, '.'); }
  // Whether a bracket at i belongs to a value before it.
  bool continues(std::size_t i) const {
    return i > 0 && (is_kind(i - 1, Kind::name) || is_op(i - 1, ')') || is_op(i - 1, ']'));
  }

  // Behind the bracket that closes the one at `open`, or behind an expression or a statement that begins
  // there.
  std::size_t behind(std::size_t open, bool is_statement) const {
    std::size_t nest = 0, i = open;
    for (; i < tokens_.size() && i - open < kLongestBody; ++i) {
      bool opens = is_op(i, '(') || is_op(i, '[') || is_op(i, '{');
      bool closes = is_op(i, ')') || is_op(i, ']') || is_op(i, '}');
      if (closes && nest == 0) return i;
      if (nest == 0 && i > open && (is_op(i, ';') || (!is_statement && is_op(i, ',')))) return i;
      if (nest == 0 && i > open && tokens_[i].on_new_line && is_kind(i, Kind::name)) return i;
      if (opens) ++nest;
      if (closes && --nest == 0 && is_op(open, '{')) return i + 1;
    }
    return i;
  }

  // The names between the parentheses at `at`, which goes behind them. False if there is anything else.
  bool parameters(std::size_t& at, ScriptBody& out) const {
    if (is_kind(at, Kind::name) && is_arrow(at + 1)) {
      out.parameters.emplace_back(text(at++));
      return true;
    }
    if (!is_op(at++, '(')) return false;
    while (!is_op(at, ')')) {
      if (out.takes_rest) return false;
      if (is_spread(at)) out.takes_rest = true, at += 3;
      if (!is_kind(at, Kind::name)) return false;
      out.parameters.emplace_back(text(at++));
      if (is_op(at, ':') && is_kind(at + 1, Kind::name)) at += 2;  // a type
      if (is_op(at, '[') && is_op(at + 1, ']')) at += 2;
      if (is_op(at, ',')) ++at;
    }
    ++at;
    return !out.parameters.empty();
  }

  // (name) => …, from the token at `at`.
  std::optional<ScriptBody> arrow(std::size_t at) const {
    ScriptBody out;
    if (text(at) == "async") ++at;
    if (!parameters(at, out)) return std::nullopt;
    if (is_op(at, ':') && is_kind(at + 1, Kind::name)) at += 2;
    if (!is_arrow(at)) return std::nullopt;
    block(at + 2, out);
    return out;
  }

  void block(std::size_t at, ScriptBody& out) const {
    out.begin = at;
    out.is_value = !is_op(at, '{');
    out.end = behind(at, false);
    bool gives = is_op(at, '{') && text(at + 1) == "return";
    if (gives) out.begin = at + 2, out.is_value = true;
  }

  void add(std::string_view name, ScriptBody body) {
    if (!out_.functions.emplace(name, std::move(body)).second) twice_.insert(std::string(name));
  }

  void function(std::size_t i) {
    ScriptBody body;
    std::size_t at = i + 2;
    if (!is_kind(i + 1, Kind::name) || !parameters(at, body)) return;
    if (is_op(at, ':') && is_kind(at + 1, Kind::name)) at += 2;
    if (!is_op(at, '{')) return;
    block(at, body);
    add(text(i + 1), std::move(body));
  }

  void declared(std::size_t i) {
    if (!is_kind(i + 1, Kind::name) || !is_op(i + 2, '=')) return;
    if (auto body = arrow(i + 3)) add(text(i + 1), std::move(*body));
    if (auto texts = list(i + 3)) lists_[std::string(text(i + 1))] = *texts;
  }

  // ["a", "b"]
  std::optional<Texts> list(std::size_t at) const {
    Texts out;
    if (!is_op(at++, '[')) return std::nullopt;
    while (is_kind(at, Kind::string) && out.size() < kMostElements) {
      out.push_back(at++);
      if (is_op(at, ',')) ++at;
    }
    return is_op(at, ']') && !out.empty() ? std::optional(std::move(out)) : std::nullopt;
  }

  void add_loop(ScriptBody body, const Texts& texts) {
    for (std::size_t one : texts) body.rounds.push_back({one});
    out_.loops.push_back(std::move(body));
  }

  // for (const name of ["a", "b"]) …, or of a constant that is such a list.
  void loop(std::size_t i) {
    bool is_told = is_op(i + 1, '(') && is_kind(i + 3, Kind::name) && text(i + 4) == "of";
    if (!is_told) return;
    auto texts = list(i + 5);
    std::size_t close = texts ? texts->back() + 1 : i + 6;
    if (texts && is_op(close, ',')) ++close;
    if (texts) ++close;
    auto known = texts ? lists_.end() : lists_.find(std::string(text(i + 5)));
    if (known != lists_.end()) texts = known->second;
    if (!texts || !is_op(close, ')')) return;
    ScriptBody body;
    body.parameters.emplace_back(text(i + 3));
    body.begin = close + 1;
    body.end = behind(close + 1, true);
    add_loop(std::move(body), *texts);
  }

  // ["a", "b"].forEach((name) => …), also of a constant that is such a list.
  void for_each(std::size_t i) {
    auto known = lists_.find(std::string(text(i)));
    auto texts = known == lists_.end() ? list(i) : std::optional(known->second);
    if (!texts) return;
    std::size_t at = known == lists_.end() ? texts->back() + 1 : i + 1;
    while (is_op(at, ',') || is_op(at, ']')) ++at;
    bool is_called = is_op(at, '.') && is_op(at + 2, '(');
    bool is_each = text(at + 1) == "forEach" || text(at + 1) == "map" || text(at + 1) == "flatMap" ||
                   text(at + 1) == "every" || text(at + 1) == "some";
    auto body = is_called && is_each ? arrow(at + 3) : std::nullopt;
    if (body && body->parameters.size() == 1 && !body->takes_rest) add_loop(std::move(*body), *texts);
  }

  std::string_view bytes_;
  const std::vector<ScriptToken>& tokens_;
  std::map<std::string, Texts> lists_;
  std::set<std::string> twice_;
  ScriptBodies out_;
};

}  // namespace

ScriptBodies script_bodies(std::string_view bytes, const std::vector<ScriptToken>& tokens) {
  return BodyFinder(bytes, tokens).run();
}

}  // namespace yc::modules
