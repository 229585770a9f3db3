#include "report/rehearsal.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "report/json.h"

namespace yc::report {

namespace {

using nlohmann::json;

std::string ended(const BuildRun& run) {
  if (run.timed_out) return fmt::format("was stopped after {:.0f} s", run.seconds);
  if (run.built) return fmt::format("built in {:.1f} s", run.seconds);
  return fmt::format("failed with status {} after {:.1f} s", run.status, run.seconds);
}

const char* id_of(Verdict verdict) {
  return verdict == Verdict::built ? "built" : verdict == Verdict::broke ? "broke" : "never-built";
}

json to_json(const BuildRun& run) {
  return {{"built", run.built},
          {"timed_out", run.timed_out},
          {"status", run.status},
          {"seconds", run.seconds},
          {"log", printable(run.log)}};
}

}  // namespace

std::string rehearsal_text(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree, const TextStyle& style) {
  std::string out;
  for (const Rehearsed& item : results) {
    out += printable(item.command) + "\n";
    out += fmt::format("  {}  {}\n", item.after ? "before" : "as is ", ended(item.before));
    if (item.after) out += fmt::format("  after   {}\n", ended(*item.after));
    if (item.verdict == Verdict::built) {
      out += item.after ? "  It builds before the move and after it.\n" : "  It builds.\n";
    } else {
      out += item.verdict == Verdict::broke ? "  The move breaks it.\n"
                                            : "  It does not build even without a move.\n";
      for (const Telling& telling : item.telling) {
        out += "    " + printable(telling.line) + "\n";
        for (const std::string& reference : telling.references)
          out += "      there: " + printable(reference) + "\n";
      }
      out += fmt::format("  log: {}\n", printable((item.after ? *item.after : item.before).log));
    }
    for (const std::string& folder : item.kept) out += fmt::format("  kept: {}\n", printable(folder));
  }
  if (!lacking.empty()) out += "A fresh clone lacks\n" + findings_text(lacking, tree, style);
  return out;
}

std::string rehearsal_json(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree) {
  json out = {{"builds", json::array()}};
  for (const Rehearsed& item : results) {
    json one = {{"command", printable(item.command)},
                {"verdict", id_of(item.verdict)},
                {"before", to_json(item.before)}};
    if (item.after) one["after"] = to_json(*item.after);
    one["telling"] = json::array();
    for (const Telling& telling : item.telling) {
      json line = {{"line", printable(telling.line)}, {"references", json::array()}};
      for (const std::string& reference : telling.references)
        line["references"].push_back(printable(reference));
      one["telling"].push_back(std::move(line));
    }
    one["kept"] = item.kept;
    out["builds"].push_back(std::move(one));
  }
  out["lacking"] = json::parse(findings_json(lacking, tree));
  return out.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
