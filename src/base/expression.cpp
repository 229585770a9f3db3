#include "base/expression.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <algorithm>

namespace yc {

namespace {

// Steps, and kilobytes of memory for them, of one match.
constexpr std::uint32_t kMostSteps = 1'000'000, kMostDepth = 10'000, kMostKilobytes = 20'000;

PCRE2_SPTR bytes_of(std::string_view text) {
  // The library takes no null pointer, even for no bytes.
  return reinterpret_cast<PCRE2_SPTR>(text.empty() ? "" : text.data());
}

}  // namespace

struct Expression::Impl {
  pcre2_code* code = nullptr;
  pcre2_match_data* data = nullptr;
  pcre2_match_context* limits = nullptr;

  ~Impl() {
    pcre2_match_context_free(limits);
    pcre2_match_data_free(data);
    pcre2_code_free(code);
  }
};

Expression::Expression(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Expression::Expression(Expression&&) noexcept = default;
Expression::~Expression() = default;

std::optional<Expression> Expression::of(const std::string& text, bool multiline, std::string* problem) {
  auto impl = std::make_unique<Impl>();
  int code = 0;
  std::size_t offset = 0;
  impl->code =
      pcre2_compile(bytes_of(text), text.size(), multiline ? PCRE2_MULTILINE : 0, &code, &offset, nullptr);
  if (!impl->code) {
    if (problem) {
      std::string message(256, '\0');
      int size =
          pcre2_get_error_message(code, reinterpret_cast<PCRE2_UCHAR*>(message.data()), message.size());
      *problem = message.substr(0, static_cast<std::size_t>(std::max(size, 0)));
    }
    return std::nullopt;
  }
  impl->data = pcre2_match_data_create_from_pattern(impl->code, nullptr);
  impl->limits = pcre2_match_context_create(nullptr);
  if (!impl->data || !impl->limits) return std::nullopt;
  pcre2_set_match_limit(impl->limits, kMostSteps);
  pcre2_set_depth_limit(impl->limits, kMostDepth);
  pcre2_set_heap_limit(impl->limits, kMostKilobytes);
  return Expression(std::move(impl));
}

std::optional<std::size_t> Expression::group(const std::string& name) const {
  int number = pcre2_substring_number_from_name(impl_->code, reinterpret_cast<PCRE2_SPTR>(name.c_str()));
  return number > 0 ? std::optional(static_cast<std::size_t>(number)) : std::nullopt;
}

Expression::Match Expression::find(std::string_view text, std::size_t from) const {
  Match out;
  if (from > text.size()) return out;
  int found = pcre2_match(impl_->code, bytes_of(text), text.size(), from, 0, impl_->data, impl_->limits);
  if (found == PCRE2_ERROR_NOMATCH) return out;
  if (found < 0) {
    out.kind = Match::Kind::gave_up;
    return out;
  }
  out.kind = Match::Kind::found;
  const PCRE2_SIZE* ends = pcre2_get_ovector_pointer(impl_->data);
  for (int i = 0; i < found; ++i) {
    PCRE2_SIZE begin = ends[2 * i], end = ends[2 * i + 1];
    if (begin == PCRE2_UNSET || begin > end) {  // \K may put the begin behind the end
      out.groups.push_back(std::nullopt);
    } else {
      out.groups.push_back(span_of(begin, end));
    }
  }
  return out;
}

std::optional<std::string> Expression::replaced(std::string_view text, std::string_view to) const {
  std::string out;
  std::size_t at = 0;
  while (at <= text.size()) {
    Match match = find(text, at);
    if (match.kind == Match::Kind::gave_up) return std::nullopt;
    if (!match || !match.groups[0]) break;
    Span whole = *match.groups[0];
    out += text.substr(at, whole.begin - at);
    for (std::size_t i = 0; i < to.size(); ++i) {
      bool is_group = to[i] == '\\' && i + 1 < to.size() && to[i + 1] >= '0' && to[i + 1] <= '9';
      if (!is_group) {
        out += to[i];
        continue;
      }
      std::size_t number = static_cast<std::size_t>(to[++i] - '0');
      if (number < match.groups.size() && match.groups[number])
        out += text.substr(match.groups[number]->begin, match.groups[number]->size());
    }
    at = whole.end;
    // Nothing was matched: one byte is taken over, or it would be matched for ever.
    if (whole.begin == whole.end) {
      if (at < text.size()) out += text[at];
      ++at;
    }
  }
  if (at < text.size()) out += text.substr(at);
  return out;
}

}  // namespace yc
