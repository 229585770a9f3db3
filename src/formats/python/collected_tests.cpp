#include "formats/python/collected_tests.h"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fnmatch.h>

#include <algorithm>

#include "formats/values/values.h"

namespace yc::python {

namespace {

// What the nearest settings above a file say, or what goes where nothing is said.
std::vector<std::string> patterns_for(const TreeReader& tree, const RelPath& path) {
  for (RelPath up = path.parent();; up = up.parent()) {
    for (const char* name : {"pytest.ini", "pyproject.toml", "tox.ini", "setup.cfg"}) {
      RelPath settings = up / name;
      auto bytes = tree.is_file(settings) ? tree.read(settings) : Result<Bytes>(Error{});
      auto language = values::language_of(settings);
      if (!bytes || !language || (*bytes)->find("python_files") == std::string::npos) continue;
      std::vector<std::string> out;
      for (const values::Value& value : values::read(**bytes, *language)) {
        if (std::find(value.path.begin(), value.path.end(), "python_files") == value.path.end()) continue;
        for (std::size_t at = 0; at < value.text.size();) {
          std::size_t begin = value.text.find_first_not_of(" \t\r\n", at);
          if (begin == std::string::npos) break;
          at = std::min(value.text.find_first_of(" \t\r\n", begin), value.text.size());
          out.push_back(value.text.substr(begin, at - begin));
        }
      }
      if (!out.empty()) return out;
    }
    if (up.is_root()) return {"test_*.py", "*_test.py"};
  }
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
    if (move.from.extension() != ".py" || move.from.name() == move.to.name()) continue;
    std::vector<std::string> patterns = patterns_for(before.tree, move.from);
    if (!fits(patterns, move.from.name()) || fits(patterns, move.to.name())) continue;
    auto bytes = before.tree.read(move.from);
    if (!bytes || !holds_tests(**bytes)) continue;
    out.push_back(
        {"uncollected",
         move.from,
         {},
         std::string(move.from.name()),
         fmt::format("holds tests, which runners find by its name ({}), and {} would not be found",
                     fmt::join(patterns, ", "), move.to.name()),
         "choose a name that a pattern fits, or add --accept-unseen if nothing runs them by their names"});
  }
  return out;
}

}  // namespace yc::python
