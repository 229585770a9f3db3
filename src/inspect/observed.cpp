#include "inspect/observed.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "plan/explained.h"
#include "words/plan.h"

namespace yc {

namespace {

// The files that each compiled source was seen to include, with its own.
std::map<RelPath, std::set<RelPath>> included_by_source(const std::vector<Observation>& observations) {
  std::map<RelPath, std::set<RelPath>> out;
  for (const Observation& observation : observations) {
    for (const ObservedProcess& process : observation.processes) {
      if (!words::plan::compiler_passes().contains(program_name(process))) continue;
      for (const RelPath& path : process.read) {
        if (words::plan::unit_endings().contains(path.extension()))
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
