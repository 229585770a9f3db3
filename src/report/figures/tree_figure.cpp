#include "report/figures/tree_figure.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "report/figures/frame.h"
#include "report/tree_view.h"

namespace yc::report {

namespace {

constexpr double kRow = 20, kSize = 12.5;
constexpr std::size_t kMostRows = 46;  // that can be read

std::string tone_of(char mark) {
  if (mark == '-' || mark == 'x') return ink::kRed;
  if (mark == '+' || mark == '*') return ink::kBlue;
  if (mark == '~') return "#7a5200";
  return ink::kFaint;
}

std::string word_of(char mark) {
  switch (mark) {
    case '-':
      return "goes";
    case '+':
      return "comes";
    case '~':
      return "edited";
    case '*':
      return "new";
    case 'x':
      return "removed";
    default:
      return "";
  }
}

struct Row {
  TreeLine line;
  std::vector<RelPath> paths;  // that it stands for
  bool is_file = false;
};

// Files beside each other that fare alike are one row, where each by itself would be too many.
std::vector<Row> rows_of(const std::vector<TreeLine>& lines, bool together) {
  std::vector<Row> out;
  auto indent = [](const TreeLine& line) { return line.text.find_first_not_of(' '); };
  for (const TreeLine& line : lines) {
    bool is_file = !line.path.is_root() && !line.text.ends_with("/") && !line.text.ends_with(")");
    bool joins = together && is_file && !out.empty() && out.back().is_file &&
                 out.back().line.mark == line.mark && indent(out.back().line) == indent(line) &&
                 out.back().paths.front().parent() == line.path.parent();
    if (joins) {
      out.back().paths.push_back(line.path);
    } else {
      out.push_back({line, {line.path}, is_file});
    }
  }
  for (Row& row : out) {
    if (row.paths.size() < 2) continue;
    row.line.text += ", " + std::string(row.paths[1].name());
    if (row.paths.size() > 2) row.line.text += fmt::format(" and {} more", row.paths.size() - 2);
  }
  return out;
}

void cut_to_fit(std::vector<Row>& rows) {
  if (rows.size() <= kMostRows) return;
  // What is only counted gives way first.
  std::size_t gone = 0, spare = rows.size() - kMostRows + 1;
  std::erase_if(rows, [&](const Row& row) {
    bool counts = row.line.mark == ' ' && row.line.path.is_root() && gone < spare;
    gone += counts;
    return counts;
  });
  if (rows.size() <= kMostRows) return;
  std::size_t more = rows.size() - kMostRows + 1;
  rows.resize(kMostRows - 1);
  rows.push_back({{fmt::format("… and {} more lines", more), ' ', {}}, {}, false});
}

class Drawing {
 public:
  Drawing(const Plan& plan, std::vector<Row> before, std::vector<Row> after)
      : plan_(plan),
        before_(std::move(before)),
        after_(std::move(after)),
        high_(static_cast<double>(std::max(before_.size(), after_.size()) + 1) * kRow),
        // As wide as the figure is, at the size that its height leaves.
        wide_((kFigureWidth - 60) * std::max(1.0, high_ / kRoom)),
        column_(wide_ * 0.41),
        frame_("The tree before the move and after it",
               count(plan.moves.files().size(), "file moves", "files move") + ", " +
                   count(plan.edits.size(), "file is edited", "files are edited"),
               wide_, high_,
               {{"goes from here", {ink::kRed, 1.4, true}, ink::kPanel},
                {"comes here", {ink::kBlue, 1.4, false}, ink::kPanel},
                {"edited", {"#7a5200", 0.8, false}, "#faf3e3"}}) {}

  Canvas run() {
    Rows before = column(before_, 0, "Before"), after = column(after_, wide_ - column_, "After");
    std::set<std::pair<double, double>> drawn;
    for (const auto& [path, row] : before) {
      auto folder = plan_.moves.map_folder(path);
      RelPath to = plan_.moves.map_file(path) != path ? plan_.moves.map_file(path) : folder.value_or(path);
      auto there = after.find(to);
      if (to == path || there == after.end() || !drawn.emplace(row.y, there->second.y).second) continue;
      Point from = frame_.at({row.end + 4, row.y}), end = frame_.at({there->second.begin, there->second.y});
      Point middle = frame_.at({column_, row.y});
      double bend = (end.x - middle.x) * 0.55;
      if (from.x < middle.x) frame_.canvas().line({from, middle}, {"#9db3c0", 0.8, false});
      frame_.canvas().curve({middle, {middle.x + bend, middle.y}, {end.x - bend, end.y}, end},
                            {ink::kBlue, 1.2, false}, true, path.str() + " -> " + to.str());
    }
    return std::move(frame_.canvas());
  }

 private:
  struct Lies {
    double y = 0, begin = 0, end = 0;
  };
  using Rows = std::map<RelPath, Lies>;

  Rows column(const std::vector<Row>& rows, double left, const std::string& title) {
    Canvas& canvas = frame_.canvas();
    double scale = frame_.scale();
    Rows out;
    Point head = frame_.at({left, kRow * 0.7});
    canvas.text(head.x, head.y, title, {14 * scale, ink::kText, true, Lettering::Anchor::begin, 0});
    for (std::size_t i = 0; i < rows.size(); ++i) {
      const TreeLine& line = rows[i].line;
      double y = kRow * static_cast<double>(i + 1);
      std::size_t indent = line.text.find_first_not_of(' ');
      double x = left + 10 + static_cast<double>(indent) * 9;
      bool is_marked = line.mark != ' ';
      std::string text = fitted(line.text.substr(indent), kSize, left + column_ - x - 66);
      double wide = text_width(text, kSize) + (is_marked ? 66 : 4);
      if (is_marked) {
        Point at = frame_.at({x - 6, y + 1.5});
        canvas.box(at.x, at.y, wide * scale, (kRow - 3) * scale, line.mark == '~' ? "#faf3e3" : ink::kPanel,
                   {tone_of(line.mark), line.mark == '~' ? 0.8 : 1.2, line.mark == '-' || line.mark == 'x'},
                   3);
        Point word = frame_.at({x + wide - 11, y + kRow - 6.5});
        canvas.text(word.x, word.y, word_of(line.mark),
                    {10.5 * scale, tone_of(line.mark), false, Lettering::Anchor::end, 0});
      }
      Point at = frame_.at({x, y + kRow - 6.5});
      canvas.text(at.x, at.y, text,
                  {kSize * scale, is_marked ? ink::kText : ink::kFaint, false, Lettering::Anchor::begin, 0});
      for (const RelPath& path : rows[i].paths)
        if (is_marked) out[path] = {y + kRow / 2, x - 8, x + wide - 6};
    }
    return out;
  }

  static constexpr double kRoom = kFigureHeight - 140;  // what the frame leaves

  const Plan& plan_;
  std::vector<Row> before_, after_;
  double high_, wide_, column_;
  Frame frame_;
};

}  // namespace

Canvas tree_figure(const Plan& plan, const TreeReader& tree) {
  TreeLines lines = tree_lines(plan, tree);
  bool together = std::max(lines.before.size(), lines.after.size()) > kMostRows - 10;
  std::vector<Row> before = rows_of(lines.before, together), after = rows_of(lines.after, together);
  cut_to_fit(before);
  cut_to_fit(after);
  return Drawing(plan, std::move(before), std::move(after)).run();
}

}  // namespace yc::report
