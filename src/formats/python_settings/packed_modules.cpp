#include "formats/python_settings/packed_modules.h"

#include <fmt/format.h>
#include <fnmatch.h>

#include <algorithm>
#include <array>
#include <map>
#include <unordered_set>

#include "formats/python_settings/settings_words.h"
#include "words/python_settings.h"

namespace yc::python_settings {

namespace {

using values::Value;

std::string dotted_folder(const RelPath& module, const RelPath& root) {
  RelPath folder = module.parent();
  std::string out(folder.below(root));
  std::replace(out.begin(), out.end(), '/', '.');
  return out;
}

bool matches_any_pattern(const std::vector<std::string>& patterns, const std::string& name) {
  return std::any_of(patterns.begin(), patterns.end(), [&](const std::string& pattern) {
    return fnmatch(pattern.c_str(), name.c_str(), 0) == 0;
  });
}

// What the settings files of one folder say together.
struct Said {
  Distribution out;
  std::string name, backend;
  bool is_project = false;
  bool finds = false, lists = false, asks_for_data = false;
  std::vector<std::string> where, package_dir, trees;
};

void take_setuptools(const std::vector<std::string>& keys, const Word& word, Said& said) {
  const std::string& key = last_of(keys);
  bool is_find = has(keys, "find") || has(keys, "find_packages") || has(keys, "find_namespace_packages");
  if (has(keys, "package_dir")) {
    if (key.empty() || (word.has_key && word.key.empty())) said.package_dir.push_back(word.text);
  } else if (is_find) {
    said.finds = true;
    said.out.takes_folders = said.out.takes_folders || has(keys, "find_namespace_packages");
    if (key == "exclude") {
      said.out.excluded.push_back(word.text);
    } else if (key == "include") {
      said.out.included.push_back(word.text);
    } else if (key == "where" || key == "find_packages" || key == "find_namespace_packages") {
      said.where.push_back(word.text);
    }
  } else if (key == "packages" && word.text.starts_with("find")) {
    said.finds = true;
    said.out.takes_folders = word.text.starts_with("find_namespace");
  } else if (key == "packages") {
    said.lists = true;
    said.out.listed.insert(word.text);
  } else if (key == "py_modules") {
    said.lists = true;
    said.out.modules.insert(word.text);
  }
}

void take_setting(const RelPath& file, const std::vector<std::string>& keys, const Word& word, Said& said) {
  const std::string& key = last_of(keys);
  bool is_toml = file.extension() == ".toml";
  if (key == "name" &&
      (has(keys, "project") || has(keys, "metadata") || has(keys, "poetry") || has(keys, "setup") ||
       has(keys, "flit")) &&
      keys.size() <= (is_toml ? 4U : 2U)) {
    said.name = normal_key(word.text);
    said.is_project = true;
  }
  if (key == "build_backend") said.backend = word.text;
  if (has(keys, "poetry") && has(keys, "packages")) {
    if (key == "include") said.trees.push_back(word.text);
    if (key == "from") said.where.push_back(word.text);
  } else if (has(keys, "hatch")) {
    if (key == "packages" && has(keys, "wheel")) said.trees.push_back(word.text);
  } else if (has(keys, "setup") || has(keys, "options") || has(keys, "setuptools")) {
    said.is_project = true;
    take_setuptools(keys, word, said);
  }
}

class DistributionReader {
 public:
  DistributionReader(const TreeReader& tree, const RelPath& folder) : tree_(tree), folder_(folder) {}

  void read(const RelPath& file) {
    auto bytes = tree_.read(file);
    if (!bytes) return;
    for (const Value& value : values_of(file, **bytes)) {
      std::vector<std::string> keys = keys_of(value);
      for (const Word& word : words_of(value, keys, file.name() == "setup.py"))
        take_setting(file, keys, word, said_);
    }
    // Calls and tables without a word in them.
    for (const char* sign : {"find_packages(", "packages.find]", "find_namespace_packages("})
      said_.finds = said_.finds || (**bytes).find(sign) != std::string::npos;
    const std::string& text = **bytes;
    said_.asks_for_data = said_.asks_for_data || text.find("include_package_data") != std::string::npos;
    for (const char* sign : {"setuptools_scm", "setuptools-scm"})
      said_.out.takes_data = said_.out.takes_data || text.find(sign) != std::string::npos;
    bool is_first = said_.out.settings.is_root() || file.name() == "pyproject.toml";
    if (is_first) said_.out.settings = file;
  }

  std::optional<Distribution> distribution() {
    if (!said_.is_project) return std::nullopt;
    said_.out.folder = folder_;
    bool is_setuptools = said_.backend.empty() || said_.backend.starts_with("setuptools");
    bool is_named = said_.backend.starts_with("hatchling") || said_.backend.starts_with("poetry") ||
                    said_.backend.starts_with("flit");
    bool is_known = is_setuptools ? by_setuptools() : is_named && by_names();
    // Where it is asked to, and always with settings in TOML, setuptools takes what MANIFEST.in names.
    bool by_manifest = is_setuptools && tree_.is_file(folder_ / "MANIFEST.in") &&
                       (said_.asks_for_data || said_.out.settings.extension() == ".toml");
    said_.out.takes_data = said_.out.takes_data || !is_setuptools || by_manifest;
    return is_known ? std::optional(said_.out) : std::nullopt;
  }

 private:
  std::optional<RelPath> folder_at(const std::string& text) const {
    auto out = RelPath::resolve(folder_, text);
    return out && tree_.is_folder(*out) ? out : std::nullopt;
  }

  bool by_setuptools() {
    Distribution& out = said_.out;
    for (const std::string& text : said_.where.empty() ? said_.package_dir : said_.where) {
      if (auto place = folder_at(text)) out.roots.push_back(*place);
    }
    out.finds_all = said_.finds;
    if (said_.finds || said_.lists) {
      if (said_.finds && out.settings.extension() == ".toml") out.takes_folders = true;
      if (out.roots.empty()) out.roots.push_back(folder_);
      return true;
    }
    if (auto src = folder_at("src"); src && out.roots.empty()) out.roots.push_back(*src);
    if (!out.roots.empty()) {
      out.finds_all = out.takes_folders = out.takes_modules = true;
      return true;
    }
    // A flat folder: packed by itself is only a project of one package.
    std::vector<std::string> packages;
    for (const std::string& name : tree_.children(folder_)) {
      bool is_own = words::python_settings::folders_never_packed().contains(name);
      if (!is_own && tree_.is_file(folder_ / name / "__init__.py")) packages.push_back(name);
    }
    if (packages.size() != 1) return false;
    out.roots.push_back(folder_);
    out.whole.insert(packages.front());
    return true;
  }

  bool by_names() {
    Distribution& out = said_.out;
    for (const std::string& text : said_.trees) {
      auto cut = text.rfind('/');
      out.whole.insert(text.substr(cut == std::string::npos ? 0 : cut + 1));
      auto place = folder_at(cut == std::string::npos ? "." : text.substr(0, cut));
      if (place) out.roots.push_back(*place);
    }
    for (const std::string& text : said_.where) {
      if (auto place = folder_at(text)) out.roots.push_back(*place);
    }
    if (!said_.trees.empty()) return true;
    for (const RelPath& root : {folder_ / "src", folder_}) {
      if (!tree_.is_folder(root / said_.name) && !tree_.is_file(root / (said_.name + ".py"))) continue;
      out.roots = {root};
      out.whole = out.modules = {said_.name};
      return true;
    }
    return false;
  }

  const TreeReader& tree_;
  RelPath folder_;
  Said said_;
};

}  // namespace

bool Distribution::packs(const TreeReader& tree, const RelPath& module) const {
  return std::any_of(roots.begin(), roots.end(), [&](const RelPath& root) {
    if (!module.is_within(root)) return false;
    RelPath own = module.parent();
    if (own == root) {
      std::string stem(module.name().substr(0, module.name().find('.')));
      return takes_modules || modules.contains(stem);
    }
    std::string name = dotted_folder(module, root);
    if (listed.contains(name) || whole.contains(name.substr(0, name.find('.')))) return true;
    if (!finds_all || matches_any_pattern(excluded, name) ||
        (!included.empty() && !matches_any_pattern(included, name)))
      return false;
    for (RelPath up = own; !takes_folders && up != root; up = up.parent()) {
      if (!tree.is_file(up / "__init__.py")) return false;
    }
    return true;
  });
}

bool Distribution::packs_data(const TreeReader& tree, const RelPath& path) const {
  if (!takes_data) return false;
  for (RelPath up = path.parent(); up.is_within(folder) && !up.is_root(); up = up.parent()) {
    bool is_package = takes_folders || tree.is_file(up / "__init__.py");
    if (is_package && packs(tree, up / "__init__.py")) return true;
  }
  return false;
}

namespace {

constexpr std::array<std::string_view, 3> kTelling = {"pyproject.toml", "setup.cfg", "setup.py"};

bool tells_of_packing(const RelPath& path) {
  return path.name() == "MANIFEST.in" || std::count(kTelling.begin(), kTelling.end(), path.name()) > 0;
}

bool is_python_module(const RelPath& path) {
  return path.extension() == ".py" || path.extension() == ".pyi";
}

// The folders above what moves, before or after; where settings move, any.
class Surroundings {
 public:
  explicit Surroundings(const MoveSet& moves) {
    for (const Move& move : moves.files()) {
      is_whole_ = is_whole_ || tells_of_packing(move.from);
      for (const RelPath& path : {move.from, move.to}) {
        RelPath up = path.parent();
        while (folders_.insert(up).second && !up.is_root()) up = up.parent();
      }
    }
  }
  bool hold(const RelPath& folder) const { return is_whole_ || folders_.contains(folder); }
  bool are_whole() const { return is_whole_; }

 private:
  std::unordered_set<RelPath> folders_;
  bool is_whole_ = false;
};

// Those whose packing can be told; each governs what lies below its folder and below no other's.
std::vector<Distribution> distributions_of(const ClaimedTree& in, const Surroundings& around) {
  std::map<RelPath, DistributionReader> readers;
  for (const RelPath& path : in.files) {
    bool is_told = std::count(kTelling.begin(), kTelling.end(), path.name()) > 0;
    if (!is_told || !around.hold(path.parent()) || in.tree.find(path)->ignored) continue;
    readers.try_emplace(path.parent(), in.tree, path.parent()).first->second.read(path);
  }
  std::vector<Distribution> out;
  for (auto& [folder, reader] : readers) {
    if (auto found = reader.distribution()) out.push_back(std::move(*found));
  }
  return out;
}

const Distribution* governing(const std::vector<Distribution>& all, const RelPath& path) {
  const Distribution* out = nullptr;
  for (const Distribution& one : all) {
    if (path.is_within(one.folder) && (!out || one.folder.is_within(out->folder))) out = &one;
  }
  return out;
}

// Settings of one project are read from one folder, by their names.
std::vector<Blocker> parted_settings(const TreeReader& before, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const Move& move : moves.files()) {
    if (!tells_of_packing(move.from)) continue;
    for (std::string_view name : kTelling) {
      RelPath other = move.from.parent() / name, now = moves.map_file(other);
      bool is_along = move.to.name() == move.from.name() && move.to.parent() == now.parent();
      if (other == move.from || !before.is_file(other) || is_along) continue;
      out.push_back({"name-bound",
                     move.from,
                     {},
                     "",
                     fmt::format("is read together with {}, by its name and in one folder", other.str()),
                     "move both into one folder under their names, or add --accept-unseen if it shall no "
                     "longer be read"});
      break;
    }
  }
  return out;
}

}  // namespace

std::vector<Blocker> unpacked_files(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  std::vector<Blocker> out = parted_settings(before.tree, moves);
  Surroundings around(moves);
  std::vector<Distribution> then = distributions_of({before.tree, before.files}, around);
  if (then.empty()) return out;
  std::vector<Distribution> now = distributions_of({planned.tree, planned.files}, around);
  std::map<RelPath, std::vector<RelPath>> lost;  // by the settings
  auto look_at = [&](const RelPath& path) {
    bool is_module = is_python_module(path);
    auto packs = [&](const std::vector<Distribution>& all, const TreeReader& tree, const RelPath& at) {
      const Distribution* by = governing(all, at);
      return by && (is_module ? by->packs(tree, at) : by->packs_data(tree, at));
    };
    if (packs(then, before.tree, path) && !packs(now, planned.tree, moves.map_file(path)))
      lost[governing(then, path)->settings].push_back(path);
  };
  for (const Move& move : moves.files()) look_at(move.from);
  if (around.are_whole()) {
    for (const RelPath& path : before.tree.files()) {
      if (!moves.moves(path)) look_at(path);
    }
  }
  for (const auto& [settings, files] : lost) {
    std::string more = files.size() > 1 ? fmt::format(" and {} more", files.size() - 1) : "";
    RelPath to = moves.map_file(files.front());
    out.push_back({"unpacked",
                   moves.map_file(settings),
                   {},
                   "",
                   fmt::format("packs {}{}, and would not pack {}", files.front().str(), more,
                               to == files.front() ? (more.empty() ? "it" : "them") + std::string(" any more")
                                                   : to.str()),
                   "choose a place in its packages, list the new one there first, or say that it is to go "
                   "(--accept-unseen)"});
  }
  return out;
}

std::vector<RelPath> packages_that_are_joined(const ClaimedTree& before, const MoveSet& moves) {
  std::set<RelPath> out;
  for (const Move& move : moves.files()) {
    if (is_python_module(move.from) && before.tree.is_file(move.to.parent() / "__init__.py"))
      out.insert(move.to.parent());
  }
  if (out.empty()) return {};
  std::vector<Distribution> all = distributions_of(before, Surroundings(moves));
  std::erase_if(out, [&](const RelPath& package) {
    return std::none_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
      const Distribution* by = move.to.parent() == package ? governing(all, move.from) : nullptr;
      return by && is_python_module(move.from) && by->packs(before.tree, move.from);
    });
  });
  return {out.begin(), out.end()};
}

}  // namespace yc::python_settings
