#include "formats/msbuild/source_uses.h"

#include <algorithm>
#include <deque>

#include "formats/msbuild/project_files.h"

namespace yc::msbuild {

namespace {

// A namespace may be named from within one around it, by its last part.
bool sees(const std::set<std::string>& spaces, const csharp::Namespaces& user,
          const csharp::Namespaces& giver) {
  if (giver.declared.empty()) return true;
  return std::any_of(giver.declared.begin(), giver.declared.end(), [&](const std::string& space) {
    return spaces.contains(space) || user.words.contains(space.substr(space.rfind('.') + 1));
  });
}

}  // namespace

SourceUses::SourceUses(const TreeView& view, std::uint8_t format) : index_(view.tree) {
  for (const Reference& reference : view.graph.references) {
    if (reference.format != format || reference.excludes || reference.construct.empty()) continue;
    const RelPath& project = view.graph.files.path(reference.construct.front().file);
    if (!is_project(project)) continue;
    for (const Target& target : reference.targets) {
      bool is_source = target.kind == Target::Kind::tree && target.path.extension() == ".cs";
      if (is_source) projects_[project].insert(target.path);
    }
  }
  for (const Boundary& boundary : view.graph.boundaries) {
    if (is_project(boundary.file)) uses_[boundary.file].insert(boundary.uses.begin(), boundary.uses.end());
  }
}

std::set<RelPath> SourceUses::reached(const RelPath& project) const {
  std::set<RelPath> out;
  for (std::deque<RelPath> open = {project}; !open.empty(); open.pop_front()) {
    auto uses = uses_.find(open.front());
    if (uses == uses_.end()) continue;
    for (const RelPath& used : uses->second) {
      if (out.insert(used).second) open.push_back(used);
    }
  }
  return out;
}

std::optional<SourceUse> SourceUses::first(const std::set<RelPath>& users, const std::set<RelPath>& givers,
                                           bool any_space) const {
  for (const RelPath& user : users) {
    auto known = index_.sources().find(user);
    if (known == index_.sources().end()) continue;
    std::set<std::string> spaces = csharp::spaces_seen(known->second.names);
    for (const RelPath& giver : givers) {
      auto given = index_.sources().find(giver);
      if (given == index_.sources().end() || giver == user) continue;
      if (!any_space && !sees(spaces, known->second.names, given->second.names)) continue;
      for (const std::string& name : given->second.names.types) {
        bool is_own = known->second.names.types.contains(name);
        if (!is_own && known->second.names.words.contains(name)) return SourceUse{user, giver, name};
      }
    }
  }
  return std::nullopt;
}

std::optional<SourceUse> SourceUses::first_hidden(const TreeReader& tree, const std::set<RelPath>& users,
                                                  const std::set<RelPath>& givers) const {
  for (const RelPath& giver : givers) {
    auto bytes = tree.read(giver);
    if (!bytes) continue;
    for (const std::string& name : csharp::hidden_names(**bytes)) {
      for (const RelPath& user : users) {
        auto known = index_.sources().find(user);
        bool is_used = known != index_.sources().end() && known->second.names.words.contains(name) &&
                       !known->second.names.types.contains(name);
        if (is_used && first({user}, {giver}, false)) return SourceUse{user, giver, name};
      }
    }
  }
  return std::nullopt;
}

}  // namespace yc::msbuild
