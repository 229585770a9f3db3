#include "base/path.h"

#include <algorithm>

namespace yc {

// Made when it is first asked for, since paths may be made before this file's own variables are.
const std::string& RelPath::root_text() {
  static const std::string text;
  return text;
}

RelPath RelPath::from_normal(std::string text) {
  RelPath path;
  if (!text.empty()) path.shared_ = new Shared(std::move(text));
  return path;
}

std::size_t RelPath::hash() const {
  if (!shared_) return std::hash<std::string>{}(root_text());
  std::size_t known = shared_->hash.load(std::memory_order_relaxed);
  if (known == 0) {
    known = std::hash<std::string>{}(shared_->text);
    shared_->hash.store(known, std::memory_order_relaxed);
  }
  return known;
}

std::optional<RelPath> RelPath::resolve(const RelPath& base, std::string_view text) {
  if (!text.empty() && text.front() == '/') return std::nullopt;
  std::string out = base.str();
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
  std::size_t cut = str().rfind('/');
  return cut == std::string::npos ? RelPath() : from_normal(str().substr(0, cut));
}

RelPath RelPath::ancestor(std::size_t levels) const {
  RelPath out = *this;
  while (levels-- > 0) out = out.parent();
  return out;
}

std::string_view RelPath::name() const& {
  std::string_view text = str();
  return text.substr(text.rfind('/') + 1);
}

std::string_view RelPath::extension() const& {
  std::string_view last = name();
  std::size_t dot = last.rfind('.');
  return dot == std::string_view::npos || dot == 0 ? std::string_view() : last.substr(dot);
}

bool RelPath::is_within(const RelPath& folder) const {
  if (folder.is_root() || shared_ == folder.shared_) return true;
  const std::string &text = str(), &above = folder.str();
  return text.starts_with(above) && (text.size() == above.size() || text[above.size()] == '/');
}

std::string_view RelPath::below(const RelPath& folder) const& {
  std::string_view text = str();
  if (folder.is_root()) return text;
  return text.size() <= folder.str().size() ? std::string_view() : text.substr(folder.str().size() + 1);
}

RelPath RelPath::operator/(std::string_view below) const {
  if (below.empty()) return *this;
  if (is_root()) return from_normal(std::string(below));
  std::string text;
  text.reserve(str().size() + 1 + below.size());
  text.append(str()).append(1, '/').append(below);
  return from_normal(std::move(text));
}

std::vector<std::string_view> RelPath::components() const& {
  std::vector<std::string_view> parts;
  std::string_view rest = str();
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
