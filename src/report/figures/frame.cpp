#include "report/figures/frame.h"

#include <algorithm>

namespace yc::report {

namespace {

constexpr double kEdge = 28, kTop = 84, kBottom = 56, kLowest = 300;

double scale_for(double width, double height) {
  return std::min({1.0, (kFigureWidth - 2 * kEdge) / std::max(width, 1.0),
                   (kFigureHeight - kTop - kBottom) / std::max(height, 1.0)});
}

// No higher than what is drawn needs.
double height_for(double width, double height) {
  return std::clamp(kTop + height * scale_for(width, height) + kBottom + 16, kLowest, kFigureHeight);
}

}  // namespace

Frame::Frame(const std::string& title, const std::string& line, double width, double height,
             const std::vector<LegendEntry>& legend)
    : canvas_(kFigureWidth, height_for(width, height), title, line), scale_(scale_for(width, height)) {
  double room_x = kFigureWidth - 2 * kEdge, room_y = canvas_.height() - kTop - kBottom;
  origin_ = {kEdge + (room_x - width * scale_) / 2, kTop + (room_y - height * scale_) / 2};
  canvas_.text(kEdge, 40, title, {20, ink::kText, true, Lettering::Anchor::begin, 0});
  canvas_.text(kEdge, 62, fitted(line, 13, room_x), {13, ink::kFaint, false, Lettering::Anchor::begin, 0});
  double x = kEdge, y = canvas_.height() - 24;
  for (const LegendEntry& entry : legend) {
    if (entry.fill.empty()) {
      canvas_.line({{x, y - 4}, {x + 30, y - 4}}, entry.stroke);
    } else {
      canvas_.box(x + 6, y - 13, 18, 16, entry.fill, entry.stroke, 3);
    }
    canvas_.text(x + 38, y, entry.text, {12, ink::kText, false, Lettering::Anchor::begin, 0});
    x += 38 + text_width(entry.text, 12) + 28;
  }
}

Point Frame::at(const Point& inside) const {
  return {origin_.x + inside.x * scale_, origin_.y + inside.y * scale_};
}

}  // namespace yc::report
