// Shapes of a figure, as SVG (SVG 1.1, W3C) or PNG. Lengths are in pixels, from the upper left corner.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "base/result.h"

namespace yc::report {

// Colours that people with any kind of colour vision tell apart (M. Okabe and K. Ito, "Color Universal
// Design", 2008), each with a lightness of its own, so that grey print keeps them apart too.
namespace ink {
inline constexpr const char* kText = "#1b2a33";
inline constexpr const char* kFaint = "#5b6770";
inline constexpr const char* kPaper = "#ffffff";
inline constexpr const char* kPanel = "#eef2f4";
inline constexpr const char* kBlue = "#0072b2";
inline constexpr const char* kOrange = "#e69f00";
inline constexpr const char* kRed = "#b43c00";
inline constexpr const char* kGreen = "#00805c";
}  // namespace ink

struct Stroke {
  std::string color = ink::kFaint;
  double width = 1;
  bool dashed = false;
};

struct Lettering {
  double size = 12;
  std::string color = ink::kText;
  bool bold = false;
  enum class Anchor { begin, middle, end } anchor = Anchor::begin;
  double turned = 0;  // degrees, clockwise, around the point where it stands
};

struct Point {
  double x = 0, y = 0;
};

class Canvas {
 public:
  // The title and the description are for those who do not see the figure.
  Canvas(double width, double height, std::string title, std::string description);

  // An empty fill leaves what is below.
  void box(double x, double y, double width, double height, const std::string& fill, const Stroke& stroke,
           double round = 0, const std::string& tip = "");
  void line(const std::vector<Point>& points, const Stroke& stroke, bool arrow = false);
  // Cubic Bézier curves: a point, then three for each curve.
  void curve(const std::vector<Point>& points, const Stroke& stroke, bool arrow = false,
             const std::string& tip = "");
  // The base line begins, ends or has its middle at the point.
  void text(double x, double y, const std::string& text, const Lettering& lettering = {});

  double width() const { return width_; }
  double height() const { return height_; }
  std::string svg() const;
  Result<std::string> png() const;  // its bytes

 private:
  struct Shape {
    enum class Kind { box, line, curve, text, head } kind = Kind::box;
    std::vector<Point> points;  // of a box its corner and its size
    std::string fill, text, tip;
    Stroke stroke;
    Lettering lettering;
    double round = 0;
  };
  void head_at(const Point& before, const Point& end, const Stroke& stroke);

  double width_, height_;
  std::string title_, description_;
  std::vector<Shape> shapes_;
};

// The versions of what draws figures.
std::vector<std::pair<std::string, std::string>> drawing_versions();
// The width that a text takes.
double text_width(const std::string& text, double size, bool bold = false);
// A text that takes at most so much, its middle left out where it is longer.
std::string fitted(const std::string& text, double size, double width);

}  // namespace yc::report
