#include "report/survey_text.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::report {

std::string alias_name(const Alias& alias) {
  if (alias.styles) return "(stylesheets)";
  return alias.open ? alias.head + "*" + alias.tail : alias.head;
}
std::string alias_place(const Alias& alias) {
  std::string folder = alias.place.is_root() ? "." : alias.place.str();
  return alias.open ? folder + "/" + alias.before + "*" + alias.after : folder;
}

namespace {

std::string observed_text(const Explained& observed, const TextStyle& style) {
  std::string out = fmt::format("{} {}\n", strong(style, "Files that observed builds read"), observed.files);
  out += fmt::format(
      "  {} explained by a certain reference, {} by a likely one, {} by one to their folder, {} by their "
      "names, "
      "{} not at all{}\n",
      observed.certain, observed.likely, observed.by_folder, observed.by_name, observed.none.size(),
      observed.none.empty() ? "" : " (check --observed lists them)");
  if (observed.changed > 0)
    out += fmt::format("  {} since: rehearse --watch to see anew\n",
                       count(observed.changed, "has changed or gone", "have changed or gone"));
  return out;
}

// Words with commas between them, on lines of a terminal.
std::string wrapped(const std::vector<std::string>& words) {
  constexpr std::size_t kWidth = 92;
  std::string out, line = " ";
  for (std::size_t i = 0; i < words.size(); ++i) {
    if (line.size() + words[i].size() > kWidth) out += line + "\n", line = " ";
    line += " " + words[i] + (i + 1 < words.size() ? "," : "");
  }
  return words.empty() ? "" : out + line + "\n";
}

// Whether a list of the survey ends here: it is cut to a part of a screen.
bool is_cut(std::size_t listed, std::size_t all, const TextStyle& style, std::string& out) {
  constexpr std::size_t kMost = 6;
  if (style.verbose || listed < kMost || all == kMost + 1) return false;
  out += fmt::format("  and {} more (-v lists all)\n", all - listed);
  return true;
}

std::string places_text(const Survey& survey, const TextStyle& style) {
  std::string out;
  std::size_t listed = 0;
  if (!survey.search_roots.empty()) {
    out += fmt::format("{} {}\n", strong(style, "Search roots"), survey.search_roots.size());
    listed = 0;
    for (const auto& [folder, users] : survey.search_roots) {
      if (is_cut(listed++, survey.search_roots.size(), style, out)) break;
      out += fmt::format("  {:<32} used by {}\n", folder.is_root() ? "." : printable(folder.str()),
                         count(users, "unit", "units"));
    }
  }
  if (!survey.aliases.empty()) {
    out += fmt::format("{} {}\n", strong(style, "Aliases"), survey.aliases.size());
    listed = 0;
    for (const Alias& alias : survey.aliases) {
      if (is_cut(listed++, survey.aliases.size(), style, out)) break;
      out += fmt::format("  {:<32} {} {}\n", printable(alias_name(alias)), printable(alias_place(alias)),
                         faint(style, "(" + printable(alias.settings.str()) + ")"));
    }
  }
  if (!survey.patterns.empty()) {
    out += fmt::format("{} {}\n", strong(style, "Patterns"), survey.patterns.size());
    listed = 0;
    for (const auto& [text, files] : survey.patterns) {
      if (is_cut(listed++, survey.patterns.size(), style, out)) break;
      out += fmt::format("  {:<32} matches {}\n", printable(text), files);
    }
  }
  return out;
}

std::string overview_text(const Overview& seen, const TextStyle& style) {
  std::string out;
  std::size_t listed = 0;
  if (!seen.hubs.empty()) out += strong(style, "On these much hangs") + "\n";
  for (const auto& [path, number] : seen.hubs) {
    if (is_cut(listed++, seen.hubs.size(), style, out)) break;
    out += fmt::format("  {:<32} named by {}\n", printable(path.str()), count(number, "file", "files"));
  }
  if (!seen.unnamed.empty())
    out += fmt::format("{} {}\n", strong(style, "Named by nothing here"), seen.unnamed.size());
  listed = 0;
  for (const RelPath& path : seen.unnamed) {
    if (is_cut(listed++, seen.unnamed.size(), style, out)) break;
    out += "  " + printable(path.str()) + "\n";
  }
  if (!seen.managed.empty()) out += strong(style, "Trees that projects keep") + "\n";
  for (const Overview::Managed& one : seen.managed)
    out += fmt::format("  {:<32} {} as on disk, {} shown elsewhere, {} not listed, {} not there\n",
                       printable(one.file.str()), one.same, one.elsewhere, one.unlisted, one.missing);
  if (!seen.not_understood.empty())
    out += fmt::format("{} {}\n", strong(style, "Not understood"), seen.not_understood.size());
  listed = 0;
  for (const auto& [path, why] : seen.not_understood) {
    if (is_cut(listed++, seen.not_understood.size(), style, out)) break;
    out += fmt::format("  {:<32} {}\n", printable(path.str()), unread_text(why));
  }
  return out;
}

}  // namespace

std::string unread_text(Unread why) {
  switch (why) {
    case Unread::garbled:
      return "does not follow its language";
    case Unread::partly:
      return "has more conditions than were looked at";
    case Unread::cut_short:
      return "was not evaluated to its end";
    case Unread::no_access:
      break;
  }
  return "cannot be read, or is too large for it";
}

std::string survey_text(const Survey& survey, const std::optional<Explained>& observed,
                        const std::string& root, const std::vector<std::string>& settings,
                        const TextStyle& style) {
  std::string out = fmt::format("{} {}\n", strong(style, "Root"), printable(root));
  for (const std::string& line : settings) out += "  " + printable(line) + "\n";
  out += fmt::format("{} {}\n", strong(style, "Files"), survey.files);
  if (survey.absent > 0)
    out += fmt::format("  {} of them not checked out: read, and never changed\n", survey.absent);
  if (survey.may_lack_files) out += "  more that are not checked out: their number and names are not known\n";
  std::vector<std::string> read;
  for (const auto& [format, files] : survey.files_by_format) {
    if (files > 0) read.push_back(fmt::format("{} {}", format, files));
  }
  out += wrapped(read);
  for (const auto& [language, files] : survey.unread)
    out += fmt::format("  {:<20} {} not read: what these name is not known\n", language, files);
  out += fmt::format("{} {}\n", strong(style, "Build units"), survey.units.size());
  std::size_t width = 0;
  for (const auto& unit : survey.units) width = std::max(width, unit.kind.size());
  std::size_t listed = 0;
  for (const auto& unit : survey.units) {
    if (is_cut(listed++, survey.units.size(), style, out)) break;
    out += fmt::format("  {:<32} {}", printable(unit.name), unit.kind);
    // Of units whose sources no reader lists there is nothing to say.
    if (unit.sources > 0)
      out += fmt::format("{:{}} {}", "", width - unit.kind.size(), count(unit.sources, "source", "sources"));
    std::string roots;
    for (const RelPath& folder : unit.roots)
      roots += (roots.empty() ? "" : " ") + (folder.is_root() ? "." : printable(folder.str()));
    if (!roots.empty()) out += ", looks in " + roots;
    out += "\n";
  }
  out += places_text(survey, style);
  std::size_t total = 0;
  for (const auto& [role, number] : survey.by_role) total += number;
  out += fmt::format("{} {}\n", strong(style, "References"), total);
  std::vector<std::string> roles;
  for (const auto& [role, number] : survey.by_role) roles.push_back(fmt::format("{} {}", role, number));
  out += wrapped(roles);
  out += fmt::format("  of these {} likely, {} dangling; {} with a part that evaluation cannot know\n",
                     survey.likely, survey.dangling, count(survey.unseen, "text", "texts"));
  out += overview_text(survey.seen, style);
  if (observed) out += observed_text(*observed, style);
  return out;
}

}  // namespace yc::report
