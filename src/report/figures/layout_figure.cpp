#include "report/figures/layout_figure.h"

#include <fmt/format.h>

#include <algorithm>

#include "report/figures/frame.h"
#include "report/text.h"

namespace yc::report {

namespace {

constexpr std::size_t kMostRules = 22;
constexpr double kLayoutRow = 34, kName = 420, kBar = 560, kLayoutSize = 12;

std::string name_of_role(const LayoutRule& rule) {
  std::string what;
  for (const std::string& pattern : rule.matches) what += (what.empty() ? "" : ", ") + pattern;
  if (!rule.holds.empty()) what += (what.empty() ? "" : " ") + ("(" + rule.holds + ")");
  return (what.empty() ? "anything" : what) + "  →  " + rule.to;
}

}  // namespace

Canvas layout_figure(const Layout& layout, const std::vector<LayoutRule>& rules) {
  std::vector<std::size_t> out(rules.size()), order;
  std::vector<std::string> first(rules.size());
  for (const Misplaced& one : layout.misplaced) {
    if (++out[one.rule] == 1) first[one.rule] = one.path.str() + " → " + one.place.str();
  }
  for (std::size_t i = 0; i < rules.size(); ++i) order.push_back(i);
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return out[a] > out[b]; });
  std::size_t left_out = order.size() > kMostRules ? order.size() - kMostRules : 0;
  order.resize(order.size() - left_out);
  std::size_t most = 1;
  for (std::size_t rule : order) most = std::max(most, layout.in_place[rule] + out[rule]);
  std::string line =
      fmt::format("{} where the rules want them, {} elsewhere",
                  count(layout.in_place_in_all(), "thing is", "things are"), layout.misplaced.size());
  if (left_out > 0) line += fmt::format("; {} rules with less drift are not drawn", left_out);
  Frame frame("Drift from the layout", line, kName + kBar + 80,
              static_cast<double>(order.size()) * kLayoutRow + 10,
              {{"where it belongs", {ink::kBlue, 0, false}, ink::kBlue},
               {"elsewhere", {ink::kRed, 1.6, true}, "#fbe3d2"}});
  Canvas& canvas = frame.canvas();
  double scale = frame.scale();
  for (std::size_t i = 0; i < order.size(); ++i) {
    std::size_t rule = order[i];
    double y = static_cast<double>(i) * kLayoutRow;
    Point at = frame.at({kName - 10, y + 13});
    canvas.text(at.x, at.y, fitted(printable(name_of_role(rules[rule])), kLayoutSize, kName - 14),
                {kLayoutSize * scale, ink::kText, false, Lettering::Anchor::end, 0});
    double unit = kBar / static_cast<double>(most);
    double good = static_cast<double>(layout.in_place[rule]) * unit,
           bad = static_cast<double>(out[rule]) * unit;
    Point bar = frame.at({kName, y});
    canvas.box(bar.x, bar.y, good * scale, 17 * scale, ink::kBlue, {ink::kBlue, 0, false});
    if (out[rule] > 0)
      canvas.box(bar.x + good * scale, bar.y, std::max(bad, 2.0) * scale, 17 * scale, "#fbe3d2",
                 {ink::kRed, 1.6, true});
    Point number = frame.at({kName + good + bad + 8, y + 13});
    canvas.text(number.x, number.y, fmt::format("{} / {}", layout.in_place[rule], out[rule]),
                {11 * scale, ink::kFaint, false, Lettering::Anchor::begin, 0});
    Point example = frame.at({kName, y + 28});
    if (!first[rule].empty())
      canvas.text(example.x, example.y, fitted(printable(first[rule]), 10, kBar + 60),
                  {10 * scale, ink::kRed, false, Lettering::Anchor::begin, 0});
  }
  return std::move(canvas);
}

}  // namespace yc::report
