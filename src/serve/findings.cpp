#include "serve/findings.h"

#include <fmt/format.h>

#include <algorithm>

#include "inspect/mend.h"
#include "plan/restyle.h"
#include "report/text.h"
#include "serve/commands.h"
#include "serve/uris.h"
#include "tree/ignore_rules.h"

namespace yc::serve {

namespace {

enum Severity : int { kWarning = 2, kInformation = 3 };

json diagnostic(FileTexts& texts, const Finding& finding) {
  std::string text = report::printable(finding.message);
  if (!finding.suggestion.empty())
    text += "; most likely " + report::printable(finding.suggestion) + " is meant";
  return {{"range", texts.range(finding.file, finding.has_place ? finding.span : Span{})},
          {"severity", finding.is_note ? kInformation : kWarning},
          {"code", finding.id},
          {"source", "yellow-compass"},
          {"message", text}};
}

bool is_mendable(const Finding& finding) {
  const std::vector<std::string>& kinds = mendable();
  return std::find(kinds.begin(), kinds.end(), finding.id) != kinds.end();
}

json action(const Asked& asked, const std::string& title, const char* kind, json more) {
  json out = {{"title", title}};
  if (asked.client.takes_code_actions) out["kind"] = kind;
  out.update(more);
  return out;
}

// An editor that knows no code actions is given the command itself.
json command_action(const Asked& asked, const std::string& title, const char* kind, const char* command,
                    json arguments) {
  json what = {{"title", title}, {"command", command}, {"arguments", std::move(arguments)}};
  return asked.client.takes_code_actions ? action(asked, title, kind, {{"command", what}}) : what;
}

json edit_of(const Asked& asked, FileTexts& texts, const Finding& finding) {
  json edits =
      json::array({{{"range", texts.range(finding.file, finding.span)}, {"newText", finding.suggestion}}});
  if (!asked.client.takes_versions) return {{"changes", {{asked.uri(finding.file), edits}}}};
  return {{"documentChanges",
           json::array({{{"textDocument",
                          {{"uri", asked.uri(finding.file)}, {"version", asked.version(finding.file)}}},
                         {"edits", edits}}})}};
}

void add_mending(const Asked& asked, FileTexts& texts, const std::vector<Finding>& findings,
                 const Finding& finding, json& out) {
  bool is_spelling = finding.id == "against-rule" && asked.client.takes_code_actions;
  if (is_spelling) {
    json more = {{"edit", edit_of(asked, texts, finding)},
                 {"diagnostics", json::array({diagnostic(texts, finding)})}};
    out.push_back(
        action(asked, "Write " + report::printable(finding.suggestion), "quickfix", std::move(more)));
  } else if (finding.has_place && !finding.suggestion.empty() && !finding.wanted.is_root()) {
    json start = texts.range(finding.file, finding.span).at("start");
    json one =
        command_action(asked, "Lead to " + report::printable(finding.suggestion), "quickfix", kLeadCommand,
                       {asked.uri(finding.file), start.at("line"), start.at("character")});
    if (asked.client.takes_code_actions) {
      one["diagnostics"] = json::array({diagnostic(texts, finding)});
      if (finding.is_only) one["isPreferred"] = true;
    }
    out.push_back(std::move(one));
  }
  if (!is_mendable(finding)) return;
  std::string root = uri_of(asked.workspace.root());
  if (finding.id == "unlisted") {
    out.push_back(command_action(asked, fmt::format("List {}", report::printable(finding.file.str())),
                                 "quickfix", kMendCommand, {root, finding.id, asked.uri(finding.file)}));
    return;
  }
  auto alike = std::count_if(findings.begin(), findings.end(),
                             [&](const Finding& one) { return one.id == finding.id; });
  out.push_back(command_action(asked,
                               fmt::format("Mend all \"{}\" in this tree ({})", finding.id,
                                           report::count(static_cast<std::size_t>(alike), "place", "places")),
                               "quickfix", kMendCommand, {root, finding.id}));
}

void add_respelling(const Asked& asked, FileTexts& texts, const RelPath& file, std::uint32_t offset,
                    json& out) {
  const ReferenceGraph& graph = asked.workspace.graph();
  for (std::size_t i : references_at(asked.workspace, file, offset)) {
    const Reference& reference = graph.references[i];
    Seen seen = as_seen(graph, reference);
    if (reference.role != Role::module || seen.targets.empty() || seen.text.empty()) continue;
    bool is_relative = seen.text.starts_with('.');
    bool is_reached = std::any_of(graph.aliases.begin(), graph.aliases.end(), [&](const Alias& alias) {
      return file.is_within(alias.scope) && seen.targets.front().is_within(alias.place);
    });
    if (!is_reached) continue;
    json start = texts.range(file, seen.span).at("start");
    out.push_back(command_action(
        asked, is_relative ? "Spell by an alias" : "Spell from this folder", "refactor.rewrite",
        kRespellCommand,
        {asked.uri(file), start.at("line"), start.at("character"), is_relative ? "alias" : "relative"}));
    return;
  }
}

}  // namespace

std::vector<Finding> find(Workspace& workspace) {
  IgnoreRules rules(workspace.root());
  const ReferenceGraph& graph = workspace.graph();
  return check(workspace.tree(), graph, workspace.config().alias_from,
               [&](const RelPath& path) { return rules.ignores(path, false) || rules.ignores(path, true); });
}

std::map<RelPath, json> diagnostics(const Asked& asked, const std::vector<Finding>& findings) {
  std::map<RelPath, json> out;
  FileTexts texts(asked);
  for (const Finding& finding : findings) {
    // Of a folder nothing can be shown.
    if (!asked.workspace.tree().is_file(finding.file)) continue;
    auto [at, fresh] = out.emplace(finding.file, json::array());
    at->second.push_back(diagnostic(texts, finding));
  }
  return out;
}

json code_actions(const Asked& asked, const std::vector<Finding>& findings, const RelPath& file,
                  const json& range) {
  FileTexts texts(asked);
  json out = json::array();
  auto begin = texts.offset(file, range.at("start")), end = texts.offset(file, range.at("end"));
  if (!begin || !end) return out;
  for (const Finding& finding : findings) {
    bool is_here =
        finding.file == file &&
        (!finding.has_place ? *begin == 0 : finding.span.begin <= *end && *begin <= finding.span.end);
    if (is_here) add_mending(asked, texts, findings, finding, out);
  }
  add_respelling(asked, texts, file, *begin, out);
  return out;
}

Result<Plan> plan_to_mend(Workspace& workspace, const std::string& kind, const std::optional<RelPath>& only) {
  if (std::find(mendable().begin(), mendable().end(), kind) == mendable().end())
    return Error{Failure::usage, kind, "is no kind of finding that can be mended", ""};
  return mend(workspace.tree(), kind, only);
}

Result<Plan> plan_to_lead(const Asked& asked, const std::vector<Finding>& findings, const RelPath& file,
                          const json& position) {
  FileTexts texts(asked);
  auto offset = texts.offset(file, position);
  for (const Finding& finding : findings) {
    bool is_it = offset && finding.file == file && finding.has_place && finding.span.begin == *offset &&
                 !finding.suggestion.empty() && !finding.wanted.is_root();
    if (is_it) return lead_to_meant(asked.workspace.tree(), finding);
  }
  return Error{Failure::usage, file.str(), "nothing leads nowhere at this place any more", ""};
}

Result<Plan> plan_to_respell(const Asked& asked, const RelPath& file, const json& position,
                             bool is_to_alias) {
  FileTexts texts(asked);
  auto offset = texts.offset(file, position);
  if (!offset) return Error{Failure::usage, file.str(), "there is no such file", ""};
  RestyleRequest request;
  request.to = is_to_alias ? Spelling::alias : Spelling::relative;
  request.paths = {file};
  auto plan = restyle(asked.workspace.tree(), request);
  if (!plan || !plan->verified) return plan;
  // Of all that could be spelled so in the file only what was asked for.
  std::vector<std::size_t> here = references_at(asked.workspace, file, *offset);
  const ReferenceGraph& graph = asked.workspace.graph();
  auto is_meant = [&](const RelPath& path, const Span& span) {
    return path == file && std::any_of(here.begin(), here.end(), [&](std::size_t i) {
             return standing_of(graph.references[i]).span.holds(span);
           });
  };
  EditMap edits;
  for (const auto& [path, all] : plan->edits) {
    for (const FileEdits::Item& item : all.items()) {
      if (is_meant(path, item.span)) edits[path].add(item.span, item.text, item.pair);
    }
  }
  plan->edits = std::move(edits);
  std::erase_if(plan->edit_list, [&](const PlannedEdit& edit) { return !is_meant(edit.file, edit.span); });
  return plan;
}

}  // namespace yc::serve
