#include "report/pages/survey_page.h"

#include <fmt/format.h>

#include "report/figures/folder_figures.h"
#include "report/figures/unit_figure.h"
#include "report/pages/page.h"
#include "report/survey_text.h"
#include "report/text.h"

namespace yc::report {

namespace {

using Rows = std::vector<std::vector<std::string>>;

void add_table(Page& page, const std::string& id, const std::string& heading, const std::string& caption,
               const std::vector<std::string>& heads, const Rows& rows) {
  if (rows.empty()) return;
  page.table(page.section(id, heading), caption, heads, rows);
}

std::string folders_text(const std::vector<RelPath>& folders) {
  std::string out;
  for (const RelPath& folder : folders)
    out += (out.empty() ? "" : ", ") + (folder.is_root() ? "." : folder.str());
  return out;
}

void add_units(Page& page, const Survey& survey, const Impact& units) {
  pugi::xml_node section = page.section("units", "Build units");
  if (auto figure = unit_figure(units)) page.figure(section, *figure, "Build units and who uses whom.");
  for (const auto& unit : survey.units) {
    std::string text = unit.kind;
    if (unit.sources > 0) text += ", " + count(unit.sources, "source", "sources");
    if (!unit.roots.empty()) text += ", looks in " + folders_text(unit.roots);
    page.item(section, "units", unit.name, text);
  }
}

}  // namespace

std::string survey_page(const Survey& survey, const Impact& units, const FolderLinks& links,
                        const std::string& root) {
  Page page("What is in " + root.substr(root.rfind('/') + 1), "The tree at " + root + ", as its files say.");
  std::size_t references = 0;
  for (const auto& [role, number] : survey.by_role) references += number;
  page.facts(page.section("summary", "In short"),
             {{"Files", std::to_string(survey.files)},
              {"Build units", std::to_string(survey.units.size())},
              {"References", fmt::format("{}, {} of them likely, {} lead nowhere", references, survey.likely,
                                         survey.dangling)},
              {"Not known before it runs", count(survey.unseen, "text has", "texts have") + " such a part"},
              {"Across folders", crossing_text(links, false)}});
  Rows rows;
  for (const auto& [format, files] : survey.files_by_format) {
    if (files > 0) rows.push_back({format, std::to_string(files), "yes"});
  }
  for (const auto& [language, files] : survey.unread)
    rows.push_back({language, std::to_string(files), "no: what they name is not known"});
  add_table(page, "languages", "Languages and build systems", "Files by what reads them",
            {"Reader", "Files", "Is it read?"}, rows);
  if (auto graph = folder_graph(links, false))
    page.figure(page.section("folders", "Who names whom"), *graph, crossing_text(links, false) + ".");
  add_units(page, survey, units);
  rows.clear();
  for (const auto& [path, number] : survey.seen.hubs) rows.push_back({path.str(), std::to_string(number)});
  add_table(page, "hubs", "On what much hangs", "Files that many others name", {"File", "Named by"}, rows);
  if (!survey.seen.unnamed.empty()) {
    pugi::xml_node section = page.section("unnamed", "Named by nothing here");
    page.paragraph(section,
                   "Programs and tests that are started by hand may be so; the rest may be left over.");
    pugi::xml_node list = page.folded(section, count(survey.seen.unnamed.size(), "file", "files"));
    for (const RelPath& path : survey.seen.unnamed) page.item(list, "named by nothing", path.str(), "");
  }
  rows.clear();
  for (const Overview::Managed& one : survey.seen.managed)
    rows.push_back({one.file.str(), std::to_string(one.same), std::to_string(one.elsewhere),
                    std::to_string(one.unlisted), std::to_string(one.missing)});
  add_table(page, "managed", "Trees that projects keep", "Files of each, against those on disk",
            {"Project", "Mirror the disk", "Shown elsewhere", "Not listed", "Not there"}, rows);
  rows.clear();
  for (const Alias& alias : survey.aliases)
    rows.push_back({alias_name(alias), alias_place(alias), alias.settings.str()});
  add_table(page, "aliases", "Aliases", "What names stand for", {"Alias", "Place", "Settings"}, rows);
  rows.clear();
  for (const auto& [path, why] : survey.seen.not_understood) rows.push_back({path.str(), unread_text(why)});
  add_table(page, "not-understood", "Not understood", "Files of known formats that are not read whole",
            {"File", "Why"}, rows);
  return page.html();
}

}  // namespace yc::report
