#include "serve/framing.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>

namespace yc::serve {

namespace {

constexpr std::string_view kLength = "content-length:";
constexpr std::size_t kLongestLine = 4096;  // of a header; what goes on longer is none
constexpr std::size_t kPart = 65536;

bool begins_as(std::string_view line, std::string_view word) {
  if (line.size() < word.size()) return false;
  return std::equal(word.begin(), word.end(), line.begin(),
                    [](char a, char b) { return a == (b >= 'A' && b <= 'Z' ? b - 'A' + 'a' : b); });
}

std::optional<std::size_t> length_in(std::string_view line) {
  std::string_view text = line.substr(kLength.size());
  text.remove_prefix(std::min(text.find_first_not_of(" \t"), text.size()));
  text = text.substr(0, text.find_last_not_of(" \t") + 1);
  std::size_t out = 0;
  auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
  if (text.empty() || error != std::errc() || end != text.data() + text.size()) return std::nullopt;
  return out;
}

}  // namespace

bool FrameReader::fill() {
  if (at_ > 0) {
    buffer_.erase(0, at_);
    at_ = 0;
  }
  std::size_t size = buffer_.size();
  buffer_.resize(size + kPart);
  std::size_t got = more_(buffer_.data() + size, kPart);
  buffer_.resize(size + got);
  return got > 0;
}

// Without its end; of what goes on without one, a part.
std::optional<std::string> FrameReader::line() {
  while (true) {
    std::size_t end = buffer_.find('\n', at_);
    bool is_long = end == std::string::npos ? buffer_.size() - at_ > kLongestLine : end - at_ > kLongestLine;
    if (is_long) {
      std::string out = buffer_.substr(at_, kLongestLine);
      at_ += kLongestLine;
      return out;
    }
    if (end != std::string::npos) {
      std::string out = buffer_.substr(at_, end - at_);
      at_ = end + 1;
      if (out.ends_with('\r')) out.pop_back();
      return out;
    }
    if (!fill()) return std::nullopt;
  }
}

std::optional<Frame> FrameReader::body(std::size_t length) {
  std::string out;
  bool is_kept = length <= kLongestMessage;
  // Whoever says that much need not have it; and a string that grows holds twice what it must.
  constexpr std::size_t kBelieved = 16'000'000;
  if (is_kept) out.reserve(std::min(length, kBelieved));
  for (std::size_t missing = length; missing > 0;) {
    if (at_ == buffer_.size() && !fill()) return std::nullopt;
    std::size_t part = std::min(missing, buffer_.size() - at_);
    if (is_kept) out.append(buffer_, at_, part);
    at_ += part;
    missing -= part;
  }
  if (!is_kept) return Frame{"", fmt::format("a message of {} bytes is too long", length)};
  return Frame{std::move(out), ""};
}

std::optional<Frame> FrameReader::next() {
  std::optional<std::size_t> length;
  bool is_strange = false;
  while (auto text = line()) {
    // Whatever came before it, this begins a header: half a message may have been cut off there.
    std::size_t at = 0;
    while (at < text->size() && !begins_as(std::string_view(*text).substr(at), kLength)) ++at;
    if (at < text->size()) {
      is_strange = is_strange || at > 0;
      length = length_in(std::string_view(*text).substr(at));
      is_strange = is_strange || !length;
    } else if (text->empty() && length) {
      return body(*length);
    } else if (text->empty() || !length) {
      // The other header, "Content-Type", may come first.
      is_strange = is_strange || !begins_as(*text, "content-type:");
      if (text->empty() && is_strange) return Frame{"", "what came is no message: it has no Content-Length"};
    }
  }
  return std::nullopt;
}

std::string framed(std::string_view body) {
  return fmt::format("Content-Length: {}\r\n\r\n{}", body.size(), body);
}

}  // namespace yc::serve
