#include "report/history.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "report/text.h"

namespace yc::report {

namespace {

using sorted_json = nlohmann::json;  // keys in the order of the alphabet

struct Counts {
  std::size_t moved = 0, edited = 0, made = 0, dropped = 0;
};

Counts counts_of(const Journal& journal) {
  Counts out;
  for (const JournalItem& item : journal.items) {
    out.moved += item.moves();
    out.edited += item.is_edited();
  }
  out.made = journal.made_files.size();
  out.dropped = journal.dropped_files.size();
  return out;
}

const char* standing(const StoredJournal& stored) {
  if (stored.is_unfinished()) return "not finished";
  return stored.undone ? "undone" : "stands";
}

sorted_json items(const Journal& journal, bool backwards) {
  sorted_json out = {{"moves", sorted_json::array()}, {"edited", sorted_json::array()}};
  for (const JournalItem& item : journal.items) {
    const RelPath &from = backwards ? item.to : item.from, &to = backwards ? item.from : item.to;
    if (item.moves()) out["moves"].push_back({{"from", printable(from.str())}, {"to", printable(to.str())}});
    if (item.is_edited()) out["edited"].push_back(printable(to.str()));
  }
  for (const JournalChange& change : journal.made_files)
    out[backwards ? "dropped" : "made"].push_back(printable(change.path.str()));
  for (const JournalChange& change : journal.dropped_files)
    out[backwards ? "made" : "dropped"].push_back(printable(change.path.str()));
  return out;
}

std::string dump_history(const sorted_json& value) {
  return value.dump(2, ' ', false, sorted_json::error_handler_t::replace) + "\n";
}

}  // namespace

std::string recovered_text(const Recovered& recovered, bool is_undo) {
  Counts counts = counts_of(recovered.journal.journal);
  std::string what;
  auto add = [&](std::size_t number, const std::string& text) {
    if (number > 0) what += (what.empty() ? "" : ", ") + text;
  };
  add(counts.moved, count(counts.moved, "file", "files") + (is_undo ? " moved back" : " moved"));
  add(counts.edited,
      count(counts.edited, "edited file", "edited files") + (is_undo ? " restored" : " in place"));
  add(counts.made, count(counts.made, "new file", "new files") + (is_undo ? " taken away" : " in place"));
  add(counts.dropped, count(counts.dropped, "file", "files") + (is_undo ? " brought back" : " taken away"));
  std::string out = fmt::format("{}: {}. ({})\n", is_undo ? "Undone" : "Finished", what,
                                printable(recovered.journal.journal.command));
  for (const Kept& kept : recovered.kept) {
    out += fmt::format("{}: was changed by somebody else meanwhile; that version is kept as {}\n",
                       printable(kept.path.str()), printable(kept.beside.str()));
  }
  return out;
}

std::string recovered_json(const Recovered& recovered, bool is_undo) {
  sorted_json out = items(recovered.journal.journal, is_undo);
  out["outcome"] = is_undo ? "undone" : "finished";
  out["journal"] = recovered.journal.number;
  out["command"] = printable(recovered.journal.journal.command);
  out["was_unfinished"] = recovered.was_unfinished;
  out["kept"] = sorted_json::array();
  for (const Kept& kept : recovered.kept)
    out["kept"].push_back({{"path", printable(kept.path.str())}, {"as", printable(kept.beside.str())}});
  return dump_history(out);
}

std::string history_text(const std::vector<StoredJournal>& journals, bool whole) {
  if (journals.empty()) return "No move was made here yet.\n";
  std::string out;
  for (auto stored = journals.rbegin(); stored != journals.rend(); ++stored) {
    const Journal& journal = stored->journal;
    Counts counts = counts_of(journal);
    out += fmt::format("{:>4}  {:%Y-%m-%d %H:%M}  {:<12}  {} moved, {} edited{}{}\n      {}\n",
                       stored->number, fmt::localtime(static_cast<std::time_t>(journal.time)),
                       standing(*stored), count(counts.moved, "file", "files"), counts.edited,
                       counts.made > 0 ? fmt::format(", {} new", counts.made) : "",
                       counts.dropped > 0 ? fmt::format(", {} gone", counts.dropped) : "",
                       printable(journal.command));
    for (const JournalItem& item : journal.items) {
      if (!whole) break;
      out += "      " + printable(item.from.str());
      if (item.moves()) out += " -> " + printable(item.to.str());
      out += item.is_edited() ? " (edited)\n" : "\n";
    }
    for (std::size_t i = 0; whole && i < journal.made_files.size(); ++i)
      out += "      " + printable(journal.made_files[i].path.str()) + " (new)\n";
    for (std::size_t i = 0; whole && i < journal.dropped_files.size(); ++i)
      out += "      " + printable(journal.dropped_files[i].path.str()) + " (gone)\n";
  }
  return out;
}

std::string history_json(const std::vector<StoredJournal>& journals) {
  sorted_json out = {{"journals", sorted_json::array()}};
  for (auto stored = journals.rbegin(); stored != journals.rend(); ++stored) {
    sorted_json one = items(stored->journal, false);
    one["journal"] = stored->number;
    one["time"] = stored->journal.time;
    one["command"] = printable(stored->journal.command);
    one["state"] = stored->is_unfinished() ? "unfinished" : stored->undone ? "undone" : "stands";
    out["journals"].push_back(std::move(one));
  }
  return dump_history(out);
}

}  // namespace yc::report
