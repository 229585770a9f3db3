#include "plan/observed_contexts.h"

#include <algorithm>
#include <map>

#include "words/plan.h"

namespace yc {

namespace {

// The folders and files that a compiler's arguments name for its includes.
Context context_of(const TreeReader& tree, const ObservedProcess& process) {
  Context out;
  if (process.folder) out.start = {Space::tree, *process.folder};
  const std::vector<std::string>& words = process.arguments;
  for (std::size_t i = 1; i < words.size(); ++i) {
    for (std::string_view option : {"-iquote", "-isystem", "-idirafter", "-include", "-I"}) {
      if (!words[i].starts_with(option)) continue;
      bool is_apart = words[i].size() == option.size();
      if (is_apart && ++i == words.size()) break;
      auto path = named_by(
          process, is_apart ? std::string_view(words[i]) : std::string_view(words[i]).substr(option.size()));
      if (path && option == "-include" && tree.is_file(*path)) out.forced.push_back(*path);
      if (path && option != "-include" && tree.is_folder(*path))
        out.roots.push_back({{Space::tree, *path}, option == "-iquote"});
      break;
    }
  }
  return out;
}

}  // namespace

std::shared_ptr<const Scopes> observed_contexts(const TreeReader& tree,
                                                const std::vector<Observation>& observations) {
  auto out = std::make_shared<Scopes>();
  std::map<ContextKey, ContextIndex> known;
  std::set<std::pair<RelPath, ContextIndex>> told;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      if (!words::plan::compiler_passes().contains(program_name(process))) continue;
      for (const RelPath& path : process.read) {
        if (!words::plan::unit_endings().contains(path.extension()) || !tree.is_file(path)) continue;
        bool is_named = std::any_of(process.arguments.begin(), process.arguments.end(),
                                    [&](const std::string& word) { return named_by(process, word) == path; });
        if (!is_named) continue;  // it is included by what is compiled
        Context context = context_of(tree, process);
        auto [at, fresh] =
            known.try_emplace(key_of(context), static_cast<ContextIndex>(out->contexts.size()));
        if (fresh) out->contexts.push_back(std::move(context));
        if (told.emplace(path, at->second).second) out->compilations.push_back({path, at->second, -1});
      }
    }
  }
  if (out->compilations.empty()) return nullptr;
  return out;
}

std::shared_ptr<const Scopes> moved_contexts(const std::shared_ptr<const Scopes>& before,
                                             const MoveSet& moves) {
  if (!before) return nullptr;
  auto out = std::make_shared<Scopes>(*before);
  auto moved = [&](Place& place) {
    if (place.space == Space::tree) place.path = moves.map_folder(place.path).value_or(place.path);
  };
  for (Context& context : out->contexts) {
    for (SearchRoot& root : context.roots) moved(root.place);
    for (RelPath& path : context.forced) path = moves.map_file(path);
    moved(context.start);
  }
  for (Compilation& one : out->compilations) one.source = moves.map_file(one.source);
  return out;
}

ReferenceGraph read_observed(const TreeReader& tree, FactsCache& cache,
                             const std::vector<Observation>& observations) {
  return GraphReader(claimed_files(tree), observed_contexts(tree, observations))
      .read(tree, cache, [](const RelPath&) { return false; });
}

}  // namespace yc
