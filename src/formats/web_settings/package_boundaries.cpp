#include "formats/web_settings/package_boundaries.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "formats/json/json_strings.h"
#include "formats/modules/module_scan.h"

namespace yc::web_settings {

namespace {

struct Dependency {
  std::string section, version;
};

struct Manifest {
  RelPath path;
  std::string name;
  std::map<std::string, Dependency> dependencies;
  std::vector<std::string> platforms;
};

bool is_section(std::string_view key) {
  return key == "dependencies" || key == "devDependencies" || key == "peerDependencies" ||
         key == "optionalDependencies";
}

std::optional<Manifest> read_manifest(const TreeReader& tree, const RelPath& path) {
  auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
  if (!bytes) return std::nullopt;
  Manifest out{path, "", {}, {}};
  std::vector<json::StringValue> values = json::string_values(**bytes);
  out.platforms = platforms_of(values);
  for (const json::StringValue& value : values) {
    if (value.path.size() == 1 && value.path[0] == "name") out.name = value.text;
    if (value.path.size() == 2 && is_section(value.path[0]))
      out.dependencies.try_emplace(value.path[1], Dependency{value.path[0], value.text});
  }
  return out;
}

// The manifests above a file, the nearest first.
std::vector<Manifest> manifests_above(const TreeReader& tree, const RelPath& file) {
  std::vector<Manifest> out;
  for (RelPath up = file.parent();; up = up.parent()) {
    if (auto manifest = read_manifest(tree, up / "package.json")) out.push_back(std::move(*manifest));
    if (up.is_root()) return out;
  }
}

// "d3-scale" of "d3-scale/src/linear.js", "@tide/chart" of "@tide/chart/axis"; empty for other specifiers.
std::string package_of(const std::string& specifier) {
  if (specifier.empty() || specifier[0] == '.' || specifier[0] == '/' || specifier[0] == '#' ||
      specifier.find(':') != std::string::npos)
    return "";
  std::size_t cut = specifier.find('/');
  if (specifier[0] == '@' && cut != std::string::npos) cut = specifier.find('/', cut + 1);
  return specifier.substr(0, cut);
}

std::string shown(const Manifest& manifest) {
  return manifest.name.empty() ? manifest.path.str() : manifest.name;
}

class Crossing {
 public:
  Crossing(const TreeView& before, const TreeView& planned, const MoveSet& moves)
      : before_(before), planned_(planned), moves_(moves) {}

  BoundaryReport run() {
    for (const Move& move : moves_.files()) {
      if (modules::dialect_of(move.from) && modules::dialect_of(move.to)) look_at(move);
    }
    for (const auto& [pair, count] : crossed_) {
      const auto& [first, from, to] = pair;
      out_.notices.push_back({"unit-change",
                              first,
                              {},
                              false,
                              count == 1
                                  ? fmt::format("leaves package {} for {}", from, to)
                                  : fmt::format("and {} more leave package {} for {}", count - 1, from, to)});
    }
    return std::move(out_);
  }

 private:
  static const Dependency* listed(const std::vector<Manifest>& manifests, const std::string& name) {
    for (const Manifest& manifest : manifests) {
      auto at = manifest.dependencies.find(name);
      if (at != manifest.dependencies.end()) return &at->second;
    }
    return nullptr;
  }

  // Of a folder whose files move, read once.
  using Known = std::map<RelPath, std::vector<Manifest>>;
  static const std::vector<Manifest>& above(const TreeReader& tree, const RelPath& file, Known& known) {
    auto [at, fresh] = known.try_emplace(file.parent());
    if (fresh) at->second = manifests_above(tree, file);
    return at->second;
  }

  void look_at(const Move& move) {
    const std::vector<Manifest>& old_ones = above(before_.tree, move.from, old_);
    const std::vector<Manifest>& new_ones = above(planned_.tree, move.to, new_);
    if (old_ones.empty() || new_ones.empty()) return;
    const Manifest& joined = new_ones.front();
    if (moves_.map_file(old_ones.front().path) == joined.path) return;
    std::string limited;
    for (const std::string& platform : joined.platforms)
      limited += (limited.empty() ? ", which is only installed on " : ", ") + platform;
    note(move, shown(old_ones.front()), shown(joined) + limited);
    auto bytes = before_.tree.read(move.from);
    if (!bytes) return;
    std::set<std::string> seen;
    for (const modules::Specifier& specifier :
         modules::scan_module(**bytes, *modules::dialect_of(move.from)).specifiers) {
      std::string name = package_of(specifier.text);
      if (name.empty() || !seen.insert(name).second || name == joined.name) continue;
      const Dependency* known = listed(old_ones, name);
      if (!known || listed(new_ones, name) || !lacking_.insert({joined.path, name}).second) continue;
      RelPath manifest = moves_.unmap_file(joined.path);
      out_.lacks.push_back(
          {"unit-reference",
           manifest,
           {},
           name,
           fmt::format("is not listed in it, and {}, which joins its package, imports it", move.to.str()),
           "add --link-units to list it there, or list it first"});
      if (auto way = link(manifest, name, *known)) out_.links.push_back(std::move(*way));
    }
  }

  // One notice for all files that go the same way, at the first of them.
  void note(const Move& move, const std::string& from, const std::string& to) {
    for (auto& [pair, count] : crossed_) {
      if (std::get<1>(pair) != from || std::get<2>(pair) != to) continue;
      ++count;
      return;
    }
    crossed_.push_back({{move.from, from, to}, 1});
  }

  // Lists a package as the other manifest does: in the order of names among its section, or in a section of
  // its own.
  std::optional<Proposal> link(const RelPath& manifest, const std::string& name,
                               const Dependency& dependency) const {
    auto bytes = before_.tree.read(manifest);
    if (!bytes) return std::nullopt;
    const json::StringValue* last = nullptr;    // of the section
    const json::StringValue* before = nullptr;  // in the order of names
    const json::StringValue* top = nullptr;
    std::vector<json::StringValue> values = json::string_values(**bytes);
    for (const json::StringValue& value : values) {
      if (value.path.size() == 1) top = &value;
      if (value.path.size() != 2 || value.path[0] != dependency.section) continue;
      if (!last) last = &value;
      if (value.path[1] < name) before = &value;
    }
    std::string entry = fmt::format("\"{}\": \"{}\"", name, dependency.version);
    auto indent_at = [&](std::size_t offset) {
      std::size_t line = (*bytes)->rfind('\n', offset);
      if (line == std::string::npos) return std::string(" ");
      std::size_t first = (*bytes)->find_first_not_of(" \t", line + 1);
      return (*bytes)->substr(line, first - line);
    };
    if (before) {
      std::uint32_t at = before->span.end + 1;
      std::string text = "," + indent_at(before->span.begin) + entry;
      return Proposal{{{manifest, {at, at}, text, text}}, ""};
    }
    if (last) {
      std::size_t key = (*bytes)->rfind("\"" + last->path[1] + "\"", last->span.begin);
      if (key == std::string::npos) return std::nullopt;
      auto at = static_cast<std::uint32_t>(key);
      std::string text = entry + "," + indent_at(last->span.begin);
      return Proposal{{{manifest, {at, at}, text, text}}, ""};
    }
    if (!top) return std::nullopt;
    std::uint32_t at = top->span.end + 1;
    std::string outer = indent_at(top->span.begin);
    std::string inner = outer.size() > 1 ? outer + outer.substr(1) : outer;
    std::string text = fmt::format(",{}\"{}\": {{{}{}{}}}", outer, dependency.section, inner, entry, outer);
    return Proposal{{{manifest, {at, at}, text, text}}, ""};
  }

  const TreeView& before_;
  const TreeView& planned_;
  const MoveSet& moves_;
  Known old_, new_;
  std::set<std::pair<RelPath, std::string>> lacking_;
  std::vector<std::pair<std::tuple<RelPath, std::string, std::string>, std::size_t>> crossed_;
  BoundaryReport out_;
};

}  // namespace

std::vector<std::string> platforms_of(const std::vector<json::StringValue>& manifest) {
  std::vector<std::string> out;
  for (const json::StringValue& value : manifest) {
    if (value.path.size() == 2 && (value.path[0] == "os" || value.path[0] == "cpu"))
      out.push_back(value.text);
  }
  return out;
}

BoundaryReport package_changes(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  return Crossing(before, planned, moves).run();
}

Holding held_by(const std::vector<json::StringValue>& manifest, std::string_view bytes) {
  Holding out;
  for (const json::StringValue& value : manifest) {
    const std::string& first = value.path.front();
    bool starts = first == "scripts" && value.path.size() == 2 &&
                  (value.path[1] == "start" || value.path[1] == "dev" || value.path[1] == "serve");
    out.program = out.program || first == "bin" || starts;
    out.library =
        out.library || first == "main" || first == "module" || first == "exports" || first == "types";
  }
  auto parsed = nlohmann::json::parse(bytes, nullptr, false, true);
  auto is_private = parsed.is_object() ? parsed.find("private") : parsed.end();
  out.is_private = is_private != parsed.end() && is_private->is_boolean() && is_private->get<bool>();
  return out;
}

}  // namespace yc::web_settings
