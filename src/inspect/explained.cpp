#include "inspect/explained.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "base/hash.h"
#include "words/inspect.h"

namespace yc {

namespace {

constexpr std::size_t kMostCommand = 120;  // bytes of a command that are shown

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

std::string folder_text(const ObservedProcess& process) {
  return !process.folder ? "" : process.folder->is_root() ? "." : process.folder->str();
}

// Whether a process was told to look into a folder that holds the file, and a reference leads to that folder.
bool folder_told(const ObservedProcess& process, const RelPath& path,
                 const std::unordered_map<RelPath, Explanation>& known) {
  return std::any_of(process.arguments.begin(), process.arguments.end(), [&](const std::string& word) {
    auto folder = named_by(process, word);
    return folder && !folder->is_root() && path.is_within(*folder) && known.contains(*folder);
  });
}

// The files that each compiled source was seen to include, with its own.
std::map<RelPath, std::set<RelPath>> included_by_source(const std::vector<Observation>& observations) {
  std::map<RelPath, std::set<RelPath>> out;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      if (!words::inspect::compiler_passes().contains(program_name(process))) continue;
      for (const RelPath& path : process.read) {
        if (words::inspect::unit_endings().contains(path.extension()))
          out[path].insert(process.read.begin(), process.read.end());
      }
    }
  }
  return out;
}

// Where a compiler found the file that a text names, among those that it read.
std::optional<RelPath> found_elsewhere(const std::string& text, const std::set<RelPath>& read) {
  std::optional<RelPath> out;
  for (const RelPath& path : read) {
    if (path.str() != text && !path.str().ends_with("/" + text)) continue;
    if (out) return std::nullopt;  // two could be meant
    out = path;
  }
  return out;
}

}  // namespace

Explained explain_reads(const TreeReader& tree, const ReferenceGraph& graph,
                        const std::vector<Observation>& observations) {
  Explained out;
  auto known = explanations(graph);
  std::map<RelPath, const ObservedProcess*> readers;
  std::set<RelPath> changed;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      for (const RelPath& path : process.read) readers.try_emplace(path, &process);
    }
    for (const auto& [path, digest] : observation.digests) {
      auto bytes = tree.is_file(path) ? tree.read(path) : Result<Bytes>(Error{});
      if (!bytes || content_hash(**bytes) != digest) changed.insert(path);
    }
  }
  out.changed = changed.size();
  for (const auto& [path, process] : readers) {
    if (!tree.is_file(path)) continue;
    ++out.files;
    auto found = known.find(path);
    Explanation how = found == known.end() ? Explanation::none : found->second;
    if (how == Explanation::certain) {
      ++out.certain;
    } else if (how == Explanation::likely) {
      ++out.likely;
    } else if (folder_told(*process, path, known)) {
      ++out.by_folder;
    } else if (words::inspect::names_that_tools_look_for().contains(path.name())) {
      ++out.by_name;
    } else {
      out.none.push_back(
          {path, program_name(*process), command_text(*process, kMostCommand), folder_text(*process)});
    }
  }
  return out;
}

namespace {

// One finding for what a program reads, since the cause is one.
std::vector<Finding> by_program(const std::vector<UnexplainedRead>& reads) {
  std::map<std::string, std::vector<const UnexplainedRead*>> groups;
  for (const UnexplainedRead& read : reads) groups[read.program].push_back(&read);
  std::vector<Finding> out;
  for (const auto& [program, group] : groups) {
    Finding finding;
    finding.id = "unexplained-read";
    finding.file = group.front()->path;
    for (const UnexplainedRead* read : group) {
      while (!read->path.is_within(finding.file)) finding.file = finding.file.parent();
    }
    const UnexplainedRead& first = *group.front();
    std::string by =
        fmt::format("{}{}", first.command,
                    first.folder.empty() || first.folder == "." ? "" : " (in " + first.folder + ")");
    finding.message =
        group.size() == 1
            ? fmt::format("a build reads it, and no reference says so: {}", by)
            : fmt::format("a build reads {} files here, such as {}, and no reference says so: {}",
                          group.size(), first.path.str(), by);
    out.push_back(std::move(finding));
  }
  return out;
}

}  // namespace

std::vector<Finding> check_observed(const TreeReader& tree, const ReferenceGraph& graph,
                                    const std::vector<Observation>& observations) {
  std::vector<Finding> out = by_program(explain_reads(tree, graph, observations).none);
  auto sources = included_by_source(observations);
  for (const Reference& reference : graph.references) {
    if (reference.role != Role::include || reference.contexts.empty()) continue;
    Seen seen = as_seen(graph, reference);
    auto source = sources.find(seen.file);
    if (!seen.has_place || source == sources.end()) continue;
    bool is_as_said =
        std::any_of(reference.contexts.begin(), reference.contexts.end(), [&](const InContext& one) {
          return one.found && (one.is_made || source->second.contains(one.target));
        });
    auto elsewhere = is_as_said ? std::nullopt : found_elsewhere(seen.text, source->second);
    if (!elsewhere) continue;
    Finding finding;
    finding.id = "found-elsewhere";
    finding.file = seen.file;
    finding.span = seen.span;
    finding.has_place = true;
    finding.message =
        fmt::format("\"{}\" was found at {} by the compiler, which is not where it is said to lead",
                    seen.text, elsewhere->str());
    out.push_back(std::move(finding));
  }
  return out;
}

}  // namespace yc
