#include "plan/focus.h"

#include <algorithm>

#include "formats/capabilities/members.h"
#include "formats/capabilities/words.h"

namespace yc {

namespace {

// A module is named without its ending.
void add_stems(const RelPath& path, std::unordered_set<std::string>& out) {
  std::string name(path.name());
  for (const auto& format : all_that_offer<ShortNames>()) format->add_short_names(path, out);
  while (true) {
    out.insert(name);
    std::size_t dot = name.rfind('.');
    if (dot == std::string::npos || dot == 0) return;
    name.resize(dot);
  }
}

}  // namespace

Focus focus_of(const TreeReader& tree, const MoveSet& moves) {
  Focus out;
  for (const std::vector<Move>* pairs : {&moves.files(), &moves.merged()}) {
    for (const Move& move : *pairs) {
      for (const RelPath& path : {move.from, move.to}) {
        out.files.insert(path);
        out.names.emplace(path.name());
        add_stems(path, out.stems);
      }
    }
  }
  for (const Move& move : moves.files()) {
    RelPath folder = move.from.parent();
    if (!folder.is_root()) out.left.emplace(folder.name());
  }
  // A folder that is made may hide what bears its name.
  for (const Move& move : moves.files()) {
    for (RelPath up = move.to.parent(); !up.is_root() && !tree.is_folder(up); up = up.parent()) {
      out.names.emplace(up.name());
      out.stems.emplace(up.name());
    }
  }
  for (const auto& [folder, image] : moves.folders()) {
    if (image && *image == folder) continue;
    for (const RelPath& path : {folder, image.value_or(folder)}) {
      out.names.emplace(path.name());
      out.stems.emplace(path.name());
    }
  }
  return out;
}

bool moves_a_governor(const MoveSet& moves) {
  auto scopes = all_that_offer<DefinesScope>();
  return std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
    return std::any_of(scopes.begin(), scopes.end(), [&](const auto& scope) {
      return scope->defines_scope(move.from) || scope->defines_scope(move.to);
    });
  });
}

bool edits_shared_text(const ReferenceGraph& graph, const EditMap& edits) {
  if (edits.empty()) return false;
  auto is_edited = [&](const Piece& piece) {
    auto at = edits.find(graph.files.path(piece.file));
    if (at == edits.end()) return false;
    return std::any_of(at->second.items().begin(), at->second.items().end(),
                       [&](const FileEdits::Item& edit) {
                         return edit.span.begin < piece.span.end && piece.span.begin < edit.span.end;
                       });
  };
  for (const Reference& reference : graph.references) {
    if (!formats()[reference.format]->reads_sources()) continue;
    const auto& pieces = reference.text.pieces();
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      bool is_own = i + 1 == pieces.size() && pieces[i].via.empty();
      if (!is_own && pieces[i].has_origin() && is_edited(pieces[i])) return true;
    }
  }
  return false;
}

}  // namespace yc
