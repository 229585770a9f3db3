#include "plan/image.h"

namespace yc {

namespace {

std::string stem_of(const RelPath& path) {
  return std::string(path.name().substr(0, path.name().size() - path.extension().size()));
}

}  // namespace

std::optional<RelPath> Image::of(const RelPath& old_path) const {
  if (tree_.is_folder(old_path)) return moves_.map_folder(old_path);
  return moves_.map_file(old_path);
}

RelPath Image::of_build(const RelPath& old_path) const {
  // The build tree mirrors the source tree: what lies under the twin of a folder that moves, moves with it.
  // What a script has made, goes where the script goes.
  if (auto copy = of_copy(old_path)) return *copy;
  if (auto source = made_beside().find(old_path); source != made_beside().end()) {
    RelPath now = moves_.map_file(source->second);
    return now.parent() / (stem_of(now) + std::string(old_path.extension()));
  }
  for (RelPath up = old_path; !up.is_root(); up = up.parent()) {
    if (auto script = build_scripts().find(up); script != build_scripts().end()) {
      if (moves_.moves(script->second)) return moves_.map_file(script->second).parent() / old_path.below(up);
    }
    if (!tree_.is_folder(up) || tree_.children(up).empty()) continue;
    auto image = moves_.map_folder(up);
    if (image && *image != up) return *image / old_path.below(up);
    return old_path;
  }
  return old_path;
}

// What is copied is put where its script says, wherever it comes from.
std::optional<RelPath> Image::of_copy(const RelPath& old_path) const {
  if (graph_.copies.empty()) return std::nullopt;
  auto stays = [&](const RelPath& path, const BuildCopy& copy) {
    const RelPath& script = graph_.files.path(copy.script);
    if (!path.is_within(script.parent())) return path;
    RelPath folder = moves_.map_file(script).parent();
    return path == script.parent() ? folder : folder / path.below(script.parent());
  };
  for (RelPath up = old_path; !up.is_root(); up = up.parent()) {
    auto copy = graph_.copies.find(up.str());
    if (copy == graph_.copies.end() || copy->second.is_of_project) continue;
    std::string_view below = old_path.below(up);
    RelPath now = stays(up, copy->second);
    auto of = copy->second.named_after ? this->of(copy->second.of) : std::nullopt;
    if (of) now = now.parent() / of->name();
    return now / below;
  }
  std::string head = old_path.str() + "/";
  auto within = graph_.copies.lower_bound(head);
  if (within == graph_.copies.end() || within->second.is_of_project || !within->first.starts_with(head))
    return std::nullopt;
  return stays(old_path, within->second);
}

const std::unordered_map<RelPath, RelPath>& Image::build_scripts() const {
  if (build_scripts_) return *build_scripts_;
  build_scripts_.emplace();
  auto note = [&](FileIndex anchor, const RelPath& folder) {
    if (anchor == kNoFile || folder.is_root()) return;
    const RelPath& script = graph_.files.path(anchor);
    if (script.parent() == folder) build_scripts_->emplace(folder, script);
  };
  for (const Reference& reference : graph_.references) {
    if (reference.base.space == Space::build) note(reference.base.anchor, reference.base.folder);
    for (const Piece& piece : reference.text.pieces()) {
      if (piece.nature == Piece::Nature::build_folder) note(piece.anchor, place_of({}, piece.text).path);
    }
  }
  return *build_scripts_;
}

const std::unordered_map<RelPath, RelPath>& Image::made_beside() const {
  if (made_beside_) return *made_beside_;
  made_beside_.emplace();
  for (const Reference& reference : graph_.references) {
    if (reference.role != Role::product || reference.targets.size() != 1) continue;
    const Target& source = reference.targets.front();
    if (source.kind != Target::Kind::made || source.path.is_root() || reference.text.has_hole()) continue;
    Place made = place_of(reference.base.folder, reference.text.text(), reference.base.space);
    auto in_place = graph_.made.find(made.path);
    if (made.space != Space::tree || in_place == graph_.made.end() ||
        !in_place->second.contains(kBuildsInPlace))
      continue;
    if (made.path.parent() == source.path.parent() && stem_of(made.path) == stem_of(source.path))
      made_beside_->emplace(made.path, source.path);
  }
  return *made_beside_;
}

std::optional<RelPath> Image::of_base(const Base& base) const {
  if (base.anchor != kNoFile) {
    RelPath script = graph_.files.path(base.anchor);
    if (script.ancestor(base.levels) == base.folder) return moves_.map_file(script).ancestor(base.levels);
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
  if (reference.construct != last_chain_ || last_text_.empty()) {
    last_text_.clear();
    for (const Site& step : reference.construct) last_text_ += site(step) + ";";
    last_chain_ = reference.construct;
  }
  ConstructPart instance = reference.construct_part;
  if (instance.path) instance.path = of(*instance.path).value_or(*instance.path);
  return last_text_ + instance.str();
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
