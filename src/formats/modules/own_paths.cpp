#include "formats/modules/own_paths.h"

#include <map>
#include <optional>
#include <string>

#include "formats/modules/script_tokens.h"
#include "words/modules.h"

namespace yc::modules {

namespace {

constexpr std::size_t kDeepest = 12;    // expressions in each other
constexpr std::size_t kMostParts = 20;  // no path has more
constexpr std::size_t kMostNames = 8;   // constants that a part came through

struct Value {
  enum class Kind : std::uint8_t { unknown, text, own };
  Kind kind = Kind::unknown;
  bool is_file = false;  // own: the module itself rather than its folder
  bool is_open = false, is_apart = false;
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
  explicit Evaluator(std::string_view bytes) : bytes_(bytes), tokens_(script_tokens(bytes)) {
    find_constants();
  }

  std::vector<OwnPath> run() {
    for (at_ = 0; at_ < tokens_.size();) {
      std::size_t first = at_;
      bool member = first > 0 && is_op(first - 1, '.');
      if (!member && begins_value()) emit(sum(), first);
      if (at_ == first) ++at_;
    }
    return std::move(out_);
  }

 private:
  using Kind = ScriptToken::Kind;

  bool is_kind(std::size_t i, Kind kind) const { return i < tokens_.size() && tokens_[i].kind == kind; }
  bool is_op(std::size_t i, char sign) const {
    return is_kind(i, Kind::sign) && bytes_[tokens_[i].span.begin] == sign;
  }
  std::string_view text(std::size_t i) const {
    return is_kind(i, Kind::name) ? bytes_.substr(tokens_[i].span.begin, tokens_[i].span.size())
                                  : std::string_view();
  }
  bool begins_value() const {
    return is_kind(at_, Kind::name) || is_kind(at_, Kind::string) || is_kind(at_, Kind::template_begin) ||
           is_op(at_, '(');
  }

  // Names that get a value once, where they are declared.
  void find_constants() {
    std::map<std::string_view, std::size_t> times;
    for (std::size_t i = 0; i + 2 < tokens_.size(); ++i) {
      if (!is_kind(i, Kind::name) || (i > 0 && is_op(i - 1, '.'))) continue;
      std::size_t sign = i + 1;
      bool declared = i > 0 && (text(i - 1) == "const" || text(i - 1) == "let" || text(i - 1) == "var");
      if (declared && is_op(sign, ':') && is_kind(sign + 1, Kind::name)) sign += 2;  // a type
      bool gets = is_op(sign, '=') && !is_op(sign + 1, '=') && !is_op(sign + 1, '>');
      if (!gets && !declared) continue;
      ++times[text(i)];
      if (gets && declared) constants_[text(i)] = sign + 1;
    }
    std::erase_if(constants_, [&](const auto& one) { return times[one.first] > 1; });
  }

  void emit(const Value& value, std::size_t first) {
    bool any = false;
    for (const OwnPart& part : value.parts) any = any || (!part.is_up && part.via.empty());
    if (!is_told_ || !value.is_own() || (!any && !value.is_open)) return;
    out_.push_back({value.parts, tokens_[first].span.begin, value.is_open, value.is_apart});
  }

  Value sum() {
    if (++depth_ > kDeepest) {
      --depth_;
      ++at_;
      return {};
    }
    Value left = primary();
    while (is_op(at_, '+') && !is_op(at_ + 1, '+') && !is_op(at_ + 1, '=')) {
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
    if (is_kind(at_, Kind::string)) {
      Value out;
      out.kind = Value::Kind::text;
      out.parts.push_back({tokens_[at_++].span, false, false, {}});
      return postfix(std::move(out));
    }
    if (is_kind(at_, Kind::template_begin)) return postfix(in_template());
    if (is_op(at_, '(')) {
      std::size_t open = at_++;
      Value out = begins_value() ? sum() : Value();
      if (is_op(at_, ')')) {
        ++at_;
        return postfix(std::move(out));
      }
      emit(out, open);
      return {};
    }
    if (is_kind(at_, Kind::name)) return postfix(named());
    return {};
  }

  // `${ROOT}/tides/low.csv`
  Value in_template() {
    ++at_;
    Value out;
    bool is_first = true;
    while (at_ < tokens_.size() && !is_kind(at_, Kind::template_end)) {
      Value next;
      if (is_kind(at_, Kind::chunk)) {
        next.kind = Value::Kind::text;
        if (tokens_[at_].span.size() > 0) next.parts.push_back({tokens_[at_].span, false, false, {}});
        ++at_;
        if (next.parts.empty()) continue;
      } else if (is_kind(at_, Kind::hole_begin)) {
        ++at_;
        std::size_t inner = at_;
        next = begins_value() ? sum() : Value();
        std::size_t nest = 1;
        if (!is_kind(at_, Kind::hole_end)) {
          emit(next, inner);
          next = {};
        }
        for (; at_ < tokens_.size() && nest > 0; ++at_) {
          if (is_kind(at_, Kind::hole_begin)) ++nest;
          if (is_kind(at_, Kind::hole_end)) --nest;
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
    if (at_ < tokens_.size()) ++at_;
    return out;
  }

  // A name with its members, and the call that it is of.
  Value named() {
    if (text(at_) == "new") ++at_;
    std::size_t first = at_;
    std::string chain(text(at_++));
    while (is_op(at_, '.') && is_kind(at_ + 1, Kind::name)) {
      chain += "." + std::string(text(at_ + 1));
      at_ += 2;
    }
    if (chain == "__dirname" || chain == "import.meta.dirname") return own(false);
    if (chain == "__filename" || chain == "import.meta.filename" || chain == "import.meta.url")
      return own(true);
    if (is_op(at_, '(')) return call(chain);
    Value out = chain.find('.') == std::string::npos ? constant(chain) : Value();
    if (!out.parts.empty() && out.parts.front().via.size() >= kMostNames) return {};
    for (OwnPart& part : out.parts) part.via.push_back(tokens_[first].span);
    return out;
  }

  Value constant(const std::string& name) {
    auto known = constants_.find(name);
    if (known == constants_.end() || depth_ >= kDeepest) return {};
    if (auto memo = memo_.find(known->second); memo != memo_.end()) return memo->second;
    memo_[known->second] = {};  // while it is found out, it is unknown
    std::size_t before = at_;
    bool told = is_told_;
    at_ = known->second;
    is_told_ = false;
    Value out = begins_value() ? sum() : Value();
    // What goes on is another value.
    bool ends = at_ >= tokens_.size() || is_op(at_, ';') || is_op(at_, ',') || tokens_[at_].on_new_line;
    if (!ends || !out.is_own()) out = {};
    at_ = before;
    is_told_ = told;
    return memo_[known->second] = out;
  }

  // The value of each argument.
  std::vector<Value> arguments(std::vector<std::size_t>& firsts) {
    std::vector<Value> out;
    ++at_;
    while (at_ < tokens_.size() && !is_op(at_, ')')) {
      std::size_t first = at_;
      Value value = begins_value() ? sum() : Value();
      if (!is_op(at_, ',') && !is_op(at_, ')')) {
        emit(value, first);
        value = {};
        skip_argument();
      }
      out.push_back(std::move(value));
      firsts.push_back(first);
      if (is_op(at_, ',') || at_ == first) ++at_;
    }
    if (at_ < tokens_.size()) ++at_;
    return out;
  }

  // To the comma or the parenthesis that ends it.
  void skip_argument() {
    std::size_t nest = 0;
    while (at_ < tokens_.size()) {
      if (nest == 0 && (is_op(at_, ',') || is_op(at_, ')') || is_op(at_, ']') || is_op(at_, '}'))) return;
      std::size_t first = at_;
      if (begins_value() && !is_op(at_ - 1, '.')) emit(sum(), first);
      if (at_ > first) continue;
      if (is_op(at_, '(') || is_op(at_, '[') || is_op(at_, '{')) ++nest;
      if (nest > 0 && (is_op(at_, ')') || is_op(at_, ']') || is_op(at_, '}'))) --nest;
      ++at_;
    }
  }

  Value call(const std::string& chain) {
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
      if (!values[0].is_file) values[0].parts.push_back({{}, true, true, {}});
      values[0].is_file = false;
      return std::move(values[0]);
    }
    // What lists a folder goes on with anything in it.
    if (is_led && !values[0].is_file && words::modules::listing_calls().contains(callee))
      values[0].is_open = values[0].is_apart = true;
    if (is_led && words::modules::same_path_calls().contains(callee)) return std::move(values[0]);
    if (callee == "URL" && values.size() == 2 && values[0].kind == Value::Kind::text && values[1].is_own() &&
        values[1].is_file) {
      Value out = own(false);
      append(out, values[0], true);
      return out;
    }
    for (std::size_t i = 0; i < values.size(); ++i) emit(values[i], firsts[i]);
    return {};
  }

  Value postfix(Value value) {
    while (is_op(at_, '.') && is_kind(at_ + 1, Kind::name)) {
      std::string member(text(at_ + 1));
      at_ += 2;
      if (is_op(at_, '(')) {
        if (value.kind == Value::Kind::unknown) {
          value = call(member);
          continue;
        }
        std::vector<std::size_t> firsts;
        arguments(firsts);
      }
      if (!words::modules::same_path_members().contains(member)) value = {};
    }
    if (is_op(at_, '[')) value = {};
    return value;
  }

  std::string_view bytes_;
  std::vector<ScriptToken> tokens_;
  std::map<std::string_view, std::size_t, std::less<>> constants_;  // the token that their value begins with
  std::map<std::size_t, Value> memo_;
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
