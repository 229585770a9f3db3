#include "plan/installed_copies.h"

#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "formats/capabilities/words.h"
#include "formats/format.h"

namespace yc {

namespace {

constexpr const char* kInstallFolders = "node_modules";

nlohmann::json manifest_of(const TreeReader& tree, const RelPath& folder) {
  auto bytes = tree.read(folder / "package.json");
  return bytes ? nlohmann::json::parse(**bytes, nullptr, false) : nlohmann::json();
}

// The folder of the package that a file's imports find.
std::optional<RelPath> installed_for(const TreeReader& tree, const RelPath& user,
                                     const std::string& package) {
  for (RelPath up = user.parent();; up = up.parent()) {
    auto folder = RelPath::resolve(up / kInstallFolders, package);
    if (folder && tree.is_folder(*folder)) return folder;
    if (up.is_root()) return std::nullopt;
  }
}

bool is_same_file(const TreeReader& tree, const RelPath& one, const RelPath& other) {
  auto a = tree.read(one), b = tree.read(other);
  return a && b && **a == **b;
}

std::string without_dot(std::string path) {
  return path.starts_with("./") ? path.substr(2) : path;
}

// The file that the package's bare name stands for, from its folder.
std::string entry_of_copy(const nlohmann::json& manifest) {
  for (const char* key : {"module", "main"}) {
    if (manifest.is_object() && manifest.contains(key) && manifest[key].is_string())
      return without_dot(manifest[key].get<std::string>());
  }
  return "index.js";
}

// What names a file of a package from outside: its bare name, or with the path behind it. Nothing if the
// package does not let it be named.
std::optional<std::string> outer_name(const nlohmann::json& manifest, const std::string& package,
                                      const std::string& below) {
  if (below == entry_of_copy(manifest)) return package;
  if (!manifest.is_object() || !manifest.contains("exports")) return package + "/" + below;
  const nlohmann::json& exports = manifest["exports"];
  if (!exports.is_object()) return std::nullopt;
  for (const auto& [name, value] : exports.items()) {
    bool is_it = value.is_string() && without_dot(value.get<std::string>()) == below;
    if (is_it) return name == "." ? package : package + "/" + without_dot(name);
  }
  return std::nullopt;
}

bool is_installed_package(const RelPath& path) {
  auto parts = path.components();
  return std::find(parts.begin(), parts.end(), kInstallFolders) != parts.end();
}

class Leading {
 public:
  Leading(const TreeReader& tree, const RelPath& folder, const std::string& package)
      : tree_(tree), folder_(folder), package_(package), graph_(read_graph(tree, cache_)) {
    plan_.references_read = graph_.references.size();
  }

  Plan run(LibraryUse use) {
    for (std::size_t i = 0; i < graph_.references.size(); ++i) {
      const Reference& reference = graph_.references[i];
      Standing at = standing_of(reference);
      bool is_spelled = at.file != kNoFile && reference.text.pieces().size() == 1 && !reference.is_pattern();
      if (!is_spelled || graph_.files.path(at.file).is_within(folder_) ||
          is_installed_package(graph_.files.path(at.file)))
        continue;
      if (use == LibraryUse::installed) to_installed(i);
      if (use == LibraryUse::copied) to_copy(i);
    }
    verify();
    list_edits(
        tree_, [](const RelPath&, const Span&) { return false; }, plan_);
    return std::move(plan_);
  }

 private:
  const RelPath& user_of(std::size_t index) const {
    return graph_.files.path(standing_of(graph_.references[index]).file);
  }

  void leave(std::size_t index, const std::string& why) {
    Standing at = standing_of(graph_.references[index]);
    plan_.notices.push_back({"left-as-it-is", user_of(index), at.span, true, why});
  }

  void to_installed(std::size_t index) {
    const Reference& reference = graph_.references[index];
    if (reference.targets.empty() || !reference.targets.front().path.is_within(folder_) ||
        reference.targets.front().path == folder_ || reference.targets.front().kind != Target::Kind::tree)
      return;
    const RelPath& target = reference.targets.front().path;
    auto installed = installed_for(tree_, user_of(index), package_);
    if (!installed) return leave(index, "finds no installed package " + package_);
    std::string below(target.below(folder_));
    if (!is_same_file(tree_, target, *installed / below))
      return leave(index, "uses " + target.str() + ", which the installed package does not have so");
    const auto* specifiers = offer<Specifiers>(reference.format);
    bool is_module = reference.role == Role::module && specifiers;
    if (!is_module) return respell(index, relative_text(user_of(index).parent(), *installed / below));
    auto name = outer_name(manifest_of(tree_, *installed), package_, below);
    if (!name) return leave(index, "uses " + target.str() + ", which the package does not let others name");
    respell(index, *name == package_ || !has_short_end(reference, target)
                       ? *name
                       : name->substr(0, name->size() - target.extension().size()));
  }

  // Whether the text leaves the ending out.
  static bool has_short_end(const Reference& reference, const RelPath& target) {
    return !reference.text.text().ends_with(target.extension());
  }

  void to_copy(std::size_t index) {
    const Reference& reference = graph_.references[index];
    std::string text = reference.text.text();
    bool names_package = text == package_ || text.starts_with(package_ + "/");
    const auto* specifiers = offer<Specifiers>(reference.format);
    auto installed = installed_for(tree_, user_of(index), package_);
    auto place = names_package ? std::nullopt : RelPath::resolve(user_of(index).parent(), text);
    bool leads_there = installed && place && place->is_within(*installed) && *place != *installed;
    if ((!names_package || !specifiers || !reference.targets.empty()) && !leads_there) return;
    if (!installed) return leave(index, "finds no installed package " + package_);
    nlohmann::json manifest = manifest_of(tree_, *installed);
    std::string below = leads_there ? std::string(place->below(*installed))
                        : text == package_
                            ? entry_of_copy(manifest)
                            : inner_path(manifest, text.substr(package_.size() + 1), *installed);
    RelPath target = folder_ / below;
    if (!is_same_file(tree_, target, *installed / below))
      return leave(index,
                   "uses " + below + " of " + package_ + ", which " + folder_.str() + " does not have so");
    std::string path = relative_text(user_of(index).parent(), target);
    if (leads_there) return respell(index, path);
    bool is_short = text != package_ && !text.ends_with(target.extension());
    if (is_short) path.resize(path.size() - target.extension().size());
    respell(index, path.starts_with("../") ? path : "./" + path);
  }

  // The file behind a name within the package.
  std::string inner_path(const nlohmann::json& manifest, const std::string& name,
                         const RelPath& installed) const {
    if (manifest.is_object() && manifest.contains("exports") && manifest["exports"].is_object()) {
      auto given = manifest["exports"].find("./" + name);
      if (given != manifest["exports"].end() && given->is_string())
        return without_dot(given->get<std::string>());
    }
    for (const char* ending : {"", ".js", ".mjs", ".cjs", ".ts", "/index.js"}) {
      if (tree_.is_file(installed / (name + ending))) return name + ending;
    }
    return name;
  }

  void respell(std::size_t index, const std::string& text) {
    const Reference& reference = graph_.references[index];
    const Piece& piece = reference.text.pieces().front();
    auto written = format_at(reference.format).write(text, piece.style);
    if (!written || !piece.has_origin()) return;
    if (plan_.edits[graph_.files.path(piece.file)].add(piece.span, *written)) changed_.insert(index);
  }

  // Nothing but what was changed leads elsewhere.
  void verify() {
    OverlayTree overlay(tree_, plan_.moves);
    overlay.set_edits(&plan_.edits);
    ReferenceGraph now = read_graph(overlay, cache_);
    plan_.verified = true;
    for (const Mismatch& mismatch : compare_graphs(tree_, graph_, now, plan_.moves, plan_.edits)) {
      bool is_meant =
          mismatch.reference >= 0 && changed_.contains(static_cast<std::size_t>(mismatch.reference));
      if (is_meant || mismatch.reference < 0) continue;
      Standing at = standing_of(graph_.references[static_cast<std::size_t>(mismatch.reference)]);
      plan_.blockers.push_back({"lost", at.file == kNoFile ? RelPath() : graph_.files.path(at.file), at.span,
                                graph_.references[static_cast<std::size_t>(mismatch.reference)].text.text(),
                                "would lead elsewhere", "leave this library as it is used"});
      plan_.verified = false;
    }
    plan_.rounds = 1;
  }

  const TreeReader& tree_;
  RelPath folder_;
  std::string package_;
  FactsCache cache_;
  ReferenceGraph graph_;
  std::set<std::size_t> changed_;
  Plan plan_;
};

}  // namespace

Result<Plan> use_library(const TreeReader& tree, const RelPath& folder, const std::string& package,
                         LibraryUse use) {
  return Leading(tree, folder, package).run(use);
}

std::vector<CopiedPackage> copied_packages(const TreeReader& tree) {
  std::vector<CopiedPackage> out;
  for (const RelPath& path : tree.files()) {
    if (path.name() != "package.json" || path.parent().is_root()) continue;
    RelPath folder = path.parent();
    nlohmann::json manifest = manifest_of(tree, folder);
    bool is_named = manifest.is_object() && manifest.contains("name") && manifest["name"].is_string();
    auto installed =
        is_named ? installed_for(tree, folder, manifest["name"].get<std::string>()) : std::nullopt;
    // A package of a workspace is linked to from where it would be installed.
    const Entry* entry = installed ? tree.find(*installed) : nullptr;
    if (!entry || entry->kind != EntryKind::folder) continue;
    CopiedPackage one{path, *installed, {}};
    for (const RelPath& file : tree.files_below(folder, "*")) {
      std::string below(file.below(folder));
      if (!is_same_file(tree, file, *installed / below)) one.different.push_back(below);
    }
    out.push_back(std::move(one));
  }
  return out;
}

}  // namespace yc
