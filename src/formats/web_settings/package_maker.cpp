#include "formats/web_settings/package_maker.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "formats/json/json_members.h"
#include "formats/modules/module_scan.h"
#include "formats/web_settings/manifest_texts.h"
#include "formats/web_settings/workspace_members.h"
#include "words/web_settings.h"

namespace yc::web_settings {

namespace {

using Json = nlohmann::ordered_json;

Json parsed(const TreeReader& tree, const RelPath& manifest) {
  auto bytes = tree.read(manifest);
  Json out = bytes ? Json::parse(**bytes, nullptr, false) : Json();
  return out.is_object() ? out : Json();
}

// The manifest of the package that a file is in.
std::optional<RelPath> owner_of(const TreeReader& tree, const RelPath& file) {
  for (RelPath up = file.parent();; up = up.parent()) {
    if (tree.is_file(up / "package.json")) return up / "package.json";
    if (up.is_root()) return std::nullopt;
  }
}

std::vector<modules::Specifier> specifiers_of(const TreeReader& tree, const RelPath& module) {
  auto bytes = tree.read(module);
  return bytes ? modules::scan_module(**bytes, *modules::dialect_of(module)).specifiers
               : std::vector<modules::Specifier>();
}

std::vector<RelPath> modules_of(const TreeReader& tree) {
  std::vector<RelPath> out;
  for (const RelPath& path : tree.files()) {
    if (modules::dialect_of(path) && tree.is_editable(path)) out.push_back(path);
  }
  return out;
}

class Maker {
 public:
  Maker(const TreeView& view, const RelPath& folder, std::vector<RelPath> inside)
      : view_(view),
        folder_(folder),
        inside_(std::move(inside)),
        above_(manifests_above(view.tree, folder / "package.json")),
        outer_(parsed(view.tree, above_.front().path)),
        workspace_(workspace_above(view.tree, above_.front().path.parent())) {}

  UnitChange run() {
    if (outer_.empty()) refuse(above_.front().path, "is no JSON that could be read", "mend it first");
    name_it();
    for (const RelPath& module : inside_) look_at(module);
    look_for_settings();
    look_at_users();
    RelPath file = folder_ / "package.json";
    if (workspace_) {
      for (Edit& edit : add_member(view_.tree, *workspace_, made_)) out_.edits.push_back(std::move(edit));
      if (auto lock = stale_lock(view_.tree, *workspace_)) out_.notices.push_back(*lock);
    }
    out_.made[file] = text();
    out_.units.push_back({file, above_.front().path, made_.name, ""});
    return std::move(out_);
  }

 private:
  void refuse(const RelPath& file, std::string reason, std::string next) {
    out_.blockers.push_back(unit_blocker(file, std::move(reason), std::move(next)));
  }

  void name_it() {
    const std::string& outer = above_.front().name;
    std::size_t scope = outer.starts_with("@") ? outer.find('/') + 1 : 0;
    std::string own(folder_.name());
    made_.folder = folder_;
    made_.name = scope > 0 ? outer.substr(0, scope) + own : outer.empty() ? own : outer + "-" + own;
    made_.version = outer_.value("version", "");
    for (const RelPath& path : view_.files) {
      auto other = read_manifest(view_.tree, path);
      if (other && other->name == made_.name)
        refuse(path, "is called " + made_.name + " already", "rename it, or the folder");
    }
  }

  void look_at(const RelPath& module) {
    for (const modules::Specifier& specifier : specifiers_of(view_.tree, module)) {
      if (specifier.text.starts_with("#"))
        refuse(module,
               fmt::format("imports {}, which {} alone maps", specifier.text, above_.front().path.str()),
               "import it by its path first");
      std::string name = package_of(specifier.text);
      if (!name.empty() && name == above_.front().name)
        refuse(module, "imports its own package by the name " + name, "import it by its path first");
      depend_on(name);
      depend_on("@types/" + name);
    }
    // What such elements become is imported without a word.
    std::string_view ending = module.extension();
    if (ending == ".jsx" || ending == ".tsx") {
      for (const char* name : {"react", "preact", "@types/react"}) depend_on(name);
    }
  }

  void depend_on(const std::string& name) {
    const Dependency* known = name.empty() ? nullptr : listed(above_, name);
    if (!known) return;
    Dependency own = *known;
    for (const char* scheme : {"file:", "link:"}) {
      if (!own.version.starts_with(scheme)) continue;
      auto place = RelPath::resolve(above_.front().path.parent(), own.version.substr(5));
      if (place) own.version = scheme + relative_text(folder_, *place);
    }
    made_.dependencies.try_emplace(name, own);
  }

  // Settings that count up to the next manifest.
  void look_for_settings() {
    RelPath around = above_.front().path.parent();
    for (const std::string& name : view_.tree.children(around)) {
      if (!words::web_settings::settings_of_a_package().contains(name)) continue;
      refuse(around / name, "counts for files of its own package alone, and these would leave that",
             "give it the form that counts for a whole project first, or leave the folder as it is");
    }
  }

  // Who imports the folder's modules, and what its modules import of those.
  void look_at_users() {
    std::map<RelPath, const Reference*> users, used;
    for (const Reference& reference : view_.graph.references) {
      Standing at = standing_of(reference);
      if (reference.role != Role::module || at.file == kNoFile) continue;
      const RelPath& file = view_.graph.files.path(at.file);
      for (const Target& target : reference.targets) {
        if (target.kind != Target::Kind::tree) continue;
        bool is_inside = file.is_within(folder_), leads_inside = target.path.is_within(folder_);
        if (is_inside == leads_inside) continue;
        auto other = owner_of(view_.tree, is_inside ? target.path : file);
        if (other) (is_inside ? used : users).try_emplace(*other, &reference);
      }
    }
    auto standing = [&](const Reference& reference) {
      return view_.graph.files.path(standing_of(reference).file).str();
    };
    for (const auto& [manifest, reference] : users) {
      auto back = used.find(manifest);
      if (back != used.end()) {
        auto name = read_manifest(view_.tree, manifest);
        refuse(
            folder_ / "package.json",
            fmt::format("would depend on itself: {0} -> {1} -> {0}: {2} imports {3}, and {4} imports {5}",
                        made_.name, name->name.empty() ? manifest.str() : name->name, standing(*back->second),
                        back->second->text.text(), standing(*reference), reference->text.text()),
            "move what both need to a folder of its own first");
      }
      if (workspace_) use_from(manifest);
    }
    for (const auto& [manifest, reference] : used) {
      auto other = read_manifest(view_.tree, manifest);
      bool is_member = workspace_ && other && !other->name.empty();
      if (is_member)
        made_.dependencies.try_emplace(other->name,
                                       Dependency{"dependencies", member_version(view_.tree, *workspace_)});
    }
  }

  void use_from(const RelPath& manifest) {
    made_.users.push_back(manifest.parent());
    auto bytes = view_.tree.read(manifest);
    auto edit = bytes ? json::put_in_section(manifest, **bytes, {"dependencies"}, made_.name,
                                             "\"" + member_version(view_.tree, *workspace_) + "\"")
                      : std::nullopt;
    if (edit) out_.edits.push_back(*edit);
  }

  std::string text() const {
    Json out;
    out["name"] = made_.name;
    for (const auto& [key, value] : outer_.items()) {
      if (words::web_settings::shared_fields().contains(key)) out[key] = value;
    }
    if (made_.version.empty()) out["private"] = true;
    for (const auto& [name, dependency] : made_.dependencies)
      out[dependency.section][name] = dependency.version;
    auto bytes = view_.tree.read(above_.front().path);
    std::string step = bytes ? json::indent_step(**bytes) : "  ";
    return out.dump(static_cast<int>(step.size()), step.front(), false, Json::error_handler_t::replace) +
           "\n";
  }

  const TreeView& view_;
  RelPath folder_;
  std::vector<RelPath> inside_;
  std::vector<Manifest> above_;
  Json outer_;
  std::optional<Workspace> workspace_;
  NewMember made_;
  UnitChange out_;
};

// What a package says that only it can say.
void look_at_own(const Json& own, const RelPath& file, UnitChange& out) {
  for (const auto& [key, value] : own.items()) {
    if (words::web_settings::own_fields().contains(key))
      out.blockers.push_back(
          unit_blocker(file, fmt::format("says \"{}\", which the outer package cannot say for it", key),
                       "move that to the outer package first"));
  }
}

void hand_over(const TreeView& view, const RelPath& file, const Manifest& own, const Manifest& outer,
               UnitChange& out) {
  auto bytes = view.tree.read(outer.path);
  std::string after = bytes ? **bytes : std::string();
  auto apply = [&](const std::optional<Edit>& edit) {
    if (edit) after.replace(edit->span.begin, edit->span.size(), edit->text);
  };
  for (const auto& [name, dependency] : own.dependencies) {
    bool is_known = outer.dependencies.contains(name) || name == outer.name;
    if (!is_known)
      apply(json::put_in_section(outer.path, after, {dependency.section}, name,
                                 "\"" + dependency.version + "\""));
  }
  for (const RelPath& path : view.files) {
    auto user = path == file ? std::nullopt : read_manifest(view.tree, path);
    auto known = user ? user->dependencies.find(own.name) : decltype(user->dependencies.find(own.name))();
    if (!user || known == user->dependencies.end()) continue;
    auto text = view.tree.read(path);
    const std::vector<std::string> section = {known->second.section};
    if (path == outer.path) {
      apply(drop_dependency(path, after, section, own.name));
    } else if (auto edit = text ? drop_dependency(path, **text, section, own.name) : std::nullopt) {
      out.edits.push_back(*edit);
    }
  }
  if (auto edit = bytes ? edit_between(outer.path, **bytes, after) : std::nullopt) out.edits.push_back(*edit);
}

}  // namespace

std::optional<UnitChange> make_package(const TreeView& view, const RelPath& folder) {
  if (view.tree.is_file(folder / "package.json")) return std::nullopt;
  auto outer = owner_of(view.tree, folder / "package.json");
  if (!outer) return std::nullopt;
  std::vector<RelPath> inside;
  for (const RelPath& module : modules_of(view.tree)) {
    if (module.is_within(folder) && owner_of(view.tree, module) == outer) inside.push_back(module);
  }
  if (inside.empty()) return std::nullopt;
  return Maker(view, folder, std::move(inside)).run();
}

std::optional<UnitChange> drop_package(const TreeView& view, const RelPath& folder) {
  RelPath file = folder / "package.json";
  auto own = view.tree.is_editable(file) ? read_manifest(view.tree, file) : std::nullopt;
  std::vector<Manifest> above = manifests_above(view.tree, folder);
  if (!own) return std::nullopt;
  UnitChange out;
  if (above.empty()) {
    out.blockers.push_back(
        unit_blocker(file, "has no package above it", "move its folder below the one that takes it"));
    return out;
  }
  const Manifest& outer = above.front();
  Json own_text = parsed(view.tree, file), outer_text = parsed(view.tree, outer.path);
  look_at_own(own_text, file, out);
  if (own_text.value("type", "commonjs") != outer_text.value("type", "commonjs"))
    out.blockers.push_back(unit_blocker(file, "has modules of another type than " + outer.path.str(),
                                        "set \"type\" alike in both first"));
  for (const RelPath& module : modules_of(view.tree)) {
    for (const modules::Specifier& specifier : specifiers_of(view.tree, module)) {
      if (!own->name.empty() && package_of(specifier.text) == own->name)
        out.blockers.push_back(unit_blocker(module, "imports the package by its name " + own->name,
                                            "import it by its path first"));
    }
  }
  hand_over(view, file, *own, outer, out);
  if (auto workspace = workspace_above(view.tree, outer.path.parent())) {
    for (Edit& edit : drop_member(view.tree, *workspace, folder, own->name))
      out.edits.push_back(std::move(edit));
    if (auto lock = stale_lock(view.tree, *workspace)) out.notices.push_back(*lock);
  }
  out.dropped.insert(file);
  return out;
}

}  // namespace yc::web_settings
