#include "formats/web_settings/package_boundaries.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "formats/json/json_members.h"
#include "formats/modules/module_scan.h"
#include "formats/web_settings/manifest_texts.h"

namespace yc::web_settings {

namespace {

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

  // Lists a package as the other manifest does.
  std::optional<Proposal> link(const RelPath& manifest, const std::string& name,
                               const Dependency& dependency) const {
    auto bytes = before_.tree.read(manifest);
    auto edit = bytes ? json::put_in_section(manifest, **bytes, {dependency.section}, name,
                                             "\"" + dependency.version + "\"")
                      : std::nullopt;
    return edit ? std::optional(Proposal{{*edit}, ""}) : std::nullopt;
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
