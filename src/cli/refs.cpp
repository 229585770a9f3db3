#include "cli/session.h"
#include "formats/format.h"
#include "plan/observed_contexts.h"
#include "report/json.h"

namespace yc::cli {

namespace {

int run(const Options& options, const std::vector<std::string>& typed) {
  auto session = open_session(options);
  if (!session) return fail(options, session.error());
  tell_unfinished(*session);
  FactsCache cache(options.timings, session->parts);
  std::vector<RelPath> paths;
  for (const std::string& text : typed) {
    auto path = path_from_root(*session, text);
    if (!path) return fail(options, path.error());
    if (!session->tree->find(*path))
      return fail(options, Error{Failure::usage, text, "there is no such file or folder", ""});
    paths.push_back(*path);
  }
  auto seen = observations_of(*session);
  if (!seen) return fail(options, seen.error());
  ReferenceGraph graph = read_observed(*session->tree, cache, *seen);
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
  CLI::App* command = app.add_subcommand("refs", "Show what refers to a path, and what it refers to");
  command->add_option("paths", *paths, "Files and folders")->required()->type_name("PATH…");
  command->callback([&options, paths, &status] { status = run(options, *paths); });
}

}  // namespace yc::cli
