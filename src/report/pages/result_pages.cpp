#include "report/pages/result_pages.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "inspect/file_kind.h"
#include "report/edited_lines.h"
#include "report/figures/folder_figures.h"
#include "report/figures/tree_figure.h"
#include "report/figures/unit_figure.h"
#include "report/pages/page.h"
#include "report/rehearsal.h"
#include "report/text.h"

namespace yc::report {

namespace {

constexpr std::size_t kContext = 2;  // lines around what changes

const char* file_name(FileKind kind) {
  switch (kind) {
    case FileKind::script:
      return "Build scripts and settings";
    case FileKind::source:
      return "Sources";
    case FileKind::other:
      break;
  }
  return "Documents and data";
}

// The lines of a file, read once for all that is shown of it.
class Lines {
 public:
  explicit Lines(const TreeReader& tree) : tree_(tree) {}

  const std::vector<std::string>& of(const RelPath& file) {
    if (file == file_) return lines_;
    file_ = file;
    lines_.clear();
    auto bytes = tree_.read(file);
    std::string_view text =
        bytes && (*bytes)->find('\0') == std::string::npos ? std::string_view(**bytes) : "";
    while (!text.empty()) {
      std::size_t end = std::min(text.find('\n'), text.size());
      lines_.emplace_back(shortened(text.substr(0, end)));
      text.remove_prefix(std::min(end + 1, text.size()));
    }
    return lines_;
  }

  static std::string shortened(std::string_view line) {
    constexpr std::size_t kLongest = 400;
    if (line.ends_with('\r')) line.remove_suffix(1);
    return line.size() > kLongest ? std::string(line.substr(0, kLongest)) + " …" : std::string(line);
  }

 private:
  const TreeReader& tree_;
  RelPath file_;
  std::vector<std::string> lines_;
};

std::vector<Page::CodeLine> in_context(const EditedLines& edit, const std::vector<std::string>& file) {
  std::vector<Page::CodeLine> out;
  auto around = [&](std::size_t from, std::size_t to) {
    for (std::size_t i = from; i < to && i <= file.size(); ++i) out.push_back({' ', i, file[i - 1]});
  };
  around(edit.line > kContext ? edit.line - kContext : 1, edit.line);
  std::size_t number = edit.line;
  for (const std::string& line : edit.before) out.push_back({'-', number++, Lines::shortened(line)});
  for (const std::string& line : edit.after) out.push_back({'+', 0, Lines::shortened(line)});
  around(number, number + kContext);
  return out;
}

std::vector<Page::CodeLine> around(const std::vector<std::string>& file, std::size_t line) {
  std::vector<Page::CodeLine> out;
  for (std::size_t i = line > kContext ? line - kContext : 1; i <= line + kContext && i <= file.size(); ++i)
    out.push_back({i == line ? '+' : ' ', i, file[i - 1]});
  return out;
}

void add_blockers(Page& page, const std::string& id, const std::string& heading,
                  const std::vector<Blocker>& blockers, const TreeReader& tree) {
  if (blockers.empty()) return;
  pugi::xml_node section = page.section(id, heading);
  const Positions positions(tree);
  for (const Blocker& blocker : blockers) {
    std::string text = blocker.text.empty() ? "" : "\"" + blocker.text + "\" ";
    pugi::xml_node item = page.item(section, "in the way", place_text(blocker.file, blocker.span, positions),
                                    text + blocker.reason);
    if (!blocker.next.empty()) page.paragraph(item, blocker.next);
  }
}

void add_edits(Page& page, const Plan& plan, const TreeReader& tree) {
  std::map<FileKind, std::map<RelPath, std::vector<EditedLines>>> by_kind;
  for (EditedLines& lines : edited_lines(plan, tree))
    by_kind[kind_of_file(lines.file)][lines.file].push_back(std::move(lines));
  Lines files(tree);
  for (const auto& [kind, edited] : by_kind) {
    pugi::xml_node section = page.section(fmt::format("edits-{}", static_cast<int>(kind)),
                                          std::string("Edits: ") + file_name(kind));
    for (const auto& [file, edits] : edited) {
      pugi::xml_node group = section.append_child("div");
      group.append_attribute("class") = "group";
      RelPath now = plan.moves.map_file(file);
      pugi::xml_node head = group.append_child("h3");
      head.text().set(printable(file == now ? file.str() : file.str() + " → " + now.str()).c_str());
      for (const EditedLines& edit : edits) {
        pugi::xml_node item = page.item(group, file_name(kind), fmt::format("{}:{}", file.str(), edit.line),
                                        edit.likely ? "of a likely reference" : "");
        page.code(item, in_context(edit, files.of(file)));
      }
    }
  }
}

void add_moves(Page& page, const Plan& plan) {
  if (plan.moves.files().empty()) return;
  pugi::xml_node section = page.section("moves", "Moves");
  pugi::xml_node list = page.folded(section, count(plan.moves.files().size(), "file moves", "files move"));
  for (const Move& move : plan.moves.files()) page.item(list, "Moves", move.from.str(), "→ " + move.to.str());
  for (const auto& [path, bytes] : plan.changes.made) page.item(list, "Moves", path.str(), "is made");
  for (const RelPath& path : plan.changes.dropped) page.item(list, "Moves", path.str(), "goes");
}

}  // namespace

std::string plan_page(const Plan& plan, const TreeReader& tree, const ReferenceGraph& before,
                      const std::string& outcome) {
  Page page(plan.moves.files().empty() ? "A plan" : "A move", outcome);
  std::set<RelPath> edited;
  for (const PlannedEdit& edit : plan.edit_list) edited.insert(edit.file);
  bool moves = !plan.moves.files().empty();
  FolderLinks links = folder_links(before, moves ? &plan.moves : nullptr, kMostFoldersOfGraph);
  pugi::xml_node summary = page.section("summary", "In short");
  page.facts(
      summary,
      {{"Files that move", std::to_string(plan.moves.files().size())},
       {"Edits", fmt::format("{} in {}", plan.edit_list.size(), count(edited.size(), "file", "files"))},
       {"References read", std::to_string(plan.references_read)},
       {"Kept without an edit", std::to_string(plan.references_kept)},
       {"Across folders", crossing_text(links, moves)}});
  add_blockers(page, "in-the-way", "What stands in the way", plan.blockers, tree);
  add_blockers(page, "accepted", "What was accepted", plan.accepted, tree);
  if (moves) {
    pugi::xml_node figures = page.section("figures", "Figures");
    page.figure(figures, tree_figure(plan, tree), "The tree before the move and after it.");
    if (auto graph = folder_graph(links, true))
      page.figure(figures, *graph, crossing_text(links, true) + ".");
    pugi::xml_node more = page.folded(figures, "The same as a matrix");
    page.figure(more, folder_matrix(folder_links(before, &plan.moves, kMostFoldersOfMatrix), true),
                "Rows name files of columns.");
  }
  add_edits(page, plan, tree);
  add_moves(page, plan);
  if (!plan.notices.empty()) {
    pugi::xml_node section = page.section("notices", "Worth knowing");
    const Positions positions(tree);
    for (const Notice& notice : plan.notices)
      page.item(
          section, "Worth knowing",
          place_text(notice.file, notice.has_place ? std::optional(notice.span) : std::nullopt, positions),
          notice.message);
  }
  return page.html();
}

std::string findings_page(const std::vector<Finding>& findings, const TreeReader& tree) {
  auto notes = static_cast<std::size_t>(
      std::count_if(findings.begin(), findings.end(), [](const Finding& one) { return one.is_note; }));
  Page page("What check found", count(findings.size() - notes, "finding", "findings") + ", " +
                                    count(notes, "note", "notes") + ".");
  std::map<std::string, std::size_t> by_id;
  for (const Finding& finding : findings) ++by_id[finding.id];
  std::vector<std::vector<std::string>> rows;
  for (const auto& [id, number] : by_id) rows.push_back({id, std::to_string(number)});
  pugi::xml_node summary = page.section("summary", "In short");
  if (rows.empty()) page.paragraph(summary, "Every reference leads somewhere.");
  if (!rows.empty()) page.table(summary, "Findings by their kind", {"Kind", "Number"}, rows);
  Lines files(tree);
  if (!findings.empty()) {
    pugi::xml_node section = page.section("findings", "Findings");
    const Positions positions(tree);
    for (const Finding& finding : findings) {
      std::optional<Span> span = finding.has_place ? std::optional(finding.span) : std::nullopt;
      pugi::xml_node item = page.item(section, finding.id, place_text(finding.file, span, positions),
                                      finding.message + (finding.is_note ? " (a note)" : ""));
      if (!finding.suggestion.empty()) page.paragraph(item, "Most likely meant: " + finding.suggestion);
      auto bytes = span ? tree.read(finding.file) : Result<Bytes>(Error{});
      if (bytes)
        page.code(item, around(files.of(finding.file),
                               positions.at(finding.file, span->begin).value_or(Position()).line));
    }
  }
  return page.html();
}

std::string impact_page(const Impact& impact) {
  Page page("What a change means for the build units",
            impact.files == 0 ? "All units, and who uses whom."
                              : count(impact.rebuilt.size(), "unit is", "units are") + " rebuilt if " +
                                    count(impact.files, "file changes", "files change") + ".");
  if (auto figure = unit_figure(impact))
    page.figure(page.section("figure", "Who uses whom"), *figure, "Build units, and those that are rebuilt.");
  if (!impact.rebuilt.empty()) {
    pugi::xml_node section = page.section("rebuilt", "Rebuilt");
    for (const Impact::Row& row : impact.rebuilt)
      page.item(section, "rebuilt", row.unit, row.kind + ": " + row.why);
  }
  if (!impact.changes.empty()) {
    pugi::xml_node section = page.section("changes", "Change their unit");
    auto listed = [](const std::vector<std::string>& names) {
      return names.empty() ? std::string("no unit") : fmt::format("{}", fmt::join(names, ", "));
    };
    for (const Impact::Change& change : impact.changes)
      page.item(section, "changes its unit", change.from.str() + " → " + change.to.str(),
                listed(change.before) + " → " + listed(change.after));
  }
  std::vector<std::vector<std::string>> rows;
  for (const UnitInfo& unit : impact.units) {
    std::string uses;
    for (std::size_t used : unit.uses) uses += (uses.empty() ? "" : ", ") + impact.units[used].name;
    rows.push_back({unit.name, unit.kind, std::to_string(unit.members.size()), unit.file.str(), uses});
  }
  pugi::xml_node units = page.section("units", "All units");
  if (!rows.empty()) page.table(units, "Build units", {"Unit", "Kind", "Files", "Defined by", "Uses"}, rows);
  return page.html();
}

std::string rehearsal_page(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const Plan* plan, const TreeReader& tree) {
  bool good = std::all_of(results.begin(), results.end(),
                          [](const Rehearsed& one) { return one.verdict == Verdict::built; });
  Page page("A rehearsal", good ? "All builds hold." : "Not all builds hold.");
  for (std::size_t i = 0; i < results.size(); ++i) {
    const Rehearsed& one = results[i];
    pugi::xml_node section = page.section("build-" + std::to_string(i + 1), "Build: " + one.command);
    std::string verdict = verdict_text(one);
    page.paragraph(section, verdict.substr(0, verdict.find_last_not_of(":\n") + 1));
    std::vector<std::vector<std::string>> rows = {{"before", run_text(one.before), one.before.log}};
    if (one.after) rows.push_back({"after", run_text(*one.after), one.after->log});
    if (one.again) rows.push_back({"again, in the copy built before", run_text(*one.again), one.again->log});
    page.table(section, "Builds in clean copies", {"When", "How it ended", "Log"}, rows);
    for (const Difference& difference : one.differences) {
      pugi::xml_node item =
          page.item(section, difference.breaks ? "differs" : "told", "", difference_text(difference));
      if (!difference.command.empty()) page.paragraph(item, "by: " + difference.command);
    }
    for (const Telling& telling : one.telling) {
      pugi::xml_node item = page.item(section, "of the log", "", telling.line);
      for (const std::string& reference : telling.references) page.paragraph(item, reference);
    }
  }
  if (!lacking.empty()) {
    pugi::xml_node section = page.section("lacking", "What a fresh clone lacks");
    const Positions positions(tree);
    for (const Finding& finding : lacking)
      page.item(
          section, "lacking",
          place_text(finding.file, finding.has_place ? std::optional(finding.span) : std::nullopt, positions),
          finding.message);
  }
  if (plan && !plan->moves.files().empty()) {
    page.figure(page.section("figures", "The move"), tree_figure(*plan, tree),
                "The tree before the move and after it.");
    add_edits(page, *plan, tree);
  }
  return page.html();
}

}  // namespace yc::report
