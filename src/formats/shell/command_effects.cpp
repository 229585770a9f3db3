#include "formats/shell/command_effects.h"

#include "formats/shell/programs.h"
#include "words/shell.h"

namespace yc::shell {

namespace {

void note_written(const Command& command, const TreeReader& tree, GraphBuilder& out) {
  for (const Word& word : command.redirects) {
    std::string text = word.text.text();
    if (!word.written || word.text.has_hole() || text.find('.') == std::string::npos) continue;
    Place place = place_of(command.base.folder, text, command.base.space);
    if (place.space == Space::tree && !place.path.is_root() && !tree.find(place.path))
      out.make(place.path, kBuildsInPlace);
  }
}

void note_compared(const Command& command, const TreeReader& tree, GraphBuilder& out) {
  std::string name = command.name();
  bool compares = name == "diff" || name == "cmp";
  if (command.words.size() > 2 && !compares)
    compares = command.words[1].text.text() == "-E" && command.words[2].text.text() == "compare_files";
  if (!compares) return;
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    Place place = place_of(command.base.folder, word.text(), command.base.space);
    Passage at = word.first_origin();
    if (!word.has_hole() && place.space == Space::tree && !place.path.is_root() && tree.find(place.path))
      out.graph().compared.emplace(place.path, Site{at.file, at.span.begin});
  }
}

// Whether a command copies or packs what is in the folder that its word at `index` names; the last word may
// be the place that it is copied to.
bool copies_folder(const Command& command, std::size_t index) {
  std::string name = command.name();
  if (command.words[index - 1].text.text() == "-C") return false;
  // What tar does stands in its first word: "cf", "-xzf", "--extract".
  bool is_made = name == "tar" && command.words[1].text.text().find_first_of("xt") == std::string::npos;
  bool is_packing = is_made || name == "zip";
  return is_packing || (words::shell::copy_programs().contains(name) && index + 1 < command.words.size());
}

// The folders of the tree that a word names, or that its wildcards match.
std::vector<RelPath> named_folders(const Command& command, const Word& word, const TreeReader& tree) {
  std::string text = word.text.text();
  if (command.base.space == Space::tree && !word.quoted && has_wildcard(text)) {
    std::vector<RelPath> out = match_paths(tree, command.base.folder, text);
    std::erase_if(out, [&](const RelPath& path) { return !tree.is_folder(path); });
    return out;
  }
  Place place = place_of(command.base.folder, text, command.base.space);
  bool is_folder = place.space == Space::tree && !place.path.is_root() && tree.is_folder(place.path);
  return is_folder ? std::vector<RelPath>{place.path} : std::vector<RelPath>();
}

void note_handed(const Command& command, const TreeReader& tree, GraphBuilder& out) {
  bool is_given = (command.handed_on && words::shell::listing_programs().contains(command.name())) ||
                  starts_own_program(command, tree);
  Passage whole = command.words.empty() ? Passage() : command.words.front().text.first_origin();
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    bool is_copied = copies_folder(command, i);
    bool is_verb = words::shell::verbs().contains(word.text());
    bool counts = (is_copied || (is_given && !is_verb)) && !word.empty() && !word.has_hole();
    if (!counts) continue;
    Passage at = word.first_origin();
    if (at.file == kNoFile) continue;
    at.span.end = std::max(at.span.end, at.span.begin + 1);
    // Of what else is handed on by a wildcard nobody says that it is looked into.
    if (!is_copied && has_wildcard(word.text())) continue;
    for (const RelPath& folder : named_folders(command, command.words[i], tree))
      out.graph().handed.insert({folder, is_copied, {whole.file, whole.span.begin}, at});
  }
}

}  // namespace

void note_started(const Command& command, const TreeReader& tree, GraphBuilder& out) {
  auto at = started_word(command);
  if (!at || !command.base_known || command.base.space != Space::tree) return;
  std::string text = command.words[*at].text.text();
  if (*at == 0 && text.find('/') == std::string::npos) return;
  Place place = place_of(command.base.folder, text);
  if (place.space == Space::tree && tree.is_file(place.path))
    out.graph().starts[place.path].insert(command.base.folder);
}

void note_effects(const Command& command, const TreeReader& tree, GraphBuilder& out) {
  if (!command.base_known) return;
  note_written(command, tree, out);
  note_compared(command, tree, out);
  note_handed(command, tree, out);
}

}  // namespace yc::shell
