// What a script copies into the build tree, where headers are included from it and programs open it.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"

namespace yc::cmake {

void Evaluation::note_copy(const RelPath& place, const RelPath& of, bool named_after) {
  if (place.is_root() || of.is_root() || base().anchor == kNoFile) return;
  out_.graph().copies.insert_or_assign(place.str(), BuildCopy{of, named_after, base().anchor});
}

// file(COPY tide.h … DESTINATION include)
void Evaluation::note_copied(const Words& words) {
  auto to = std::find_if(words.begin(), words.end(),
                         [](const TracedText& word) { return word.text() == "DESTINATION"; });
  if (to == words.end() || to + 1 == words.end() || (to + 1)->has_hole()) return;
  Place folder = place_of(base().folder, (to + 1)->text(), Space::build);
  if (folder.space != Space::build) return;
  for (auto word = words.begin() + 1; word != to; ++word) {
    for (const TracedText& value : values(*word)) {
      std::string text = value.text();
      Place what = place_of(base().folder, text);
      if (value.has_hole() || what.space != Space::tree || !tree_.find(what.path)) continue;
      RelPath place = folder.path / what.path.name();
      if (tree_.is_file(what.path)) note_made(place);
      if (text.ends_with("/"))  // what is in it
        note_copy(folder.path, what.path, false);
      else
        note_copy(place, what.path, true);
    }
  }
}

// cmake -E copy_directory data ${CMAKE_CURRENT_BINARY_DIR}/data
void Evaluation::note_copy_command(const shell::Command& command, const Base& from) {
  const std::vector<shell::Word>& words = command.words;
  auto mode = std::find_if(words.begin(), words.end(),
                           [](const shell::Word& word) { return word.text.text() == "-E"; });
  if (words.end() - mode < 4) return;
  std::string what = (mode + 1)->text.text();
  bool folders = what.starts_with("copy_directory");
  if (!folders && what != "copy" && what != "copy_if_different" && what != "create_symlink") return;
  std::string to = words.back().text.text();
  // What is put beside a program is found by it there.
  constexpr std::string_view kBesideTarget = "/outside";
  bool beside = to.starts_with(kBesideTarget);
  if (beside) to = "./" + to.substr(kBesideTarget.size());
  Place place = place_of(beside ? base().folder : from.folder, to, beside ? Space::build : from.space);
  if (place.space != Space::build || to.find(kHoleMark) != std::string::npos) return;
  bool many = words.end() - mode > 4;
  for (auto word = mode + 2; word + 1 != words.end(); ++word) {
    Place source = place_of(from.folder, word->text.text(), from.space);
    if (word->text.has_hole() || source.space != Space::tree || !tree_.find(source.path)) continue;
    // Into a folder a file goes under its own name.
    bool into = !folders && tree_.is_file(source.path) &&
                (many || to.ends_with("/") || ending_of(to) != ending_of(source.path.str()));
    if (into)
      note_copy(place.path / source.path.name(), source.path, true);
    else
      note_copy(place.path, source.path, false);
  }
}

}  // namespace yc::cmake
