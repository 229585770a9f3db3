#include "formats/cargo/crate_roots.h"

#include <algorithm>

#include "formats/cargo/cargo_manifest.h"
#include "formats/cargo/cargo_units.h"

namespace yc::cargo {

namespace {

std::string text_of(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  return bytes ? **bytes : std::string();
}

bool is_source(const RelPath& path) {
  return path.extension() == ".rs";
}

// A root that Cargo finds by itself.
struct DefaultRoot {
  RelPath manifest;
  bool is_library = false;
};
std::optional<DefaultRoot> default_root(const TreeReader& tree, const RelPath& path) {
  bool is_library = path.name() == "lib.rs";
  RelPath folder = path.parent();
  if ((!is_library && path.name() != "main.rs") || folder.name() != "src") return std::nullopt;
  RelPath manifest = folder.parent() / "Cargo.toml";
  if (!tree.is_file(manifest)) return std::nullopt;
  return DefaultRoot{manifest, is_library};
}

bool is_named_root(const TreeReader& tree, const RelPath& path) {
  auto manifest = manifest_of(tree, path);
  if (!manifest) return false;
  for (const NamedPath& named : read_manifest(text_of(tree, *manifest)).paths) {
    bool is_target = named.what == Names::file && named.value.path.back() == "path";
    if (is_target && RelPath::resolve(manifest->parent(), named.value.text) == path) return true;
  }
  return false;
}

// Where Cargo takes each file for a target of its own, called like the file.
bool is_found_by_name(const TreeReader& tree, const RelPath& path) {
  auto manifest = manifest_of(tree, path);
  if (!manifest) return true;
  std::string below(path.below(manifest->parent()));
  for (std::string_view folder : {"src/bin/", "tests/", "examples/", "benches/"}) {
    if (below.starts_with(folder)) return true;
  }
  return below == "build.rs" || default_root(tree, path).has_value();
}

// Whether any source of the crate names a file by a path of its own.
bool is_named_by_path(const TreeReader& tree, const RelPath& path) {
  auto manifest = manifest_of(tree, path);
  for (const RelPath& other : tree.files()) {
    if (!is_source(other) || !manifest || !other.is_within(manifest->parent())) continue;
    std::string text = text_of(tree, other);
    bool has_paths = text.find("#[path") != std::string::npos || text.find("include!") != std::string::npos ||
                     text.find("path =") != std::string::npos;
    if (has_paths && text.find(path.name()) != std::string::npos) return true;
  }
  return false;
}

// "level.rs" and "level/mod.rs".
bool is_other_layout(const RelPath& from, const RelPath& to) {
  RelPath folder = from.name() == "mod.rs" ? from.parent() : to.parent();
  const RelPath& file = from.name() == "mod.rs" ? to : from;
  const RelPath& index = from.name() == "mod.rs" ? from : to;
  return index.name() == "mod.rs" && file.parent() == folder.parent() &&
         file.name() == std::string(folder.name()) + ".rs" && folder.name() != "mod";
}

bool is_plain_name(const RelPath& path) {
  return path.name() != "lib.rs" && path.name() != "main.rs" && path.name() != "mod.rs" && is_source(path);
}

// Whether a manifest has no words yet for a root that Cargo finds by itself, or a table that takes its path.
bool can_be_told(const TreeReader& tree, const DefaultRoot& root) {
  std::string text = text_of(tree, root.manifest);
  std::string package = read_manifest(text).package;
  bool has_lib_table = ("\n" + text).find("\n[lib]") != std::string::npos;
  for (const values::Value& value : values::read_toml(text)) {
    const std::vector<std::string>& keys = value.path;
    // "lib = { … }" and "lib.name = …".
    if (root.is_library && keys.front() == "lib" && !has_lib_table) return false;
    bool is_name = keys.size() == 3 && keys[0] == "bin" && keys[2] == "name";
    if (!root.is_library && is_name && value.text == package) return false;
  }
  return !package.empty();
}

// The line behind the header of a table, where a key can be put; nothing if there is no such table.
std::optional<std::uint32_t> in_table(std::string_view text, std::string_view header) {
  for (std::size_t at = text.find(header); at != std::string_view::npos; at = text.find(header, at + 1)) {
    if (at > 0 && text[at - 1] != '\n') continue;
    std::size_t end = text.find('\n', at);
    return static_cast<std::uint32_t>(end == std::string_view::npos ? text.size() : end + 1);
  }
  return std::nullopt;
}

}  // namespace

std::set<RelPath> sources_that_move_alone(const TreeReader& tree, const MoveSet& moves) {
  std::set<RelPath> out;
  for (const Move& move : moves.files()) {
    if (!is_source(move.from) || !is_source(move.to)) continue;
    auto manifest = manifest_of(tree, move.from);
    if (!manifest || moves.moves(*manifest)) continue;
    auto by_default = default_root(tree, move.from);
    bool is_named = is_named_root(tree, move.from);
    if (by_default || is_named) {
      if (!is_named && !can_be_told(tree, *by_default)) continue;
      bool stays = move.from.parent() == move.to.parent() && is_plain_name(move.to);
      if (stays && !is_found_by_name(tree, move.to)) out.insert(move.from);
    } else if (is_other_layout(move.from, move.to) && !is_found_by_name(tree, move.from) &&
               !is_found_by_name(tree, move.to) && !is_named_by_path(tree, move.from)) {
      out.insert(move.from);
    }
  }
  return out;
}

std::vector<Proposal> paths_of_roots(const TreeReader& tree, const MoveSet& moves) {
  std::vector<Proposal> out;
  std::set<RelPath> alone = sources_that_move_alone(tree, moves);
  for (const RelPath& path : alone) {
    auto root = default_root(tree, path);
    if (!root || is_named_root(tree, path)) continue;
    std::string text = text_of(tree, root->manifest);
    RelPath image = moves.map_file(path), folder = root->manifest.parent();
    auto place = values::written(image.below(folder), values::kTomlBasic);
    if (!place) continue;
    std::string line = "path = \"" + *place + "\"\n";
    auto end = static_cast<std::uint32_t>(text.size());
    std::string gap = text.empty() || text.back() == '\n' ? "\n" : "\n\n";
    auto table = root->is_library ? in_table(text, "[lib]") : std::nullopt;
    if (table) {
      out.push_back({{Edit{root->manifest, {*table, *table}, line}}, ""});
    } else if (root->is_library) {
      out.push_back({{Edit{root->manifest, {end, end}, gap + "[lib]\n" + line}}, ""});
    } else {
      std::string name = read_manifest(text).package;
      out.push_back(
          {{Edit{root->manifest, {end, end}, gap + "[[bin]]\nname = \"" + name + "\"\n" + line}}, ""});
    }
  }
  return out;
}

}  // namespace yc::cargo
