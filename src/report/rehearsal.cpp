#include "report/rehearsal.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "report/json.h"

namespace yc::report {

namespace {

using sorted_json = nlohmann::json;  // keys in the order of the alphabet

constexpr std::size_t kMostTold = 10;  // differences that need not be wrong, unless all are asked for

const char* id_of(Verdict verdict) {
  switch (verdict) {
    case Verdict::built:
      return "built";
    case Verdict::differs:
      return "differs";
    case Verdict::broke:
      return "broke";
    case Verdict::never:
      break;
  }
  return "never-built";
}

std::string path_text(const RelPath& path) {
  return printable(path.str());
}

const char* id_of(Difference::Kind kind) {
  switch (kind) {
    case Difference::Kind::not_read:
      return "not-read";
    case Difference::Kind::newly_read:
      return "newly-read";
    case Difference::Kind::read_otherwise:
      return "read-otherwise";
    case Difference::Kind::not_made:
      return "not-made";
    case Difference::Kind::made_elsewhere:
      return "made-elsewhere";
    case Difference::Kind::newly_made:
      return "newly-made";
    case Difference::Kind::not_run:
      return "not-run";
    case Difference::Kind::ended_otherwise:
      return "ended-otherwise";
    case Difference::Kind::warned:
      break;
  }
  return "warned";
}

// How much was observed.
std::string seen_text(const Observation& seen) {
  std::size_t programs = 0;
  for (const ObservedProcess& process : seen.processes)
    programs += process.is_in_tree() && process.is_started ? 1 : 0;
  return fmt::format("{} read, {} made, {} run", count(seen.digests.size(), "file is", "files are"),
                     seen.made.size(), count(programs, "program of the tree", "programs of the tree"));
}

std::string differences_text(const std::vector<Difference>& differences, bool breaks,
                             const TextStyle& style) {
  std::string out;
  std::size_t listed = 0, all = 0;
  std::string by;
  for (const Difference& one : differences) {
    if (one.breaks != breaks || (!breaks && ++all && listed == kMostTold && !style.verbose)) continue;
    ++listed;
    out += "    " + difference_text(one) + "\n";
    std::string own = one.command + "\n" + one.folder;
    if (one.command.empty() || one.kind == Difference::Kind::warned || own == by) continue;
    by = own;
    out += fmt::format("      by: {}{}\n", printable(one.command),
                       one.folder.empty() || one.folder == "." ? "" : " (in " + printable(one.folder) + ")");
  }
  if (listed < all) out += fmt::format("    and {} more (-v lists all)\n", all - listed);
  return out;
}

sorted_json to_json(const BuildRun& run) {
  return {{"built", run.built},
          {"timed_out", run.timed_out},
          {"status", run.status},
          {"seconds", run.seconds},
          {"log", printable(run.log)}};
}

sorted_json differences_json(const std::vector<Difference>& differences) {
  sorted_json out = sorted_json::array();
  for (const Difference& one : differences) {
    out.push_back({{"id", id_of(one.kind)},
                   {"breaks", one.breaks},
                   {"before", path_text(one.before)},
                   {"after", path_text(one.after)},
                   {"command", printable(one.command)},
                   {"folder", printable(one.folder)}});
  }
  return out;
}

}  // namespace

std::string run_text(const BuildRun& run) {
  if (run.timed_out) return fmt::format("was stopped after {:.0f} s", run.seconds);
  if (run.built) return fmt::format("built in {:.1f} s", run.seconds);
  return fmt::format("failed with status {} after {:.1f} s", run.status, run.seconds);
}

std::string difference_text(const Difference& one) {
  std::string before = path_text(one.before), after = path_text(one.after);
  switch (one.kind) {
    case Difference::Kind::not_read:
      return before == after ? before + " was read, and is not any more"
                             : fmt::format("{} was read, and {} is not", before, after);
    case Difference::Kind::newly_read:
      return after + " is read, and was not before";
    case Difference::Kind::read_otherwise:
      return after.empty() ? before + " is not read here any more"
                           : after + " is read here, and was not before";
    case Difference::Kind::not_made:
      return before + " is not made any more";
    case Difference::Kind::made_elsewhere:
      return fmt::format("{} is made as {}", before, after);
    case Difference::Kind::newly_made:
      return after + " is made, and was not before";
    case Difference::Kind::not_run:
      return one.status_before == 0
                 ? before + " is not run any more"
                 : fmt::format("{} is run {} times, {} before", before, one.runs_after, one.runs_before);
    case Difference::Kind::ended_otherwise:
      return fmt::format("{} ends with status {}, {} before", after, one.status_after, one.status_before);
    case Difference::Kind::warned:
      break;
  }
  return "a new warning: " + printable(one.command);
}

std::string verdict_text(const Rehearsed& item) {
  switch (item.verdict) {
    case Verdict::built:
      if (!item.after)
        return item.seen_before ? "It builds: " + seen_text(*item.seen_before) + ".\n" : "It builds.\n";
      return item.seen_after ? "It builds after the move as before it: " + seen_text(*item.seen_after) + ".\n"
                             : "It builds before the move and after it.\n";
    case Verdict::differs:
      return "It builds after the move, but not as before:\n";
    case Verdict::broke:
      return "The move breaks it.\n";
    case Verdict::never:
      break;
  }
  return "It does not build even without a move.\n"
         "  The copies hold what belongs to the project: a build that needs what version control ignores "
         "makes or "
         "installs it,\n  or `installed` in yellow-compass.toml names it.\n";
}

std::string rehearsal_text(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree, const TextStyle& style) {
  std::string out;
  for (const Rehearsed& item : results) {
    out += printable(item.command) + "\n";
    out += fmt::format("  {}  {}\n", item.after ? "before" : "as is ", run_text(item.before));
    if (item.after) out += fmt::format("  after   {}\n", run_text(*item.after));
    if (item.again) {
      out += fmt::format("  again   {}, where it was built before the move\n", run_text(*item.again));
      if (!item.again->built)
        out += "          What is built there already is in the way: clean it after the move.\n";
    }
    out += "  " + verdict_text(item) + differences_text(item.differences, true, style);
    std::string others = differences_text(item.differences, false, style);
    if (!others.empty()) out += "  Otherwise, which need not be wrong:\n" + others;
    for (const Telling& telling : item.telling) {
      out += "    " + printable(telling.line) + "\n";
      for (const std::string& reference : telling.references)
        out += "      there: " + printable(reference) + "\n";
    }
    if (item.verdict != Verdict::built)
      out += fmt::format("  log: {}\n", printable((item.after ? *item.after : item.before).log));
    for (const std::string& folder : item.kept) out += fmt::format("  kept: {}\n", printable(folder));
  }
  if (!lacking.empty()) out += "A fresh clone lacks\n" + findings_text(lacking, tree, style);
  return out;
}

std::string rehearsal_json(const std::vector<Rehearsed>& results, const std::vector<Finding>& lacking,
                           const TreeReader& tree) {
  sorted_json out = {{"builds", sorted_json::array()}};
  for (const Rehearsed& item : results) {
    sorted_json one = {{"command", printable(item.command)},
                       {"verdict", id_of(item.verdict)},
                       {"before", to_json(item.before)}};
    if (item.after) one["after"] = to_json(*item.after);
    if (item.again) one["again"] = to_json(*item.again);
    if (item.seen_before) one["differences"] = differences_json(item.differences);
    one["telling"] = sorted_json::array();
    for (const Telling& telling : item.telling) {
      sorted_json line = {{"line", printable(telling.line)}, {"references", sorted_json::array()}};
      for (const std::string& reference : telling.references)
        line["references"].push_back(printable(reference));
      one["telling"].push_back(std::move(line));
    }
    one["kept"] = item.kept;
    out["builds"].push_back(std::move(one));
  }
  out["lacking"] = sorted_json::parse(findings_json(lacking, tree));
  return out.dump(2, ' ', false, sorted_json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
