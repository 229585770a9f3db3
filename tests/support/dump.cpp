#include "support/dump.h"

#include <set>

#include "formats/format.h"

namespace yc::test {

namespace {

std::string shown(const TracedText& text) {
  std::string out;
  for (const Piece& piece : text.pieces()) {
    bool folder = piece.nature == Piece::Nature::tree_folder || piece.nature == Piece::Nature::build_folder;
    out += piece.nature == Piece::Nature::hole ? "*" : folder ? "@" : piece.text;
  }
  return out;
}

}  // namespace

MemoryTree tree_of(const std::vector<std::pair<std::string, std::string>>& files) {
  MemoryTree tree;
  for (const auto& [path, bytes] : files) tree.write(path, bytes);
  return tree;
}

ReferenceGraph read(const TreeReader& tree) {
  FactsCache cache;
  return read_graph(tree, cache);
}

std::vector<std::string> dump(const ReferenceGraph& graph, Role role) {
  std::set<std::string> out;
  for (const Reference& reference : graph.references) {
    if (reference.role != role) continue;
    std::string targets;
    for (const Target& target : reference.targets) {
      if (target.kind == Target::Kind::tree) targets += " " + target.path.str();
    }
    if (targets.empty()) continue;
    out.insert(shown(reference.text) + " ->" + targets +
               (reference.certainty == Certainty::likely ? " ?" : ""));
  }
  return {out.begin(), out.end()};
}

namespace {

std::string roots_of(const ReferenceGraph& graph, ContextIndex index) {
  if (index == kNoContext) return "nowhere";
  std::string out;
  for (const SearchRoot& root : graph.contexts[static_cast<std::size_t>(index)].roots)
    out += "[" + root.place.path.str() + (root.quoted_only ? " quoted]" : "]");
  return out;
}

std::string place(const ReferenceGraph& graph, FileIndex file, std::uint32_t offset) {
  return file == kNoFile ? "-" : graph.files.path(file).str() + "@" + std::to_string(offset);
}

}  // namespace

std::vector<std::string> compiled(const ReferenceGraph& graph) {
  std::set<std::string> out;
  for (const Compilation& item : graph.compilations)
    out.insert(item.source.str() + " " + roots_of(graph, item.context));
  return {out.begin(), out.end()};
}

std::vector<std::string> everything(const ReferenceGraph& graph) {
  std::set<std::string> out;
  for (const Reference& reference : graph.references) {
    std::string line = std::string(name_of(reference.role)) + " " + shown(reference.text);
    for (const Site& site : reference.construct) line += " by " + place(graph, site.file, site.offset);
    for (const Piece& piece : reference.text.pieces())
      line += " from " + place(graph, piece.file, piece.span.begin);
    for (const Target& target : reference.targets)
      line += " to " + std::to_string(static_cast<int>(target.kind)) + target.path.str();
    for (const InContext& in : reference.contexts)
      line += " in " + roots_of(graph, in.context) + (in.found ? in.target.str() : " nothing");
    line += " " + reference.construct_part.str();
    out.insert(line);
  }
  for (const std::string& line : compiled(graph)) out.insert("compiles " + line);
  return {out.begin(), out.end()};
}

std::vector<std::string> holes(const ReferenceGraph& graph) {
  std::set<std::string> out;
  for (const Hole& hole : graph.holes) out.insert(shown(hole.text));
  return {out.begin(), out.end()};
}

std::vector<std::string> notices(const ReferenceGraph& graph) {
  std::vector<std::string> out;
  for (const Notice& notice : graph.notices) out.push_back(notice.id + " " + notice.file.str());
  return out;
}

}  // namespace yc::test
