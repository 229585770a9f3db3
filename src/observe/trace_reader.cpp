#include "observe/trace_reader.h"

#include <algorithm>
#include <charconv>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "observe/trace_line.h"

namespace yc {

namespace {

bool is_any_of(std::string_view name, std::initializer_list<std::string_view> names) {
  return std::find(names.begin(), names.end(), name) != names.end();
}

// One process while it runs. A program that is started in the place of another one begins a new record.
struct Running {
  std::size_t record = 0;
  std::optional<std::string> folder;  // absolute, once it is known
  bool has_program = false;           // of its own, not that of the process it was split off from
  // Calls that name files from a folder that is not known yet.
  std::vector<TracedCall> waiting;
};

struct Sets {
  std::set<RelPath> read, listed, missed, wrote;
};

class TraceReader {
 public:
  TraceReader(std::string folder, const TreeReader& tree)
      : root_(std::move(folder)), root_path_(RelPath::from_normal(root_.substr(1))), tree_(tree) {}

  void line(std::string_view text) {
    int process = 0;
    auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), process);
    if (error != std::errc{}) return;
    text.remove_prefix(static_cast<std::size_t>(end - text.data()));
    text.remove_prefix(std::min(text.find_first_not_of(' '), text.size()));
    static constexpr std::string_view kUnfinished = " <unfinished ...>", kResumed = " resumed>";
    if (text.starts_with("+++ ")) return ended(process, text);
    if (text.starts_with("---")) return;
    if (text.ends_with(kUnfinished)) {
      text.remove_suffix(kUnfinished.size());
      halves_[process] = std::string(text);
      if (starts_process(text.substr(0, text.find('(')))) starting_.push_back(process);
      return;
    }
    if (text.starts_with("<... ")) {
      std::size_t at = text.find(kResumed);
      auto half = halves_.find(process);
      if (at == std::string_view::npos || half == halves_.end()) return;
      std::string whole = half->second + std::string(text.substr(at + kResumed.size()));
      halves_.erase(half);
      if (auto whole_call = parse_call(process, whole)) call(*whole_call);
      std::erase(starting_, process);
      return;
    }
    if (auto whole_call = parse_call(process, text)) call(*whole_call);
  }

  Observation finish() {
    for (std::size_t i = 0; i < sets_.size(); ++i) {
      auto list = [](const std::set<RelPath>& set) { return std::vector<RelPath>(set.begin(), set.end()); };
      out_.processes[i].read = list(sets_[i].read);
      out_.processes[i].listed = list(sets_[i].listed);
      out_.processes[i].missed = list(sets_[i].missed);
      out_.processes[i].wrote = list(sets_[i].wrote);
    }
    return std::move(out_);
  }

 private:
  static bool starts_process(std::string_view name) {
    return is_any_of(name, {"clone", "clone3", "fork", "vfork"});
  }

  Running& running(int process) {
    auto found = running_.find(process);
    if (found != running_.end()) return found->second;
    // It is seen before the call that started it has ended. Where several are under way, the call says later.
    std::size_t parent = 0;
    std::optional<std::string> folder;
    bool is_sure = starting_.size() == 1;
    if (!starting_.empty()) {
      auto from = running_.find(starting_.back());
      if (from != running_.end()) {
        parent = from->second.record;
        if (is_sure) folder = from->second.folder;
      }
    } else if (out_.processes.empty()) {
      folder = root_;
    }
    Running& made = running_[process];
    made.record = record(out_.processes.empty() ? -1 : static_cast<std::int32_t>(parent));
    made.folder = folder;
    return made;
  }

  // A new record, as yet of the program that its parent runs.
  std::size_t record(std::int32_t parent) {
    ObservedProcess process;
    process.parent = parent;
    if (parent >= 0) {
      const ObservedProcess& from = out_.processes[static_cast<std::size_t>(parent)];
      process.program = from.program;
      process.arguments = from.arguments;
      process.folder = from.folder;
    }
    out_.processes.push_back(std::move(process));
    sets_.emplace_back();
    return out_.processes.size() - 1;
  }

  void ended(int process, std::string_view text) {
    static constexpr std::string_view kExited = "+++ exited with ";
    auto found = running_.find(process);
    if (found == running_.end()) return;
    if (text.starts_with(kExited))
      out_.processes[found->second.record].status =
          std::atoi(std::string(text.substr(kExited.size())).c_str());
    running_.erase(found);
    std::erase(starting_, process);
    halves_.erase(process);
  }

  void started(const TracedCall& call) {
    if (!call.succeeded() || call.number() <= 0) return;
    int child = static_cast<int>(call.number());
    if (auto thread = call.arguments.find("CLONE_THREAD"); thread != std::string::npos) {
      threads_[child] = call.process;
      return;
    }
    std::size_t parent = running(call.process).record;
    std::optional<std::string> folder = running(call.process).folder;
    auto [known, is_new] = running_.try_emplace(child);
    if (is_new) {
      known->second.record = record(static_cast<std::int32_t>(parent));
    } else if (parent < known->second.record) {
      out_.processes[known->second.record].parent = static_cast<std::int32_t>(parent);
    }
    if (!known->second.folder && folder) came_to(known->second, *folder);
  }

  // The folder of a process is known now.
  void came_to(Running& process, const std::string& folder) {
    if (!process.folder) out_.processes[process.record].folder = inside(folder, "/");
    process.folder = folder;
    std::vector<TracedCall> waiting = std::move(process.waiting);
    process.waiting.clear();
    for (const TracedCall& call : waiting) this->call(call);
  }

  // The path in the tree that a text names from a folder (absolute); nothing if it is outside.
  std::optional<RelPath> inside(std::string_view path, const std::string& folder) const {
    std::string whole = path.starts_with('/') ? std::string(path) : folder + "/" + std::string(path);
    auto normal = RelPath::resolve({}, std::string_view(whole).substr(1));
    if (!normal || !normal->is_within(root_path_)) return std::nullopt;
    return RelPath::from_normal(std::string(normal->below(root_path_)));
  }

  void call(const TracedCall& call) {
    if (starts_process(call.name)) return started(call);
    auto thread = threads_.find(call.process);
    Running& process = running(thread == threads_.end() ? call.process : thread->second);
    ArgumentReader arguments(call.arguments);
    std::string_view name = call.name;
    bool has_folder = is_any_of(name, {"openat", "openat2", "newfstatat", "statx", "faccessat", "faccessat2",
                                       "readlinkat", "execveat", "renameat", "renameat2", "linkat"});
    std::optional<std::string> folder;
    if (has_folder) {
      folder = arguments.folder();
      if (!folder) return;
      if (call.arguments.starts_with("AT_FDCWD") && !process.folder) came_to(process, *folder);
    } else if (name == "symlinkat" || name == "symlink") {
      (void)arguments.string();
      if (name == "symlinkat") folder = arguments.folder();
    }
    if (name == "fchdir") {
      if (auto to = arguments.folder(); to && call.succeeded()) came_to(process, *to);
      return;
    }
    auto path = arguments.string();
    if (!path) return;
    if (!folder && !path->starts_with('/')) {
      if (!process.folder) {
        process.waiting.push_back(call);
        return;
      }
      folder = process.folder;
    }
    named(process, call, *path, folder.value_or("/"), arguments);
  }

  // A call that names the file `path` from `folder`.
  void named(Running& process, const TracedCall& call, const std::string& path, const std::string& folder,
             ArgumentReader& arguments) {
    std::string_view name = call.name;
    if (name == "chdir") {
      if (!call.succeeded()) return;
      std::string whole = path.starts_with('/') ? path : folder + "/" + path;
      auto normal = RelPath::resolve({}, std::string_view(whole).substr(1));
      if (normal) came_to(process, "/" + normal->str());
      return;
    }
    std::optional<RelPath> where = inside(path, folder);
    Sets& sets = sets_[process.record];
    if (!call.succeeded()) {
      if (where && (call.result.find("ENOENT") != std::string::npos ||
                    call.result.find("ENOTDIR") != std::string::npos))
        sets.missed.insert(*where);
      return;
    }
    if (name == "execve" || name == "execveat") return executed(process, path, folder, where, arguments);
    if (is_any_of(name, {"open", "openat", "openat2", "creat"}))
      return opened(sets, call, where, arguments.rest());
    if (name.starts_with("rename") || name.starts_with("link") || name.starts_with("symlink")) {
      if (!name.starts_with("symlink")) {
        if (name.starts_with("link") && where) note_read(sets, *where);
        std::optional<std::string> there = name.find("at") != std::string::npos ? arguments.folder() : folder;
        auto to = arguments.string();
        where = to ? inside(*to, there.value_or("/")) : std::nullopt;
      }
      if (where) sets.wrote.insert(*where);
    }
  }

  void note_read(Sets& sets, const RelPath& path) {
    if (tree_.is_file(path) && !path.is_root()) sets.read.insert(path);
  }

  void opened(Sets& sets, const TracedCall& call, const std::optional<RelPath>& spelled,
              std::string_view flags) {
    std::optional<RelPath> real = inside(call.opened_path(), "/");
    if (call.opened_path().empty()) real = spelled;
    if (flags.find("O_PATH") != std::string_view::npos) return;
    bool creates = call.name == "creat";
    bool writes = creates || flags.find("O_WRONLY") != std::string_view::npos ||
                  flags.find("O_RDWR") != std::string_view::npos;
    bool reads = !creates && flags.find("O_WRONLY") == std::string_view::npos &&
                 flags.find("O_TRUNC") == std::string_view::npos;
    for (const std::optional<RelPath>& path : {real, spelled}) {
      if (!path) continue;
      if (writes) sets.wrote.insert(*path);
      if (!reads) continue;
      if (tree_.is_folder(*path)) {
        sets.listed.insert(*path);
      } else {
        note_read(sets, *path);
      }
    }
  }

  void executed(Running& process, const std::string& path, const std::string& folder,
                const std::optional<RelPath>& where, ArgumentReader& arguments) {
    ObservedProcess* own = &out_.processes[process.record];
    if (process.has_program) {
      process.record = record(own->parent);
      own = &out_.processes[process.record];
    }
    process.has_program = true;
    own->is_started = true;
    own->program = where ? where->str() : path.starts_with('/') ? path : folder + "/" + path;
    own->arguments = arguments.strings();
    for (std::string& word : own->arguments) put_root(word);
    own->folder = process.folder ? inside(*process.folder, "/") : std::nullopt;
    if (where) note_read(sets_[process.record], *where);
  }

  // The place of the copy means nothing to anybody: it is spelled alike in all observations.
  void put_root(std::string& word) const {
    for (std::size_t at = 0; (at = word.find(root_, at)) != std::string::npos; at += kObservedRoot.size())
      word.replace(at, root_.size(), kObservedRoot);
  }

  std::string root_;
  RelPath root_path_;  // the same, from the top of the disk
  const TreeReader& tree_;
  Observation out_;
  std::vector<Sets> sets_;  // of each process of out_
  std::unordered_map<int, Running> running_;
  std::unordered_map<int, int> threads_;  // to the process they belong to
  std::unordered_map<int, std::string> halves_;
  std::vector<int> starting_;  // processes whose call that starts another one has not ended
};

}  // namespace

Observation read_trace(std::istream& log, const std::string& folder, const TreeReader& tree) {
  TraceReader reader(folder, tree);
  for (std::string line; std::getline(log, line);) reader.line(line);
  return reader.finish();
}

}  // namespace yc
