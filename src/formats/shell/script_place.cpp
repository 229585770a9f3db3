#include "formats/shell/script_place.h"

#include <algorithm>

#include "formats/shell/command_output.h"

namespace yc::shell {

namespace {

constexpr std::string_view kTests = ".bats";

}  // namespace

TracedText ScriptPlace::folder() const {
  return TracedText::folder(Piece::Nature::tree_folder, script_.place.anchor,
                            marked(Space::tree, script_.place.folder));
}

std::optional<TracedText> ScriptPlace::cut(const std::string& inside) const {
  bool is_own =
      (inside == "0%/*" && is_own_zero()) || inside == "BASH_SOURCE%/*" || inside == "BASH_SOURCE[0]%/*";
  return is_own ? std::optional(folder()) : std::nullopt;
}

std::optional<TracedText> ScriptPlace::variable(const std::string& name) const {
  if (name == "top_srcdir" || name == "abs_top_srcdir") return package_folder();
  return name == "BATS_TEST_DIRNAME" ? test_folder() : std::nullopt;
}

// What automake tells the tests that it runs: the folder of the nearest configure script above.
std::optional<TracedText> ScriptPlace::package_folder() const {
  for (RelPath folder = script_.place.folder;; folder = folder.parent()) {
    if (tree_.is_file(folder / "configure.ac") || tree_.is_file(folder / "configure.in"))
      return TracedText::plain(marked(Space::tree, folder));
    if (folder.is_root()) return std::nullopt;
  }
}

// The folder of the test that runs; of a file that tests load, the nearest one above with tests.
std::optional<TracedText> ScriptPlace::test_folder() const {
  if (script_.runs_tests) return folder();
  for (RelPath above = script_.place.folder;; above = above.parent()) {
    std::vector<std::string> names = tree_.children(above);
    bool has_tests = std::any_of(names.begin(), names.end(),
                                 [](const std::string& name) { return name.ends_with(kTests); });
    if (has_tests) return TracedText::folder(Piece::Nature::tree_folder, kNoFile, marked(Space::tree, above));
    if (above.is_root()) return std::nullopt;
  }
}

std::optional<TracedText> ScriptPlace::printed_by(const std::string& command) const {
  std::string plain = command;
  std::erase_if(plain, [](char c) { return c == '"' || c == '\''; });
  auto has = [&](std::string_view part) { return plain.find(part) != std::string::npos; };
  bool by_zero = has("$0") || has("${0}"), by_source = has("BASH_SOURCE");
  bool own = (has("dirname") && (by_zero || by_source)) || has("${0%/*}");
  if (!by_source && !is_own_zero()) return std::nullopt;
  if (own && !has("..")) {
    // $(dirname "$(dirname "$0")"): a folder further up for each.
    TracedText out = folder();
    for (std::size_t at = plain.find("dirname"); (at = plain.find("dirname", at + 1)) != std::string::npos;)
      out.append(TracedText::plain("/.."));
    return out;
  }
  bool is_self = (plain.starts_with("readlink -") || plain.starts_with("realpath ")) && !has("/..") &&
                 (plain.ends_with("$0") || plain.ends_with("${0}") || by_source);
  if (!is_self) return std::nullopt;
  TracedText self = folder();
  self.append(TracedText::plain("/" + std::string(kOwnName)));
  return self;
}

void ScriptPlace::read_loads(Command& command) const {
  bool is_load = command.words.size() == 2 && command.words[0].text.text() == "load";
  auto tests = is_load && !command.words[1].text.has_hole() ? test_folder() : std::nullopt;
  if (!tests) return;
  TracedText& word = command.words[1].text;
  std::string text = word.text();
  bool is_whole = text.starts_with(kTreeMark);
  TracedText whole;
  if (!is_whole) whole = *tests, whole.append(TracedText::plain("/"));
  whole.append(word);
  Place place = place_of({}, whole.text());
  if (place.space != Space::tree) return;
  // A name may be without its ending.
  if (!tree_.is_file(place.path)) whole.append(TracedText::plain(".bash"));
  word = std::move(whole);
  command.words[0].text = TracedText::plain(".");
}

}  // namespace yc::shell
