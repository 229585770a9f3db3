#include "report/figures/graph_layout.h"

#include <fmt/format.h>
#include <graphviz/gvc.h>

#include <memory>
#include <string>

namespace yc::report {

namespace {

constexpr double kPerInch = 72;

void set(void* object, std::string key, std::string value) {
  std::string none;
  agsafeset(object, key.data(), value.data(), none.data());
}

}  // namespace

bool lay_out(GraphShape& graph) {
  std::unique_ptr<GVC_t, int (*)(GVC_t*)> context(gvContext(), gvFreeContext);
  std::string name = "figure";
  Agraph_t* drawn = context ? agopen(name.data(), Agdirected, nullptr) : nullptr;
  if (!drawn) return false;
  set(drawn, "rankdir", "LR");
  set(drawn, "nodesep", "0.16");
  set(drawn, "ranksep", "0.75");
  std::vector<Agnode_t*> nodes;
  for (std::size_t i = 0; i < graph.nodes.size(); ++i) {
    std::string key = "n" + std::to_string(i);
    Agnode_t* node = agnode(drawn, key.data(), 1);
    set(node, "shape", "box");
    set(node, "fixedsize", "true");
    set(node, "label", "");
    set(node, "width", fmt::format("{:.4f}", graph.nodes[i].width / kPerInch));
    set(node, "height", fmt::format("{:.4f}", graph.nodes[i].height / kPerInch));
    nodes.push_back(node);
  }
  std::vector<Agedge_t*> edges;
  for (std::size_t i = 0; i < graph.edges.size(); ++i) {
    std::string key = "e" + std::to_string(i);
    Agedge_t* edge = agedge(drawn, nodes[graph.edges[i].from], nodes[graph.edges[i].to], key.data(), 1);
    set(edge, "weight", std::to_string(static_cast<int>(graph.edges[i].weight)));
    set(edge, "arrowhead", "none");
    edges.push_back(edge);
  }
  bool done = gvLayout(context.get(), drawn, "dot") == 0;
  if (done) {
    boxf bounds = GD_bb(drawn);
    graph.width = bounds.UR.x;
    graph.height = bounds.UR.y;
    for (std::size_t i = 0; i < nodes.size(); ++i)
      graph.nodes[i].middle = {ND_coord(nodes[i]).x, graph.height - ND_coord(nodes[i]).y};
    for (std::size_t i = 0; i < edges.size(); ++i) {
      const splines* drawn_as = ED_spl(edges[i]);
      if (!drawn_as || drawn_as->size == 0) continue;
      const bezier& curve = drawn_as->list[0];
      for (std::size_t k = 0; k < static_cast<std::size_t>(curve.size); ++k)
        graph.edges[i].curve.push_back({curve.list[k].x, graph.height - curve.list[k].y});
    }
    gvFreeLayout(context.get(), drawn);
  }
  agclose(drawn);
  return done;
}

}  // namespace yc::report
