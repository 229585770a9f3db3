#include "plan/whereabouts.h"

#include <algorithm>
#include <functional>
#include <map>
#include <set>
#include <unordered_map>

namespace yc {

namespace {

constexpr int kLeastAlike = 50;        // per cent
constexpr int kLeastAlikeByName = 30;  // with the same name, in the folder where its neighbours went
constexpr int kClearLead = 10;         // by which the best candidate must lead
constexpr std::size_t kMostPairs = 4'000'000;

// Hashes of a file's lines, sorted, and so comparable quickly.
std::vector<std::size_t> lines_told(const std::string& bytes) {
  std::vector<std::size_t> out;
  std::string_view rest = bytes;
  while (!rest.empty()) {
    std::size_t end = std::min(rest.find('\n'), rest.size() - 1) + 1;
    out.push_back(std::hash<std::string_view>{}(rest.substr(0, end)));
    rest.remove_prefix(end);
  }
  std::sort(out.begin(), out.end());
  return out;
}

// Per cent of the lines of both that are in both.
int likeness(const std::vector<std::size_t>& a, const std::vector<std::size_t>& b) {
  if (a.empty() || b.empty()) return a.empty() && b.empty() ? 100 : 0;
  std::size_t same = 0;
  for (auto x = a.begin(), y = b.begin(); x != a.end() && y != b.end();) {
    if (*x == *y) {
      ++same, ++x, ++y;
    } else if (*x < *y) {
      ++x;
    } else {
      ++y;
    }
  }
  return static_cast<int>(200 * same / (a.size() + b.size()));
}

class Search {
 public:
  Search(const CommitTree& before, const TreeReader& now) : before_(before), now_(now) {
    for (const RelPath& path : before.files()) {
      if (!now.find(path)) gone_.insert(path);
    }
    for (const RelPath& path : now.files()) {
      const Entry* entry = now.find(path);
      if (!before.find(path) && entry && !entry->guarded) fresh_.insert(path);
    }
  }

  Whereabouts run() {
    by_content();
    by_lines();
    std::sort(out_.moves.begin(), out_.moves.end(),
              [](const FoundMove& a, const FoundMove& b) { return a.move < b.move; });
    for (const Unclear& unclear : out_.unclear) gone_.erase(unclear.from);
    out_.gone.assign(gone_.begin(), gone_.end());
    out_.fresh.assign(fresh_.begin(), fresh_.end());
    return std::move(out_);
  }

 private:
  void take(const RelPath& from, const RelPath& to, int alike) {
    out_.moves.push_back({{from, to}, alike});
    ++votes_[from.parent()][to.parent()];
    gone_.erase(from);
    fresh_.erase(to);
  }

  // Where most of a folder's files went, if any did.
  bool is_voted(const RelPath& from, const RelPath& to) const {
    auto at = votes_.find(from.parent());
    if (at == votes_.end()) return false;
    auto best = std::max_element(at->second.begin(), at->second.end(),
                                 [](const auto& a, const auto& b) { return a.second < b.second; });
    return best->first == to.parent();
  }

  int preference(const RelPath& from, const RelPath& to) const {
    return (from.name() == to.name() ? 20 : 0) + (is_voted(from, to) ? 15 : 0) +
           (from.extension() == to.extension() ? 5 : 0);
  }

  void by_content() {
    std::map<std::string, std::pair<std::vector<RelPath>, std::vector<RelPath>>> by_id;
    for (const RelPath& path : gone_) by_id[before_.blob(path)].first.push_back(path);
    for (const RelPath& path : fresh_) {
      if (auto bytes = now_.read(path)) {
        auto at = by_id.find(blob_id(**bytes));
        if (at != by_id.end()) at->second.second.push_back(path);
      }
    }
    // First what is certain, so that it can vote on the rest.
    for (const auto& [id, pair] : by_id) {
      if (pair.first.size() == 1 && pair.second.size() == 1) take(pair.first[0], pair.second[0], 100);
    }
    for (auto& [id, pair] : by_id) {
      if (pair.first.size() > 1 || pair.second.size() > 1) share_out(pair.first, pair.second);
    }
  }

  // Files of the same content: the name and the neighbours tell which is which, as long as they can.
  void share_out(std::vector<RelPath>& gone, std::vector<RelPath>& fresh) {
    for (const RelPath& from : gone) {
      std::vector<RelPath> left;
      std::copy_if(fresh.begin(), fresh.end(), std::back_inserter(left),
                   [&](const RelPath& to) { return fresh_.contains(to); });
      if (left.empty()) return;
      std::stable_sort(left.begin(), left.end(), [&](const RelPath& a, const RelPath& b) {
        return preference(from, a) > preference(from, b);
      });
      bool is_clear = left.size() == 1 || preference(from, left[0]) > preference(from, left[1]);
      if (is_clear) {
        take(from, left[0], 100);
      } else {
        out_.unclear.push_back({from, left});
      }
    }
  }

  struct Pair {
    int score;
    int alike;
    RelPath from, to;
  };

  void by_lines() {
    std::map<RelPath, std::vector<std::size_t>> old_lines, new_lines;
    std::set<RelPath> unclear;
    for (const Unclear& item : out_.unclear) unclear.insert(item.from);
    for (const RelPath& path : gone_) {
      auto bytes = before_.read(path);
      if (bytes && !unclear.contains(path)) old_lines[path] = lines_told(**bytes);
    }
    for (const RelPath& path : fresh_) {
      if (auto bytes = now_.read(path)) new_lines[path] = lines_told(**bytes);
    }
    if (old_lines.size() * new_lines.size() > kMostPairs) return;
    std::vector<Pair> pairs;
    for (const auto& [from, a] : old_lines) {
      for (const auto& [to, b] : new_lines) {
        if (a.size() > 3 * b.size() + 3 || b.size() > 3 * a.size() + 3) continue;
        int alike = likeness(a, b);
        bool by_name = from.name() == to.name() && is_voted(from, to);
        if (alike >= (by_name ? kLeastAlikeByName : kLeastAlike))
          pairs.push_back({alike + preference(from, to), alike, from, to});
      }
    }
    std::stable_sort(pairs.begin(), pairs.end(),
                     [](const Pair& a, const Pair& b) { return a.score > b.score; });
    for (const Pair& pair : pairs) {
      if (!gone_.contains(pair.from) || !fresh_.contains(pair.to) || unclear.contains(pair.from)) continue;
      std::vector<RelPath> rivals = {pair.to};
      for (const Pair& other : pairs) {
        if (other.from == pair.from && other.to != pair.to && fresh_.contains(other.to) &&
            other.score > pair.score - kClearLead)
          rivals.push_back(other.to);
      }
      if (rivals.size() == 1) {
        take(pair.from, pair.to, pair.alike);
      } else {
        unclear.insert(pair.from);
        out_.unclear.push_back({pair.from, std::move(rivals)});
      }
    }
  }

  const CommitTree& before_;
  const TreeReader& now_;
  std::set<RelPath> gone_, fresh_;
  std::map<RelPath, std::map<RelPath, int>> votes_;  // old folder -> new folder -> files
  Whereabouts out_;
};

}  // namespace

Whereabouts find_moved(const CommitTree& before, const TreeReader& now) {
  return Search(before, now).run();
}

std::vector<Move> by_folder(const std::vector<FoundMove>& moves, const CommitTree& before,
                            const TreeReader& now) {
  std::unordered_map<RelPath, RelPath> where;
  for (const FoundMove& found : moves) where.emplace(found.move.from, found.move.to);
  // A folder went as a whole if it is gone and every file of it is where the same tail below one folder says.
  auto image = [&](const RelPath& folder) -> std::optional<RelPath> {
    if (folder.is_root() || now.find(folder)) return std::nullopt;
    std::optional<RelPath> common;
    std::size_t files = 0;
    for (const RelPath& path : before.files()) {
      if (!path.is_within(folder)) continue;
      auto to = where.find(path);
      if (to == where.end()) return std::nullopt;
      std::string below(path.below(folder)), full = to->second.str();
      if (full.size() <= below.size() + 1 || !full.ends_with("/" + below)) return std::nullopt;
      RelPath target = RelPath::from_normal(full.substr(0, full.size() - below.size() - 1));
      if (common && *common != target) return std::nullopt;
      common = target;
      ++files;
    }
    return files > 1 ? common : std::nullopt;
  };
  std::map<RelPath, std::optional<RelPath>> images;
  std::vector<Move> out;
  std::set<RelPath> named;
  for (const FoundMove& found : moves) {
    std::optional<Move> whole;
    for (RelPath up = found.move.from.parent(); !up.is_root(); up = up.parent()) {
      auto [at, fresh] = images.try_emplace(up);
      if (fresh) at->second = image(up);
      if (at->second) whole = Move{up, *at->second};
    }
    if (!whole) {
      out.push_back(found.move);
    } else if (named.insert(whole->from).second) {
      out.push_back(*whole);
    }
  }
  return out;
}

}  // namespace yc
