#include "report/json.h"

#include <nlohmann/json.hpp>

#include "report/proof.h"
#include "report/survey_text.h"
#include "report/text.h"

namespace yc::report {

namespace {

using json = nlohmann::ordered_json;

std::string dump(const json& value) {
  return value.dump(2) + "\n";
}

json place(const RelPath& file, const std::optional<Span>& span, const Positions& positions) {
  json out;
  out["file"] = printable(file.str());
  auto at = span ? positions.at(file, span->begin) : std::nullopt;
  if (!at) return out;
  out["line"] = at->line;
  out["column"] = at->column;
  return out;
}

template <typename Item>
json place(const Item& item, const Positions& positions) {
  return place(item.file, item.has_place ? std::optional(item.span) : std::nullopt, positions);
}

json paths(const std::vector<RelPath>& list) {
  json out = json::array();
  for (const RelPath& path : list) out.push_back(path.is_root() ? "." : printable(path.str()));
  return out;
}

json seen(const Seen& item, const Positions& positions) {
  json out = place(item, positions);
  out["role"] = name_of(item.role);
  out["text"] = printable(item.text);
  out["certainty"] = item.likely ? "likely" : "certain";
  out["targets"] = paths(item.targets);
  for (const auto& [target, units] : item.by_unit) {
    json one = {{"target", target.is_root() ? json() : json(printable(target.str()))}, {"units", units}};
    out["by_unit"].push_back(std::move(one));
  }
  return out;
}

json blockers(const std::vector<Blocker>& list, const Positions& positions) {
  json out = json::array();
  for (const Blocker& problem : list) {
    json item = place(problem.file, problem.span, positions);
    item["id"] = problem.id;
    item["text"] = printable(problem.text);
    item["reason"] = printable(problem.reason);
    item["next"] = printable(problem.next);
    out.push_back(std::move(item));
  }
  return out;
}

}  // namespace

std::string plan_json(const Plan& plan, const TreeReader& tree, Outcome outcome, int journal,
                      const Evidence* evidence) {
  json out;
  out["outcome"] = outcome == Outcome::previewed     ? "previewed"
                   : outcome == Outcome::carried_out ? "carried-out"
                   : outcome == Outcome::in_part     ? "carried-out-in-part"
                                                     : "unsettled";
  if (outcome == Outcome::carried_out || outcome == Outcome::in_part) out["journal"] = journal;
  out["verified"] = plan.verified && plan.accepted.empty();
  if (plan.verified) out["proof"] = proof_word(plan, evidence);
  if (plan.settled > 0) out["settled_before"] = plan.settled;
  out["moves"] = json::array();
  for (const Move& move : plan.moves.files())
    out["moves"].push_back({{"from", printable(move.from.str())}, {"to", printable(move.to.str())}});
  if (!plan.changes.empty()) {
    out["made"] = json::array();
    for (const auto& [path, bytes] : plan.changes.made)
      out["made"].push_back({{"file", printable(path.str())}, {"text", printable(bytes)}});
    out["dropped"] = paths({plan.changes.dropped.begin(), plan.changes.dropped.end()});
  }
  out["edits"] = json::array();
  const Positions positions(tree);
  for (const PlannedEdit& edit : plan.edit_list) {
    json item = place(edit.file, edit.span, positions);
    item["before"] = printable(edit.before);
    item["after"] = printable(edit.after);
    item["certainty"] = edit.likely ? "likely" : "certain";
    out["edits"].push_back(std::move(item));
  }
  out["unsettled"] = blockers(plan.blockers, positions);
  out["accepted"] = blockers(plan.accepted, positions);
  if (evidence) {
    out["settled"] = blockers(evidence->settled, positions);
    out["not_exercised"] = blockers(evidence->not_exercised, positions);
  }
  out["notices"] = json::array();
  for (const Notice& notice : plan.notices) {
    json item = place(notice, positions);
    item["id"] = notice.id;
    item["message"] = printable(notice.message);
    out["notices"].push_back(std::move(item));
  }
  return dump(out);
}

std::string neighbours_json(const std::vector<Neighbours>& found, const TreeReader& tree) {
  json out = json::array();
  const Positions positions(tree);
  for (const Neighbours& one : found) {
    json item;
    item["path"] = one.path.is_root() ? "." : printable(one.path.str());
    item["units"] = one.units;
    item["incoming"] = json::array();
    for (const Seen& reference : one.incoming) item["incoming"].push_back(seen(reference, positions));
    item["outgoing"] = json::array();
    for (const Seen& reference : one.outgoing) item["outgoing"].push_back(seen(reference, positions));
    out.push_back(std::move(item));
  }
  return dump(out);
}

std::string findings_json(const std::vector<Finding>& findings, const TreeReader& tree) {
  json out = json::array();
  const Positions positions(tree);
  for (const Finding& finding : findings) {
    json item = place(finding, positions);
    item["id"] = finding.id;
    item["message"] = printable(finding.message);
    if (finding.is_note) item["note"] = true;
    if (!finding.suggestion.empty()) item["suggestion"] = printable(finding.suggestion);
    out.push_back(std::move(item));
  }
  return dump(out);
}

std::string survey_json(const Survey& survey, const std::optional<Explained>& observed,
                        const std::string& root,
                        const std::vector<std::pair<std::string, std::string>>& settings) {
  json out;
  out["root"] = printable(root);
  for (const auto& [key, value] : settings) out["settings"][key] = printable(value);
  out["files"] = survey.files;
  out["not_checked_out"] = survey.absent;
  out["formats"] = survey.files_by_format;
  out["unread"] = json::object();
  for (const auto& [language, files] : survey.unread) out["unread"][language] = files;
  out["units"] = json::array();
  for (const auto& unit : survey.units) {
    out["units"].push_back({{"name", printable(unit.name)},
                            {"kind", unit.kind},
                            {"sources", unit.sources},
                            {"roots", paths(unit.roots)}});
  }
  out["search_roots"] = json::array();
  for (const auto& [folder, users] : survey.search_roots)
    out["search_roots"].push_back(
        {{"folder", folder.is_root() ? "." : printable(folder.str())}, {"units", users}});
  out["aliases"] = json::array();
  for (const Alias& alias : survey.aliases)
    out["aliases"].push_back({{"name", printable(alias_name(alias))},
                              {"place", printable(alias_place(alias))},
                              {"settings", printable(alias.settings.str())}});
  out["patterns"] = json::array();
  for (const auto& [text, files] : survey.patterns)
    out["patterns"].push_back({{"pattern", printable(text)}, {"files", files}});
  out["references"] = survey.by_role;
  out["likely"] = survey.likely;
  out["dangling"] = survey.dangling;
  out["unseen"] = survey.unseen;
  out["hubs"] = json::array();
  for (const auto& [path, number] : survey.seen.hubs)
    out["hubs"].push_back({{"file", printable(path.str())}, {"named_by", number}});
  out["unnamed"] = paths(survey.seen.unnamed);
  out["not_understood"] = json::array();
  for (const auto& [path, why] : survey.seen.not_understood)
    out["not_understood"].push_back({{"file", printable(path.str())}, {"why", unread_text(why)}});
  if (observed) {
    json none = json::array();
    for (const UnexplainedRead& read : observed->none)
      none.push_back({{"file", printable(read.path.str())},
                      {"command", printable(read.command)},
                      {"folder", printable(read.folder)}});
    out["observed"] = {{"files", observed->files},     {"certain", observed->certain},
                       {"likely", observed->likely},   {"by_folder", observed->by_folder},
                       {"by_name", observed->by_name}, {"changed", observed->changed},
                       {"unexplained", none}};
  }
  return dump(out);
}

std::string error_json(const Error& error) {
  json out;
  out["error"] = {{"place", printable(error.place)},
                  {"message", printable(error.message)},
                  {"next", printable(error.next)}};
  return dump(out);
}

}  // namespace yc::report
