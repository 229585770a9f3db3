#include "report/managed.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

namespace yc::report {

namespace {

using sorted_json = nlohmann::json;  // keys in the order of the alphabet

char mark_of(ManagedRow::Kind kind) {
  switch (kind) {
    case ManagedRow::Kind::same:
      return ' ';
    case ManagedRow::Kind::elsewhere:
      return '!';
    case ManagedRow::Kind::unlisted:
      return '+';
    case ManagedRow::Kind::missing:
      return '-';
  }
  return ' ';
}

const char* word_of_kind(ManagedRow::Kind kind) {
  switch (kind) {
    case ManagedRow::Kind::same:
      return "same";
    case ManagedRow::Kind::elsewhere:
      return "elsewhere";
    case ManagedRow::Kind::unlisted:
      return "unlisted";
    case ManagedRow::Kind::missing:
      return "missing";
  }
  return "";
}

std::string shown_text(const ManagedRow& row) {
  if (row.kind == ManagedRow::Kind::unlisted) return "not listed";
  std::string name(row.path.name());
  return row.shown.empty() ? name : row.shown + "/" + name;
}

}  // namespace

std::string managed_text(const std::map<RelPath, std::vector<ManagedRow>>& trees, const TextStyle& style) {
  if (trees.empty()) return "No project here says in which folders it shows its files.\n";
  std::string out;
  std::size_t different = 0;
  for (const auto& [list, rows] : trees) {
    std::size_t width = 0;
    for (const ManagedRow& row : rows) width = std::max(width, printable(row.path.str()).size());
    out += strong(style, printable(list.str())) + "\n";
    out += fmt::format("    {:<{}}  {}\n", "on disk", width, "in the project");
    for (const ManagedRow& row : rows) {
      different += row.kind != ManagedRow::Kind::same;
      out += fmt::format("  {} {:<{}}  {}\n", mark_of(row.kind), printable(row.path.str()), width,
                         printable(shown_text(row)));
    }
  }
  out += different == 0 ? std::string("Both trees are the same.\n")
                        : fmt::format("{}: ! shown in another folder, + not listed, - not on disk\n",
                                      count(different, "difference", "differences"));
  return out;
}

std::string managed_json(const std::map<RelPath, std::vector<ManagedRow>>& trees) {
  sorted_json out = sorted_json::array();
  for (const auto& [list, rows] : trees) {
    sorted_json files = sorted_json::array();
    for (const ManagedRow& row : rows)
      files.push_back({{"path", printable(row.path.str())},
                       {"shown", printable(row.shown)},
                       {"difference", word_of_kind(row.kind)}});
    out.push_back({{"list", printable(list.str())}, {"files", std::move(files)}});
  }
  return out.dump(2, ' ', false, sorted_json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
