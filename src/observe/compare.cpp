#include "observe/compare.h"

#include <algorithm>
#include <map>
#include <set>
#include <unordered_map>

#include "base/text.h"
#include "words/observe.h"

namespace yc {

namespace {

constexpr std::size_t kMostCommandShown = 160;  // bytes of a command that are shown

using AccessKind = Difference::Kind;

// The files that each unit of work read: all processes of one program that are told to work on one file.
using Reads = std::map<std::pair<std::string, RelPath>, std::map<RelPath, const ObservedProcess*>>;

class ReadsComparison {
 public:
  ReadsComparison(const Observation& before, const Observation& after, const MoveSet& moves,
                  const FileChanges& changes)
      : before_(before), after_(after), moves_(moves), changes_(changes) {
    for (const Move& move : moves_.files()) by_stem_[stem_of(move.from.name())].push_back(&move);
  }

  std::vector<Difference> run() {
    reads();
    units();
    products();
    programs();
    std::stable_sort(out_.begin(), out_.end(),
                     [](const Difference& a, const Difference& b) { return a.breaks > b.breaks; });
    return std::move(out_);
  }

 private:
  Difference& tell(AccessKind kind, bool breaks, const ObservedProcess* by, const Observation& of) {
    Difference& made = out_.emplace_back();
    if (by) by = &as_called(of, *by);
    made.kind = kind;
    made.breaks = breaks;
    if (by) {
      made.command = command_text(*by, kMostCommandShown);
      made.folder = !by->folder ? "" : by->folder->is_root() ? "." : by->folder->str();
    }
    return made;
  }

  // Who read each file first, by its path after the move.
  std::map<RelPath, const ObservedProcess*> readers(const Observation& of, bool maps) const {
    std::map<RelPath, const ObservedProcess*> out;
    for (const ObservedProcess& process : of.processes) {
      for (const RelPath& path : process.read) out.try_emplace(maps ? moves_.map_file(path) : path, &process);
    }
    return out;
  }

  void reads() {
    auto old_readers = readers(before_, true), new_readers = readers(after_, false);
    // What is read after the move by others than those who make build scripts anew.
    std::set<RelPath> read_by_others;
    for (const ObservedProcess& process : after_.processes) {
      if (!words::observe::regenerators().contains(program_name(process)))
        read_by_others.insert(process.read.begin(), process.read.end());
    }
    for (const auto& [path, by] : old_readers) {
      if (new_readers.contains(path)) continue;
      RelPath was = moves_.unmap_file(path);
      if (changes_.dropped.contains(was)) continue;
      Difference& made = tell(AccessKind::not_read, true, by, before_);
      made.before = was;
      made.after = path;
      told_.insert(path);
    }
    for (const auto& [path, by] : new_readers) {
      if (old_readers.contains(path) || changes_.made.contains(path)) continue;
      Difference& made = tell(AccessKind::newly_read, read_by_others.contains(path), by, after_);
      made.before = moves_.unmap_file(path);
      made.after = path;
      told_.insert(path);
    }
  }

  Reads units_of(const Observation& of, bool maps) const {
    Reads out;
    for (const ObservedProcess& process : of.processes) {
      std::string name = program_name(process);
      if (process.read.empty() || words::observe::build_drivers().contains(name)) continue;
      std::optional<RelPath> subject = subject_of(process);
      if (!subject) continue;
      auto& own = out[{name, maps ? moves_.map_file(*subject) : *subject}];
      for (const RelPath& path : process.read) own.try_emplace(maps ? moves_.map_file(path) : path, &process);
    }
    return out;
  }

  // The first file that a process reads of those that its arguments name.
  static std::optional<RelPath> subject_of(const ObservedProcess& process) {
    for (std::size_t i = 1; i < process.arguments.size(); ++i) {
      auto path = named_by(process, process.arguments[i]);
      if (path && std::binary_search(process.read.begin(), process.read.end(), *path)) return path;
    }
    return std::nullopt;
  }

  // A unit of work that reads one file in the place of another, both of which others read as well.
  void units() {
    Reads old_units = units_of(before_, true), new_units = units_of(after_, false);
    for (const auto& [unit, old_files] : old_units) {
      auto other = new_units.find(unit);
      if (other == new_units.end()) continue;
      const auto& new_files = other->second;
      for (const auto& [path, by] : old_files) {
        if (new_files.contains(path) || told_.contains(path) ||
            !told_units_.insert({unit.second, path}).second)
          continue;
        if (changes_.dropped.contains(moves_.unmap_file(path))) continue;
        Difference& made = tell(AccessKind::read_otherwise, true, by, before_);
        made.before = moves_.unmap_file(path);
      }
      for (const auto& [path, by] : new_files) {
        if (old_files.contains(path) || told_.contains(path) ||
            !told_units_.insert({unit.second, path}).second)
          continue;
        if (changes_.made.contains(path)) continue;
        Difference& made = tell(AccessKind::read_otherwise, true, by, after_);
        made.after = path;
      }
    }
  }

  // Where a product may be after the move: beside the files it was made of or from, as far as its path tells.
  std::set<RelPath> images(const RelPath& product) const {
    std::set<RelPath> out{product};
    for (RelPath folder = product.parent();; folder = folder.parent()) {
      auto to = moves_.map_folder(folder);
      if (to && *to != folder) out.insert(*to / product.below(folder));
      if (folder.is_root()) break;
    }
    // A part of its name, between separators, may be a source's.
    std::string own = stem_of(product.name());
    std::vector<std::size_t> begins{0}, ends{own.size()};
    if (own.starts_with("lib")) begins.push_back(3);
    for (std::size_t at = 0; at < own.size(); ++at) {
      if (own[at] != '-' && own[at] != '_') continue;
      ends.push_back(at);
      begins.push_back(at + 1);
    }
    for (std::size_t begin : begins) {
      for (std::size_t end : ends) {
        auto moves = end > begin ? by_stem_.find(own.substr(begin, end - begin)) : by_stem_.end();
        if (moves == by_stem_.end()) continue;
        for (const Move* move : moves->second) add_images(product, *move, begin, end - begin, out);
      }
    }
    return out;
  }

  static std::string stem_of(std::string_view name) { return std::string(name.substr(0, name.find('.'))); }

  // The places of a product whose name has that of a source, which moves, at these bytes.
  static void add_images(const RelPath& product, const Move& move, std::size_t at, std::size_t size,
                         std::set<RelPath>& out) {
    std::string name(product.name());
    name.replace(at, size, stem_of(move.to.name()));
    out.insert(move.to.parent() / name);
    out.insert(product.parent() / name);
    // In a build tree folders are as in the source tree.
    RelPath source_folder = move.from.parent();
    if (product.parent().is_within(source_folder)) return;
    const std::string& folder = source_folder.str();
    std::string whole = product.parent().str();
    if (folder.empty()) {
      out.insert(product.parent() / move.to.parent().str() / name);
    } else if (whole.ends_with("/" + folder)) {
      whole.replace(whole.size() - folder.size(), folder.size(), move.to.parent().str());
      if (auto path = RelPath::resolve({}, whole + "/" + name)) out.insert(*path);
    }
  }

  // Who wrote each path first.
  static std::map<RelPath, const ObservedProcess*> makers(const Observation& of) {
    std::map<RelPath, const ObservedProcess*> out;
    for (const ObservedProcess& process : of.processes) {
      for (const RelPath& path : process.wrote) out.try_emplace(path, &process);
    }
    return out;
  }

  void products() {
    std::set<RelPath> left(after_.made.begin(), after_.made.end());
    std::vector<RelPath> lost;
    for (const RelPath& path : before_.made) {
      if (left.erase(path) == 0) lost.push_back(path);
    }
    std::erase_if(lost, [&](const RelPath& path) {
      for (const RelPath& image : images(path)) {
        if (left.erase(image) > 0) return true;
      }
      return false;
    });
    auto old_makers = makers(before_), new_makers = makers(after_);
    auto maker = [](const auto& all, const RelPath& path) {
      auto at = all.find(path);
      return at == all.end() ? nullptr : at->second;
    };
    std::map<std::string, std::vector<RelPath>> by_name;
    for (const RelPath& path : left) by_name[without_digests(path.name())].push_back(path);
    for (const RelPath& path : lost) {
      auto same = by_name.find(without_digests(path.name()));
      bool is_there = same != by_name.end() && !same->second.empty();
      if (is_passing(path)) continue;
      Difference& made = tell(is_there ? AccessKind::made_elsewhere : AccessKind::not_made, false,
                              maker(old_makers, path), before_);
      made.before = path;
      if (!is_there) {
        made.breaks = true;
        continue;
      }
      made.after = same->second.back();
      left.erase(made.after);
      same->second.pop_back();
    }
    for (const RelPath& path : left) {
      if (is_passing(path)) continue;
      tell(AccessKind::newly_made, false, maker(new_makers, path), after_).after = path;
    }
  }

  // A product's name without the digests of its contents, or of where it was made, that tools put into names.
  static std::string without_digests(std::string_view name) {
    std::string out;
    for (std::size_t at = 0; at < name.size();) {
      std::size_t end = std::min(name.find_first_of("-.", at), name.size());
      std::string_view part = name.substr(at, end - at);
      bool has_digit = part.find_first_of("0123456789") != std::string_view::npos;
      out += has_digit && part.size() >= kShortestDigest ? "*" : std::string(part);
      if (end < name.size()) out += name[end];
      at = end + 1;
    }
    return out;
  }

  // A file of the build tool's own, whose names are not the project's.
  static bool is_passing(const RelPath& path) {
    for (std::string_view part : path.components()) {
      if (words::observe::tool_folders().contains(part)) return true;
    }
    return words::observe::intermediate_endings().contains(path.extension());
  }

  // Programs of the tree that ran, by name, with what they ended with; those made by the build are among
  // them.
  std::map<std::string, std::vector<const ObservedProcess*>> programs_of(const Observation& of) const {
    std::map<std::string, std::vector<const ObservedProcess*>> out;
    std::map<RelPath, const ObservedProcess*> written = makers(of);
    std::set<RelPath> left(of.made.begin(), of.made.end());
    for (const ObservedProcess& process : of.processes) {
      if (!process.is_in_tree() || !process.is_started) continue;
      RelPath path = RelPath::from_normal(process.program);
      bool is_gone = written.contains(path) && !left.contains(path);
      std::string name = program_name(process);
      out[is_gone ? without_numbers(name) : name].push_back(&process);
    }
    return out;
  }

  // A trial of a configure script has a name by the number of its process, and is taken away: "try4711".
  static std::string without_numbers(std::string_view name) {
    std::string out;
    for (char c : name) {
      bool is_digit = c >= '0' && c <= '9';
      if (!is_digit) out += c;
      if (is_digit && !out.ends_with('#')) out += '#';
    }
    return out;
  }

  void programs() {
    auto old_programs = programs_of(before_), new_programs = programs_of(after_);
    for (const auto& [name, runs] : old_programs) {
      RelPath was = RelPath::from_normal(runs.front()->program);
      RelPath is = moves_.map_file(was);
      std::string name_now = name == program_name(*runs.front()) ? std::string(is.name()) : name;
      const auto& now = new_programs[name_now];
      if (now.empty()) {
        if (!told_.contains(is)) tell(AccessKind::not_run, true, runs.front(), before_).before = was;
        continue;
      }
      auto failures = [](const std::vector<const ObservedProcess*>& all) {
        std::multiset<int> out;
        for (const ObservedProcess* one : all) out.insert(one->status.value_or(-1));
        return out;
      };
      std::multiset<int> old_ends = failures(runs), new_ends = failures(now);
      if (old_ends == new_ends) continue;
      Difference& made = tell(AccessKind::ended_otherwise, true, now.front(), after_);
      made.before = was;
      made.after = RelPath::from_normal(now.front()->program);
      if (runs.size() != now.size()) {
        made.kind = AccessKind::not_run;
        made.breaks = now.size() < runs.size() && runs.size() < kMostCounted;
        made.runs_before = runs.size();
        made.runs_after = now.size();
        continue;
      }
      made.status_before = first_beside(old_ends, new_ends);
      made.status_after = first_beside(new_ends, old_ends);
    }
  }

  // The first that is not among the others as often.
  static int first_beside(const std::multiset<int>& some, const std::multiset<int>& others) {
    std::vector<int> out;
    std::set_difference(some.begin(), some.end(), others.begin(), others.end(), std::back_inserter(out));
    return out.empty() ? 0 : out.front();
  }

  static constexpr std::size_t kShortestDigest = 8;  // digits
  static constexpr std::size_t kMostCounted =
      20;  // runs of one program that are taken to be the same each time

  const Observation& before_;
  const Observation& after_;
  const MoveSet& moves_;
  const FileChanges& changes_;
  std::unordered_map<std::string, std::vector<const Move*>> by_stem_;  // of the names that go
  std::vector<Difference> out_;
  std::set<RelPath> told_;  // files, by their paths after the move
  std::set<std::pair<RelPath, RelPath>> told_units_;
};

}  // namespace

std::vector<Difference> compare_observations(const Observation& before, const Observation& after,
                                             const MoveSet& moves, const FileChanges& changes) {
  return ReadsComparison(before, after, moves, changes).run();
}

std::vector<Difference> new_warnings(const std::string& log_before, const std::string& log_after) {
  // What is warned of: the text behind the word, so that it is the same from whatever place.
  auto warning = [](std::string_view line) {
    std::string lower = lowered(line);
    std::size_t at = lower.find("warning");
    return at == std::string::npos ? std::string() : lower.substr(at);
  };
  std::set<std::string> known;
  for_each_line(log_before, [&](std::string_view line, std::size_t) { known.insert(warning(line)); });
  known.insert("");
  std::vector<Difference> out;
  for_each_line(log_after, [&](std::string_view line, std::size_t) {
    if (!known.insert(warning(line)).second) return;
    Difference& made = out.emplace_back();
    made.kind = AccessKind::warned;
    made.command = std::string(line.substr(0, kMostCommandShown));
  });
  return out;
}

}  // namespace yc
