#include "formats/meta_objects.h"

#include <algorithm>
#include <map>
#include <optional>

#include "base/char_class.h"
#include "base/name_search.h"
#include "base/text.h"
#include "words/meta_objects.h"

namespace yc {

namespace {

constexpr CharClass kWord = CharClass::alphanumeric_and("_");

bool is_meta_header(const RelPath& path) {
  return words::meta_objects::header_endings().contains(path.extension());
}

bool is_meta_source(const RelPath& path) {
  return words::meta_objects::source_endings().contains(path.extension());
}

std::string bare_name(const RelPath& path) {
  std::string_view name = path.name();
  return std::string(name.substr(0, name.size() - path.extension().size()));
}

bool declares_meta_objects(const TreeReader& tree, const RelPath& header) {
  auto bytes = tree.read(header);
  if (!bytes) return false;
  const auto& macros = words::meta_objects::macros();
  return std::any_of(macros.begin(), macros.end(),
                     [&](std::string_view macro) { return has_whole_word(**bytes, macro, kWord); });
}

// Where `text` stands in a source between quotes or angles, behind the folders that it may be in.
std::vector<Span> includes_of(std::string_view source, std::string_view text) {
  std::vector<Span> out;
  for (std::size_t at = source.find(text); at != std::string_view::npos; at = source.find(text, at + 1)) {
    std::size_t end = at + text.size();
    std::size_t line = source.rfind('\n', at) + 1;
    bool begins = at > 0 && (source[at - 1] == '"' || source[at - 1] == '<' || source[at - 1] == '/');
    bool ends = end < source.size() && (source[end] == '"' || source[end] == '>');
    bool includes = source.substr(line, at - line).find("include") != std::string_view::npos;
    if (begins && ends && includes) out.push_back(span_of(at, end));
  }
  return out;
}

bool is_beside(const RelPath& input, const RelPath& source, bool is_form) {
  if (input.parent() != source.parent()) return false;
  return is_form || bare_name(input) == bare_name(source) || bare_name(input) == bare_name(source) + "_p";
}

bool has_generators_run(const TreeReader& tree) {
  return std::any_of(tree.files().begin(), tree.files().end(), [&](const RelPath& path) {
    if (path.name() != "CMakeLists.txt" && path.extension() != ".cmake") return false;
    auto bytes = tree.read(path);
    const auto& signs = words::meta_objects::signs();
    return bytes && std::any_of(signs.begin(), signs.end(), [&](std::string_view sign) {
             return (**bytes).find(sign) != std::string::npos;
           });
  });
}

class Parting {
 public:
  Parting(const TreeReader& tree, const MoveSet& moves) : tree_(tree), moves_(moves) {}

  std::vector<PartedInput> run() {
    for (const Move& move : moves_.files()) {
      if (is_meta_header(move.from)) header(move.from);
      if (is_meta_source(move.from)) source(move.from);
      if (move.from.extension() == ".ui") form(move.from);
    }
    std::sort(out_.begin(), out_.end(), [](const PartedInput& a, const PartedInput& b) {
      return std::tie(a.input, a.source) < std::tie(b.input, b.source);
    });
    auto same = [](const PartedInput& a, const PartedInput& b) {
      return a.input == b.input && a.source == b.source;
    };
    out_.erase(std::unique(out_.begin(), out_.end(), same), out_.end());
    return std::move(out_);
  }

 private:
  void pair(const RelPath& input, const RelPath& source, bool is_form) {
    if (!tree_.is_file(input) || !tree_.is_file(source)) return;
    if (is_beside(moves_.map_file(input), moves_.map_file(source), is_form)) return;
    if (!is_form && !declares_meta_objects(tree_, input)) return;
    auto bytes = tree_.read(source);
    bool is_included = bytes && !includes_of(**bytes, "moc_" + bare_name(input) + ".cpp").empty();
    out_.push_back({input, source, is_form, is_included});
  }

  void header(const RelPath& path) {
    std::string stem = bare_name(path);
    std::string shorter = stem.ends_with("_p") ? stem.substr(0, stem.size() - 2) : stem;
    for (std::string_view ending : words::meta_objects::source_endings()) {
      pair(path, path.parent() / (stem + std::string(ending)), false);
      if (shorter != stem) pair(path, path.parent() / (shorter + std::string(ending)), false);
    }
  }

  void source(const RelPath& path) {
    for (std::string_view ending : words::meta_objects::header_endings()) {
      pair(path.parent() / (bare_name(path) + std::string(ending)), path, false);
      pair(path.parent() / (bare_name(path) + "_p" + std::string(ending)), path, false);
    }
    auto bytes = tree_.read(path);
    if (!bytes) return;
    for (const std::string& name : tree_.children(path.parent())) {
      RelPath beside = path.parent() / name;
      if (beside.extension() == ".ui" && !includes_of(**bytes, "ui_" + bare_name(beside) + ".h").empty())
        pair(beside, path, true);
    }
  }

  // Also one that is found by a property: its folder may be no other then.
  void form(const RelPath& path) {
    NameSearch search({"ui_" + bare_name(path) + ".h"});
    for (const RelPath& user : tree_.files()) {
      bool is_code = is_meta_source(user) || is_meta_header(user);
      if (!is_code || !tree_.may_hold(user, search)) continue;
      auto bytes = tree_.read(user);
      if (bytes && !includes_of(**bytes, "ui_" + bare_name(path) + ".h").empty()) pair(path, user, true);
    }
  }

  const TreeReader& tree_;
  const MoveSet& moves_;
  std::vector<PartedInput> out_;
};

}  // namespace

std::vector<PartedInput> parted_inputs(const TreeReader& before, const MoveSet& moves) {
  std::vector<PartedInput> out = Parting(before, moves).run();
  if (!out.empty() && !has_generators_run(before)) out.clear();
  return out;
}

std::vector<Edit> renamed_outputs(const TreeReader& before, const std::vector<RelPath>& sources,
                                  const MoveSet& moves) {
  std::map<std::string, std::string> names;  // old to new
  std::vector<Edit> out;
  auto rename = [&](const RelPath& source, const std::string& old_name, const std::string& name) {
    auto bytes = before.read(source);
    if (!bytes) return;
    for (Span span : includes_of(**bytes, old_name)) out.push_back({source, span, name});
  };
  for (const Move& move : moves.files()) {
    std::string old_stem = bare_name(move.from), stem = bare_name(move.to);
    if (old_stem == stem) continue;
    if (is_meta_source(move.from)) rename(move.from, old_stem + ".moc", stem + ".moc");
    if (move.from.extension() == ".ui") names["ui_" + old_stem + ".h"] = "ui_" + stem + ".h";
    if (is_meta_header(move.from) && declares_meta_objects(before, move.from))
      names["moc_" + old_stem + ".cpp"] = "moc_" + stem + ".cpp";
  }
  if (names.empty()) return out;
  // What lies in the tree by such a name is made by nobody.
  for (const RelPath& path : before.files()) names.erase(std::string(path.name()));
  std::vector<std::string> all;
  for (const auto& [old_name, name] : names) all.push_back(old_name);
  NameSearch search(all);
  for (const RelPath& source : sources) {
    if (all.empty() || !before.is_editable(source) || !before.may_hold(source, search)) continue;
    for (const auto& [old_name, name] : names) rename(source, old_name, name);
  }
  return out;
}

}  // namespace yc
