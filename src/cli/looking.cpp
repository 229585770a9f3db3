#include "cli/looking.h"

#include "cli/input.h"
#include "report/figures/canvas.h"

namespace yc::cli {

Plan planned_to_look(const Session& session, MoveSet moves) {
  PlanOptions options;
  options.timings = session.options.timings;
  options.parts = session.parts;
  options.include_order = session.config.include_order;
  options.alias_from = session.config.alias_from;
  options.accept_unseen = true;
  options.link_units = true;
  options.allow_routes = true;
  return make_plan(*session.tree, std::move(moves), options);
}

Status write_figure(const std::string& file, const report::Canvas& figure) {
  std::string ending = ending_of(file);
  if (ending == ".svg" || file == "-") return write_output(file, figure.svg());
  if (ending != ".png")
    return Error{Failure::usage, file, "is no kind of figure", "end its name in .svg or .png"};
  auto bytes = figure.png();
  return bytes ? write_output(file, *bytes) : Status(bytes.error());
}

Error no_layout(const std::string& file) {
  return {Failure::io, file, "the figure could not be drawn",
          "install graphviz's libraries with their dot layout"};
}

}  // namespace yc::cli
