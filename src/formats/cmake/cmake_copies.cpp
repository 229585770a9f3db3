// What a script copies into the build tree, where headers are included from it and programs open it.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "formats/shell/copy_commands.h"

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
void Evaluation::note_copy_command(shell::Command command) {
  // What is put beside a program is found by it there.
  constexpr std::string_view kBesideTarget = "/outside";
  for (shell::Word& word : command.words) {
    if (!word.text.text().starts_with(kBesideTarget)) continue;
    TracedText there = TracedText::plain(marked(Space::build, base().folder));
    there.append(word.text.substr(kBesideTarget.size()));
    word.text = std::move(there);
  }
  for (const shell::Copied& copied : shell::copied_into_build(command, tree_))
    note_copy(copied.place, copied.of, copied.named_after);
}

}  // namespace yc::cmake
