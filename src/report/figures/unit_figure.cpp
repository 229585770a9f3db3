#include "report/figures/unit_figure.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "report/figures/frame.h"
#include "report/figures/graph_layout.h"
#include "report/text.h"

namespace yc::report {

namespace {

constexpr std::size_t kMost = 42;  // nodes that can be read
constexpr double kUnitSize = 12, kSmall = 10, kHeight = 36;

struct UnitNode {
  std::string name, line;
  std::size_t units = 0, files = 0, rebuilt = 0;
};

struct Drawn {
  std::vector<UnitNode> nodes;
  std::set<std::pair<std::size_t, std::size_t>> uses;
};

// The first parts of the folder of a unit's file.
std::string group_of(const UnitInfo& unit, std::size_t parts) {
  RelPath folder = unit.file.parent();
  std::string out;
  for (std::string_view part : folder.components()) {
    if (parts-- == 0) break;
    out += (out.empty() ? "" : "/") + std::string(part);
  }
  return out.empty() ? "(the root)" : out;
}

Drawn grouped(const Impact& impact, const std::set<std::size_t>& rebuilt) {
  Drawn out;
  std::vector<std::size_t> node_of(impact.units.size());
  // By as many parts of folders as leave few enough nodes; each unit by itself if there are few.
  for (std::size_t parts = 7; parts > 0; --parts) {
    out.nodes.clear();
    std::map<std::string, std::size_t> known;
    for (std::size_t i = 0; i < impact.units.size(); ++i) {
      const UnitInfo& unit = impact.units[i];
      bool is_alone = parts == 7;
      std::string key = is_alone ? std::to_string(i) : group_of(unit, parts);
      auto [at, is_new] = known.try_emplace(key, out.nodes.size());
      if (is_new) out.nodes.push_back({is_alone ? unit.name : key, is_alone ? unit.kind : "", 0, 0, 0});
      UnitNode& node = out.nodes[at->second];
      ++node.units;
      node.files += unit.members.size();
      node.rebuilt += rebuilt.contains(i);
      node_of[i] = at->second;
    }
    if (out.nodes.size() <= kMost) break;
  }
  for (UnitNode& node : out.nodes)
    node.line = node.units == 1 && !node.line.empty()
                    ? node.line + ", " + count(node.files, "file", "files")
                    : count(node.units, "unit", "units") + ", " + count(node.files, "file", "files");
  for (std::size_t i = 0; i < impact.units.size(); ++i) {
    for (std::size_t used : impact.units[i].uses) {
      if (node_of[i] != node_of[used]) out.uses.emplace(node_of[i], node_of[used]);
    }
  }
  return out;
}

}  // namespace

std::optional<Canvas> unit_figure(const Impact& impact) {
  std::set<std::size_t> rebuilt;
  for (std::size_t i = 0; i < impact.units.size(); ++i) {
    bool is_rebuilt = std::any_of(impact.rebuilt.begin(), impact.rebuilt.end(), [&](const Impact::Row& row) {
      return row.unit == impact.units[i].name && row.kind == impact.units[i].kind;
    });
    if (is_rebuilt) rebuilt.insert(i);
  }
  Drawn drawn = grouped(impact, rebuilt);
  GraphShape shape;
  for (const UnitNode& node : drawn.nodes) {
    double wide = std::max(text_width(fitted(printable(node.name), kUnitSize, 240), kUnitSize, true),
                           text_width(node.line, kSmall));
    shape.nodes.push_back({wide + 22, kHeight, {}});
  }
  for (const auto& [from, to] : drawn.uses) shape.edges.push_back({from, to, 1, {}});
  if (!lay_out(shape)) return std::nullopt;
  std::string line = count(impact.units.size(), "unit", "units");
  if (impact.files > 0)
    line +=
        ", " + std::to_string(rebuilt.size()) + " rebuilt if " +
        (impact.files == 1 ? "the file changes" : "the " + std::to_string(impact.files) + " files change");
  Frame frame("Build units and who uses whom", line, shape.width, shape.height,
              {{"uses", {ink::kFaint, 1.3, false}, ""},
               {"rebuilt", {ink::kRed, 2.4, false}, "#fbe3d2"},
               {"not rebuilt", {ink::kFaint, 1, false}, ink::kPanel}});
  Canvas& canvas = frame.canvas();
  for (const GraphShape::Edge& edge : shape.edges) {
    std::vector<Point> points = edge.curve;
    if (points.size() < 4) continue;
    for (Point& point : points) point = frame.at(point);
    canvas.curve(points, {ink::kFaint, 1.3, false}, true,
                 drawn.nodes[edge.from].name + " uses " + drawn.nodes[edge.to].name);
  }
  double scale = frame.scale();
  for (std::size_t i = 0; i < shape.nodes.size(); ++i) {
    const UnitNode& node = drawn.nodes[i];
    Point middle = frame.at(shape.nodes[i].middle);
    double wide = shape.nodes[i].width * scale, high = kHeight * scale;
    bool marked = node.rebuilt > 0;
    canvas.box(middle.x - wide / 2, middle.y - high / 2, wide, high, marked ? "#fbe3d2" : ink::kPanel,
               {marked ? ink::kRed : ink::kFaint, marked ? 2.4 : 1, false}, 5 * scale);
    canvas.text(middle.x, middle.y - 2 * scale, fitted(printable(node.name), kUnitSize, 240),
                {kUnitSize * scale, ink::kText, true, Lettering::Anchor::middle, 0});
    canvas.text(middle.x, middle.y + 11.5 * scale, node.line,
                {kSmall * scale, ink::kFaint, false, Lettering::Anchor::middle, 0});
  }
  return std::move(canvas);
}

}  // namespace yc::report
