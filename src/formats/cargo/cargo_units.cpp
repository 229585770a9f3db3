#include "formats/cargo/cargo_units.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "formats/cargo/cargo_manifests.h"

namespace yc::cargo {

namespace {

constexpr std::string_view kSource = ".rs";

std::string shown(const std::optional<RelPath>& manifest) {
  return manifest ? manifest->str() : "none";
}

// A path that is put together from the crate's own folder and leaves it.
std::optional<Span> climbs_out(std::string_view bytes) {
  std::size_t folder = bytes.find("CARGO_MANIFEST_DIR");
  if (folder == std::string_view::npos) return std::nullopt;
  for (std::string_view text : {"\"/..", "join(\"..", "push(\".."}) {
    std::size_t at = bytes.find(text);
    std::size_t dots = text.size() - 2;
    if (at != std::string_view::npos) return span_of(at + dots, at + text.size());
  }
  return std::nullopt;
}

using SourcesByCrate = std::map<RelPath, std::vector<RelPath>>;

// All sources of the crates of which a source or the manifest moves.
SourcesByCrate sources_by_crate(const Manifests& manifests, const MoveSet& moves) {
  SourcesByCrate out;
  for (const Move& move : moves.files()) {
    if (is_manifest(move.from)) out[move.from];
    if (move.from.extension() != kSource) continue;
    if (auto manifest = manifests.of(move.from)) out[*manifest];
  }
  if (out.empty()) return out;
  for (const RelPath& path : manifests.tree().files()) {
    if (path.extension() != kSource) continue;
    auto manifest = manifests.of(path);
    auto crate = manifest ? out.find(*manifest) : out.end();
    if (crate != out.end()) crate->second.push_back(path);
  }
  return out;
}

// A source that would not be of its crate any more; null if all stay in it.
const RelPath* stays_behind(const Manifests& manifests, const RelPath& manifest,
                            const std::vector<RelPath>& sources, const MoveSet& moves) {
  RelPath image = moves.map_file(manifest);
  auto other = std::find_if(sources.begin(), sources.end(), [&](const RelPath& source) {
    if (image.parent() != manifest.parent() && !moves.moves(source)) return true;
    return image.name() != manifest.name() || manifests.after(moves, moves.map_file(source)) != image;
  });
  return other == sources.end() ? nullptr : &*other;
}

}  // namespace

std::optional<RelPath> workspace_of(const Manifests& manifests, const RelPath& manifest) {
  const Manifests::Read* own = manifests.at(manifest);
  if (!own) return std::nullopt;
  if (own->said.is_workspace) return manifest;
  for (const NamedPath& named : own->said.paths) {
    if (named.value.path != std::vector<std::string>{"package", "workspace"}) continue;
    auto folder = RelPath::resolve(manifest.parent(), named.value.text);
    return folder ? std::optional(*folder / "Cargo.toml") : std::nullopt;
  }
  for (RelPath folder = manifest.parent(); !folder.is_root();) {
    folder = folder.parent();
    RelPath above = folder / "Cargo.toml";
    const Manifests::Read* found = manifests.at(above);
    if (!found || !found->said.is_workspace) continue;
    for (const NamedPath& named : found->said.paths) {
      bool excludes = named.value.path.size() == 3 && named.value.path[1] == "exclude";
      auto out = excludes ? RelPath::resolve(folder, named.value.text) : std::nullopt;
      if (out && manifest.is_within(*out)) return std::nullopt;
    }
    return above;
  }
  return std::nullopt;
}

void tell_outsiders(const Reading& in) {
  Manifests manifests(in.tree);
  std::map<RelPath, std::set<RelPath>> leads;  // manifests to those of crates that they name
  for (const Reference& reference : in.out.graph().references) {
    if (reference.construct.empty() || reference.construct.back().file == kNoFile) continue;
    const RelPath& from = in.out.files().path(reference.construct.back().file);
    for (const Target& target : reference.targets) {
      RelPath manifest = is_manifest(target.path) ? target.path : target.path / "Cargo.toml";
      if (in.tree.is_file(manifest)) leads[from].insert(manifest);
    }
  }
  std::set<RelPath> taken;  // by any workspace, or a package by itself
  for (const RelPath& path : in.files) {
    const Manifests::Read* read = is_manifest(path) ? manifests.at(path) : nullptr;
    if (!read || !read->said.is_workspace) continue;
    std::vector<RelPath> open = {path};
    while (!open.empty()) {
      RelPath next = open.back();
      open.pop_back();
      if (taken.insert(next).second) open.insert(open.end(), leads[next].begin(), leads[next].end());
    }
  }
  for (const RelPath& path : in.files) {
    const Manifests::Read* read = is_manifest(path) ? manifests.at(path) : nullptr;
    auto workspace = read && !read->said.package.empty() ? workspace_of(manifests, path) : std::nullopt;
    if (!workspace || taken.contains(path) || !in.tree.is_editable(path)) continue;
    // What lies within a package, as test data, is mostly built by its own means.
    auto above = path.parent().is_root() ? std::nullopt : manifests.of(path.parent());
    if (above && *above != *workspace) continue;
    in.out.notice("outside-workspace", path, std::nullopt,
                  "lies in the workspace of " + workspace->str() + ", which does not take it in");
  }
}

std::set<RelPath> sources_of_whole_crates(const TreeReader& tree, const MoveSet& moves) {
  std::set<RelPath> out;
  Manifests manifests(tree);
  for (const auto& [manifest, files] : sources_by_crate(manifests, moves)) {
    if (!moves.moves(manifest) || stays_behind(manifests, manifest, files, moves)) continue;
    RelPath from = manifest.parent(), to = moves.map_file(manifest).parent();
    for (const RelPath& file : files) {
      if (moves.map_file(file) == to / file.below(from)) out.insert(file);
    }
  }
  return out;
}

std::vector<Blocker> crate_consequences(const TreeView& before, const TreeView& planned,
                                        const MoveSet& moves) {
  std::vector<Blocker> out;
  Manifests manifests(before.tree), later(planned.tree);
  bool any = std::any_of(moves.files().begin(), moves.files().end(),
                         [](const Move& move) { return is_manifest(move.from); });
  for (const RelPath& path : any ? before.files : std::vector<RelPath>()) {
    if (!is_manifest(path)) continue;
    auto was = workspace_of(manifests, path), is = workspace_of(later, moves.map_file(path));
    auto expected = was ? std::optional(moves.map_file(*was)) : std::nullopt;
    if (is == expected) continue;
    out.push_back(
        {"cargo-workspace",
         path,
         {},
         path.str(),
         fmt::format("belongs to the workspace of {}, and would to that of {}", shown(was), shown(is)),
         "keep it below the folder of its workspace, or name that by \"workspace\" in its [package] first",
         Blocker::Bearing::tells_why});
  }
  for (const auto& [manifest, sources] : sources_by_crate(manifests, moves)) {
    const RelPath* left = moves.moves(manifest) ? stays_behind(manifests, manifest, sources, moves) : nullptr;
    if (!left) continue;
    out.push_back({"cargo-package",
                   manifest,
                   {},
                   manifest.str(),
                   fmt::format("is the manifest of a crate, and {} would not go along with it", left->str()),
                   "move the whole folder of the crate",
                   Blocker::Bearing::tells_why});
  }
  for (const RelPath& path : sources_of_whole_crates(before.tree, moves)) {
    auto bytes = before.tree.read(path);
    auto span = bytes ? climbs_out(**bytes) : std::nullopt;
    if (!span) continue;
    out.push_back({"unseen", path, span, std::string((*bytes)->substr(span->begin, span->size())),
                   "puts a path together that may lead from the folder of its crate (CARGO_MANIFEST_DIR) to "
                   "one outside of it",
                   "edit it so that it climbs as far as the new place needs, let a build judge (… -- BUILD "
                   "COMMAND), settle it for "
                   "good (--settle FILE:LINE), or add --accept-unseen",
                   Blocker::Bearing::by_itself, true});
  }
  return out;
}

}  // namespace yc::cargo
