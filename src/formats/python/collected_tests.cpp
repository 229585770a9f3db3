#include "formats/python/collected_tests.h"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fnmatch.h>

#include <algorithm>

#include "formats/values/values.h"

namespace yc::python {

namespace {

struct Setting {
  RelPath folder;  // of the file that has it
  std::vector<std::string> words;
};

// What the nearest settings above a file say; without words where nothing is said.
Setting setting_for(const TreeReader& tree, const RelPath& path, std::string_view key) {
  Setting out;
  for (out.folder = path.parent();; out.folder = out.folder.parent()) {
    for (const char* name : {"pytest.ini", "pyproject.toml", "tox.ini", "setup.cfg"}) {
      RelPath settings = out.folder / name;
      auto bytes = tree.is_file(settings) ? tree.read(settings) : Result<Bytes>(Error{});
      auto language = values::language_of(settings);
      if (!bytes || !language || (*bytes)->find(key) == std::string::npos) continue;
      for (const values::Value& value : values::read(**bytes, *language)) {
        if (std::find(value.path.begin(), value.path.end(), key) == value.path.end()) continue;
        for (std::size_t at = 0; at < value.text.size();) {
          std::size_t begin = value.text.find_first_not_of(" \t\r\n", at);
          if (begin == std::string::npos) break;
          at = std::min(value.text.find_first_of(" \t\r\n", begin), value.text.size());
          out.words.push_back(value.text.substr(begin, at - begin));
        }
      }
      if (!out.words.empty()) return out;
    }
    if (out.folder.is_root()) return out;
  }
}

std::vector<std::string> patterns_for(const TreeReader& tree, const RelPath& path) {
  std::vector<std::string> out = setting_for(tree, path, "python_files").words;
  return out.empty() ? std::vector<std::string>{"test_*.py", "*_test.py"} : out;
}

// The folder that a runner is told to look into, which holds the path (pytest documentation, "testpaths").
std::optional<std::string> test_folder_of(const Setting& folders, const RelPath& path) {
  for (const std::string& word : folders.words) {
    auto folder = RelPath::resolve(folders.folder, word);
    for (RelPath up = path; folder; up = up.parent()) {
      if (fnmatch(folder->str().c_str(), up.str().c_str(), FNM_PATHNAME) == 0) return word;
      if (up.is_root()) break;
    }
  }
  return std::nullopt;
}

bool fits(const std::vector<std::string>& patterns, std::string_view name) {
  return std::any_of(patterns.begin(), patterns.end(), [&](const std::string& pattern) {
    return fnmatch(pattern.c_str(), std::string(name).c_str(), 0) == 0;
  });
}

bool holds_tests(std::string_view text) {
  return text.find("def test") != std::string_view::npos || text.find("TestCase") != std::string_view::npos ||
         text.find("class Test") != std::string_view::npos;
}

}  // namespace

std::vector<Blocker> uncollected_tests(const TreeView& before, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const Move& move : moves.files()) {
    if (move.from.extension() != ".py") continue;
    std::vector<std::string> patterns = patterns_for(before.tree, move.from);
    if (!fits(patterns, move.from.name())) continue;
    Setting folders = setting_for(before.tree, move.from, "testpaths");
    auto folder = test_folder_of(folders, move.from);
    // Where the folder that is named goes along, so does its name.
    auto image = folder ? RelPath::resolve(folders.folder, *folder) : std::nullopt;
    auto moved = image ? moves.map_folder(*image) : std::nullopt;
    bool leaves = folder && !test_folder_of(folders, move.to) && !(moved && move.to.is_within(*moved));
    if (fits(patterns, move.to.name()) && !leaves) continue;
    auto bytes = before.tree.read(move.from);
    if (!bytes || !holds_tests(**bytes)) continue;
    std::string name(move.from.name());
    if (leaves) {
      out.push_back(
          {"uncollected",
           move.from,
           {},
           name,
           fmt::format(
               "holds tests, which runners find in the folder {} (testpaths), and {} is outside of it",
               *folder, move.to.str()),
           "choose a place in that folder, or add --accept-unseen if the tests shall no longer run"});
      continue;
    }
    out.push_back(
        {"uncollected",
         move.from,
         {},
         name,
         fmt::format("holds tests, which runners find by its name ({}), and {} would not be found",
                     fmt::join(patterns, ", "), move.to.name()),
         "choose a name that a pattern fits, or add --accept-unseen if nothing runs them by their names"});
  }
  return out;
}

}  // namespace yc::python
