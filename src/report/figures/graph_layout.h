// Where the nodes and edges of a graph are drawn; Graphviz lays it out.
#pragma once

#include <optional>
#include <vector>

#include "report/figures/canvas.h"

namespace yc::report {

struct GraphShape {
  struct Node {
    double width = 0, height = 0;
    Point middle = {};  // where it comes to lie
  };
  struct Edge {
    std::size_t from = 0, to = 0;
    double weight = 1;
    std::vector<Point> curve = {};  // as Canvas::curve() takes it
  };
  std::vector<Node> nodes;
  std::vector<Edge> edges;
  double width = 0, height = 0;
};
// From left to right. False if Graphviz's layout is not installed.
bool lay_out(GraphShape& graph);

}  // namespace yc::report
