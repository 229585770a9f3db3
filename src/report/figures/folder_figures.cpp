#include "report/figures/folder_figures.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "report/figures/frame.h"
#include "report/figures/graph_layout.h"
#include "report/text.h"

namespace yc::report {

namespace {

constexpr double kNodeHeight = 26, kLabel = 12;

enum class Change { same, added, gone };

Change change_of(const FolderLink& link, bool with_move) {
  if (!with_move || (link.before > 0 && link.after > 0)) return Change::same;
  return link.before == 0 ? Change::added : Change::gone;
}

Stroke stroke_of(Change change, std::size_t number) {
  double width = std::min(1 + std::log2(static_cast<double>(std::max<std::size_t>(number, 1))) * 0.35, 3.8);
  if (change == Change::added) return {ink::kBlue, width + 1, false};
  if (change == Change::gone) return {ink::kRed, width + 0.5, true};
  return {"#8a97a0", width, false};
}

std::string shown(const std::string& folder) {
  return folder == "." ? "(the root)" : folder == "./…" ? "(the root)/…" : printable(folder);
}

std::string described(const FolderLinks& links, const FolderLink& link, bool with_move) {
  std::string out =
      fmt::format("{} -> {}: {}", links.folders[link.from], links.folders[link.to], link.before);
  return with_move && link.after != link.before ? out + fmt::format(", {} after the move", link.after) : out;
}

std::vector<LegendEntry> legend(bool with_move) {
  std::vector<LegendEntry> out = {{"names files of", stroke_of(Change::same, 2), ""},
                                  {"/… takes in the folders below", {ink::kPaper, 0, false}, ""}};
  if (!with_move) return out;
  out.push_back({"the move adds it", stroke_of(Change::added, 2), ""});
  out.push_back({"the move takes it away", stroke_of(Change::gone, 2), ""});
  return out;
}

}  // namespace

std::string crossing_text(const FolderLinks& links, bool with_move) {
  std::string out = fmt::format("{} of {} pairs of files that name each other are in different folders",
                                links.crossing_before, links.pairs);
  return with_move ? out + fmt::format("; {} after the move", links.crossing_after) : out;
}

namespace {

// The links that are drawn: what a move changes first, then the heaviest.
std::vector<const FolderLink*> heaviest(const FolderLinks& links, bool with_move, std::size_t most) {
  std::vector<const FolderLink*> out;
  for (const FolderLink& link : links.links) {
    if (link.from != link.to) out.push_back(&link);
  }
  std::stable_sort(out.begin(), out.end(), [&](const FolderLink* one, const FolderLink* other) {
    bool is_changed = change_of(*one, with_move) != Change::same;
    bool other_is = change_of(*other, with_move) != Change::same;
    if (is_changed != other_is) return is_changed;
    return std::max(one->before, one->after) > std::max(other->before, other->after);
  });
  if (out.size() > most) out.resize(most);
  return out;
}

GraphShape shape_of(const FolderLinks& links, const std::vector<const FolderLink*>& drawn) {
  GraphShape out;
  for (const std::string& folder : links.folders)
    out.nodes.push_back({text_width(shown(folder), kLabel) + 18, kNodeHeight, {}});
  for (const FolderLink* link : drawn) {
    auto weight = static_cast<double>(std::max(link->before, link->after));
    out.edges.push_back({link->from, link->to, std::min(weight, 20.0), {}});
  }
  return out;
}

}  // namespace

std::optional<Canvas> folder_graph(const FolderLinks& links, bool with_move) {
  std::vector<const FolderLink*> drawn = heaviest(links, with_move, links.links.size());
  std::size_t all = drawn.size();
  GraphShape shape = shape_of(links, drawn);
  if (!lay_out(shape)) return std::nullopt;
  // As many as leave names that can be read.
  constexpr double kWide = kFigureWidth - 56, kHigh = kFigureHeight - 140, kSmallest = 0.78;
  constexpr std::size_t kFewest = 24;
  while ((shape.width * kSmallest > kWide || shape.height * kSmallest > kHigh) && drawn.size() > kFewest) {
    drawn.resize(std::max(kFewest, drawn.size() * 3 / 4));
    shape = shape_of(links, drawn);
    lay_out(shape);
  }
  std::string line = crossing_text(links, with_move);
  if (drawn.size() < all) line += fmt::format(". The heaviest {} of {} links are drawn", drawn.size(), all);
  Frame frame("Which folders name files of which", line, shape.width, shape.height, legend(with_move));
  Canvas& canvas = frame.canvas();
  auto placed = [&](std::vector<Point> points) {
    for (Point& point : points) point = frame.at(point);
    return points;
  };
  for (std::size_t i = 0; i < drawn.size(); ++i) {
    if (shape.edges[i].curve.size() < 4) continue;
    Change change = change_of(*drawn[i], with_move);
    std::size_t number = std::max(drawn[i]->before, drawn[i]->after);
    canvas.curve(placed(shape.edges[i].curve), stroke_of(change, number), true,
                 described(links, *drawn[i], with_move));
  }
  for (std::size_t i = 0; i < shape.nodes.size(); ++i) {
    const GraphShape::Node& node = shape.nodes[i];
    Point middle = frame.at(node.middle);
    double wide = node.width * frame.scale(), high = node.height * frame.scale();
    canvas.box(middle.x - wide / 2, middle.y - high / 2, wide, high, ink::kPanel, {ink::kFaint, 1, false},
               5 * frame.scale());
    canvas.text(middle.x, middle.y + 4.2 * frame.scale(), shown(links.folders[i]),
                {kLabel * frame.scale(), ink::kText, false, Lettering::Anchor::middle, 0});
  }
  return std::move(canvas);
}

Canvas folder_matrix(const FolderLinks& links, bool with_move) {
  double names = 0, size = 11;
  for (const std::string& folder : links.folders) names = std::max(names, text_width(shown(folder), size));
  names = std::min(names, 260.0) + 10;
  auto count = static_cast<double>(std::max<std::size_t>(links.folders.size(), 1));
  double cell = std::clamp((kFigureHeight - 150 - names * 0.75) / count, 15.0, 34.0);
  std::vector<LegendEntry> entries = {
      {"pairs of files: the row's folder names files of the column's", {}, "#9cc7e3"}};
  if (with_move) {
    entries.push_back({"more after the move", {ink::kBlue, 2.5, false}, ""});
    entries.push_back({"fewer after the move", {ink::kRed, 2.5, true}, ""});
  }
  Frame frame("Which folders name files of which", crossing_text(links, with_move),
              names + count * cell + names * 0.6, names * 0.75 + count * cell, entries);
  Canvas& canvas = frame.canvas();
  double scale = frame.scale();
  auto put = [&](double x, double y) { return frame.at({x, y}); };
  std::size_t most = 1;
  for (const FolderLink& link : links.links) most = std::max({most, link.before, link.after});
  for (std::size_t i = 0; i < links.folders.size(); ++i) {
    double place = static_cast<double>(i) * cell;
    Point row = put(names - 6, names * 0.75 + place + cell * 0.65);
    std::string name = fitted(shown(links.folders[i]), size, names - 10);
    canvas.text(row.x, row.y, name, {size * scale, ink::kText, false, Lettering::Anchor::end, 0});
    Point column = put(names + place + cell * 0.65, names * 0.75 - 5);
    canvas.text(column.x, column.y, name, {size * scale, ink::kText, false, Lettering::Anchor::begin, -48});
    for (std::size_t k = 0; k < links.folders.size(); ++k) {
      Point at = put(names + static_cast<double>(k) * cell, names * 0.75 + place);
      canvas.box(at.x, at.y, cell * scale, cell * scale, i == k ? "#e2e7ea" : "", {"#d3dadf", 0.6, false});
    }
  }
  for (const FolderLink& link : links.links) {
    Point at = put(names + static_cast<double>(link.to) * cell,
                   names * 0.75 + static_cast<double>(link.from) * cell);
    std::size_t number = with_move ? link.after : link.before;
    double share = std::log2(1.0 + static_cast<double>(number)) / std::log2(1.0 + static_cast<double>(most));
    auto tone = [&](int light, int dark) { return static_cast<int>(light + (dark - light) * share); };
    std::string fill =
        number == 0 ? "" : fmt::format("#{:02x}{:02x}{:02x}", tone(222, 0), tone(236, 84), tone(246, 140));
    bool more = with_move && link.after > link.before, fewer = with_move && link.after < link.before;
    Stroke stroke = more    ? Stroke{ink::kBlue, 2.5, false}
                    : fewer ? Stroke{ink::kRed, 2.5, true}
                            : Stroke{"#d3dadf", 0.6, false};
    double inset = more || fewer ? 1.5 : 0;
    canvas.box(at.x + inset, at.y + inset, cell * scale - 2 * inset, cell * scale - 2 * inset, fill, stroke,
               0, described(links, link, with_move));
    std::string text = std::to_string(number);
    if (more) text += "+";
    if (fewer) text += "−";
    double letters =
        std::min(11.0, cell * 0.95 / std::max<double>(static_cast<double>(text.size()) * 0.6, 1)) * scale;
    if (cell >= 15)
      canvas.text(at.x + cell * scale / 2, at.y + cell * scale / 2 + letters * 0.36, text,
                  {letters, share > 0.45 ? ink::kPaper : ink::kText, false, Lettering::Anchor::middle, 0});
  }
  return std::move(canvas);
}

}  // namespace yc::report
