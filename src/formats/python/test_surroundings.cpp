#include "formats/python/test_surroundings.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <optional>
#include <set>
#include <unordered_map>

#include "base/text.h"
#include "formats/changed_scopes.h"

namespace yc::python {

namespace {

constexpr CharClass kInName = CharClass::alphanumeric_and("_").and_beyond_ascii();

bool is_test_file(const RelPath& path) {
  std::string_view name = path.name();
  return path.extension() == ".py" && (name.starts_with("test_") || name.ends_with("_test.py"));
}

// What a conftest.py does for the tests below it.
struct Conftest {
  bool for_all = false;            // as fixtures that need not be asked for, hooks and search paths
  std::set<std::string> fixtures;  // by name
};

// Names of the functions behind "@pytest.fixture"; whatever else it may do is for all.
Conftest conftest_of(std::string_view text) {
  Conftest out;
  for (std::string_view sign : {"autouse", "def pytest_", "sys.path", "pytest_plugins", "collect_ignore"})
    out.for_all = out.for_all || text.find(sign) != std::string_view::npos;
  for (std::size_t at = text.find("fixture"); at != std::string_view::npos;
       at = text.find("fixture", at + 1)) {
    std::size_t line = text.rfind('\n', at) + 1;
    if (text.substr(line, at - line).find('@') == std::string_view::npos) continue;
    std::size_t def = text.find("def ", at);
    if (def == std::string_view::npos) break;
    std::size_t begin = def + 4, end = begin;
    while (end < text.size() && kInName.holds(text[end])) ++end;
    out.fixtures.emplace(text.substr(begin, end - begin));
    // @pytest.fixture(name="level")
    std::size_t name = text.substr(at, def - at).find("name=");
    if (name == std::string_view::npos) continue;
    begin = at + name + 6;
    end = std::min(text.find_first_of("\"'", begin), def);
    out.fixtures.emplace(text.substr(begin, end - begin));
  }
  return out;
}

class Surroundings {
 public:
  Surroundings(const TreeView& before, const TreeView& planned, const MoveSet& moves)
      : before_(before), planned_(planned), moves_(moves) {}

  std::vector<Blocker> run() {
    for (const Move& move : moves_.files()) {
      if (is_test_file(move.from)) look_at(move.from);
      if (is_test_file(move.to)) look_for_namesake(move);
    }
    for (const RelPath& path : in_changed_scopes(before_.files, moves_, "conftest.py")) {
      if (is_test_file(path)) look_at(path);
    }
    return std::move(out_);
  }

 private:
  // As they are called after the move.
  static std::set<RelPath> conftests_above(const TreeReader& tree, const RelPath& file) {
    std::set<RelPath> out;
    for (RelPath folder = file.parent();; folder = folder.parent()) {
      if (tree.is_file(folder / "conftest.py")) out.insert(folder / "conftest.py");
      if (folder.is_root()) return out;
    }
  }

  const Conftest& known(const RelPath& now) {
    auto [at, fresh] = conftests_.try_emplace(now);
    if (auto bytes = planned_.tree.read(now); fresh && bytes) at->second = conftest_of(**bytes);
    return at->second;
  }

  void look_at(const RelPath& test) {
    RelPath now = moves_.map_file(test);
    std::set<RelPath> old_ones, new_ones = conftests_above(planned_.tree, now);
    for (const RelPath& one : conftests_above(before_.tree, test)) old_ones.insert(moves_.map_file(one));
    auto bytes = before_.tree.read(test);
    if (old_ones == new_ones || !bytes) return;
    for (const RelPath& one : old_ones) {
      if (!new_ones.contains(one)) tell(test, one, **bytes, false);
    }
    for (const RelPath& one : new_ones) {
      if (!old_ones.contains(one)) tell(test, one, **bytes, true);
    }
  }

  void tell(const RelPath& test, const RelPath& conftest, std::string_view text, bool comes) {
    const Conftest& what = known(conftest);
    auto used = std::find_if(what.fixtures.begin(), what.fixtures.end(),
                             [&](const std::string& name) { return has_whole_word(text, name, kInName); });
    bool has_fixture = used != what.fixtures.end();
    if (!has_fixture && !what.for_all) return;
    std::string giver = (has_fixture ? "the fixture \"" + *used + "\" of " : "") + conftest.str();
    RelPath now = moves_.map_file(test);
    Blocker item;
    item.id = "fixture";
    item.file = test;
    item.reason = fmt::format("would {} {}{}", comes ? "come under" : "lose", giver,
                              now == test ? "" : " at " + now.str());
    item.next =
        "keep tests below the conftest.py that is for them, move what it has for them to one above both "
        "places first, or let the tests judge (… -- TEST COMMAND)";
    out_.push_back(std::move(item));
  }

  // Modules outside of packages are known by their own name alone.
  void look_for_namesake(const Move& move) {
    if (is_in_package(planned_.tree, move.to) || knows_by_path()) return;
    for (const RelPath& other : tests_called(std::string(move.to.name()))) {
      if (other == move.to || is_in_package(planned_.tree, other)) continue;
      RelPath was = moves_.unmap_file(other);
      bool before_too = was.name() == move.from.name() && !is_in_package(before_.tree, move.from) &&
                        !is_in_package(before_.tree, was);
      if (before_too) continue;
      out_.push_back(
          {"namesake",
           move.from,
           {},
           "",
           fmt::format("would be called like {}, and pytest imports only one module of a name where they "
                       "are in no package",
                       other.str()),
           "choose another name, or add an __init__.py to both folders first"});
      return;
    }
  }

  const std::vector<RelPath>& tests_called(const std::string& name) {
    if (by_name_.empty()) {
      for (const RelPath& path : planned_.files) by_name_[std::string(path.name())].push_back(path);
    }
    return by_name_[name];
  }

  static bool is_in_package(const TreeReader& tree, const RelPath& path) {
    return tree.is_file(path.parent() / "__init__.py");
  }

  // --import-mode=importlib
  bool knows_by_path() const {
    for (const char* name : {"pytest.ini", "pyproject.toml", "tox.ini", "setup.cfg"}) {
      auto bytes = before_.tree.read(RelPath::from_normal(name));
      if (bytes && (*bytes)->find("importlib") != std::string::npos) return true;
    }
    return false;
  }

  const TreeView& before_;
  const TreeView& planned_;
  const MoveSet& moves_;
  std::map<RelPath, Conftest> conftests_;
  std::unordered_map<std::string, std::vector<RelPath>> by_name_;  // planned; filled when first asked
  std::vector<Blocker> out_;
};

}  // namespace

std::vector<Blocker> changed_surroundings(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) {
  return Surroundings(before, planned, moves).run();
}

}  // namespace yc::python
