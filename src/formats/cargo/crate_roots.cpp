#include "formats/cargo/crate_roots.h"

#include <algorithm>
#include <array>
#include <map>

#include "formats/cargo/cargo_manifests.h"

namespace yc::cargo {

namespace {

bool is_source(const RelPath& path) {
  return path.extension() == ".rs";
}

// A root that Cargo finds by itself, and what the target is called that it makes.
struct DefaultRoot {
  RelPath manifest;
  std::string table, name;
};
bool is_looked_for(const Manifests::Read& manifest, std::string_view table, std::string_view kind) {
  bool has_shared_edition =
      std::any_of(manifest.switches.begin(), manifest.switches.end(), [](const values::Switch& one) {
        return one.path == std::vector<std::string>{"package", "edition", "workspace"};
      });
  if (!has_shared_edition && stops_looking(manifest.values, table)) return false;
  return std::none_of(manifest.switches.begin(), manifest.switches.end(), [&](const values::Switch& one) {
    return !one.is_on && one.path == std::vector<std::string>{"package", std::string(kind)};
  });
}

// Where a manifest names a target without saying where it lies: behind that line. Nothing if it does not; 0
// if it is written in a way that takes no line.
std::optional<std::uint32_t> named_in(const Manifests::Read& manifest, const DefaultRoot& root) {
  const std::string& text = manifest.text;
  std::string header = root.table == "lib" ? "\n[lib]" : "\n[[" + root.table + "]]";
  bool has_tables = ("\n" + text).find(header) != std::string::npos;
  std::optional<std::uint32_t> out;
  for (const values::Value& value : manifest.values) {
    if (value.path.front() != root.table) continue;
    if (!has_tables) return 0;
    bool is_name = value.path.back() == "name" && value.path.size() <= 3;
    if (is_name && value.text == root.name)
      out = static_cast<std::uint32_t>(std::min(text.find('\n', value.span.end), text.size() - 1) + 1);
  }
  return out;
}

std::optional<DefaultRoot> default_root(const Manifests& manifests, const RelPath& path) {
  auto manifest = manifests.of(path);
  if (!manifest) return std::nullopt;
  std::string below(path.below(manifest->parent()));
  const Manifests::Read& read = *manifests.at(*manifest);
  if (below == "build.rs")
    return is_looked_for(read, "build", "build") ? std::optional(DefaultRoot{*manifest, "build", ""})
                                                 : std::nullopt;
  // A target that is named without a path is looked for all the same.
  auto found = [&](DefaultRoot root, std::string_view automatic) {
    bool is_found = is_looked_for(read, root.table, automatic) || named_in(read, root);
    return is_found ? std::optional(std::move(root)) : std::nullopt;
  };
  if (below == "src/lib.rs") return found({*manifest, "lib", ""}, "autolib");
  if (below == "src/main.rs") return found({*manifest, "bin", read.said.package}, "autobins");
  constexpr std::array<std::array<std::string_view, 3>, 4> kFolders = {
      {{"src/bin/", "bin", "autobins"},
       {"tests/", "test", "autotests"},
       {"examples/", "example", "autoexamples"},
       {"benches/", "bench", "autobenches"}}};
  for (const auto& [folder, table, automatic] : kFolders) {
    if (!below.starts_with(folder)) continue;
    std::string rest = below.substr(folder.size());
    if (rest.ends_with("/main.rs"))
      rest.erase(rest.size() - std::string_view("/main.rs").size());
    else if (rest.ends_with(".rs"))
      rest.erase(rest.size() - std::string_view(".rs").size());
    else
      continue;
    if (!rest.empty() && rest.find('/') == std::string::npos)
      return found({*manifest, std::string(table), rest}, automatic);
  }
  return std::nullopt;
}

// The table that names a root by its path.
std::optional<std::string> named_root(const Manifests& manifests, const RelPath& path) {
  auto manifest = manifests.of(path);
  if (!manifest) return std::nullopt;
  for (const NamedPath& named : manifests.at(*manifest)->said.paths) {
    const std::vector<std::string>& keys = named.value.path;
    bool is_target = named.what == Names::file && (keys.back() == "path" || keys.back() == "build");
    if (is_target && RelPath::resolve(manifest->parent(), named.value.text) == path)
      return keys.back() == "build" ? "build" : keys.front();
  }
  return std::nullopt;
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

bool is_same_target(const DefaultRoot& a, const std::optional<DefaultRoot>& b) {
  return b && a.manifest == b->manifest && a.table == b->table && a.name == b->name;
}

// Whether a root may go to a place: it is found there, or its manifest can say where it is.
bool may_go(const Manifests& manifests, const RelPath& from, const RelPath& to) {
  auto by_default = default_root(manifests, from), there = default_root(manifests, to);
  auto named = named_root(manifests, from);
  std::string table = named ? *named : by_default ? by_default->table : "";
  auto home = manifests.of(from);
  bool stays = !table.empty() && home == manifests.of(to) && is_source(to);
  if (!stays || (there && there->table != table)) return false;
  // Another target of that name would be found there.
  if (there && manifests.tree().is_file(to)) return false;
  if (named || is_same_target(*by_default, there)) return true;
  const Manifests::Read& read = *manifests.at(*home);
  return by_default->table == "build" ? in_table(read.text, "[package]").has_value()
                                      : named_in(read, *by_default) != std::uint32_t{0};
}

// Where a source goes, as a path of the crate before that moved itself.
std::optional<RelPath> place_in_crate(const Manifests& manifests, const MoveSet& moves, const Move& move) {
  auto manifest = manifests.of(move.from);
  if (!manifest) return std::nullopt;
  RelPath now = moves.map_file(*manifest);
  if (manifests.after(moves, move.to) != now) return std::nullopt;
  return manifest->parent() / move.to.below(now.parent());
}

std::set<RelPath> roots_that_move(const Manifests& manifests, const MoveSet& moves) {
  std::set<RelPath> out;
  for (const Move& move : moves.files()) {
    if (!is_source(move.from) || !is_source(move.to)) continue;
    auto to = place_in_crate(manifests, moves, move);
    if (!to || *to == move.from) continue;
    bool is_root = default_root(manifests, move.from) || named_root(manifests, move.from);
    if (is_root && may_go(manifests, move.from, *to)) out.insert(move.from);
  }
  return out;
}

}  // namespace

std::set<RelPath> sources_that_move_alone(const TreeReader& tree, const MoveSet& moves) {
  return roots_that_move(Manifests(tree), moves);
}

std::vector<Proposal> paths_of_roots(const TreeReader& tree, const MoveSet& moves) {
  std::vector<Proposal> out;
  Manifests manifests(tree);
  std::map<RelPath, std::string> added;  // tables at the ends of manifests
  for (const RelPath& path : roots_that_move(manifests, moves)) {
    auto root = default_root(manifests, path);
    auto to = place_in_crate(manifests, moves, {path, moves.map_file(path)});
    if (!to) continue;
    const RelPath& image = *to;
    if (!root || named_root(manifests, path) || is_same_target(*root, default_root(manifests, image)))
      continue;
    const Manifests::Read& read = *manifests.at(root->manifest);
    const std::string& text = read.text;
    auto place = values::written(image.below(root->manifest.parent()), values::kTomlBasic);
    if (!place) continue;
    bool is_build = root->table == "build";
    std::string line = (is_build ? "build = \"" : "path = \"") + *place + "\"\n";
    auto at = is_build ? in_table(text, "[package]") : named_in(read, *root);
    if (!at && root->table == "lib") at = in_table(text, "[lib]");
    if (at) {
      out.push_back({{Edit{root->manifest, {*at, *at}, line}}, ""});
    } else if (root->table == "lib") {
      added[root->manifest] += "\n[lib]\n" + line;
    } else {
      added[root->manifest] += "\n[[" + root->table + "]]\nname = \"" + root->name + "\"\n" + line;
    }
  }
  for (const auto& [manifest, tables] : added) {
    const std::string& text = manifests.at(manifest)->text;
    auto end = static_cast<std::uint32_t>(text.size());
    std::string gap = text.empty() || text.back() == '\n' ? "" : "\n";
    out.push_back({{Edit{manifest, {end, end}, gap + tables}}, ""});
  }
  return out;
}

std::vector<Blocker> new_targets(const TreeReader& before, const TreeReader& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  Manifests then(before), later(planned);
  for (const Move& move : moves.files()) {
    if (!is_source(move.to)) continue;
    auto manifest = then.of(move.from);
    bool was = !manifest || default_root(then, move.from) || named_root(then, move.from);
    auto now = !was ? default_root(later, move.to) : std::nullopt;
    if (!now) continue;
    out.push_back({"cargo-target",
                   move.from,
                   {},
                   move.from.str(),
                   "is no target, and Cargo would take it for one at " + move.to.str(),
                   "move it to a folder of its own below that one, or elsewhere",
                   Blocker::Bearing::tells_why});
  }
  return out;
}

}  // namespace yc::cargo
