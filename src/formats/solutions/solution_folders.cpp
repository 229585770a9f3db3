#include "formats/solutions/solution_folders.h"

#include <algorithm>
#include <map>

#include "formats/mirrored_folders.h"

namespace yc::solutions {

namespace {

constexpr const char* kFolderType = "{2150E333-8FDC-42A3-9474-1A3956D46DE8}";

class Mirror {
 public:
  Mirror(const RelPath& path, std::string_view bytes, const Solution& solution, const MoveSet& moves)
      : path_(path), solution_(solution), moves_(moves) {
    std::size_t line = bytes.find('\n');
    if (line != std::string_view::npos && line > 0 && bytes[line - 1] == '\r') line_end_ = "\r\n";
    for (const Entry& entry : solution.entries) {
      if (entry.is_folder()) folders_[shown_path(entry.identifier)] = entry.identifier;
    }
  }

  std::optional<Proposal> run() {
    for (const Solution::Nesting& nesting : solution_.nestings) place(nesting);
    rename();
    for (const auto& [nesting, shown] : wanted_) move(*nesting, shown);
    if (!entries_.empty())
      way_.edits.push_back({path_, {solution_.entries_end, solution_.entries_end}, entries_});
    if (!nestings_.empty())
      way_.edits.push_back({path_, {solution_.nestings_end, solution_.nestings_end}, nestings_});
    return way_.edits.empty() ? std::nullopt : std::optional(way_);
  }

 private:
  const Entry* entry(const std::string& identifier) const {
    for (const Entry& each : solution_.entries) {
      if (each.identifier == identifier) return &each;
    }
    return nullptr;
  }

  const Solution::Nesting* nesting_of(const std::string& child) const {
    for (const Solution::Nesting& each : solution_.nestings) {
      if (each.child == child) return &each;
    }
    return nullptr;
  }

  // "src\gauges" of a virtual folder.
  std::string shown_path(const std::string& identifier) const {
    std::string out, at = identifier;
    for (std::size_t depth = 0; depth < 20; ++depth) {
      const Entry* folder = entry(at);
      if (!folder) break;
      out = folder->name + (out.empty() ? "" : "\\" + out);
      const Solution::Nesting* up = nesting_of(at);
      if (!up) break;
      at = up->parent;
    }
    return out;
  }

  void place(const Solution::Nesting& nesting) {
    const Entry* project = entry(nesting.child);
    if (!project || project->is_folder()) return;
    std::string text = project->path;
    std::replace(text.begin(), text.end(), '\\', '/');
    auto old_path = RelPath::resolve(path_.parent(), text);
    if (!old_path) return;
    RelPath new_path = moves_.map_file(*old_path);
    std::string shown = shown_path(nesting.parent);
    std::string now = mirrored(shown, old_path->parent(), new_path.parent());
    kept_[nesting.parent] = kept_[nesting.parent] || now == shown;
    if (now != shown) wanted_.emplace_back(&nesting, now);
  }

  bool holds_folders(const std::string& identifier) const {
    return std::any_of(solution_.nestings.begin(), solution_.nestings.end(),
                       [&](const Solution::Nesting& each) {
                         const Entry* child = entry(each.child);
                         return each.parent == identifier && child && child->is_folder();
                       });
  }

  // A folder that all in it leave for one place beside it takes the new name.
  void rename() {
    std::map<std::string, std::set<std::string>> targets;  // of each folder
    for (const auto& [nesting, shown] : wanted_) targets[nesting->parent].insert(shown);
    for (const auto& target : targets) {
      const std::string& identifier = target.first;
      const std::set<std::string>& shown = target.second;
      const Entry* folder = entry(identifier);
      if (!folder || shown.size() != 1 || kept_[identifier] || holds_folders(identifier)) continue;
      std::string before = shown_path(identifier), after = *shown.begin();
      auto head = [](const std::string& text) {
        std::size_t cut = text.rfind('\\');
        return cut == std::string::npos ? std::string() : text.substr(0, cut);
      };
      if (head(before) != head(after) || folders_.contains(after)) continue;
      std::string name = after.substr(head(after).empty() ? 0 : head(after).size() + 1);
      way_.edits.push_back({path_, folder->name_span, name});
      if (folder->path == folder->name) way_.edits.push_back({path_, folder->path_span, name});
      folders_[after] = identifier;
      std::erase_if(wanted_, [&](const auto& item) { return item.first->parent == identifier; });
    }
  }

  // The identifier of a virtual folder, which is made with those around it if it is not there.
  std::string folder(const std::string& shown) {
    if (auto known = folders_.find(shown); known != folders_.end()) return known->second;
    std::size_t cut = shown.rfind('\\');
    std::string name = cut == std::string::npos ? shown : shown.substr(cut + 1);
    std::string identifier = identifier_of(path_.str() + "/" + shown);
    std::transform(identifier.begin(), identifier.end(), identifier.begin(),
                   [](unsigned char c) { return std::toupper(c); });
    folders_[shown] = identifier;
    entries_ += "Project(\"" + std::string(kFolderType) + "\") = \"" + name + "\", \"" + name + "\", \"" +
                identifier + "\"" + line_end_ + "EndProject" + line_end_;
    if (cut != std::string::npos)
      nestings_ += "\t\t" + identifier + " = " + folder(shown.substr(0, cut)) + line_end_;
    return identifier;
  }

  void move(const Solution::Nesting& nesting, const std::string& shown) {
    way_.edits.push_back({path_, nesting.parent_span, folder(shown)});
  }

  const RelPath& path_;
  const Solution& solution_;
  const MoveSet& moves_;
  std::string line_end_ = "\n";
  std::map<std::string, std::string> folders_;  // identifiers by what is shown
  std::vector<std::pair<const Solution::Nesting*, std::string>> wanted_;
  std::map<std::string, bool> kept_;  // folders that something stays in
  std::string entries_, nestings_;    // to be added
  Proposal way_;
};

}  // namespace

std::optional<Proposal> mirror_folders(const RelPath& path, std::string_view bytes, const Solution& solution,
                                       const MoveSet& moves) {
  if (solution.nestings.empty()) return std::nullopt;
  return Mirror(path, bytes, solution, moves).run();
}

}  // namespace yc::solutions
