#include "formats/property_lists/project_objects.h"

#include <set>

namespace yc::plist {

namespace {

class Reader {
 public:
  Reader(const Value& root, std::string_view bytes, FileIndex file)
      : root_(root), bytes_(bytes), file_(file) {}

  ProjectObjects run() {
    const Value* objects = root_.get("objects");
    if (!objects) return std::move(out_);
    for (const auto& [identifier, object] : objects->entries) {
      if (!out_.objects.emplace(identifier, &object).second) out_.doubles.push_back(identifier);
    }
    const Value* project = object(root_.get_text("rootObject"));
    if (!project) return std::move(out_);
    out_.projects_folder = project->get_text("projectDirPath");
    TracedText top = TracedText::plain(out_.projects_folder);
    walk(project->get_text("mainGroup"), "", top, false, 0);
    if (const Value* targets = project->get("targets")) {
      for (const Value& each : targets->elements) target(each.text, project);
    }
    return std::move(out_);
  }

 private:
  const Value* object(const std::string& identifier) const {
    auto found = out_.objects.find(identifier);
    return found == out_.objects.end() ? nullptr : found->second;
  }

  static TracedText below(const TracedText& folder, const TracedText& path) {
    TracedText out = folder;
    if (!out.empty() && !path.empty()) out.append(TracedText::plain("/"));
    out.append(path);
    return out;
  }

  void walk(const std::string& identifier, const std::string& group, const TracedText& folder, bool outside,
            std::size_t depth) {
    const Value* one = object(identifier);
    if (!one || depth > 100 || out_.nodes.contains(identifier)) return;
    Node node;
    node.identifier = identifier;
    node.kind = one->get_text("isa");
    node.object = one;
    node.group = group;
    node.name = one->get_text("name");
    const Value* path = one->get("path");
    std::string tree = one->get_text("sourceTree");
    node.is_outside = outside;
    TracedText own = path ? traced(bytes_, *path, file_) : TracedText();
    if (tree.empty() || tree == "<group>") {
      node.path = below(folder, own);
    } else if (tree == "SOURCE_ROOT") {
      node.path = below(TracedText::plain(out_.projects_folder), own);
      node.is_outside = false;
    } else {
      node.is_outside = true;
    }
    node.is_placed = path != nullptr;
    bool is_outside = node.is_outside;
    TracedText place = node.path;
    out_.nodes[identifier] = std::move(node);
    if (const Value* children = one->get("children")) {
      for (const Value& child : children->elements)
        walk(child.text, identifier, place, is_outside, depth + 1);
    }
  }

  void configurations(const std::string& list, std::vector<const Value*>& out) const {
    const Value* one = object(list);
    const Value* all = one ? one->get("buildConfigurations") : nullptr;
    if (!all) return;
    for (const Value& each : all->elements) {
      if (const Value* found = object(each.text)) out.push_back(found);
    }
  }

  void target(const std::string& identifier, const Value* project) {
    const Value* one = object(identifier);
    if (!one) return;
    TargetInfo info;
    info.name = one->get_text("name");
    info.object = one;
    configurations(one->get_text("buildConfigurationList"), info.configurations);
    configurations(project->get_text("buildConfigurationList"), info.configurations);
    const Value* phases = one->get("buildPhases");
    for (const Value& each : phases ? phases->elements : std::vector<Value>()) {
      const Value* phase = object(each.text);
      const Value* files =
          phase && phase->get_text("isa") == "PBXSourcesBuildPhase" ? phase->get("files") : nullptr;
      for (const Value& file : files ? files->elements : std::vector<Value>()) {
        if (const Value* build = object(file.text)) info.sources.push_back(build->get_text("fileRef"));
      }
    }
    out_.targets.push_back(std::move(info));
  }

  const Value& root_;
  std::string_view bytes_;
  FileIndex file_;
  ProjectObjects out_;
};

}  // namespace

Base bundle_base(const RelPath& path, FileIndex file) {
  Base out{path.parent(), file, Space::tree};
  std::uint8_t levels = 1;
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    ++levels;
    std::string_view ending = up.extension();
    if (ending != ".xcodeproj" && ending != ".xcworkspace") continue;
    out.folder = up.parent();
    out.levels = levels;
  }
  return out;
}

ProjectObjects read_objects(const Value& root, std::string_view bytes, FileIndex file) {
  return Reader(root, bytes, file).run();
}

}  // namespace yc::plist
