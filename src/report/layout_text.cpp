#include "report/layout_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>

namespace yc::report {

namespace {

using Places = std::map<RelPath, const Misplaced*>;

std::string described_layout(const Misplaced& one) {
  std::string kind = one.kind.empty() ? "" : one.kind + ", ";
  return fmt::format("{}from {}{}", kind, printable(one.path.str()),
                     one.is_taken ? " (something is there)" : "");
}

}  // namespace

std::string layout_tree_text(const Layout& layout, const TextStyle& style) {
  // One place may be wanted twice.
  std::multimap<RelPath, const Misplaced*> places;
  for (const Misplaced& one : layout.misplaced) places.emplace(one.place, &one);
  std::size_t width = 0;
  for (const auto& [place, one] : places)
    width =
        std::max(width, 2 * (place.components().size() - 1) + place.name().size() + (one->is_folder ? 1 : 0));
  std::string out;
  RelPath above;
  std::size_t folders = 0, files = 0, taken = 0;
  for (const auto& [place, one] : places) {
    // The folders that it lies in, as far as they were not shown for the one before.
    std::vector<RelPath> chain;
    for (RelPath up = place.parent(); !up.is_root(); up = up.parent()) chain.push_back(up);
    std::reverse(chain.begin(), chain.end());
    for (const RelPath& folder : chain) {
      if (above.is_within(folder)) continue;
      out += std::string(2 * (folder.components().size() - 1), ' ') +
             strong(style, printable(std::string(folder.name()) + "/")) + "\n";
    }
    above = place.parent();
    std::string name =
        std::string(2 * chain.size(), ' ') + printable(place.name()) + (one->is_folder ? "/" : "");
    out += name + std::string(name.size() < width ? width - name.size() : 0, ' ') + "  " +
           described_layout(*one) + "\n";
    ++(one->is_taken ? taken : one->is_folder ? folders : files);
  }
  std::string what;
  auto add = [&](std::size_t number, const char* one, const char* many) {
    if (number > 0) what += (what.empty() ? "" : " and ") + count(number, one, many);
  };
  add(folders, "folder", "folders");
  add(files, "file", "files");
  bool is_one = folders + files == 1;
  out += what.empty() ? "Nothing would move" : what + (is_one ? " would move" : " would move");
  out += fmt::format("; {} where the rules want {}.\n",
                     count(layout.in_place_in_all(), "thing is", "things are"),
                     layout.in_place_in_all() == 1 ? "it" : "them");
  if (taken > 0)
    out += fmt::format("{} somewhere that something else takes, and would stay.\n",
                       count(taken, "thing belongs", "things belong"));
  return out;
}

std::string layout_json(const Layout& layout) {
  nlohmann::json out;
  out["in-place"] = layout.in_place_in_all();
  out["moves"] = nlohmann::json::array();
  for (const Misplaced& one : layout.misplaced) {
    out["moves"].push_back({{"from", printable(one.path.str())},
                            {"to", printable(one.place.str())},
                            {"is", one.kind},
                            {"folder", one.is_folder},
                            {"taken", one.is_taken}});
  }
  return out.dump(2) + "\n";
}

}  // namespace yc::report
