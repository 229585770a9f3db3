#include "formats/property_lists/plist_text.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"

namespace yc::plist {

namespace {

constexpr std::size_t kDeepest = 60;

bool is_bare(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.' || c == '/' || c == '$' ||
         c == ':' || c == '-' || c == '+' || c == '<' || c == '>' || c == '@' || c == '~';
}

class Parser {
 public:
  explicit Parser(std::string_view bytes) : bytes_(bytes) {}

  Parsed run() {
    if (bytes_.starts_with("\xEF\xBB\xBF")) at_ = 3;
    auto value = parse_value(0);
    skip();
    if (value && at_ < bytes_.size()) value.reset();
    return {std::move(value), static_cast<std::uint32_t>(at_)};
  }

 private:
  void skip() { at_ = behind_space(bytes_, at_); }

  bool take(char c) {
    skip();
    if (at_ >= bytes_.size() || bytes_[at_] != c) return false;
    ++at_;
    return true;
  }

  std::optional<Value> parse_value(std::size_t depth) {
    skip();
    if (at_ >= bytes_.size() || depth > kDeepest) return std::nullopt;
    if (bytes_[at_] == '{') return dictionary(depth);
    if (bytes_[at_] == '(') return array(depth);
    return string();
  }

  std::optional<Value> dictionary(std::size_t depth) {
    Value out;
    out.kind = Value::Kind::dictionary;
    out.span.begin = static_cast<std::uint32_t>(at_++);
    while (!take('}')) {
      auto key = string();
      if (!key || !take('=')) return std::nullopt;
      auto value = parse_value(depth + 1);
      if (!value || !take(';')) return std::nullopt;
      out.entries.push_back({std::move(key->text), std::move(*value)});
    }
    out.span.end = static_cast<std::uint32_t>(at_);
    return out;
  }

  std::optional<Value> array(std::size_t depth) {
    Value out;
    out.kind = Value::Kind::array;
    out.span.begin = static_cast<std::uint32_t>(at_++);
    while (!take(')')) {
      auto value = parse_value(depth + 1);
      if (!value) return std::nullopt;
      out.elements.push_back(std::move(*value));
      if (take(',')) continue;
      if (!take(')')) return std::nullopt;
      break;
    }
    out.span.end = static_cast<std::uint32_t>(at_);
    return out;
  }

  std::optional<Value> string() {
    skip();
    if (at_ >= bytes_.size()) return std::nullopt;
    Value out;
    char quote = bytes_[at_];
    if (quote != '"' && quote != '\'') {
      std::size_t begin = at_;
      while (at_ < bytes_.size() && is_bare(bytes_[at_]) && !bytes_.substr(at_).starts_with("/*")) ++at_;
      if (at_ == begin) return std::nullopt;
      out.text = bytes_.substr(begin, at_ - begin);
      out.span = span_of(begin, at_);
      return out;
    }
    out.quoted = true;
    std::size_t begin = ++at_;
    for (; at_ < bytes_.size() && bytes_[at_] != quote; ++at_) {
      if (bytes_[at_] != '\\' || at_ + 1 >= bytes_.size()) {
        out.text += bytes_[at_];
        continue;
      }
      char c = bytes_[++at_];
      out.text += c == 'n' ? '\n' : c == 't' ? '\t' : c;
    }
    if (at_ >= bytes_.size()) return std::nullopt;
    out.span = span_of(begin, at_);
    ++at_;
    return out;
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
};

}  // namespace

Value::Value() = default;
Value::~Value() = default;
Value::Value(const Value&) = default;
Value::Value(Value&&) noexcept = default;
Value& Value::operator=(const Value&) = default;
Value& Value::operator=(Value&&) noexcept = default;

const Value* Value::get(std::string_view key) const {
  for (const auto& [name, value] : entries) {
    if (name == key) return &value;
  }
  return nullptr;
}

std::string Value::get_text(std::string_view key) const {
  const Value* value = get(key);
  return value && value->kind == Kind::string ? value->text : std::string();
}

Parsed parse(std::string_view bytes) {
  return Parser(bytes).run();
}

TracedText traced(std::string_view bytes, const Value& value, FileIndex file) {
  WritingStyle style = value.quoted ? kQuoted : kBare;
  TracedText out;
  std::uint32_t from = value.span.begin;
  auto literal = [&](std::uint32_t end) {
    if (from < end)
      out.append(TracedText::literal(std::string(bytes.substr(from, end - from)), file, {from, end}, style));
  };
  for (std::uint32_t at = value.span.begin; at < value.span.end; ++at) {
    if (bytes[at] != '\\' || !value.quoted || at + 1 >= value.span.end) continue;
    literal(at);
    char c = bytes[++at];
    out.append(TracedText::plain(std::string(1, c == 'n' ? '\n' : c == 't' ? '\t' : c)));
    from = at + 1;
  }
  literal(value.span.end);
  return out;
}

std::string written(std::string_view text, WritingStyle style) {
  std::string out;
  for (char c : text) {
    if (c == '"' || c == '\\') out += '\\';
    out += c;
  }
  bool plain = !text.empty() && std::all_of(text.begin(), text.end(), [](unsigned char c) {
    return std::isalnum(c) || c == '_' || c == '.' || c == '/' || c == '$';
  });
  return style == kQuoted || plain ? out : "\"" + out + "\"";
}

}  // namespace yc::plist
