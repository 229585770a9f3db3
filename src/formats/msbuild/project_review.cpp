#include "formats/msbuild/project_review.h"

#include <fmt/format.h>

#include <deque>

#include "formats/csharp_names/type_index.h"
#include "formats/msbuild/project_files.h"

namespace yc::msbuild {

namespace {

class Review {
 public:
  Review(const TreeView& view, std::uint8_t format) : view_(view), index_(view.tree) { collect(format); }

  std::vector<Remark> run() {
    for (const auto& [project, sources] : sources_) {
      missing(project, sources);
      twice(project, sources);
    }
    return std::move(out_);
  }

 private:
  // A source of a project, and where it is listed.
  using Sources = std::map<RelPath, Standing>;

  void collect(std::uint8_t format) {
    for (const Reference& reference : view_.graph.references) {
      if (reference.format != format || reference.excludes || reference.construct.empty()) continue;
      const RelPath& project = view_.graph.files.path(reference.construct.front().file);
      Standing at = standing_of(reference);
      for (const Target& target : reference.targets) {
        if (target.kind != Target::Kind::tree || target.path.extension() != ".cs") continue;
        if (is_project(project)) sources_[project].emplace(target.path, at);
        const RelPath& list = view_.graph.files.path(at.file);
        if (list.extension() == ".projitems") shared_[target.path].insert(list);
      }
    }
    for (const Boundary& boundary : view_.graph.boundaries)
      uses_[boundary.file].insert(boundary.uses.begin(), boundary.uses.end());
  }

  // The sources of the projects that this one comes to by references.
  bool is_seen(const RelPath& project, const std::set<RelPath>& givers) const {
    std::set<RelPath> known = {project};
    for (std::deque<RelPath> open = {project}; !open.empty(); open.pop_front()) {
      auto sources = sources_.find(open.front());
      for (const RelPath& giver : givers) {
        if (sources != sources_.end() && sources->second.contains(giver)) return true;
      }
      auto uses = uses_.find(open.front());
      for (const RelPath& used : uses == uses_.end() ? std::set<RelPath>() : uses->second) {
        if (known.insert(used).second) open.push_back(used);
      }
    }
    return false;
  }

  // A type that only a shared list of sources gives, and that list is imported by nobody whom the project
  // sees.
  void missing(const RelPath& project, const Sources& sources) {
    std::set<RelPath> told;
    for (const auto& [source, at] : sources) {
      for (const csharp::TypeUse& use : index_.uses_of(source)) {
        auto shared = use.givers.size() == 1 ? shared_.find(*use.givers.begin()) : shared_.end();
        if (shared == shared_.end() || is_seen(project, use.givers)) continue;
        const RelPath& list = *shared->second.begin();
        if (!told.insert(list).second) continue;
        out_.push_back(
            {{"missing-shared-import",
              source,
              {},
              false,
              fmt::format("uses {} of {}, which {} does not import", use.type, list.str(), project.str())},
             list.str(),
             false,
             {}});
      }
    }
  }

  void twice(const RelPath& project, const Sources& sources) {
    std::map<std::pair<std::string, std::string>, Sources::const_iterator> declared;
    for (auto source = sources.begin(); source != sources.end(); ++source) {
      auto known = index_.sources().find(source->first);
      if (known == index_.sources().end()) continue;
      for (const csharp::TypeName& type : known->second.types) {
        if (type.is_partial) continue;
        auto [first, is_new] = declared.emplace(std::pair(type.space, type.name), source);
        if (is_new || first->second == source) continue;
        tell_twice(project, type, *first->second, *source);
      }
    }
  }

  // At the project's own line, if one of the two is listed there.
  void tell_twice(const RelPath& project, const csharp::TypeName& type, const Sources::value_type& one,
                  const Sources::value_type& other) {
    const Standing& at = view_.graph.files.path(one.second.file) == project ? one.second : other.second;
    std::string name = type.space.empty() ? type.name : type.space + "." + type.name;
    out_.push_back({{"declared-twice", view_.graph.files.path(at.file), at.span, true,
                     fmt::format("{} is declared by {} and by {}, and {} has both", name, one.first.str(),
                                 other.first.str(), project.str())},
                    "",
                    false,
                    {}});
  }

  const TreeView& view_;
  csharp::TypeIndex index_;
  std::map<RelPath, Sources> sources_;           // of each project
  std::map<RelPath, std::set<RelPath>> shared_;  // lists of each shared source
  std::map<RelPath, std::set<RelPath>> uses_;    // projects that each refers to
  std::vector<Remark> out_;
};

}  // namespace

std::vector<Remark> review_projects(const TreeView& view, std::uint8_t format) {
  if (view.files.empty()) return {};
  return Review(view, format).run();
}

}  // namespace yc::msbuild
