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
