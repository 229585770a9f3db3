#include "formats/styles/forwarding_styles.h"

#include <fmt/format.h>

#include "formats/styles/style_scan.h"

namespace yc::styles {

namespace {

constexpr std::string_view kWords = "Forwarding stylesheet";
constexpr std::size_t kLargest = 1000;  // bytes; we write far less

bool is_sass(const RelPath& path) {
  return path.extension() == ".scss" || path.extension() == ".sass";
}

}  // namespace

RelPath forwarding_place(const RelPath& old_path, const RelPath& new_path) {
  if (!is_sass(old_path)) return old_path;
  std::string name(old_path.name());
  std::string ending(old_path.extension());
  std::string stem = name.substr(0, name.size() - ending.size());
  if (stem.starts_with("_")) stem.erase(0, 1);
  bool promoted = new_path.parent() == old_path.parent() / stem;
  RelPath index = new_path.parent() / ("_index" + ending);
  return promoted && new_path != index ? index : old_path;
}

std::optional<std::string> forwarding_style(const RelPath& old_path, const RelPath& new_path,
                                            std::string_view bytes) {
  bool sass = is_sass(old_path) && is_sass(new_path);
  bool same = old_path.extension() == new_path.extension() &&
              (old_path.extension() == ".css" || old_path.extension() == ".less");
  if (!sass && !same) return std::nullopt;
  RelPath place = forwarding_place(old_path, new_path);
  std::string path = relative_text(place.parent(), new_path);
  if (path.find_first_of("\"'\\\n\r#{}*") != std::string::npos) return std::nullopt;
  const char* end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  if (sass) {
    path.resize(path.size() - new_path.extension().size());
    std::size_t name = path.rfind('/') == std::string::npos ? 0 : path.rfind('/') + 1;
    if (path.compare(name, 1, "_") == 0) path.erase(name, 1);
  }
  // A comment that does not come out in what is compiled, where the language has one.
  bool css = old_path.extension() == ".css";
  return fmt::format("{} {}: this is now {}; use that.{}{}{} \"{}\"{}{}", css ? "/*" : "//", kWords, path,
                     css ? " */" : "", end, sass ? "@forward" : "@import", path,
                     old_path.extension() == ".sass" ? "" : ";", end);
}

std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes) {
  std::string_view ending = path.extension();
  bool style = is_sass(path) || ending == ".css" || ending == ".less";
  if (!style || bytes.size() > kLargest || bytes.find(kWords) == std::string_view::npos) return std::nullopt;
  Dialect dialect = ending == ".css" ? Dialect::css : ending == ".less" ? Dialect::less : Dialect::scss;
  StyleFacts facts = scan_style(bytes, dialect);
  if (facts.names.size() != 1 || facts.names[0].parts.size() != 1) return std::nullopt;
  Span span = facts.names[0].parts[0].span;
  std::size_t comment = bytes.find('\n');
  if (comment == std::string_view::npos || comment > span.begin) return std::nullopt;
  std::string_view before = bytes.substr(comment, span.begin - comment);
  std::string_view after = bytes.substr(span.end);
  if (before.find('{') != std::string_view::npos ||
      after.find_first_not_of("\"; \r\n") != std::string_view::npos)
    return std::nullopt;
  std::string text(bytes.substr(span.begin, span.size()));
  if (is_sass(path)) {
    // A partial is named without its mark; which of the two it is, its users tell: ours are partials.
    std::size_t name = text.rfind('/') == std::string::npos ? 0 : text.rfind('/') + 1;
    std::string mark = path.name().starts_with("_") ? "_" : "";
    text = text.substr(0, name) + mark + text.substr(name) + std::string(ending);
  }
  return RelPath::resolve(path.parent(), text);
}

}  // namespace yc::styles
