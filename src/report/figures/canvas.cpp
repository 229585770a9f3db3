#include "report/figures/canvas.h"

#include <cairo/cairo.h>
#include <fmt/format.h>
#include <graphviz/gvc.h>

#include <cmath>
#include <memory>
#include <pugixml.hpp>
#include <sstream>

namespace yc::report {

namespace {

constexpr const char* kFont = "DejaVu Sans";

std::string numeral(double value) {
  std::string out = fmt::format("{:.1f}", value);
  if (out.ends_with(".0")) out.resize(out.size() - 2);
  return out;
}

std::string path_of(const std::vector<Point>& points, bool curved) {
  std::string out;
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (i == 0) out += "M";
    if (i == 1) out += curved ? "C" : "L";
    out += numeral(points[i].x) + " " + numeral(points[i].y) + (i + 1 < points.size() && i > 0 ? " " : "");
  }
  return out;
}

void set_stroke(pugi::xml_node node, const Stroke& stroke) {
  node.append_attribute("stroke") = stroke.color.c_str();
  if (stroke.width != 1) node.append_attribute("stroke-width") = numeral(stroke.width).c_str();
  if (stroke.dashed) node.append_attribute("stroke-dasharray") = "5 3";
}

void set_color(cairo_t* out, const std::string& color) {
  auto part = [&](std::size_t at) { return std::stoi(color.substr(at, 2), nullptr, 16) / 255.0; };
  cairo_set_source_rgb(out, part(1), part(3), part(5));
}

void set_font(cairo_t* out, double size, bool bold) {
  cairo_select_font_face(out, kFont, CAIRO_FONT_SLANT_NORMAL,
                         bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
  cairo_set_font_size(out, size);
}

void stroke_path(cairo_t* out, const Stroke& stroke) {
  const double dashes[] = {5, 3};
  set_color(out, stroke.color);
  cairo_set_line_width(out, stroke.width);
  cairo_set_dash(out, dashes, stroke.dashed ? 2 : 0, 0);
  cairo_stroke(out);
}

struct SurfaceDrawing {
  explicit SurfaceDrawing(double width, double height)
      : surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, static_cast<int>(std::ceil(width)),
                                           static_cast<int>(std::ceil(height))),
                cairo_surface_destroy),
        out(cairo_create(surface.get()), cairo_destroy) {}
  std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface;
  std::unique_ptr<cairo_t, void (*)(cairo_t*)> out;
};

}  // namespace

Canvas::Canvas(double width, double height, std::string title, std::string description)
    : width_(width), height_(height), title_(std::move(title)), description_(std::move(description)) {}

void Canvas::box(double x, double y, double width, double height, const std::string& fill,
                 const Stroke& stroke, double round, const std::string& tip) {
  Shape shape{Shape::Kind::box, {{x, y}, {width, height}}, fill, "", tip, stroke, {}, round};
  shapes_.push_back(std::move(shape));
}

void Canvas::line(const std::vector<Point>& points, const Stroke& stroke, bool arrow) {
  shapes_.push_back({Shape::Kind::line, points, "", "", "", stroke, {}, 0});
  if (arrow && points.size() > 1) head_at(points[points.size() - 2], points.back(), stroke);
}

void Canvas::curve(const std::vector<Point>& points, const Stroke& stroke, bool arrow,
                   const std::string& tip) {
  shapes_.push_back({Shape::Kind::curve, points, "", "", tip, stroke, {}, 0});
  if (arrow && points.size() > 1) head_at(points[points.size() - 2], points.back(), stroke);
}

void Canvas::head_at(const Point& before, const Point& end, const Stroke& stroke) {
  double x = end.x - before.x, y = end.y - before.y, length = std::hypot(x, y);
  if (length == 0) return;
  double size = 5 + stroke.width;
  x /= length, y /= length;
  Point left{end.x - x * size - y * size * 0.5, end.y - y * size + x * size * 0.5};
  Point right{end.x - x * size + y * size * 0.5, end.y - y * size - x * size * 0.5};
  shapes_.push_back({Shape::Kind::head, {left, end, right}, stroke.color, "", "", {}, {}, 0});
}

void Canvas::text(double x, double y, const std::string& text, const Lettering& lettering) {
  shapes_.push_back({Shape::Kind::text, {{x, y}}, "", text, "", {}, lettering, 0});
}

std::string Canvas::svg() const {
  pugi::xml_document document;
  pugi::xml_node root = document.append_child("svg");
  root.append_attribute("xmlns") = "http://www.w3.org/2000/svg";
  root.append_attribute("viewBox") = ("0 0 " + numeral(width_) + " " + numeral(height_)).c_str();
  root.append_attribute("width") = numeral(width_).c_str();
  root.append_attribute("height") = numeral(height_).c_str();
  root.append_attribute("role") = "img";
  root.append_attribute("font-family") = "DejaVu Sans, Verdana, sans-serif";
  root.append_child("title").text().set(title_.c_str());
  root.append_child("desc").text().set(description_.c_str());
  pugi::xml_node paper = root.append_child("rect");
  paper.append_attribute("width") = "100%";
  paper.append_attribute("height") = "100%";
  paper.append_attribute("fill") = ink::kPaper;
  for (const Shape& shape : shapes_) {
    const Point& at = shape.points.front();
    if (shape.kind == Shape::Kind::box) {
      pugi::xml_node node = root.append_child("rect");
      node.append_attribute("x") = numeral(at.x).c_str();
      node.append_attribute("y") = numeral(at.y).c_str();
      node.append_attribute("width") = numeral(shape.points[1].x).c_str();
      node.append_attribute("height") = numeral(shape.points[1].y).c_str();
      if (shape.round > 0) node.append_attribute("rx") = numeral(shape.round).c_str();
      node.append_attribute("fill") = shape.fill.empty() ? "none" : shape.fill.c_str();
      if (shape.stroke.width > 0) set_stroke(node, shape.stroke);
      if (!shape.tip.empty()) node.append_child("title").text().set(shape.tip.c_str());
    } else if (shape.kind == Shape::Kind::text) {
      pugi::xml_node node = root.append_child("text");
      node.append_attribute("x") = numeral(at.x).c_str();
      node.append_attribute("y") = numeral(at.y).c_str();
      node.append_attribute("font-size") = numeral(shape.lettering.size).c_str();
      node.append_attribute("fill") = shape.lettering.color.c_str();
      if (shape.lettering.bold) node.append_attribute("font-weight") = "bold";
      if (shape.lettering.anchor != Lettering::Anchor::begin)
        node.append_attribute("text-anchor") =
            shape.lettering.anchor == Lettering::Anchor::middle ? "middle" : "end";
      if (shape.lettering.turned != 0)
        node.append_attribute("transform") =
            fmt::format("rotate({} {} {})", numeral(shape.lettering.turned), numeral(at.x), numeral(at.y))
                .c_str();
      node.text().set(shape.text.c_str());
    } else {
      pugi::xml_node node = root.append_child("path");
      node.append_attribute("d") = path_of(shape.points, shape.kind == Shape::Kind::curve).c_str();
      node.append_attribute("fill") = shape.fill.empty() ? "none" : shape.fill.c_str();
      if (shape.kind != Shape::Kind::head) set_stroke(node, shape.stroke);
      if (!shape.tip.empty()) node.append_child("title").text().set(shape.tip.c_str());
    }
  }
  std::ostringstream out;
  document.save(out, "", pugi::format_raw | pugi::format_no_declaration);
  return out.str() + "\n";
}

Result<std::string> Canvas::png() const {
  SurfaceDrawing drawing(width_, height_);
  cairo_t* out = drawing.out.get();
  set_color(out, ink::kPaper);
  cairo_paint(out);
  for (const Shape& shape : shapes_) {
    const Point& at = shape.points.front();
    cairo_new_path(out);
    if (shape.kind == Shape::Kind::box) {
      double right = at.x + shape.points[1].x, low = at.y + shape.points[1].y, round = shape.round;
      constexpr double kQuarter = 1.5707963267948966;
      cairo_arc(out, right - round, at.y + round, round, -kQuarter, 0);
      cairo_arc(out, right - round, low - round, round, 0, kQuarter);
      cairo_arc(out, at.x + round, low - round, round, kQuarter, 2 * kQuarter);
      cairo_arc(out, at.x + round, at.y + round, round, 2 * kQuarter, 3 * kQuarter);
      cairo_close_path(out);
      if (!shape.fill.empty()) {
        set_color(out, shape.fill);
        cairo_fill_preserve(out);
      }
      if (shape.stroke.width > 0) stroke_path(out, shape.stroke);
    } else if (shape.kind == Shape::Kind::text) {
      const Lettering& look = shape.lettering;
      set_font(out, look.size, look.bold);
      set_color(out, look.color);
      double wide =
          look.anchor == Lettering::Anchor::begin ? 0 : text_width(shape.text, look.size, look.bold);
      if (look.anchor == Lettering::Anchor::middle) wide /= 2;
      cairo_save(out);
      cairo_translate(out, at.x, at.y);
      cairo_rotate(out, look.turned * 3.14159265358979 / 180);
      cairo_move_to(out, -wide, 0);
      cairo_show_text(out, shape.text.c_str());
      cairo_restore(out);
    } else {
      cairo_move_to(out, at.x, at.y);
      const std::vector<Point>& points = shape.points;
      if (shape.kind == Shape::Kind::curve) {
        for (std::size_t i = 1; i + 2 < points.size(); i += 3)
          cairo_curve_to(out, points[i].x, points[i].y, points[i + 1].x, points[i + 1].y, points[i + 2].x,
                         points[i + 2].y);
      } else {
        for (std::size_t i = 1; i < points.size(); ++i) cairo_line_to(out, points[i].x, points[i].y);
      }
      if (shape.kind == Shape::Kind::head) {
        set_color(out, shape.fill);
        cairo_fill(out);
      } else {
        stroke_path(out, shape.stroke);
      }
    }
  }
  std::string bytes;
  auto write = [](void* to, const unsigned char* data, unsigned size) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), size);
    return CAIRO_STATUS_SUCCESS;
  };
  if (cairo_surface_write_to_png_stream(drawing.surface.get(), write, &bytes) != CAIRO_STATUS_SUCCESS)
    return Error{Failure::io, "figure", "could not be drawn as PNG", "write it as SVG instead"};
  return bytes;
}

std::vector<std::pair<std::string, std::string>> drawing_versions() {
  std::unique_ptr<GVC_t, int (*)(GVC_t*)> context(gvContext(), gvFreeContext);
  return {{"Cairo", cairo_version_string()}, {"Graphviz", context ? gvcVersion(context.get()) : ""}};
}

double text_width(const std::string& text, double size, bool bold) {
  static thread_local SurfaceDrawing measure(1, 1);
  set_font(measure.out.get(), size, bold);
  cairo_text_extents_t extents;
  cairo_text_extents(measure.out.get(), text.c_str(), &extents);
  return extents.x_advance;
}

std::string fitted(const std::string& text, double size, double width) {
  if (text_width(text, size) <= width) return text;
  // Whole characters go, from the middle.
  auto begins = [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; };
  std::size_t left = text.size() / 2, right = left;
  while (left > 0 || right < text.size()) {
    if (left > 0) --left;
    while (left > 0 && !begins(text[left])) --left;
    if (right < text.size()) ++right;
    while (right < text.size() && !begins(text[right])) ++right;
    std::string out = text.substr(0, left) + "…" + text.substr(right);
    if (text_width(out, size) <= width) return out;
  }
  return "…";
}

}  // namespace yc::report
