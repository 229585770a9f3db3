// Results as text for a terminal. Nothing here reads a disk; what is not printable is shown escaped.
#pragma once

#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "plan/plan.h"
#include "report/positions.h"
#include "tree/tree_reader.h"

namespace yc::report {

struct TextStyle {
  bool color = false;
  bool verbose = false;
};

// Bytes that are not valid UTF-8, and control characters, as \xNN; marks of evaluation as a person would put
// them.
std::string printable(std::string_view text);
std::string strong(const TextStyle& style, const std::string& text);  // bold, where colours are wanted
// "file:line:column", or the file alone.
std::string place_text(const RelPath& file, const std::optional<Span>& span, const Positions& positions);
std::string error_text(const Error& error);
// What moves and each edited line before and after; then what is worth knowing.
constexpr std::size_t kMostMoves = 40;  // that are listed, if nothing is said
std::string plan_text(const Plan& plan, const TreeReader& tree, const TextStyle& style,
                      std::size_t most_moves = kMostMoves);
std::string edits_text(const Plan& plan, const TreeReader& tree, const TextStyle& style);
// What stands in the way of a plan that does not verify.
// What a plan that was carried out in part leaves.
std::string left_text(const Plan& plan, const TreeReader& tree, const TextStyle& style);
std::string unsettled_text(const Plan& plan, const TreeReader& tree, const TextStyle& style);
std::string notices_text(const Plan& plan, const TreeReader& tree, const TextStyle& style);
std::string summary_text(const Plan& plan);
std::string neighbours_text(const Neighbours& found, const TreeReader& tree, const TextStyle& style);
std::string findings_text(const std::vector<Finding>& findings, const TreeReader& tree,
                          const TextStyle& style);
// In grey, where colours are wanted.
std::string faint(const TextStyle& style, const std::string& text);
std::string count(std::size_t number, const char* one, const char* many);

}  // namespace yc::report
