#include "formats/c_family/forwarding_headers.h"

#include <fmt/format.h>

#include "formats/c_family/include_scan.h"
#include "words/c_family.h"

namespace yc::c_family {

namespace {

constexpr std::string_view kWords = "Forwarding header";
constexpr std::size_t kLargest = 1000;  // bytes; we write far less

}  // namespace

bool is_header(const RelPath& path) {
  return words::c_family::header_endings().contains(path.extension());
}

std::optional<std::string> forwarding_header(const RelPath& old_path, const RelPath& new_path,
                                             std::string_view bytes) {
  if (!is_header(old_path) || !is_header(new_path)) return std::nullopt;
  std::string text = relative_text(old_path.parent(), new_path);
  if (text.find_first_of("\"\n\r\\") != std::string::npos || text.find("*/") != std::string::npos)
    return std::nullopt;
  const char* end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  return fmt::format("/* {}: this file is now {}; include that. */{}#include \"{}\"{}", kWords, text, end,
                     text, end);
}

std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes) {
  if (!is_header(path) || bytes.size() > kLargest || bytes.find(kWords) == std::string_view::npos)
    return std::nullopt;
  IncludeFacts facts = scan_includes(bytes);
  if (facts.includes.size() != 1 || facts.includes.front().form != Include::Form::quoted) return std::nullopt;
  // Besides comments, there is the one directive.
  std::size_t at = 0;
  for (bool in_comment = false; at < bytes.size(); ++at) {
    if (in_comment) {
      if (bytes.substr(at, 2) == "*/") in_comment = false, ++at;
    } else if (bytes.substr(at, 2) == "/*") {
      in_comment = true, ++at;
    } else if (!std::isspace(static_cast<unsigned char>(bytes[at]))) {
      break;
    }
  }
  const Include& include = facts.includes.front();
  bool is_first = at >= include.line_start && at < include.span.begin;
  std::string_view rest = is_first ? bytes.substr(include.span.end) : "x";
  if (rest.find_first_not_of("\" \t\r\n") != std::string_view::npos) return std::nullopt;
  return RelPath::resolve(path.parent(), include.text);
}

}  // namespace yc::c_family
