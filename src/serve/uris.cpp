#include "serve/uris.h"

#include <fmt/format.h>

#include <filesystem>

#include "base/char_class.h"

namespace yc::serve {

namespace {

constexpr CharClass kPlain = CharClass::alphanumeric_and("-._~/");
constexpr std::string_view kScheme = "file://";

int digit_of(char c) {
  if (c >= '0' && c <= '9') return c - '0';
  if (c >= 'a' && c <= 'f') return c - 'a' + 10;
  if (c >= 'A' && c <= 'F') return c - 'A' + 10;
  return -1;
}

}  // namespace

std::string uri_of(std::string_view path) {
  std::string out(kScheme);
  for (char c : path) {
    if (kPlain.holds(c))
      out += c;
    else
      out += fmt::format("%{:02X}", static_cast<unsigned char>(c));
  }
  return out;
}

std::optional<std::string> path_of(std::string_view uri) {
  if (!uri.starts_with(kScheme)) return std::nullopt;
  std::string_view text = uri.substr(kScheme.size());
  if (text.starts_with("localhost/")) text.remove_prefix(9);
  text = text.substr(0, text.find_first_of("?#"));
  if (!text.starts_with('/')) return std::nullopt;
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] != '%') {
      out += text[i];
      continue;
    }
    int high = i + 2 < text.size() ? digit_of(text[i + 1]) : -1;
    int low = i + 2 < text.size() ? digit_of(text[i + 2]) : -1;
    if (high < 0 || low < 0 || (high == 0 && low == 0)) return std::nullopt;
    out += static_cast<char>(high * 16 + low);
    i += 2;
  }
  out = std::filesystem::path(out).lexically_normal().string();
  while (out.size() > 1 && out.back() == '/') out.pop_back();
  return out;
}

}  // namespace yc::serve
