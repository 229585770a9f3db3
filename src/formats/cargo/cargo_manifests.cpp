#include "formats/cargo/cargo_manifests.h"

namespace yc::cargo {

const Manifests::Read* Manifests::at(const RelPath& manifest) const {
  auto [known, fresh] = read_.try_emplace(manifest);
  if (fresh) {
    auto bytes = tree_.is_file(manifest) ? tree_.read(manifest) : Result<Bytes>(Error{});
    if (bytes)
      known->second = Read{**bytes, values::read_toml(**bytes), values::read_toml_switches(**bytes),
                           read_manifest(**bytes)};
  }
  return known->second ? &*known->second : nullptr;
}

std::optional<RelPath> Manifests::of(const RelPath& source) const {
  auto [known, fresh] = of_folder_.try_emplace(source.parent());
  for (RelPath folder = source.parent(); fresh; folder = folder.parent()) {
    RelPath manifest = folder / "Cargo.toml";
    if (const Read* found = at(manifest); found && !found->said.package.empty()) {
      known->second = manifest;
      break;
    }
    if (folder.is_root()) break;
  }
  return known->second;
}

std::optional<RelPath> Manifests::after(const MoveSet& moves, const RelPath& path) const {
  for (RelPath folder = path.parent();; folder = folder.parent()) {
    RelPath here = folder / "Cargo.toml", was = moves.unmap_file(here);
    const Read* found = moves.map_file(was) == here ? at(was) : nullptr;
    if (found && !found->said.package.empty()) return here;
    if (folder.is_root()) return std::nullopt;
  }
}

}  // namespace yc::cargo
