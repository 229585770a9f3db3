#include "observe/trace_line.h"

#include <cctype>
#include <cstdlib>

namespace yc {

namespace {

bool is_octal(char c) {
  return c >= '0' && c <= '7';
}

// The path between "<" and ">", which stands at the front of `text`; the tracer escapes both within it.
std::optional<std::string> bracketed(std::string_view text) {
  if (text.empty() || text.front() != '<') return std::nullopt;
  std::size_t end = text.find('>');
  if (end == std::string_view::npos) return std::nullopt;
  return unescaped(text.substr(1, end - 1));
}

// Where the arguments end that begin at the front of `text`: at the closing bracket of the call.
std::optional<std::size_t> arguments_end(std::string_view text) {
  int depth = 0;
  for (std::size_t at = 0; at < text.size(); ++at) {
    char c = text[at];
    if (c == '"') {
      at += string_end(text.substr(at));
      if (at >= text.size()) return std::nullopt;
    } else if (c == '<' && at > 0 && std::isalnum(static_cast<unsigned char>(text[at - 1]))) {
      at = text.find('>', at);
      if (at == std::string_view::npos) return std::nullopt;
    } else if (c == '(') {
      ++depth;
    } else if (c == ')' && depth-- == 0) {
      return at;
    }
  }
  return std::nullopt;
}

}  // namespace

std::size_t string_end(std::string_view text) {
  std::size_t at = 1;
  while (at < text.size() && text[at] != '"') at += text[at] == '\\' ? 2 : 1;
  return at;
}

std::string unescaped(std::string_view text) {
  std::string out;
  for (std::size_t at = 0; at < text.size(); ++at) {
    if (text[at] != '\\' || at + 1 == text.size()) {
      out += text[at];
      continue;
    }
    char c = text[++at];
    if (is_octal(c)) {
      int value = 0;
      std::size_t end = at;
      while (end < text.size() && end < at + 3 && is_octal(text[end]))
        value = value * 8 + (text[end++] - '0');
      out += static_cast<char>(value);
      at = end - 1;
    } else if (c == 'x' && at + 2 < text.size()) {
      out += static_cast<char>(std::strtol(std::string(text.substr(at + 1, 2)).c_str(), nullptr, 16));
      at += 2;
    } else {
      static constexpr std::string_view kNames = "nrtvfab", kBytes = "\n\r\t\v\f\a\b";
      std::size_t known = kNames.find(c);
      out += known == std::string_view::npos ? c : kBytes[known];
    }
  }
  return out;
}

std::optional<TracedCall> parse_call(int process, std::string_view text) {
  std::size_t open = text.find('(');
  if (open == std::string_view::npos || open == 0) return std::nullopt;
  std::string_view behind = text.substr(open + 1);
  auto end = arguments_end(behind);
  if (!end) return std::nullopt;
  std::string_view rest = behind.substr(*end + 1);
  std::size_t equals = rest.find_first_not_of(" \t");
  if (equals == std::string_view::npos || rest[equals] != '=') return std::nullopt;
  rest.remove_prefix(equals + 1);
  while (!rest.empty() && rest.front() == ' ') rest.remove_prefix(1);
  return TracedCall{process, std::string(text.substr(0, open)), std::string(behind.substr(0, *end)),
                    std::string(rest)};
}

long TracedCall::number() const {
  return result.empty() || !std::isdigit(static_cast<unsigned char>(result.front()))
             ? -1
             : std::strtol(result.c_str(), nullptr, 10);
}

std::string TracedCall::opened_path() const {
  std::size_t open = result.find('<');
  return open == std::string::npos ? "" : bracketed(std::string_view(result).substr(open)).value_or("");
}

void ArgumentReader::next() {
  while (!rest_.empty() && (rest_.front() == ',' || rest_.front() == ' ')) rest_.remove_prefix(1);
}

std::optional<std::string> ArgumentReader::string() {
  next();
  if (rest_.empty() || rest_.front() != '"') return std::nullopt;
  std::size_t end = string_end(rest_);
  if (end >= rest_.size()) return std::nullopt;
  std::string out = unescaped(rest_.substr(1, end - 1));
  rest_.remove_prefix(end + 1);
  if (rest_.starts_with("...")) rest_.remove_prefix(3);  // cut off by the tracer
  return out;
}

std::optional<std::string> ArgumentReader::folder() {
  next();
  std::size_t end = rest_.find_first_of(",<");
  if (rest_.starts_with('"') || end == std::string_view::npos || rest_[end] != '<') return std::nullopt;
  auto out = bracketed(rest_.substr(end));
  std::size_t close = rest_.find('>', end);
  if (out) rest_.remove_prefix(close + 1);
  return out;
}

std::vector<std::string> ArgumentReader::strings() {
  next();
  std::vector<std::string> out;
  if (rest_.empty() || rest_.front() != '[') return out;
  rest_.remove_prefix(1);
  while (auto one = string()) out.push_back(std::move(*one));
  std::size_t close = rest_.find(']');
  rest_.remove_prefix(close == std::string_view::npos ? rest_.size() : close + 1);
  return out;
}

}  // namespace yc
