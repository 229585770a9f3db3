#include "formats/modules/module_kinds.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>

#include "formats/changed_scopes.h"
#include "formats/modules/script_tokens.h"

namespace yc::modules {

namespace {

enum class Written : std::uint8_t { either, es, common };

bool is_followed_by(const ScriptCode& code, std::size_t at, std::string_view signs) {
  return std::any_of(signs.begin(), signs.end(), [&](char sign) { return code.is_op(at + 1, sign); });
}

// By its statements: a source that imports is an ES module, whatever it calls.
Written written_as(std::string_view bytes) {
  Written out = Written::either;
  const ScriptCode code(bytes);
  for (std::size_t i = 0; i < code.size(); ++i) {
    std::string_view word = code.text(i);
    if (word.empty()) continue;
    bool begins = i == 0 || code[i].on_new_line || code.is_op(i - 1, ';');
    bool is_statement = begins && !is_followed_by(code, i, "(.:=,");
    if ((word == "import" || word == "export") && is_statement) return Written::es;
    bool is_common = (word == "require" && is_followed_by(code, i, "(")) ||
                     ((word == "module" || word == "exports") && is_followed_by(code, i, ".[")) ||
                     word == "__dirname" || word == "__filename";
    if (is_common) out = Written::common;
  }
  return out;
}

bool is_typed(const RelPath& path) {
  return path.extension() == ".ts" || path.extension() == ".tsx";
}

bool goes_by_package(const RelPath& path) {
  return path.extension() == ".js" || path.extension() == ".jsx" ||
         (is_typed(path) && !path.name().ends_with(".d.ts"));
}

// A tree's packages, as far as the kind of their modules goes.
class Kinds {
 public:
  explicit Kinds(const TreeReader& tree) : tree_(tree) {}

  // Of the nearest package.json above; nothing where there is none.
  std::optional<RelPath> package_of(const RelPath& file) {
    for (RelPath folder = file.parent();; folder = folder.parent()) {
      auto [at, fresh] = known_.try_emplace(folder);
      if (fresh && tree_.is_file(folder / "package.json")) at->second = read(folder / "package.json");
      if (at->second) return folder / "package.json";
      if (folder.is_root()) return std::nullopt;
    }
  }

  // Whether scripts of a package are ES modules; unless it says so, CommonJS ones.
  bool is_es(const std::optional<RelPath>& package) { return type_of(package) == "module"; }
  bool says_nothing(const std::optional<RelPath>& package) { return type_of(package).empty(); }

 private:
  std::string type_of(const std::optional<RelPath>& package) {
    return package ? known_.at(package->parent()).value_or("") : "";
  }

  std::string read(const RelPath& manifest) const {
    auto bytes = tree_.read(manifest);
    if (!bytes) return "";
    auto json = nlohmann::json::parse(**bytes, nullptr, false, true);
    auto type = json.is_object() ? json.find("type") : json.end();
    return json.is_object() && type != json.end() && type->is_string() ? type->get<std::string>() : "";
  }

  const TreeReader& tree_;
  std::map<RelPath, std::optional<std::string>> known_;
};

// Whether a compiler tells modules apart as Node.js does ("module": "nodenext"), by any of its settings
// above.
bool is_compiled_by_kind(const TreeReader& tree, const RelPath& file) {
  for (RelPath folder = file.parent();; folder = folder.parent()) {
    for (const std::string& name : tree.children(folder)) {
      if (!name.starts_with("tsconfig") || !name.ends_with(".json")) continue;
      auto bytes = tree.read(folder / name);
      if (!bytes) continue;
      std::string text = **bytes;
      std::transform(text.begin(), text.end(), text.begin(),
                     [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
      for (const char* kind : {"\"nodenext\"", "\"node16\"", "\"node18\"", "\"node20\""}) {
        if (text.find(kind) != std::string::npos) return true;
      }
    }
    if (folder.is_root()) return false;
  }
}

class ChangedKinds {
 public:
  ChangedKinds(const TreeView& before, const TreeView& planned, const MoveSet& moves)
      : before_(before), planned_(planned), moves_(moves), old_(before.tree), new_(planned.tree) {}

  std::vector<Blocker> run() {
    for (const Move& move : moves_.files()) {
      if (goes_by_package(move.from)) look_at(move.from);
    }
    for (const RelPath& path : in_changed_scopes(before_.files, moves_, "package.json")) {
      if (goes_by_package(path)) look_at(path);
    }
    return std::move(out_);
  }

 private:
  void look_at(const RelPath& path) {
    RelPath now = moves_.map_file(path);
    auto was_in = old_.package_of(path), is_in = new_.package_of(now);
    bool was_es = old_.is_es(was_in), is_es = new_.is_es(is_in);
    if (was_es == is_es || !goes_by_package(now) || told_.contains({is_in.value_or(RelPath()), is_es}))
      return;
    if (is_typed(path) ? !is_compiled(now) : !is_at_odds(path, is_es, is_in)) return;
    told_.emplace(is_in.value_or(RelPath()), is_es);
    const char* kind = is_es ? "an ES module" : "a CommonJS module";
    out_.push_back(
        {"module-kind",
         path,
         {},
         "",
         fmt::format("would be taken for {} at {}, by {}", kind, now.str(),
                     is_in ? "\"type\" in " + is_in->str() : "the lack of a package.json"),
         fmt::format("give it the ending {} there, or keep it below {}; or add --accept-unseen if a "
                     "bundler takes both",
                     is_typed(path) ? ".mts or .cts" : ".mjs or .cjs",
                     was_in ? was_in->str() : "no package.json")});
  }

  bool is_compiled(const RelPath& now) {
    auto [at, fresh] = compiled_.try_emplace(now.parent(), false);
    if (fresh) at->second = is_compiled_by_kind(planned_.tree, now);
    return at->second;
  }

  // Where scripts of the new package are written so already, something takes them.
  bool is_at_odds(const RelPath& path, bool is_es, const std::optional<RelPath>& package) {
    // Where nothing is said, Node.js looks at the statements ("Syntax detection").
    if (!is_es && new_.says_nothing(package)) return false;
    Written wrong = is_es ? Written::common : Written::es;
    return kind_of(path) == wrong && !takes_both(package, is_es, wrong);
  }

  // Of the scripts that stay; found out once for a package.
  bool takes_both(const std::optional<RelPath>& package, bool is_es, Written wrong) {
    auto [at, fresh] = takes_both_.try_emplace({package.value_or(RelPath()), is_es}, false);
    if (!fresh) return at->second;
    at->second = std::any_of(before_.files.begin(), before_.files.end(), [&](const RelPath& other) {
      return !moves_.moves(other) && !is_typed(other) && goes_by_package(other) &&
             new_.package_of(other) == package && old_.is_es(old_.package_of(other)) == is_es &&
             kind_of(other) == wrong;
    });
    return at->second;
  }

  Written kind_of(const RelPath& path) {
    auto [at, fresh] = written_.try_emplace(path, Written::either);
    if (!fresh) return at->second;
    if (auto bytes = before_.tree.read(path)) at->second = written_as(**bytes);
    return at->second;
  }

  const TreeView& before_;
  const TreeView& planned_;
  const MoveSet& moves_;
  Kinds old_, new_;
  std::map<RelPath, Written> written_;
  std::map<std::pair<RelPath, bool>, bool> takes_both_;
  std::map<RelPath, bool> compiled_;  // is_compiled_by_kind(), by folder
  std::set<std::pair<RelPath, bool>> told_;
  std::vector<Blocker> out_;
};

}  // namespace

std::vector<Blocker> changed_module_kinds(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) {
  return ChangedKinds(before, planned, moves).run();
}

}  // namespace yc::modules
