#include "formats/meta_objects.h"

#include <algorithm>
#include <array>
#include <map>
#include <optional>

#include "base/char_class.h"
#include "base/name_search.h"

namespace yc {

namespace {

constexpr std::array<std::string_view, 5> kHeaderEndings = {".h", ".hpp", ".hh", ".hxx", ".h++"};
constexpr std::array<std::string_view, 6> kSourceEndings = {".cpp", ".cc", ".cxx", ".c++", ".C", ".mm"};
constexpr CharClass kWord = CharClass::alphanumeric_and("_");

template <std::size_t N>
bool is_one_of(const std::array<std::string_view, N>& list, std::string_view ending) {
  return std::find(list.begin(), list.end(), ending) != list.end();
}

std::string bare_name(const RelPath& path) {
  std::string_view name = path.name();
  return std::string(name.substr(0, name.size() - path.extension().size()));
}

bool has_word(std::string_view text, std::string_view word) {
  for (std::size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
    std::size_t end = at + word.size();
    if ((at == 0 || !kWord.holds(text[at - 1])) && (end == text.size() || !kWord.holds(text[end])))
      return true;
  }
  return false;
}

bool declares_meta_objects(const TreeReader& tree, const RelPath& header) {
  auto bytes = tree.read(header);
  if (!bytes) return false;
  constexpr std::array<std::string_view, 5> kMacros = {"Q_OBJECT", "Q_GADGET", "Q_GADGET_EXPORT",
                                                       "Q_NAMESPACE", "Q_NAMESPACE_EXPORT"};
  return std::any_of(kMacros.begin(), kMacros.end(), [&](auto macro) { return has_word(**bytes, macro); });
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
    constexpr std::array<std::string_view, 5> kSigns = {"AUTOMOC", "AUTOUIC", "qt_", "Qt", "KDE"};
    return bytes && std::any_of(kSigns.begin(), kSigns.end(), [&](std::string_view sign) {
             return (**bytes).find(sign) != std::string::npos;
           });
  });
}

class Parting {
 public:
  Parting(const TreeReader& tree, const MoveSet& moves) : tree_(tree), moves_(moves) {}

  std::vector<PartedInput> run() {
    for (const Move& move : moves_.files()) {
      if (is_one_of(kHeaderEndings, move.from.extension())) header(move.from);
      if (is_one_of(kSourceEndings, move.from.extension())) source(move.from);
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
    for (std::string_view ending : kSourceEndings) {
      pair(path, path.parent() / (stem + std::string(ending)), false);
      if (shorter != stem) pair(path, path.parent() / (shorter + std::string(ending)), false);
    }
  }

  void source(const RelPath& path) {
    for (std::string_view ending : kHeaderEndings) {
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
      bool is_code =
          is_one_of(kSourceEndings, user.extension()) || is_one_of(kHeaderEndings, user.extension());
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
    if (is_one_of(kSourceEndings, move.from.extension())) rename(move.from, old_stem + ".moc", stem + ".moc");
    if (move.from.extension() == ".ui") names["ui_" + old_stem + ".h"] = "ui_" + stem + ".h";
    if (is_one_of(kHeaderEndings, move.from.extension()) && declares_meta_objects(before, move.from))
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
