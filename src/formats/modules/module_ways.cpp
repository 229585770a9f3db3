// Spelling a specifier anew: with or without its ending, with "index" or by the folder, relative or by the
// alias, as it was before.
#include <algorithm>

#include "formats/modules/module_references.h"

namespace yc::modules {

namespace {

// What the old specifier left out of the path that it means.
struct Habit {
  std::string left_out;    // an ending
  std::string written;     // an ending that stands for another: ".js" for ".ts"
  bool by_folder = false;  // the folder was named for its index
  bool index = false;      // the index was named
  bool dot_slash = true;
};

std::string ending_of_module(const std::string& path) {
  for (std::string_view ending : {".d.ts", ".d.mts", ".d.cts"}) {
    if (path.ends_with(ending)) return std::string(ending);
  }
  return ending_of(path);
}

std::string cut_ending(const std::string& path) {
  return path.substr(0, path.size() - ending_of_module(path).size());
}

bool is_index(const std::string& path) {
  std::size_t slash = path.rfind('/');
  return cut_ending(slash == std::string::npos ? path : path.substr(slash + 1)) == "index";
}

Habit habit_of(const std::string& named, const std::string& target) {
  Habit out;
  std::string ending = ending_of_module(target);
  if (named == target) {
    // Nothing is left out.
  } else if (named + ending == target) {
    out.left_out = ending;
    out.index = is_index(target);
  } else if (!written_for(ending).empty() && cut_ending(named) == cut_ending(target)) {
    out.written = ending_of(named);
  } else {
    out.by_folder = true;
    out.left_out = ending;
  }
  return out;
}

// The texts that could name `target` from `folder`, the most habitual first; without anything before them.
std::vector<std::string> spellings(const Habit& habit, const RelPath& folder, const RelPath& target) {
  std::vector<std::string> out;
  std::string path = relative_text(folder, target);
  std::string ending = ending_of_module(path), bare = cut_ending(path);
  auto add = [&](std::string text) {
    if (std::find(out.begin(), out.end(), text) == out.end()) out.push_back(std::move(text));
  };
  std::string by_folder = relative_text(folder, target.parent());
  bool leaves_out = !habit.left_out.empty() || habit.by_folder;
  if (is_index(path) && leaves_out && !habit.index) add(by_folder);
  if (leaves_out && may_be_left_out(ending)) add(bare);
  if (!habit.written.empty() && !written_for(ending).empty()) add(bare + written_for(ending));
  add(path);
  if (!leaves_out && !written_for(ending).empty()) add(bare + written_for(ending));
  if (may_be_left_out(ending)) add(bare);
  return out;
}

}  // namespace

std::vector<Way> module_ways(const Need& need) {
  std::vector<Way> out;
  const Reference& reference = need.reference;
  if (reference.text.pieces().size() != 1 || need.wanted.size() != 1) return out;
  const Piece& piece = reference.text.pieces().front();
  const RelPath& wanted = need.wanted.front().path;
  const RelPath file = need.graph.files.path(piece.file);
  std::string old = reference.text.text();
  auto propose = [&](const std::string& text) {
    if (text.find_first_of("'\"`\\\n?!") != std::string::npos || text.empty()) return;
    if (text == old) {
      out.push_back({});  // something else will make it right
    } else {
      out.push_back({{{file, piece.span, text}}, ""});
    }
  };
  // The targets of code with its declarations move alike, so the one that was left out tells the habit.
  auto old_target =
      std::find_if(reference.targets.begin(), reference.targets.end(),
                   [&](const Target& target) { return need.moves.map_file(target.path) == wanted; });
  if (old_target == reference.targets.end()) return out;
  const std::string& target = old_target->path.str();

  auto relative = [&](const Habit& habit) {
    for (std::string text : spellings(habit, need.new_base, wanted)) {
      if (text == ".") {
        propose(old.ends_with("/") ? "./" : ".");
      } else if (text.starts_with("../") || text == "..") {
        propose(text);
      } else {
        propose("./" + text);
      }
    }
  };

  bool is_relative = old.starts_with("./") || old.starts_with("../") || old == "." || old == "..";
  if (is_relative || reference.search.empty()) {
    auto named = RelPath::resolve(reference.base.folder, old);
    if (!named) return out;
    Habit habit = habit_of(named->str(), target);
    if (!is_relative && !old.starts_with(".")) {
      // A text that needs no "./", as that of a URL.
      for (const std::string& text : spellings(habit, need.new_base, wanted)) propose(text);
    }
    relative(habit);
    return out;
  }

  // Through an alias: first nothing is done, for its folder may follow.
  const Base& search = reference.search.front();
  auto folder = search.folder.is_root() ? std::optional(search.folder) : need.moves.map_folder(search.folder);
  out.push_back({});
  bool is_open = old.size() > reference.lead.size();
  std::string star = is_open ? old.substr(reference.lead.size()) : "";
  auto named = RelPath::resolve(search.folder, star);
  Habit habit = named ? habit_of(named->str(), target) : Habit{};
  if (is_open && folder && wanted.is_within(*folder)) {
    for (const std::string& text : spellings(habit, *folder, wanted)) {
      if (text != ".") propose(reference.lead + text);
    }
  }
  // Through another alias that reaches there, the longest name of a folder first.
  std::vector<const Alias*> others;
  RelPath user = need.moves.map_file(file);
  for (const Alias& alias : need.graph.aliases) {
    bool plain = alias.open && alias.before.empty() && alias.after.empty() && alias.tail.empty();
    auto place = alias.place.is_root() ? std::optional(alias.place) : need.moves.map_folder(alias.place);
    if (plain && place && wanted.is_within(*place) && user.is_within(alias.scope) && !alias.head.empty() &&
        wanted != *place)
      others.push_back(&alias);
  }
  std::stable_sort(others.begin(), others.end(), [](const Alias* a, const Alias* b) {
    return a->place.str().size() > b->place.str().size();
  });
  for (const Alias* alias : others) {
    auto place = alias->place.is_root() ? std::optional(alias->place) : need.moves.map_folder(alias->place);
    for (const std::string& text : spellings(habit, *place, wanted)) {
      if (text != ".") propose(alias->head + text);
    }
  }
  Habit plain = habit;
  plain.left_out = plain.left_out.empty() && plain.written.empty() && ending_of(old).empty()
                       ? ending_of_module(target)
                       : plain.left_out;
  relative(plain);
  return out;
}

}  // namespace yc::modules
