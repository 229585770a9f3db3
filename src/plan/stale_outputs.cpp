#include "plan/stale_outputs.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <string>

#include "base/all_cores.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::size_t kLargestOutput = 4'000'000;  // bytes of a dependency file

struct Rule {
  std::vector<std::string> targets, prerequisites;
};

// Lines of the form "targets: prerequisites"; a backslash at the end of a line joins it with the next, and
// one before a blank is part of the name.
std::vector<Rule> rules_in(std::string_view text) {
  std::vector<Rule> out;
  Rule rule;
  std::string word;
  bool is_behind_colon = false;
  auto end_word = [&] {
    if (!word.empty() && !is_behind_colon && word.ends_with(":")) {
      word.pop_back();
      if (!word.empty()) rule.targets.push_back(word);
      is_behind_colon = true;
    } else if (!word.empty()) {
      (is_behind_colon ? rule.prerequisites : rule.targets).push_back(word);
    }
    word.clear();
  };
  for (std::size_t i = 0; i <= text.size(); ++i) {
    char c = i < text.size() ? text[i] : '\n';
    char next = i + 1 < text.size() ? text[i + 1] : '\n';
    if (c == '\\' && (next == ' ' || next == '#')) {
      word += next;
      ++i;
    } else if (c == '\\' && (next == '\n' || (next == '\r' && i + 2 < text.size() && text[i + 2] == '\n'))) {
      end_word();
      i += next == '\n' ? 1 : 2;
    } else if (c == '\n') {
      end_word();
      if (is_behind_colon) out.push_back(std::move(rule));
      rule = {};
      is_behind_colon = false;
    } else if (c == ' ' || c == '\t' || c == '\r') {
      end_word();
    } else {
      word += c;
    }
  }
  return out;
}

std::optional<RelPath> resolved(const RelPath& folder, const std::string& word) {
  return word.starts_with('/') ? std::nullopt : RelPath::resolve(folder, word);
}

bool is_object(const RelPath& path) {
  return words::plan::object_endings().contains(path.extension());
}

bool goes(const MoveSet& moves, const RelPath& path) {
  return moves.map_file(path) != path;
}

// An object beside its source is made at another place once the source is there; the old one is not asked
// for.
bool goes_with_source(const RelPath& object, const RelPath& source, const MoveSet& moves) {
  auto stem = [](const RelPath& path) {
    return path.str().substr(0, path.str().size() - ending_of(path.str()).size());
  };
  return goes(moves, source) && stem(object) == stem(source);
}

std::optional<StaleOutput> stale(const TreeReader& tree, const MoveSet& moves, const RelPath& file,
                                 const std::vector<Rule>& rules) {
  // "tide.h:", which compilers write on request: make goes on where it is gone.
  std::set<std::string> harmless;
  for (const Rule& rule : rules) {
    if (rule.prerequisites.empty()) harmless.insert(rule.targets.begin(), rule.targets.end());
  }
  for (RelPath folder = file.parent();; folder = folder.parent()) {
    for (const Rule& rule : rules) {
      for (const std::string& word : rule.prerequisites) {
        auto path = harmless.contains(word) ? std::nullopt : resolved(folder, word);
        if (!path || !tree.find(*path) || !goes(moves, *path)) continue;
        StaleOutput out{file, *path, {}};
        auto source = resolved(folder, rule.prerequisites.front());
        bool is_left = false;
        bool goes_along = false;
        for (const std::string& target : rule.targets) {
          auto object = resolved(folder, target);
          const Entry* entry = object ? tree.find(*object) : nullptr;
          if (!object || *object == file) continue;
          goes_along = goes_along || (source && goes_with_source(*object, *source, moves));
          // What else a rule may make is not known to be a compiler's.
          bool is_made = is_object(*object) && entry && entry->ignored && entry->kind == EntryKind::file;
          is_left = is_left || is_object(*object);
          if (is_made) out.objects.push_back(*object);
        }
        if (is_left && !goes_along) return out;
      }
    }
    if (folder.is_root()) return std::nullopt;
  }
}

// Adds a file that is ignored, or those in a folder that is. Installed packages are no outputs of this build.
void find_files(const TreeReader& tree, const RelPath& path, std::vector<RelPath>& out) {
  const Entry* entry = tree.find(path);
  if (!entry || entry->guarded) return;
  if (entry->kind == EntryKind::folder) {
    if (words::plan::package_folders().contains(path.name())) return;
    for (const std::string& name : tree.children(path)) find_files(tree, path / name, out);
    return;
  }
  bool is_made = entry->ignored && entry->kind == EntryKind::file && entry->size <= kLargestOutput;
  if (is_made && words::plan::dependency_endings().contains(path.extension())) out.push_back(path);
}

bool is_in_package(const RelPath& path) {
  RelPath folder = path.parent();
  std::vector<std::string_view> parts = folder.components();
  return std::any_of(parts.begin(), parts.end(),
                     [](std::string_view part) { return words::plan::package_folders().contains(part); });
}

}  // namespace

std::vector<StaleOutput> stale_outputs(const TreeReader& tree, const MoveSet& moves) {
  std::vector<RelPath> files;
  for (const RelPath& path : tree.listing().ignored()) {
    if (!is_in_package(path)) find_files(tree, path, files);
  }
  std::vector<std::optional<StaleOutput>> found(files.size());
  on_all_cores(files.size(), [&](std::size_t i) {
    if (auto bytes = tree.read(files[i])) found[i] = stale(tree, moves, files[i], rules_in(**bytes));
  });
  std::vector<StaleOutput> out;
  for (std::optional<StaleOutput>& one : found) {
    if (one) out.push_back(std::move(*one));
  }
  return out;
}

void set_stale_apart(const TreeReader& tree, bool sweep, Plan& plan) {
  for (const StaleOutput& one : stale_outputs(tree, plan.moves)) {
    plan.edits.erase(one.file);
    if (sweep) {
      plan.changes.dropped.insert(one.file);
      plan.changes.dropped.insert(one.objects.begin(), one.objects.end());
      continue;
    }
    std::string command = "rm " + one.file.str();
    for (const RelPath& object : one.objects) command += " " + object.str();
    plan.notices.push_back(
        {"stale-output",
         one.file,
         {},
         false,
         fmt::format("was made by a build and names {}, which goes: make would stop there; before the next "
                     "build, {}, or move with --sweep",
                     one.names.str(), command)});
  }
}

}  // namespace yc
