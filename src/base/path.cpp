#include "base/path.h"

#include <algorithm>

namespace yc {

RelPath RelPath::from_normal(std::string text) {
  RelPath path;
  path.text_ = std::move(text);
  return path;
}

std::optional<RelPath> RelPath::resolve(const RelPath& base, std::string_view text) {
  if (!text.empty() && text.front() == '/') return std::nullopt;
  std::string out = base.text_;
  std::size_t at = 0;
  while (at <= text.size()) {
    std::size_t end = std::min(text.find('/', at), text.size());
    std::string_view part = text.substr(at, end - at);
    at = end + 1;
    if (part.empty() || part == ".") continue;
    if (part == "..") {
      if (out.empty()) return std::nullopt;
      std::size_t cut = out.rfind('/');
      out.resize(cut == std::string::npos ? 0 : cut);
      continue;
    }
    if (!out.empty()) out += '/';
    out += part;
  }
  return from_normal(std::move(out));
}

RelPath RelPath::parent() const {
  std::size_t cut = text_.rfind('/');
  return from_normal(cut == std::string::npos ? std::string() : text_.substr(0, cut));
}

RelPath RelPath::ancestor(std::size_t levels) const {
  RelPath out = *this;
  while (levels-- > 0) out = out.parent();
  return out;
}

std::string_view RelPath::name() const& {
  std::size_t cut = text_.rfind('/');
  return cut == std::string::npos ? std::string_view(text_) : std::string_view(text_).substr(cut + 1);
}

std::string_view RelPath::extension() const& {
  std::string_view last = name();
  std::size_t dot = last.rfind('.');
  return dot == std::string_view::npos || dot == 0 ? std::string_view() : last.substr(dot);
}

bool RelPath::is_within(const RelPath& folder) const {
  if (folder.text_.empty()) return true;
  return text_.size() >= folder.text_.size() && text_.compare(0, folder.text_.size(), folder.text_) == 0 &&
         (text_.size() == folder.text_.size() || text_[folder.text_.size()] == '/');
}

std::string_view RelPath::below(const RelPath& folder) const& {
  if (folder.text_.empty()) return text_;
  if (text_.size() <= folder.text_.size()) return {};
  return std::string_view(text_).substr(folder.text_.size() + 1);
}

RelPath RelPath::operator/(std::string_view below) const {
  if (below.empty()) return *this;
  if (text_.empty()) return from_normal(std::string(below));
  return from_normal(text_ + "/" + std::string(below));
}

std::vector<std::string_view> RelPath::components() const& {
  std::vector<std::string_view> parts;
  std::string_view rest = text_;
  while (!rest.empty()) {
    std::size_t end = std::min(rest.find('/'), rest.size());
    parts.push_back(rest.substr(0, end));
    rest.remove_prefix(std::min(end + 1, rest.size()));
  }
  return parts;
}

std::string ending_of(std::string_view path) {
  RelPath normal = RelPath::from_normal(std::string(path));
  return std::string(normal.extension());
}

std::string relative_text(const RelPath& folder, const RelPath& path) {
  auto from = folder.components();
  auto to = path.components();
  std::size_t same = 0;
  while (same < from.size() && same < to.size() && from[same] == to[same]) ++same;
  std::string out;
  for (std::size_t i = same; i < from.size(); ++i) out += out.empty() ? ".." : "/..";
  for (std::size_t i = same; i < to.size(); ++i) {
    if (!out.empty()) out += '/';
    out += to[i];
  }
  return out.empty() ? "." : out;
}

PathStyle PathStyle::of(std::string_view text) {
  PathStyle style;
  if (text.substr(0, 2) == "./") style.lead = "./";
  style.trailing_slash = text.size() > 1 && text.back() == '/';
  style.backslashes = text.find('\\') != std::string_view::npos && text.find('/') == std::string_view::npos;
  return style;
}

std::string PathStyle::apply(std::string path) const {
  if (!lead.empty() && path.substr(0, 2) != ".." && path.substr(0, 1) != "/" && path != ".")
    path = lead + path;
  if (trailing_slash && !path.empty() && path.back() != '/') path += '/';
  if (backslashes) std::replace(path.begin(), path.end(), '/', '\\');
  return path;
}

Place place_of(const RelPath& base, std::string_view text, Space base_space) {
  auto absolute = [&](std::string_view mark, Space space) -> std::optional<Place> {
    if (text.substr(0, mark.size()) != mark) return std::nullopt;
    std::string_view rest = text.substr(mark.size());
    if (!rest.empty() && rest.front() != '/') return std::nullopt;
    while (!rest.empty() && rest.front() == '/') rest.remove_prefix(1);
    auto path = RelPath::resolve({}, rest);
    return path ? Place{space, *path} : Place{};
  };
  if (auto place = absolute(kTreeMark, Space::tree)) return *place;
  if (auto place = absolute(kBuildMark, Space::build)) return *place;
  if (text.empty() || text.front() == '/' || text.find('\x03') != std::string_view::npos) return {};
  auto path = RelPath::resolve(base, text);
  return path ? Place{base_space, *path} : Place{};
}

bool climbs_to_root(std::string_view text) {
  return text.find("..") != std::string_view::npos || text.starts_with(kTreeMark);
}

std::string marked(Space space, const RelPath& path) {
  std::string out(space == Space::build ? kBuildMark : kTreeMark);
  if (!path.is_root()) out += "/" + path.str();
  return out;
}

}  // namespace yc
