#include "rehearse/explain.h"

#include <fmt/format.h>

#include <fstream>
#include <iterator>

#include "formats/format.h"
#include "rehearse/build_run.h"

namespace yc {

namespace {

constexpr std::size_t kMostTelling = 6;

// The first "path:line" of a line of a log that names a file of the tree.
std::optional<std::pair<RelPath, std::size_t>> place_in_tree(const std::string& line,
                                                             const std::string& folder,
                                                             const TreeReader& tree) {
  for (std::size_t begin = 0; begin < line.size();) {
    std::size_t end = std::min(line.find_first_of(" \t'\"()[]", begin), line.size());
    std::string word = line.substr(begin, end - begin);
    begin = end + 1;
    if (word.starts_with(folder + "/")) word.erase(0, folder.size() + 1);
    std::size_t colon = word.find(':');
    if (colon == std::string::npos || colon == 0) continue;
    auto path = RelPath::resolve({}, word.substr(0, colon));
    std::size_t number = static_cast<std::size_t>(std::atoi(word.c_str() + colon + 1));
    if (!path || path->is_root() || number == 0) continue;
    if (tree.is_file(*path)) return std::pair(*path, number);
    // A build that went into a folder names files from there: the one file that the name fits.
    std::vector<RelPath> fitting = tree.files();
    std::erase_if(fitting, [&](const RelPath& file) { return !file.str().ends_with("/" + path->str()); });
    if (fitting.size() == 1) return std::pair(fitting.front(), number);
  }
  return std::nullopt;
}

// Files that moved and that a line of a log still names by their old paths.
std::vector<Move> moved_in(const std::string& line, const std::string& folder, const MoveSet* moves) {
  std::vector<Move> out;
  for (std::size_t begin = 0; moves && begin < line.size();) {
    std::size_t end = std::min(line.find_first_of(" \t'\"`()[]:,;", begin), line.size());
    std::string word = line.substr(begin, end - begin);
    begin = end + 1;
    if (word.starts_with(folder + "/")) word.erase(0, folder.size() + 1);
    auto path = RelPath::resolve({}, word);
    if (path && moves->moves(*path)) out.push_back({*path, moves->map_file(*path)});
  }
  return out;
}

}  // namespace

std::string whole_text(const std::string& path) {
  std::ifstream file(path, std::ios::binary);
  return std::string(std::istreambuf_iterator<char>(file), {});
}

std::vector<Telling> explain_failure(const std::string& log, const std::string& folder,
                                     const TreeReader& tree, const MoveSet* moves) {
  std::vector<Telling> out;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  for (std::string& line : telling_lines(whole_text(log), kMostTelling)) {
    Telling telling;
    if (auto at = place_in_tree(line, folder, tree)) {
      auto bytes = tree.read(at->first);
      for (const Reference& reference : graph.references) {
        Standing standing = standing_of(reference);
        if (!bytes || standing.file == kNoFile || graph.files.path(standing.file) != at->first) continue;
        std::size_t begin = std::min<std::size_t>(standing.span.begin, (*bytes)->size());
        std::size_t number =
            1 + static_cast<std::size_t>(std::count(
                    (*bytes)->begin(), (*bytes)->begin() + static_cast<std::ptrdiff_t>(begin), '\n'));
        if (number != at->second) continue;
        std::string to = reference.targets.empty() ? "nowhere" : reference.targets.front().path.str();
        std::string text =
            fmt::format("{} \"{}\" leads to {}", name_of(reference.role), reference.text.text(), to);
        if (std::find(telling.references.begin(), telling.references.end(), text) == telling.references.end())
          telling.references.push_back(std::move(text));
      }
    }
    for (const Move& move : moved_in(line, folder, moves))
      telling.references.push_back(fmt::format("{} moved to {}", move.from.str(), move.to.str()));
    telling.line = std::move(line);
    out.push_back(std::move(telling));
  }
  return out;
}

}  // namespace yc
