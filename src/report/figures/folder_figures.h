// Who names whom, by folders: as a graph and as a matrix. With a move, what that adds and takes away.
#pragma once

#include <optional>

#include "inspect/folder_links.h"
#include "report/figures/canvas.h"

namespace yc::report {

inline constexpr std::size_t kMostFoldersOfGraph = 26, kMostFoldersOfMatrix = 24;  // that can be read

// Nothing if Graphviz's layout is not installed.
std::optional<Canvas> folder_graph(const FolderLinks& links, bool with_move);
Canvas folder_matrix(const FolderLinks& links, bool with_move);
// "41 of 60 pairs cross folders, 35 after the move"
std::string crossing_text(const FolderLinks& links, bool with_move);

}  // namespace yc::report
