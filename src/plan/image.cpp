#include "plan/image.h"

namespace yc {

std::optional<RelPath> Image::of(const RelPath& old_path) const {
  if (tree_.is_folder(old_path)) return moves_.map_folder(old_path);
  return moves_.map_file(old_path);
}

RelPath Image::of_build(const RelPath& old_path) const {
  // The build tree mirrors the source tree: what lies under the twin of a folder that moves, moves with it.
  for (RelPath up = old_path; !up.is_root(); up = up.parent()) {
    if (!tree_.is_folder(up) || tree_.children(up).empty()) continue;
    auto image = moves_.map_folder(up);
    if (image && *image != up) return *image / old_path.below(up);
    return old_path;
  }
  return old_path;
}

std::optional<RelPath> Image::of_base(const Base& base) const {
  if (base.anchor != kNoFile) {
    RelPath script = graph_.files.path(base.anchor);
    if (script.parent() == base.folder) return moves_.map_file(script).parent();
    if (home_folder(script) == base.folder) return home_folder(moves_.map_file(script));
  }
  // A folder that outputs are put into may be empty, or not there yet.
  bool holds_something = base.folder.is_root() || !tree_.children(base.folder).empty();
  if (base.space == Space::build || !holds_something) return of_build(base.folder);
  return base.folder.is_root() ? std::optional<RelPath>(base.folder) : moves_.map_folder(base.folder);
}

std::string Image::site(const Site& site) const {
  if (site.file == kNoFile) return "-";
  const RelPath& old_path = graph_.files.path(site.file);
  auto edits = edits_.find(old_path);
  std::uint32_t offset = edits == edits_.end() ? site.offset : edits->second.map(site.offset);
  return moves_.map_file(old_path).str() + "@" + std::to_string(offset);
}

std::string Image::key(const Reference& reference) const {
  if (reference.key != last_chain_ || last_text_.empty()) {
    last_text_.clear();
    for (const Site& step : reference.key) last_text_ += site(step) + ";";
    last_chain_ = reference.key;
  }
  std::string out = last_text_;
  if (!reference.instance.is_root()) out += of(reference.instance).value_or(reference.instance).str();
  return out;
}

std::optional<std::string> Image::target(const Target& target) const {
  switch (target.kind) {
    case Target::Kind::tree: {
      auto path = of(target.path);
      return path ? std::optional("t:" + path->str()) : std::nullopt;
    }
    case Target::Kind::build:
      return "b:" + of_build(target.path).str();
    case Target::Kind::output:
      return "o:" + of_build(target.path).str();
    case Target::Kind::name:
      return "n:" + target.path.str();
    case Target::Kind::made:
      return "m:" + (target.path.is_root() ? site(target.site) : of(target.path).value_or(target.path).str());
  }
  return std::nullopt;
}

}  // namespace yc
