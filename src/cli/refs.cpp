#include "cli/session.h"
#include "formats/format.h"
#include "inspect/reasons.h"
#include "plan/observed_contexts.h"
#include "plan/settled.h"
#include "report/json.h"
#include "report/reasons.h"

namespace yc::cli {

namespace {

// "FILE:LINE", where there is such a file.
std::optional<DoubtPlace> line_at(const Session& session, const std::string& typed) {
  auto place = parse_doubt_place(typed);
  if (!place || place->line == 0) return std::nullopt;
  auto file = path_from_root(session, typed.substr(0, typed.rfind(':')));
  if (!file || !session.tree->is_file(*file)) return std::nullopt;
  return DoubtPlace{*file, place->line};
}

int run(const Options& options, const std::vector<std::string>& typed) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  FactsCache cache(options.timings, session->parts);
  std::vector<RelPath> paths;
  std::vector<DoubtPlace> lines;
  for (const std::string& text : typed) {
    if (auto line = line_at(*session, text)) {
      lines.push_back(*line);
      continue;
    }
    auto path = path_from_root(*session, text);
    if (!path) return fail(options, path.error());
    if (!session->tree->find(*path))
      return fail(options, Error{Failure::usage, text, "there is no such file or folder", ""});
    paths.push_back(*path);
  }
  auto seen = observations_of(*session);
  if (!seen) return fail(options, seen.error());
  ReferenceGraph graph = read_observed(*session->tree, cache, *seen);
  std::vector<Reason> reasons;
  for (const DoubtPlace& at : lines) {
    std::vector<Reason> here = reasons_at(*session->tree, graph, at.file, at.line);
    std::move(here.begin(), here.end(), std::back_inserter(reasons));
  }
  if (!lines.empty() && session->json()) {
    print(report::reasons_json(reasons, *session->tree));
    return kDone;
  }
  if (!lines.empty()) print(report::reasons_text(reasons, *session->tree, session->style()));
  std::vector<Neighbours> found;
  for (const RelPath& path : paths) found.push_back(neighbours(*session->tree, graph, path));
  if (session->json()) {
    print(report::neighbours_json(found, *session->tree));
    return kDone;
  }
  std::string text;
  for (const Neighbours& one : found) text += report::neighbours_text(one, *session->tree, session->style());
  print(text);
  return kDone;
}

}  // namespace

void add_refs(CLI::App& app, const Options& options, int& status) {
  auto paths = std::make_shared<std::vector<std::string>>();
  CLI::App* command = app.add_subcommand(
      "refs", "Show what refers to a path, and what it refers to; of a line, why its references lead there");
  command->add_option("paths", *paths, "Files and folders, or lines of files")
      ->required()
      ->type_name("PATH[:LINE]…");
  command->callback([&options, paths, &status] { status = run(options, *paths); });
}

}  // namespace yc::cli
