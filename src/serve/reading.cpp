#include "serve/reading.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "inspect/reasons.h"
#include "report/reasons.h"
#include "report/text.h"

namespace yc::serve {

namespace {

constexpr std::size_t kMostLocations = 1000;

// What the references at a place lead to in the tree, each once.
std::vector<RelPath> targets_at(const Asked& asked, const RelPath& file, std::uint32_t offset) {
  std::vector<RelPath> out;
  const ReferenceGraph& graph = asked.workspace.graph();
  for (std::size_t i : references_at(asked.workspace, file, offset)) {
    for (const RelPath& target : as_seen(graph, graph.references[i]).targets) {
      if (std::find(out.begin(), out.end(), target) == out.end()) out.push_back(target);
    }
  }
  return out;
}

}  // namespace

json document_links(const Asked& asked, const RelPath& file) {
  const ReferenceGraph& graph = asked.workspace.graph();
  FileTexts texts(asked);
  std::map<Span, std::set<RelPath>> found;
  for (std::size_t i : asked.workspace.standing_in(file)) {
    Seen seen = as_seen(graph, graph.references[i]);
    if (seen.span.size() > 0) found[seen.span].insert(seen.targets.begin(), seen.targets.end());
  }
  json out = json::array();
  for (const auto& [span, targets] : found) {
    if (targets.size() != 1) continue;  // a pattern, or not the same for all who read it: see definition()
    const RelPath& target = *targets.begin();
    std::string name = target.is_root() ? "the root" : target.str();
    out.push_back({{"range", texts.range(file, span)},
                   {"target", asked.uri(target)},
                   {"tooltip", report::printable(name)}});
  }
  return out;
}

json definition(const Asked& asked, const RelPath& file, const json& position) {
  FileTexts texts(asked);
  auto offset = texts.offset(file, position);
  if (!offset) return nullptr;
  json out = json::array();
  for (const RelPath& target : targets_at(asked, file, *offset)) {
    if (out.size() < kMostLocations) out.push_back(texts.location(target, std::nullopt));
  }
  return out.empty() ? json() : out;
}

json references(const Asked& asked, const RelPath& file, const json& position) {
  FileTexts texts(asked);
  auto offset = texts.offset(file, position);
  if (!offset) return nullptr;
  std::vector<RelPath> meant = targets_at(asked, file, *offset);
  if (meant.empty()) meant.push_back(file);
  const ReferenceGraph& graph = asked.workspace.graph();
  std::set<std::pair<RelPath, Span>> found;
  for (const RelPath& path : meant) {
    for (const Seen& seen : neighbours(asked.workspace.tree(), graph, path).incoming) {
      if (seen.has_place && found.size() < kMostLocations) found.emplace(seen.file, seen.span);
    }
  }
  json out = json::array();
  for (const auto& [path, span] : found) out.push_back(texts.location(path, span));
  return out;
}

json hover(const Asked& asked, const RelPath& file, const json& position) {
  FileTexts texts(asked);
  auto offset = texts.offset(file, position);
  const std::string* bytes = texts.bytes(file);
  if (!offset || !bytes) return nullptr;
  const TreeReader& tree = asked.workspace.tree();
  std::vector<Reason> reasons =
      reasons_at(tree, asked.workspace.graph(), file, position_at(*bytes, *offset).line);
  std::erase_if(reasons, [&](const Reason& reason) {
    return !reason.seen.has_place || reason.seen.file != file || *offset < reason.seen.span.begin ||
           *offset > reason.seen.span.end;
  });
  if (reasons.empty()) return nullptr;
  std::string text = report::reasons_text(reasons, tree, {});
  std::vector<RelPath> targets = targets_at(asked, file, *offset);
  if (targets.size() == 1) {
    Neighbours around = neighbours(tree, asked.workspace.graph(), targets.front());
    if (!around.units.empty()) {
      text += "  compiled by ";
      for (std::size_t i = 0; i < around.units.size() && i < 8; ++i)
        text += (i > 0 ? ", " : "") + report::printable(around.units[i]);
      if (around.units.size() > 8) text += fmt::format(" and {} more", around.units.size() - 8);
      text += "\n";
    }
  }
  if (asked.client.takes_markdown) text = "```text\n" + text + "```\n";
  return {{"contents", {{"kind", asked.client.takes_markdown ? "markdown" : "plaintext"}, {"value", text}}},
          {"range", texts.range(file, reasons.front().seen.span)}};
}

}  // namespace yc::serve
