#include "plan/explained.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "base/hash.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::size_t kLongestCommand = 120;  // bytes of a command that are shown

enum class Explanation { none, likely, certain };

// How surely a reference leads to each file.
std::unordered_map<RelPath, Explanation> explanations(const ReferenceGraph& graph) {
  std::unordered_map<RelPath, Explanation> out;
  auto note = [&](const RelPath& path, bool is_sure) {
    Explanation& known = out[path];
    known = std::max(known, is_sure ? Explanation::certain : Explanation::likely);
  };
  for (const Reference& reference : graph.references) {
    if (reference.excludes) continue;
    bool is_sure = reference.certainty == Certainty::certain;
    for (const Target& target : reference.targets) {
      if (target.kind == Target::Kind::tree || target.kind == Target::Kind::made) note(target.path, is_sure);
    }
    for (const InContext& one : reference.contexts) {
      if (one.found && !one.is_made) note(one.target, is_sure && one.doubt == 0);
    }
  }
  return out;
}

std::string shown_folder(const ObservedProcess& process) {
  return !process.folder ? "" : process.folder->is_root() ? "." : process.folder->str();
}

// The folder that holds the file, that a process was told to look into, and that a reference leads to.
std::optional<RelPath> folder_told(const ObservedProcess& process, const RelPath& path,
                                   const std::unordered_map<RelPath, Explanation>& known) {
  for (const std::string& word : process.arguments) {
    auto folder = named_by(process, word);
    if (folder && !folder->is_root() && path.is_within(*folder) && known.contains(*folder)) return folder;
  }
  return std::nullopt;
}

UnexplainedRead unexplained(const Observation& observation, const ObservedProcess& process,
                            const RelPath& path) {
  const ObservedProcess& called = as_called(observation, process);
  return {path, program_name(called), command_text(called, kLongestCommand), shown_folder(called)};
}

bool is_looked_for(const ObservedProcess& process, const RelPath& path) {
  if (words::plan::names_that_tools_look_for().contains(path.name())) return true;
  auto ending = words::plan::folder_sources().find(program_name(process));
  return ending && path.extension() == *ending;
}

}  // namespace

Explained explain_reads(const TreeReader& tree, const ReferenceGraph& graph,
                        const std::vector<Observation>& observations) {
  Explained out;
  auto known = explanations(graph);
  std::map<RelPath, std::pair<const Observation*, const ObservedProcess*>> readers;
  std::set<RelPath> changed;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      for (const RelPath& path : process.read) readers.try_emplace(path, &observation, &process);
    }
    for (const auto& [path, digest] : observation.digests) {
      auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
      if (!bytes || content_hash(**bytes) != digest) changed.insert(path);
    }
  }
  out.changed = changed.size();
  for (const auto& [path, reader] : readers) {
    if (!tree.is_file(path)) continue;
    ++out.files;
    auto found = known.find(path);
    Explanation how = found == known.end() ? Explanation::none : found->second;
    if (how == Explanation::certain) {
      ++out.certain;
    } else if (how == Explanation::likely) {
      ++out.likely;
    } else if (folder_told(*reader.second, path, known)) {
      ++out.by_folder;
    } else if (is_looked_for(*reader.second, path)) {
      ++out.by_name;
    } else {
      out.none.push_back(unexplained(*reader.first, *reader.second, path));
    }
  }
  return out;
}

std::vector<UnexplainedRead> unexplained_moves(const MoveSet& moves, const ReferenceGraph& graph,
                                               const std::vector<Observation>& observations) {
  std::vector<UnexplainedRead> out;
  if (observations.empty()) return out;
  auto known = explanations(graph);
  // A folder that goes elsewhere as a whole takes along what is read by way of it.
  std::erase_if(known, [&](const auto& item) {
    return moves.folders().contains(item.first) && !moves.map_folder(item.first);
  });
  std::set<RelPath> told;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      for (const RelPath& path : process.read) {
        if (!moves.moves(path) || known.contains(path) || told.contains(path)) continue;
        if (is_looked_for(process, path)) continue;
        auto folder = folder_told(process, path, known);
        auto goes_to = folder ? moves.map_folder(*folder) : std::nullopt;
        if (goes_to && *goes_to / path.below(*folder) == moves.map_file(path)) continue;
        told.insert(path);
        out.push_back(unexplained(observation, process, path));
      }
    }
  }
  return out;
}

}  // namespace yc
