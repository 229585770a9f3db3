// What every figure has around it: a title, a line below it, a legend; the rest is scaled to fit.
#pragma once

#include <string>
#include <vector>

#include "report/figures/canvas.h"

namespace yc::report {

inline constexpr double kFigureWidth = 1280, kFigureHeight = 800;

struct LegendEntry {
  std::string text;
  Stroke stroke;     // of a line, or of a box if there is a fill
  std::string fill;  // of a box
};

class Frame {
 public:
  // What is drawn takes `width` by `height`, and is made smaller where that is too much; never larger.
  Frame(const std::string& title, const std::string& line, double width, double height,
        const std::vector<LegendEntry>& legend);
  Canvas& canvas() { return canvas_; }
  double scale() const { return scale_; }
  Point at(const Point& inside) const;  // of the drawing, on the canvas

 private:
  Canvas canvas_;
  double scale_ = 1;
  Point origin_;
};

}  // namespace yc::report
