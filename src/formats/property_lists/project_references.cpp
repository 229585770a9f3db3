#include "formats/property_lists/project_references.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "formats/property_lists/project_objects.h"
#include "formats/property_lists/project_settings.h"
#include "formats/shell/command_line.h"
#include "model/add_reference.h"

namespace yc::plist {

namespace {

class Emitter {
 public:
  Emitter(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out,
          const std::string& bytes)
      : tree_(tree), self_(format), out_(out), bytes_(bytes), file_(out.files().index(path)) {
    base_ = bundle_base(path, file_);
  }

  void run(const ProjectObjects& objects) {
    objects_ = &objects;
    std::set<std::string> built;
    for (const TargetInfo& target : objects.targets)
      built.insert(target.sources.begin(), target.sources.end());
    for (const auto& [identifier, node] : objects.nodes) refer_to_node(node, built.contains(identifier));
    for (const auto& [identifier, object] : objects.objects) refer_from_object(*object);
    for (const TargetInfo& target : objects.targets) compile(objects, target);
  }

 private:
  Reference blank(std::uint32_t site, TracedText text) const {
    Reference out = Reference::of(Role::listed, self_, {{file_, site}}, base_, std::move(text));
    return out;
  }

  std::optional<RelPath> lead(const TracedText& text) const {
    Place place = text.empty() ? Place{Space::tree, base_.folder} : place_of(base_.folder, text.text());
    bool nowhere = place.path.is_root() && text.text().find("..") == std::string::npos;
    if (place.space != Space::tree || nowhere) return std::nullopt;
    auto found = find_any_case(tree_, place.path);
    return found && !tree_.find(*found)->ignored ? found : std::nullopt;
  }

  void refer_to_node(const Node& node, bool built) {
    if (!node.is_placed || node.is_outside) return;
    const Value& path = *node.object->get("path");
    Reference reference = blank(path.span.begin, node.path);
    reference.role = built ? Role::source : node.object->get("children") ? Role::search_root : Role::listed;
    if (node.kind == "PBXFileSystemSynchronizedRootGroup") reference.role = Role::listed;
    // A folder of a group counts through the files that are found in it.
    bool is_group = node.object->get("children") != nullptr;
    auto found = lead(node.path);
    if (is_group && (!found || !tree_.is_folder(*found))) return;
    if (is_group) reference.role = Role::listed;
    if (!is_group) note_place(node, found);
    if (found) {
      reference.lead_to(*found);
      if (is_group) return;  // its text is a part of the texts of all that it holds
    } else {
      Place place = place_of(base_.folder, node.path.text());
      if (place.space == Space::outside && node.kind == "PBXFileReference")
        out_.notice(
            "outside-root", out_.files().path(file_), path.span,
            "lists " + node.path.text() + ", which lies outside of the tree: a fresh clone does not have it");
      if (place.space != Space::tree) return;
      reference.dangling = true;
    }
    out_.add(std::move(reference));
  }

  // In which groups the project shows a file.
  void note_place(const Node& node, const std::optional<RelPath>& found) {
    Place place = place_of(base_.folder, node.path.text());
    // What is not placed by its group's folder need not stand in a group of its folder's name.
    bool is_by_group = node.object->get_text("sourceTree") == "<group>";
    if (place.space != Space::tree || node.kind != "PBXFileReference" || !is_by_group) return;
    std::string shown;
    std::set<std::string> met;
    for (auto group = objects_->nodes.find(node.group);
         group != objects_->nodes.end() && met.insert(group->first).second;
         group = objects_->nodes.find(group->second.group)) {
      const Node& one = group->second;
      std::string name = one.name.empty() ? one.object->get_text("path") : one.name;
      if (!name.empty()) shown = name + (shown.empty() ? "" : "\\" + shown);
    }
    const Value& path = *node.object->get("path");
    out_.graph().virtual_places.push_back(
        {out_.files().path(file_), found.value_or(place.path), shown, path.span});
  }

  void refer_from_object(const Value& object) {
    std::string kind = object.get_text("isa");
    if (kind == "XCBuildConfiguration") {
      if (const Value* settings = object.get("buildSettings")) {
        for (const auto& [name, value] : settings->entries) setting(name, value);
      }
    } else if (kind == "PBXShellScriptBuildPhase") {
      if (const Value* script = object.get("shellScript")) commands(*script);
      for (const char* list : {"inputPaths", "outputPaths", "inputFileListPaths"}) {
        const Value* paths = object.get(list);
        for (const Value& path : paths ? paths->elements : std::vector<Value>())
          add(path, Role::argument, true);
      }
    } else if (kind == "PBXCopyFilesBuildPhase" || kind == "PBXProject") {
      return;
    } else if (kind == "XCLocalSwiftPackageReference") {
      if (const Value* path = object.get("relativePath")) add(*path, Role::subfolder, true);
    } else if (kind == "PBXLegacyTarget") {
      if (const Value* path = object.get("buildWorkingDirectory")) add(*path, Role::argument, true);
    }
  }

  void add(const Value& value, Role role, bool certain) {
    add_text(with_variables(traced(bytes_, value, file_), file_, base_.folder), value.span.begin, role,
             certain);
  }

  void add_text(TracedText text, std::uint32_t site, Role role, bool certain) {
    while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
    if (text.has_hole()) {
      add_unseen(out_, tree_, text, base_, self_, {{file_, site}});
      return;
    }
    auto found = lead(text);
    Passage origin = text.first_origin();
    if (origin.file == kNoFile) return;
    Place wanted = place_of(base_.folder, text.text());
    if (!found && certain && wanted.space == Space::tree && !tree_.find(wanted.path))
      out_.unmet({out_.files().path(origin.file), origin.span, "setting", text.text(), wanted.path});
    if (!found) return;
    Reference reference = blank(site, std::move(text));
    reference.role = role;
    reference.in_list = false;
    reference.certainty = certain ? Certainty::certain : Certainty::likely;
    reference.may_gain = !certain;
    reference.lead_to(*found);
    out_.add(std::move(reference));
  }

  // Words of a setting, which is a string or a list; "…/**" stands for a folder and all below it.
  std::vector<TracedText> words(const Value& value) const {
    std::vector<TracedText> out;
    auto take = [&](const Value& one) {
      TracedText text = with_variables(traced(bytes_, one, file_), file_, base_.folder);
      for (TracedText& word : setting_words(text)) {
        if (word.text().ends_with("/**")) word = word.substr(0, word.size() - 3);
        out.push_back(std::move(word));
      }
    };
    if (value.kind == Value::Kind::string) take(value);
    for (const Value& each : value.elements) take(each);
    return out;
  }

  void setting(const std::string& name, const Value& value) {
    SettingKind kind = setting_kind(name);
    if (kind == SettingKind::no_path) return;
    bool is_root = kind == SettingKind::roots || kind == SettingKind::header_roots;
    for (const TracedText& word : words(value)) {
      if (word.empty() || word.is_only_holes()) continue;
      bool slash = word.text().find('/') != std::string::npos;
      if (kind == SettingKind::other && !slash) continue;
      add_text(word, site_of(word, value), is_root ? Role::search_root : Role::argument,
               kind != SettingKind::other);
    }
  }

  static std::uint32_t site_of(const TracedText& word, const Value& value) {
    Passage origin = word.first_origin();
    return origin.file == kNoFile ? value.span.begin : origin.span.begin;
  }

  // A script of a phase is started in the project's folder.
  void commands(const Value& script) {
    TracedText text = with_variables(traced(bytes_, script, file_), file_, base_.folder);
    for (const shell::Command& command : shell::read(text, base_, tree_).commands) {
      for (Reference& reference : shell::pick(command, tree_).references) {
        if (reference.text.first_origin().file == kNoFile) continue;
        reference.certainty = Certainty::likely;
        reference.may_gain = true;
        reference.role = Role::argument;
        reference.dangling = false;
        reference.format = self_;
        reference.construct = {{file_, reference.text.first_origin().span.begin}};
        out_.add(std::move(reference));
      }
    }
  }

  void compile(const ProjectObjects& objects, const TargetInfo& target) {
    if (target.sources.empty()) return;
    Context context;
    Unit unit{target.name, self_, {file_, target.object->span.begin}, {}};
    auto add_root = [&](const RelPath& folder, bool quoted) {
      SearchRoot root{{Space::tree, folder}, quoted};
      if (std::find(context.roots.begin(), context.roots.end(), root) == context.roots.end())
        context.roots.push_back(root);
    };
    for (const Value* configuration : target.configurations) {
      const Value* settings = configuration->get("buildSettings");
      if (!settings) continue;
      for (const auto& [name, value] : settings->entries) {
        if (setting_kind(name) != SettingKind::header_roots) continue;
        for (const TracedText& word : words(value)) {
          auto found = word.has_hole() || word.empty() ? std::nullopt : lead(word);
          if (found && tree_.is_folder(*found)) add_root(*found, name.starts_with("USER"));
          context.open = context.open || (word.has_hole() && !word.is_only_holes());
          if (value.kind == Value::Kind::array && found) unit.root_words.push_back(word);
        }
      }
    }
    // Headers of the project are found by their names alone.
    for (const auto& [identifier, node] : objects.nodes) {
      std::string path = node.object->get_text("path");
      bool header = path.ends_with(".h") || path.ends_with(".hpp") || path.ends_with(".hh");
      auto found = header && !node.is_outside && node.is_placed ? lead(node.path) : std::nullopt;
      if (found) add_root(found->parent(), true);
    }
    if (const Value* dependencies = target.object->get("dependencies")) {
      for (const Value& each : dependencies->elements) {
        auto dependency = objects.objects.find(each.text);
        auto used = dependency == objects.objects.end()
                        ? objects.objects.end()
                        : objects.objects.find(dependency->second->get_text("target"));
        if (used != objects.objects.end()) unit.uses.push_back(used->second->get_text("name"));
      }
    }
    context.start = {Space::tree, base_.folder};
    ContextIndex index = out_.context(std::move(context));
    out_.graph().units.push_back(std::move(unit));
    auto number = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
    for (const std::string& identifier : target.sources) {
      auto node = objects.nodes.find(identifier);
      if (node == objects.nodes.end() || node->second.is_outside || !node->second.is_placed) continue;
      if (auto found = lead(node->second.path)) out_.compile(*found, index, number);
    }
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  const std::string& bytes_;
  const ProjectObjects* objects_ = nullptr;  // while they are read
  FileIndex file_;
  Base base_;
};

}  // namespace

void read_project(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out) {
  auto bytes = tree.read(path);
  if (!bytes) return;
  Parsed parsed = parse(**bytes);
  if (!parsed.value) {
    out.notice("garbled-project", path, Span{parsed.stopped, parsed.stopped},
               "is no property list from here on and is not read");
    out.graph().unread.emplace(path, Unread::garbled);
    return;
  }
  ProjectObjects objects = read_objects(*parsed.value, **bytes, out.files().index(path));
  for (const std::string& identifier : objects.doubles)
    out.notice("garbled-project", path, std::nullopt,
               fmt::format("gives the identifier {} to two objects", identifier));
  Emitter(tree, path, format, out, **bytes).run(objects);
}

}  // namespace yc::plist
