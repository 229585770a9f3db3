#include "report/catch_up.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

namespace yc::report {

namespace {

using sorted_json = nlohmann::json;  // keys in the order of the alphabet

// How sure a line is: the least of what it stands for.
std::string sureness(int least) {
  return least < 0 ? "as the sheet says" : least == 100 ? "same content" : fmt::format("{}% alike", least);
}

}  // namespace

std::string whereabouts_text(const Whereabouts& found, const std::vector<Move>& folders,
                             const TreeReader& before, const TextStyle& style) {
  if (found.moves.empty() && found.unclear.empty())
    return "Nothing was moved: every file is where it was" +
           (found.gone.empty() ? std::string(".\n")
                               : fmt::format(", or gone ({}).\n", count(found.gone.size(), "file", "files")));
  std::string out = strong(style, "Moved already") + "\n";
  for (const Move& move : folders) {
    bool is_folder = before.is_folder(move.from);
    int least = 101;
    std::size_t files = 0;
    for (const FoundMove& item : found.moves) {
      if (!item.move.from.is_within(move.from)) continue;
      least = std::min(least, item.alike);
      ++files;
    }
    out += fmt::format("  {0}{2} -> {1}{2}   ({3}{4})\n", printable(move.from.str()),
                       printable(move.to.str()), is_folder ? "/" : "",
                       is_folder ? count(files, "file", "files") + ", " : "", sureness(least));
  }
  for (const Unclear& unclear : found.unclear) {
    out += fmt::format("  {} -> ?\n", printable(unclear.from.str()));
    for (const RelPath& path : unclear.candidates) out += "      perhaps " + printable(path.str()) + "\n";
  }
  std::size_t most = style.verbose ? found.gone.size() : 8;
  for (std::size_t i = 0; i < std::min(most, found.gone.size()); ++i)
    out += "  " + printable(found.gone[i].str()) + " is gone\n";
  if (found.gone.size() > most)
    out += fmt::format("  and {} more are gone (-v lists all)\n", found.gone.size() - most);
  return out;
}

std::string caught_up_text(const CaughtUp& caught, bool is_written) {
  std::string out;
  if (caught.already > 0)
    out += fmt::format("{}, and {} left alone.\n",
                       count(caught.already, "reference to what moved is right as it stands",
                             "references to what moved are right as they stand"),
                       caught.already == 1 ? "is" : "are");
  std::size_t edits = caught.mending.edit_list.size(), files = caught.mending.edits.size();
  if (caught.mending.in_part && edits == 0) return out + "Nothing of what is left can be mended by itself.\n";
  if (caught.mending.in_part)
    return out + fmt::format("{}: {} in {}.\n",
                             is_written ? "Mended in part" : "To be mended in part, nothing written",
                             count(edits, "edit", "edits"), count(files, "file", "files"));
  if (edits == 0) return out + "Verified: nothing is left to mend.\n";
  return out + fmt::format(
                   "{}: {} in {}.\n",
                   !caught.mending.accepted.empty()
                       ? is_written ? "Mended, not all of it proved" : "Not all of it proved, nothing written"
                   : is_written ? "Mended and verified"
                                : "Verified, nothing written",
                   count(edits, "edit", "edits"), count(files, "file", "files"));
}

std::string catch_up_json(const Whereabouts& found, const std::vector<Move>& folders, const CaughtUp& caught,
                          const TreeReader& tree, Outcome outcome, int journal) {
  sorted_json out = sorted_json::parse(plan_json(caught.mending, tree, outcome, journal));
  out["already_right"] = caught.already;
  out["moves"] = sorted_json::array();
  for (const FoundMove& item : found.moves) {
    sorted_json one = {{"from", printable(item.move.from.str())}, {"to", printable(item.move.to.str())}};
    if (item.alike < 0) {
      one["told"] = true;
    } else {
      one["alike"] = item.alike;
    }
    out["moves"].push_back(std::move(one));
  }
  out["sheet"] = sorted_json::array();
  for (const Move& move : folders)
    out["sheet"].push_back({{"from", printable(move.from.str())}, {"to", printable(move.to.str())}});
  out["gone"] = sorted_json::array();
  for (const RelPath& path : found.gone) out["gone"].push_back(printable(path.str()));
  return out.dump(2, ' ', false, sorted_json::error_handler_t::replace) + "\n";
}

}  // namespace yc::report
