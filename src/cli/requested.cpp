#include "cli/requested.h"

#include "cli/input.h"
#include "plan/move_sheet.h"
#include "plan/sidecars.h"

namespace yc::cli {

Result<std::vector<Move>> requested_moves(const Session& session, const TreeReader& tree,
                                          const std::string& command, const std::vector<std::string>& paths,
                                          const std::string& sheet) {
  if (!sheet.empty()) {
    if (!paths.empty()) return Error{Failure::usage, "", "give either --sheet or paths, not both", ""};
    auto text = read_input(sheet);
    if (!text) return text.error();
    auto moves = parse_sheet(*text, sheet, tree);
    return moves ? Result<std::vector<Move>>(with_sidecars(tree, *moves, session.config.sidecars)) : moves;
  }
  if (paths.size() < 2)
    return Error{Failure::usage, "", command + " needs what to move and where to: FROM… TO, or --sheet FILE",
                 ""};
  std::vector<RelPath> from;
  for (std::size_t i = 0; i + 1 < paths.size(); ++i) {
    auto path = path_from_root(session, paths[i]);
    if (!path) return path.error();
    from.push_back(*path);
  }
  auto to = path_from_root(session, paths.back());
  if (!to) return to.error();
  auto moves = moves_from_arguments(tree, from, *to, paths.back().back() == '/');
  return moves ? Result<std::vector<Move>>(with_sidecars(tree, *moves, session.config.sidecars)) : moves;
}

}  // namespace yc::cli
