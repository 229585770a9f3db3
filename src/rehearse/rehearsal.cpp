#include "rehearse/rehearsal.h"

#include <fmt/format.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <iterator>

#include "formats/format.h"
#include "rehearse/scratch_copy.h"
#include "tree/overlay_tree.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

constexpr std::size_t kMostTelling = 6;

// A temporary folder that goes when nobody wants to keep it.
class Scratch {
 public:
  explicit Scratch(bool keep) : keep_(keep) {
    std::error_code error;
    std::string pattern = (fs::temp_directory_path(error) / "yellow-compass-XXXXXX").string();
    if (const char* made = mkdtemp(pattern.data())) path_ = made;
  }
  ~Scratch() {
    std::error_code ignored;
    if (!keep_ && !path_.empty()) fs::remove_all(path_, ignored);
  }
  Scratch(const Scratch&) = delete;
  Scratch& operator=(const Scratch&) = delete;
  const std::string& path() const { return path_; }

 private:
  bool keep_;
  std::string path_;
};

std::string slurp(const std::string& path) {
  std::ifstream file(path, std::ios::binary);
  return std::string(std::istreambuf_iterator<char>(file), {});
}

// The first "path:line" of a line of a log that names a file of the tree.
std::optional<std::pair<RelPath, std::size_t>> place_in(const std::string& line, const std::string& folder,
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

std::vector<Telling> explain(const std::string& log, const std::string& folder, const TreeReader& tree,
                             const MoveSet* moves) {
  std::vector<Telling> out;
  FactsCache cache;
  ReferenceGraph graph = read_graph(tree, cache);
  for (std::string& line : telling_lines(slurp(log), kMostTelling)) {
    Telling telling;
    if (auto at = place_in(line, folder, tree)) {
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

class Rehearsal {
 public:
  Rehearsal(const TreeReader& start, const DiskTree& disk, const Plan* plan, const RehearsalOptions& options)
      : start_(start), disk_(disk), plan_(plan), options_(options) {
    if (!plan) return;
    after_.emplace(start, plan->moves, plan->changes);
    after_->set_edits(&plan->edits);
  }

  Result<Rehearsed> one(const std::string& command, std::size_t number) {
    Rehearsed out;
    out.command = command;
    auto before = build(start_, false, command, number, out);
    if (!before) return before.error();
    out.before = *before;
    out.verdict = before->built ? Verdict::built : Verdict::never;
    if (!before->built || !after_) return out;
    auto after = build(*after_, true, command, number, out);
    if (!after) return after.error();
    if (!after->built) out.verdict = Verdict::broke;
    out.after = *after;
    return out;
  }

 private:
  Result<BuildRun> build(const TreeReader& tree, bool is_after, const std::string& command,
                         std::size_t number, Rehearsed& out) {
    Scratch scratch(options_.keep);
    if (scratch.path().empty()) return Error{Failure::io, "", "no temporary folder can be made", ""};
    if (options_.keep) out.kept.push_back(scratch.path());
    auto old_path = [&](const RelPath& path) { return is_after ? plan_->moves.unmap_file(path) : path; };
    if (Status ok = write_copy(tree, scratch.path(), &disk_, old_path); !ok) return ok.error();
    std::string when = is_after ? "after" : "before";
    auto tick = [&](double seconds) {
      if (options_.progress)
        options_.progress(fmt::format("Building {} the move: {}", when, command), seconds);
    };
    auto run = run_build(command, scratch.path(), fmt::format("{}/{}-{}.log", options_.logs, number, when),
                         options_.seconds, tick);
    if (run && !run->built)
      out.telling = explain(run->log, scratch.path(), tree, is_after ? &plan_->moves : nullptr);
    return run;
  }

  const TreeReader& start_;
  const DiskTree& disk_;
  const Plan* plan_;
  const RehearsalOptions& options_;
  std::optional<OverlayTree> after_;
};

}  // namespace

Result<std::vector<Rehearsed>> rehearse(const TreeReader& start, const DiskTree& disk, const Plan* plan,
                                        const RehearsalOptions& options) {
  Rehearsal rehearsal(start, disk, plan, options);
  std::vector<Rehearsed> out;
  for (std::size_t i = 0; i < options.commands.size(); ++i) {
    auto one = rehearsal.one(options.commands[i], i + 1);
    if (!one) return one.error();
    out.push_back(std::move(*one));
  }
  return out;
}

}  // namespace yc
