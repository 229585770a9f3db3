#include "formats/shell/copy_commands.h"
#include "words/shell.h"

#include <algorithm>

namespace yc::shell {

namespace {

struct Operands {
  std::vector<TracedText> words;  // the last is the destination
  bool whole_folders = false;     // what is in a folder is copied, and never the folder as such
};

// cmake -E copy_directory a b
std::optional<Operands> of_cmake(const std::vector<Word>& words) {
  auto mode =
      std::find_if(words.begin(), words.end(), [](const Word& word) { return word.text.text() == "-E"; });
  if (words.end() - mode < 4) return std::nullopt;
  std::string what = (mode + 1)->text.text();
  bool folders = what.starts_with("copy_directory");
  if (!folders && what != "copy" && what != "copy_if_different" && what != "create_symlink" &&
      what != "create_hardlink")
    return std::nullopt;
  Operands out;
  out.whole_folders = folders;
  for (auto word = mode + 2; word != words.end(); ++word) out.words.push_back(word->text);
  return out;
}

std::optional<Operands> of_program(const Command& command) {
  const std::vector<Word>& words = command.words;
  if (words.empty() || !words::shell::copy_programs().contains(command.name())) return std::nullopt;
  Operands out;
  for (auto word = words.begin() + 1; word != words.end(); ++word) {
    std::string text = word->text.text();
    bool option = text.starts_with("-") || (text.size() == 2 && text[0] == '/');
    if (!option) out.words.push_back(word->text);
  }
  if (out.words.size() < 2) return std::nullopt;
  return out;
}

}  // namespace

std::vector<Copied> copied_into_build(const Command& command, const TreeReader& tree) {
  auto operands = of_cmake(command.words);
  if (!operands) operands = of_program(command);
  if (!operands) return {};
  const Base& from = command.base;
  TracedText last = operands->words.back();
  operands->words.pop_back();
  std::string to = last.text();
  Place place = place_of(from.folder, to, from.space);
  if (place.space != Space::build || last.has_hole()) return {};
  // A folder that is there before the command takes what is copied under its own name.
  bool is_there =
      place.path.is_root() || place.path == from.folder || to.ends_with("/") || operands->words.size() > 1;
  std::vector<Copied> out;
  for (const TracedText& word : operands->words) {
    Place source = place_of(from.folder, word.text(), from.space);
    if (word.has_hole() || source.space != Space::tree || source.path.is_root() || !tree.find(source.path))
      continue;
    bool into = is_there || (tree.is_file(source.path) && ending_of(to) != ending_of(source.path.str()));
    if (into && !operands->whole_folders)
      out.push_back({place.path / source.path.name(), source.path, true});
    else if (!place.path.is_root())
      out.push_back({place.path, source.path, false});
  }
  return out;
}

}  // namespace yc::shell
