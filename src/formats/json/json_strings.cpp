#include "formats/json/json_strings.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/text.h"

namespace yc::json {

namespace {

constexpr std::size_t kDepthLimit = 200;

// One escape or plain byte at `at`: its text, and where it ends.
std::string unit_at(std::string_view bytes, std::size_t at, std::size_t& end) {
  if (bytes[at] != '\\' || at + 1 >= bytes.size()) {
    end = at + 1;
    return std::string(1, bytes[at]);
  }
  std::size_t size = bytes[at + 1] == 'u' ? 6 : 2;
  // A surrogate pair is one character in two escapes.
  bool high = size == 6 && at + 12 <= bytes.size() && (bytes[at + 2] == 'd' || bytes[at + 2] == 'D') &&
              bytes.substr(at + 6, 2) == "\\u";
  end = std::min(at + (high ? 12 : size), bytes.size());
  auto parsed = nlohmann::json::parse("\"" + std::string(bytes.substr(at, end - at)) + "\"", nullptr, false);
  return parsed.is_string() ? parsed.get<std::string>() : std::string(bytes.substr(at, end - at));
}

class Finder {
 public:
  Finder(std::string_view bytes, bool wants_keys) : bytes_(bytes), wants_keys_(wants_keys) {
    if (bytes_.substr(0, 3) == "\xEF\xBB\xBF") at_ = 3;
  }

  std::vector<StringValue> run() {
    value();
    return std::move(out_);
  }
  std::vector<Member> members() {
    wants_members_ = true;
    value();
    return std::move(members_);
  }

 private:
  void skip() { at_ = behind_space(bytes_, at_); }

  bool take(char c) {
    skip();
    if (at_ >= bytes_.size() || bytes_[at_] != c) return false;
    ++at_;
    return true;
  }

  bool string(Span& span) {
    skip();
    if (at_ >= bytes_.size() || bytes_[at_] != '"') return false;
    std::size_t begin = ++at_;
    while (at_ < bytes_.size() && bytes_[at_] != '"' && bytes_[at_] != '\n')
      at_ += bytes_[at_] == '\\' ? 2 : 1;
    if (at_ >= bytes_.size() || bytes_[at_] != '"') return false;
    span = span_of(begin, at_++);
    return true;
  }

  std::string text_of(Span span) const {
    std::string out;
    for (std::size_t i = span.begin; i < span.end;) {
      std::size_t end = 0;
      out += unit_at(bytes_.substr(0, span.end), i, end);
      i = end;
    }
    return out;
  }

  bool value(Span key = {}) {
    if (path_.size() > kDepthLimit) return false;
    if (!wants_members_) return any_value();
    skip();
    std::size_t number = members_.size(), begin = at_;
    members_.push_back({path_, key, {}});
    bool good = any_value();
    members_[number].value = span_of(begin, at_);
    return good;
  }

  bool any_value() {
    Span span;
    if (string(span)) {
      if (!wants_keys_ && !path_.empty()) out_.push_back({path_, span, text_of(span)});
      return true;
    }
    if (take('{')) return object();
    if (take('[')) return array();
    std::size_t begin = at_;
    while (at_ < bytes_.size() && std::string_view(",]} \t\r\n").find(bytes_[at_]) == std::string_view::npos)
      ++at_;
    return at_ > begin;
  }

  bool object() {
    if (take('}')) return true;
    do {
      Span key;
      if (take('}')) return true;  // after a comma too many
      if (!string(key) || !take(':')) return false;
      if (wants_keys_) out_.push_back({path_, key, text_of(key)});
      path_.push_back(text_of(key));
      bool good = value({key.begin - 1, key.end + 1});
      path_.pop_back();
      if (!good) return false;
    } while (take(','));
    return take('}');
  }

  bool array() {
    if (take(']')) return true;
    std::size_t index = 0;
    do {
      if (take(']')) return true;
      path_.push_back(std::to_string(index++));
      bool good = value();
      path_.pop_back();
      if (!good) return false;
    } while (take(','));
    return take(']');
  }

  std::string_view bytes_;
  bool wants_keys_, wants_members_ = false;
  std::size_t at_ = 0;
  std::vector<std::string> path_;
  std::vector<StringValue> out_;
  std::vector<Member> members_;
};

}  // namespace

std::vector<Member> members(std::string_view bytes) {
  return Finder(bytes, true).members();
}

std::vector<StringValue> string_values(std::string_view bytes) {
  return Finder(bytes, false).run();
}

std::vector<StringValue> string_keys(std::string_view bytes) {
  return Finder(bytes, true).run();
}

TracedText traced(std::string_view bytes, const StringValue& value, FileIndex file) {
  TracedText out;
  for (std::size_t i = value.span.begin; i < value.span.end;) {
    std::size_t end = 0;
    std::string text = unit_at(bytes.substr(0, value.span.end), i, end);
    out.append(TracedText::literal(std::move(text), file, span_of(i, end)));
    i = end;
  }
  return out;
}

std::optional<std::string> escaped(std::string_view text) {
  std::string out =
      nlohmann::json(std::string(text)).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
  auto back = nlohmann::json::parse(out, nullptr, false);
  if (!back.is_string() || back.get<std::string>() != text) return std::nullopt;
  return out.substr(1, out.size() - 2);
}

}  // namespace yc::json
