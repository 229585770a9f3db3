#include "report/text.h"

#include "inspect/file_kind.h"

#include <fmt/color.h>
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "base/utf8.h"
#include "report/edited_lines.h"

namespace yc::report {

namespace {

constexpr std::size_t kMostListed = 40;  // of one kind, unless everything is asked for

std::string paint(const TextStyle& style, fmt::terminal_color color, const std::string& text) {
  return style.color ? fmt::format(fmt::fg(color), "{}", text) : text;
}

template <typename Item>
std::string place_text_of(const Item& item, const Positions& positions) {
  return place_text(item.file, item.has_place ? std::optional(item.span) : std::nullopt, positions);
}

}  // namespace

std::string place_text(const RelPath& file, const std::optional<Span>& span, const Positions& positions) {
  auto at = span ? positions.at(file, span->begin) : std::nullopt;
  if (!at) return printable(file.str());
  return fmt::format("{}:{}:{}", printable(file.str()), at->line, at->column);
}

std::string faint(const TextStyle& style, const std::string& text) {
  return style.color ? fmt::format(fmt::emphasis::faint, "{}", text) : text;
}

std::string strong(const TextStyle& style, const std::string& text) {
  return style.color ? fmt::format(fmt::emphasis::bold, "{}", text) : text;
}

std::string printable(std::string_view text) {
  std::string out;
  while (!text.empty()) {
    // What evaluation writes for a script's folder, a build tree's, and for what it cannot know.
    if (text.starts_with(kTreeMark) || text.starts_with(kBuildMark)) {
      bool is_build = text.starts_with(kBuildMark);
      text.remove_prefix(is_build ? kBuildMark.size() : kTreeMark.size());
      if (is_build) out += "(build)";
      if (!is_build && !text.empty() && text.front() == '/') text.remove_prefix(1);
      continue;
    }
    if (text.front() == kHoleMark) {
      out += "…";
      text.remove_prefix(1);
      continue;
    }
    std::size_t size = utf8_length(text);
    unsigned char first = static_cast<unsigned char>(text.front());
    if (size == 0 || (size == 1 && (first < 0x20 || first == 0x7f) && first != '\t')) {
      out += first == '\n' ? std::string("\\n") : fmt::format("\\x{:02x}", first);
      text.remove_prefix(1);
    } else {
      out += text.substr(0, size);
      text.remove_prefix(size);
    }
  }
  return out;
}

std::string count(std::size_t number, const char* one, const char* many) {
  return fmt::format("{} {}", number, number == 1 ? one : many);
}

std::string error_text(const Error& error) {
  std::string out = "yellow-compass: ";
  if (!error.place.empty()) out += printable(error.place) + ": ";
  out += printable(error.message);
  if (!error.next.empty()) out += "\n  " + printable(error.next);
  return out + "\n";
}

std::string summary_text(const Plan& plan) {
  std::size_t files = 0;
  for (const auto& [file, edits] : plan.edits) files += edits.empty() ? 0 : 1;
  std::string out;
  if (!plan.moves.requested().empty() || !plan.moves.files().empty())
    out = count(plan.moves.files().size(), "file moves", "files move") + ", ";
  if (!plan.changes.made.empty()) out += count(plan.changes.made.size(), "new file", "new files") + ", ";
  if (!plan.changes.dropped.empty())
    out += count(plan.changes.dropped.size(), "file goes", "files go") + ", ";
  return out + fmt::format("{} in {}", count(plan.edit_list.size(), "edit", "edits"),
                           count(files, "file", "files"));
}

std::string plan_text(const Plan& plan, const TreeReader& tree, const TextStyle& style,
                      std::size_t most_moves) {
  std::string out = plan.moves.requested().empty() ? "" : strong(style, "Moves") + "\n";
  std::size_t listed = 0;
  for (const Move& move : plan.moves.requested()) {
    bool is_folder = tree.is_folder(move.from);
    out += fmt::format("  {}{} -> {}{}\n", printable(move.from.str()), is_folder ? "/" : "",
                       printable(move.to.str()), is_folder ? "/" : "");
    if (++listed == most_moves && !style.verbose && plan.moves.requested().size() > most_moves) {
      out += fmt::format("  and {} more (-v lists all)\n", plan.moves.requested().size() - listed);
      break;
    }
  }
  if (!plan.changes.dropped.empty()) out += strong(style, "Files that go") + "\n";
  for (const RelPath& path : plan.changes.dropped)
    out += "    " + paint(style, fmt::terminal_color::red, "- " + printable(path.str())) + "\n";
  if (!plan.changes.made.empty()) out += strong(style, "New files") + "\n";
  for (const auto& [path, bytes] : plan.changes.made) {
    out += "  " + printable(path.str()) + "\n";
    std::size_t number = 0;
    for (std::size_t at = 0; at < bytes.size();) {
      std::size_t end = std::min(bytes.find('\n', at), bytes.size());
      out +=
          fmt::format("    {:>5} {}\n", ++number,
                      paint(style, fmt::terminal_color::green, "+ " + printable(bytes.substr(at, end - at))));
      at = end + 1;
    }
  }
  return out + edits_text(plan, tree, style);
}

namespace {

// The edits of one kind of files.
std::string edits_of(const Plan& plan, const std::vector<EditedLines>& all, FileKind kind,
                     const TextStyle& style) {
  std::string out;
  const RelPath *current = nullptr, *judged = nullptr;
  bool is_meant = false;
  for (const EditedLines& lines : all) {
    if (!judged || lines.file != *judged) is_meant = kind_of_file(lines.file) == kind;
    judged = &lines.file;
    if (!is_meant) continue;
    if (!current || lines.file != *current) {
      RelPath to = plan.moves.map_file(lines.file);
      out += "  " + printable(lines.file.str());
      if (to != lines.file) out += faint(style, " (becomes " + printable(to.str()) + ")");
      out += "\n";
      current = &lines.file;
    }
    std::string number = std::to_string(lines.line);
    for (const std::string& line : lines.before) {
      out += fmt::format("    {:>5} {}\n", number,
                         paint(style, fmt::terminal_color::red, "- " + printable(line)));
      number.clear();
    }
    for (const std::string& line : lines.after) {
      out += fmt::format("    {:>5} {}{}\n", number,
                         paint(style, fmt::terminal_color::green, "+ " + printable(line)),
                         lines.likely ? faint(style, "   (likely)") : "");
      number.clear();
    }
  }
  return out;
}

}  // namespace

std::string edits_text(const Plan& plan, const TreeReader& tree, const TextStyle& style) {
  if (plan.edit_list.empty()) return strong(style, "Edits") + "\n  none are needed\n";
  std::vector<EditedLines> all = edited_lines(plan, tree);
  std::vector<std::pair<const char*, std::string>> groups;
  for (auto [kind, name] : {std::pair(FileKind::script, "of build scripts and settings"),
                            {FileKind::source, "of sources"},
                            {FileKind::other, "of documents and data"}}) {
    std::string edits = edits_of(plan, all, kind, style);
    if (!edits.empty()) groups.emplace_back(name, std::move(edits));
  }
  std::string out;
  for (const auto& [name, edits] : groups)
    out += strong(style, groups.size() > 1 ? fmt::format("Edits {}", name) : "Edits") + "\n" + edits;
  return out;
}

std::string notices_text(const Plan& plan, const TreeReader& tree, const TextStyle& style) {
  std::string out = plan.accepted.empty() ? "" : strong(style, "Accepted without proof") + "\n";
  const Positions positions(tree);
  for (std::size_t i = 0; i < plan.accepted.size(); ++i) {
    const Blocker& item = plan.accepted[i];
    if (i == 12 && !style.verbose && plan.accepted.size() > i + 1) {
      out += fmt::format("  and {} more (-v lists all)\n", plan.accepted.size() - i);
      break;
    }
    out +=
        fmt::format("  {}: {}\n", place_text(item.file, item.span, positions),
                    (item.text.empty() ? "" : "\"" + printable(item.text) + "\" ") + printable(item.reason));
  }
  if (plan.notices.empty()) return out;
  out += strong(style, "Notices") + "\n";
  std::size_t listed = 0;
  for (const Notice& notice : plan.notices) {
    out += fmt::format("  {}: {}\n", place_text_of(notice, positions), printable(notice.message));
    if (++listed == 12 && !style.verbose && plan.notices.size() > listed) {
      out += fmt::format("  and {} more (-v lists all)\n", plan.notices.size() - listed);
      break;
    }
  }
  return out;
}

namespace {

// What stands in the way, with what would settle each; cut to a screen.
std::string blockers_text(const Plan& plan, const TreeReader& tree, const TextStyle& style) {
  std::string out;
  std::size_t listed = 0;
  const Positions positions(tree);
  for (const Blocker& item : plan.blockers) {
    out +=
        fmt::format("  {}: {}\n", strong(style, place_text(item.file, item.span, positions)),
                    (item.text.empty() ? "" : "\"" + printable(item.text) + "\" ") + printable(item.reason));
    out += "    " + printable(item.next) + "\n";
    if (++listed == kMostListed && !style.verbose && plan.blockers.size() > listed) {
      out += fmt::format("  and {} more (-v lists all)\n", plan.blockers.size() - listed);
      break;
    }
  }
  return out;
}

}  // namespace

std::string unsettled_text(const Plan& plan, const TreeReader& tree, const TextStyle& style) {
  return fmt::format("Not carried out, nothing was changed: {} in the way.\n",
                     count(plan.blockers.size(), "reference stands", "references stand")) +
         blockers_text(plan, tree, style);
}

std::string left_text(const Plan& plan, const TreeReader& tree, const TextStyle& style) {
  return fmt::format("Left for you, {}; then run this again:\n",
                     count(plan.blockers.size(), "place", "places")) +
         blockers_text(plan, tree, style);
}

namespace {

std::string targets_text(const std::vector<RelPath>& targets) {
  if (targets.empty()) return "nowhere in the tree";
  std::string out = printable(targets.front().str());
  if (out.empty()) out = ".";
  if (targets.size() > 1) out += fmt::format(" and {} more", targets.size() - 1);
  return out;
}

std::string seen_lines(const std::vector<Seen>& list, const TreeReader& tree, const TextStyle& style,
                       bool with_target) {
  constexpr std::size_t kWidest = 44;
  std::vector<std::string> places;
  std::size_t width = 0;
  const Positions positions(tree);
  for (const Seen& seen : list) {
    places.push_back(place_text_of(seen, positions));
    if (places.back().size() <= kWidest) width = std::max(width, places.back().size());
  }
  std::string out;
  for (std::size_t i = 0; i < list.size(); ++i) {
    const Seen& seen = list[i];
    out += fmt::format("    {:<{}}  {} {}", places[i], width, faint(style, std::string(name_of(seen.role))),
                       printable(seen.text));
    if (with_target) out += " -> " + targets_text(seen.targets);
    if (seen.likely) out += faint(style, " (likely)");
    out += "\n";
    for (const auto& [target, units] : seen.by_unit) {
      out += fmt::format("    {:<{}}    in {}: {}\n", "", width,
                         printable(fmt::format("{}", fmt::join(units, ", "))),
                         target.is_root() ? "nowhere in the tree" : printable(target.str()));
    }
  }
  return out;
}

}  // namespace

std::string neighbours_text(const Neighbours& found, const TreeReader& tree, const TextStyle& style) {
  std::string name = strong(style, printable(found.path.is_root() ? "." : found.path.str()));
  std::string out = name + "\n";
  if (!found.units.empty()) {
    std::size_t shown = std::min<std::size_t>(found.units.size(), 6);
    std::vector<std::string> some(found.units.begin(),
                                  found.units.begin() + static_cast<std::ptrdiff_t>(shown));
    out += fmt::format("  in build {} ", found.units.size() == 1 ? "unit" : "units") +
           printable(fmt::format("{}", fmt::join(some, ", ")));
    if (shown < found.units.size()) out += fmt::format(" and {} more", found.units.size() - shown);
    out += "\n";
  }
  out += fmt::format("  referred to {}\n", found.incoming.empty()
                                               ? "by nothing"
                                               : "from " + count(found.incoming.size(), "place", "places"));
  out += seen_lines(found.incoming, tree, style, false);
  out += fmt::format("  refers to {}\n", found.outgoing.empty()
                                             ? "nothing in the tree"
                                             : count(found.outgoing.size(), "thing", "things"));
  out += seen_lines(found.outgoing, tree, style, true);
  return out;
}

namespace {

// A line for each unit with all that it lacks a reference to.
std::string lacks_text(const std::vector<Finding>& findings, const TextStyle& style) {
  std::map<std::string, std::set<std::string>> lacks;
  std::size_t width = 0;
  for (const Finding& item : findings) {
    if (item.lacks.empty()) continue;
    lacks[item.unit].insert(item.lacks);
    width = std::max(width, printable(item.unit).size());
  }
  if (lacks.empty()) return "";
  std::string out = strong(style, "References that units lack") + "\n";
  for (const auto& [unit, others] : lacks) {
    std::string all;
    for (const std::string& other : others) all += (all.empty() ? "" : ", ") + printable(other);
    out += fmt::format("  {:<{}}  {}\n", printable(unit), width, all);
  }
  return out;
}

}  // namespace

std::string findings_text(const std::vector<Finding>& findings, const TreeReader& tree,
                          const TextStyle& style) {
  if (findings.empty()) return "Every reference leads somewhere.\n";
  std::string out;
  const Positions positions(tree);
  for (const Finding& item : findings) {
    out += fmt::format("{}: {} [{}]\n", strong(style, place_text_of(item, positions)),
                       printable(item.message), item.id);
    if (!item.suggestion.empty()) out += "  most likely meant: " + printable(item.suggestion) + "\n";
  }
  out += lacks_text(findings, style);
  std::size_t notes = static_cast<std::size_t>(
      std::count_if(findings.begin(), findings.end(), [](const Finding& item) { return item.is_note; }));
  if (notes < findings.size() || notes == 0)
    out += count(findings.size() - notes, "finding", "findings") + (notes > 0 ? ", " : "");
  if (notes > 0) out += count(notes, "note", "notes");
  out += "\n";
  return out;
}

}  // namespace yc::report
