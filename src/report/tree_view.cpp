#include "report/tree_view.h"

#include <fmt/color.h>
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <map>
#include <memory>

namespace yc::report {

namespace {

constexpr std::size_t kMostLines = 40;

struct Node {
  std::map<std::string, Node> below;
  char mark = ' ';        // of a file, or of a folder that is one line
  std::size_t files = 0;  // of a folder that is one line
  bool is_folder = false;
};

// Columns that a text takes on a terminal, as far as characters are one wide.
std::size_t columns(std::string_view text) {
  return static_cast<std::size_t>(std::count_if(
      text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
}

class Tree {
 public:
  void put(const RelPath& path, char mark, bool is_folder = false, std::size_t files = 0) {
    Node* node = &root_;
    for (std::string_view part : path.components()) {
      node->is_folder = true;
      node = &node->below[std::string(part)];
    }
    // That a file goes or comes says more than that it is edited.
    if (node->mark == ' ' || node->mark == '~') node->mark = mark;
    node->is_folder = is_folder || !node->below.empty();
    node->files = files;
  }

  // `others` tells how many files and folders of a folder are not shown.
  std::vector<TreeLine> lines(const std::function<std::size_t(const RelPath&, const Node&)>& others) const {
    std::vector<TreeLine> out;
    draw(root_, RelPath(), 0, others, out);
    return out;
  }

 private:
  static void draw(const Node& node, const RelPath& path, std::size_t depth,
                   const std::function<std::size_t(const RelPath&, const Node&)>& others,
                   std::vector<TreeLine>& out) {
    std::string indent(depth * 2, ' ');
    for (bool folders : {true, false}) {
      for (const auto& [name, one] : node.below) {
        if (one.is_folder != folders) continue;
        // Folders with nothing else in them share a line.
        std::string text = printable(name);
        const Node* at = &one;
        RelPath place = path / name;
        while (at->is_folder && at->mark == ' ' && at->below.size() == 1 && others(place, *at) == 0 &&
               at->below.begin()->second.is_folder) {
          place = place / at->below.begin()->first;
          text += "/" + printable(at->below.begin()->first);
          at = &at->below.begin()->second;
        }
        if (at->is_folder) text += "/";
        if (at->files > 0) text += fmt::format(" ({})", count(at->files, "file", "files"));
        out.push_back({indent + text, at->mark, place});
        draw(*at, place, depth + 1, others, out);
      }
    }
    std::size_t more = node.mark == ' ' || node.below.size() > 0 ? others(path, node) : 0;
    if (more > 0) out.push_back({indent + fmt::format("… {} more", more), ' '});
  }

  Node root_;
};

// Folders of the tree that move whole, with the places they go to; the outermost ones.
std::map<RelPath, RelPath> whole_folders(const Plan& plan, const TreeReader& tree) {
  std::map<RelPath, RelPath> out;
  for (const Move& move : plan.moves.files()) {
    std::optional<std::pair<RelPath, RelPath>> best;
    for (RelPath up = move.from.parent(); !up.is_root(); up = up.parent()) {
      auto now = plan.moves.map_folder(up);
      bool is_whole = now && *now != up && move.from.is_within(up) && move.to == *now / move.from.below(up);
      if (is_whole) best = {up, *now};
    }
    if (best) out.insert(*best);
  }
  std::erase_if(out, [&](const auto& folder) {
    std::vector<RelPath> files = tree.files_below(folder.first, "*");
    return files.size() < 2 || !std::all_of(files.begin(), files.end(), [&](const RelPath& file) {
             return plan.moves.map_file(file) == folder.second / file.below(folder.first);
           });
  });
  return out;
}

std::string painted(const TextStyle& style, char mark, const std::string& text) {
  if (!style.color || mark == ' ') return text;
  fmt::terminal_color color = mark == '-' || mark == 'x'   ? fmt::terminal_color::red
                              : mark == '+' || mark == '*' ? fmt::terminal_color::green
                                                           : fmt::terminal_color::yellow;
  return fmt::format(fmt::fg(color), "{}", text);
}

std::string line_text(const TextStyle& style, const TreeLine& line) {
  return painted(style, line.mark, fmt::format("{} {}", line.mark, line.text));
}

void cut_lines(std::vector<TreeLine>& lines, const TextStyle& style) {
  if (style.verbose || lines.size() <= kMostLines) return;
  std::size_t more = lines.size() - kMostLines;
  lines.resize(kMostLines);
  lines.push_back({fmt::format("and {} more lines (-v draws all)", more), ' '});
}

}  // namespace

TreeLines tree_lines(const Plan& plan, const TreeReader& tree) {
  Tree before, after;
  std::map<RelPath, RelPath> whole = whole_folders(plan, tree);
  auto in_whole = [&](const RelPath& path) {
    for (RelPath up = path; !up.is_root(); up = up.parent()) {
      if (whole.contains(up)) return true;
    }
    return false;
  };
  for (const auto& [from, to] : whole) {
    std::size_t files = tree.files_below(from, "*").size();
    before.put(from, '-', true, files);
    after.put(to, '+', true, files);
  }
  for (const Move& move : plan.moves.files()) {
    if (in_whole(move.from)) continue;
    before.put(move.from, '-');
    after.put(move.to, '+');
  }
  for (const auto& [file, edits] : plan.edits) {
    if (edits.empty() || in_whole(file)) continue;
    before.put(file, '~');
    after.put(plan.moves.map_file(file), '~');
  }
  for (const RelPath& path : plan.changes.dropped) before.put(path, 'x');
  for (const auto& [path, bytes] : plan.changes.made) after.put(path, '*');
  OverlayTree planned(tree, plan.moves, plan.changes);
  auto others_in = [](const TreeReader& of) {
    return [&of](const RelPath& folder, const Node& node) {
      std::size_t more = 0;
      for (const std::string& name : of.children(folder)) {
        const Entry* entry = of.find(folder / name);
        more += entry && !entry->ignored && !entry->guarded && !node.below.contains(name);
      }
      return node.files > 0 ? std::size_t{0} : more;
    };
  };
  return {before.lines(others_in(tree)), after.lines(others_in(planned))};
}

std::string trees_text(const Plan& plan, const TreeReader& tree, const TextStyle& style, std::size_t width) {
  if (plan.moves.files().empty()) return "";
  TreeLines trees = tree_lines(plan, tree);
  cut_lines(trees.before, style);
  cut_lines(trees.after, style);
  std::size_t left = columns("Before");
  for (const TreeLine& line : trees.before) left = std::max(left, columns(line.text) + 2);
  std::size_t right = columns("After");
  for (const TreeLine& line : trees.after) right = std::max(right, columns(line.text) + 2);
  std::string out;
  if (left + right + 6 > width) {
    out += strong(style, "Before") + "\n";
    for (const TreeLine& line : trees.before) out += "  " + line_text(style, line) + "\n";
    out += strong(style, "After") + "\n";
    for (const TreeLine& line : trees.after) out += "  " + line_text(style, line) + "\n";
    return out;
  }
  out += strong(style, "Before") + std::string(left - columns("Before") + 6, ' ') + strong(style, "After") +
         "\n";
  for (std::size_t i = 0; i < std::max(trees.before.size(), trees.after.size()); ++i) {
    TreeLine one = i < trees.before.size() ? trees.before[i] : TreeLine();
    std::string text = "  " + line_text(style, one) + std::string(left - columns(one.text) - 2, ' ');
    if (i < trees.after.size()) text += "    " + line_text(style, trees.after[i]);
    while (text.ends_with(' ')) text.pop_back();
    out += text + "\n";
  }
  return out;
}

}  // namespace yc::report
