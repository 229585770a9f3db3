#include "formats/python_settings/setup_call.h"

#include "formats/python/python_tokens.h"

namespace yc::python_settings {

namespace {

using python::Token;

class Collector {
 public:
  explicit Collector(std::string_view bytes) : bytes_(bytes), tokens_(python::tokenize(bytes)) {}

  std::vector<values::Value> run() {
    for (std::size_t i = 0; i < tokens_.size(); ++i) step(i);
    return std::move(out_);
  }

 private:
  // Of each bracket that is open: the call or argument it belongs to, and the key that was read in it.
  struct Level {
    std::string name, key;
  };

  std::string_view text(std::size_t i) const {
    return i < tokens_.size() ? bytes_.substr(tokens_[i].span.begin, tokens_[i].span.size())
                              : std::string_view();
  }

  void step(std::size_t i) {
    std::string_view word = text(i);
    switch (tokens_[i].kind) {
      case Token::Kind::op:
        if (word == "(" || word == "[" || word == "{") {
          bool call = word == "(" && i > 0 && tokens_[i - 1].kind == Token::Kind::name;
          levels_.push_back({call ? std::string(text(i - 1)) : "", ""});
        } else if (word == ")" || word == "]" || word == "}") {
          if (!levels_.empty()) levels_.pop_back();
        } else if (word == "," && !levels_.empty()) {
          levels_.back().key.clear();
        } else if (word == "=" && i > 0 && tokens_[i - 1].kind == Token::Kind::name) {
          // An argument, or a variable that may become one.
          if (levels_.empty()) {
            variable_ = text(i - 1);
          } else {
            levels_.back().key = text(i - 1);
          }
        }
        break;
      case Token::Kind::newline:
        levels_.clear();
        variable_.clear();
        break;
      case Token::Kind::string:
        string(i);
        break;
      default:
        break;
    }
  }

  void string(std::size_t i) {
    python::StringShape shape = python::shape_of(bytes_, tokens_[i]);
    std::string inner(bytes_.substr(shape.body.begin, shape.body.size()));
    if (text(i + 1) == ":" && !levels_.empty()) {
      levels_.back().key = inner;
      levels_.back().name += levels_.back().name.empty() ? "{}" : "";
      empty_key_ = inner.empty();
      return;
    }
    if (shape.formatted || shape.triple || inner.find('\\') != std::string::npos || inner.empty()) return;
    values::Value value;
    if (!variable_.empty()) value.path.push_back(variable_);
    for (const Level& level : levels_) {
      if (!level.name.empty() && level.name != "{}") value.path.push_back(level.name);
      if (!level.key.empty()) value.path.push_back(level.key);
      if (level.key.empty() && level.name == "{}" && empty_key_) value.path.emplace_back("");
    }
    value.span = shape.body;
    value.text = std::move(inner);
    value.style = shape.quote == '"' ? values::kTomlBasic : values::kTomlLiteral;
    out_.push_back(std::move(value));
  }

  std::string_view bytes_;
  std::vector<Token> tokens_;
  std::vector<Level> levels_;
  std::string variable_;
  bool empty_key_ = false;
  std::vector<values::Value> out_;
};

}  // namespace

std::vector<values::Value> setup_values(std::string_view bytes) {
  return Collector(bytes).run();
}

}  // namespace yc::python_settings
