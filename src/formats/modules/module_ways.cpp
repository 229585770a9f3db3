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

// The folders that an alias stands for after the move: its own, and where the sources are of what it names.
std::vector<RelPath> places_of(const RewriteRequest& need, const Alias& alias) {
  std::vector<RelPath> out;
  // A folder whose files scatter, or that is not there, is where it would be within the one around it that
  // moves whole.
  auto add = [&](const RelPath& folder) {
    for (RelPath up = folder;; up = up.parent()) {
      bool holds = up.is_root() || (need.tree.is_folder(up) && !need.tree.children(up).empty());
      auto image = up.is_root() ? std::optional(up) : holds ? need.moves.map_folder(up) : std::nullopt;
      if (image) {
        out.push_back(up == folder ? *image : *image / folder.below(up));
        return;
      }
    }
  };
  add(alias.place);
  for (const OutputFolder& folder : need.graph.outputs) {
    if (!alias.place.is_within(folder.outputs) || folder.outputs == folder.sources) continue;
    add(alias.place == folder.outputs ? folder.sources : folder.sources / alias.place.below(folder.outputs));
  }
  return out;
}

// The places that are merged with a file's own folder, and through which it reaches `wanted`; all after the
// move.
std::vector<RelPath> merged_twins(const RewriteRequest& need, const RelPath& user, const RelPath& wanted) {
  std::vector<RelPath> out;
  auto now = [&](const RelPath& folder) { return need.moves.map_folder(folder).value_or(folder); };
  for (const MergedFolders& merged : need.graph.merged_folders) {
    for (const RelPath& own : merged.folders) {
      RelPath here = now(own), folder = user.parent();
      if (!folder.is_within(here)) continue;
      for (const RelPath& other : merged.folders) {
        RelPath there = now(other);
        if (other != own && wanted.is_within(there))
          out.push_back(folder == here ? there : there / folder.below(here));
      }
    }
  }
  return out;
}

std::size_t climb_of(std::string_view text) {
  std::size_t out = 0;
  for (; text.starts_with("../"); text.remove_prefix(3)) ++out;
  return text == ".." ? out + 1 : out;
}

// The folder of the package that a file belongs to.
RelPath package_of(const TreeReader& tree, const RelPath& file) {
  RelPath up = file.parent();
  while (!up.is_root() && !tree.is_file(up / "package.json")) up = up.parent();
  return up;
}

// Whether relative specifiers write ".js" for typed sources here, as some compilers demand.
bool others_write_endings(const ReferenceGraph& graph) {
  return std::any_of(graph.references.begin(), graph.references.end(), [](const Reference& other) {
    std::string text = other.role == Role::module ? other.text.text() : "";
    return (text.starts_with("./") || text.starts_with("../")) && ending_of(text) == ".js" &&
           !other.targets.empty() && !written_for(other.targets.front().path.extension()).empty();
  });
}

}  // namespace

std::vector<Proposal> module_ways(const RewriteRequest& need) {
  std::vector<Proposal> out;
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

  // The ways through an alias: `first`, by its head, before the others, then the longest name of a folder.
  struct Reach {
    const Alias* alias;
    RelPath place;  // after the move
  };
  auto through_aliases = [&](const Habit& habit, const std::string& first) {
    std::vector<Reach> reaches;
    RelPath user = need.moves.map_file(file);
    for (const Alias& alias : need.graph.aliases) {
      if (!alias.open || !alias.before.empty() || !alias.tail.empty() || alias.head.empty() || alias.styles ||
          !user.is_within(alias.scope))
        continue;
      for (const RelPath& place : places_of(need, alias)) {
        if (wanted.is_within(place) && wanted != place) reaches.push_back({&alias, place});
      }
    }
    std::stable_sort(reaches.begin(), reaches.end(), [&](const Reach& a, const Reach& b) {
      bool same_a = a.alias->head == first, same_b = b.alias->head == first;
      return same_a != same_b ? same_a : a.place.str().size() > b.place.str().size();
    });
    for (const Reach& reach : reaches) {
      if (reach.alias->after.empty()) {
        for (const std::string& text : spellings(habit, reach.place, wanted)) {
          if (text != ".") propose(reach.alias->head + text);
        }
      } else {
        // The alias brings the ending.
        propose(reach.alias->head + cut_ending(std::string(wanted.below(reach.place))));
      }
    }
  };

  bool climbs_far = climb_of(relative_text(need.new_base, wanted)) >= need.alias_from;
  bool is_relative = old.starts_with("./") || old.starts_with("../") || old == "." || old == "..";
  if (is_relative || reference.search.empty()) {
    // Past its own folder it is looked up in one that is merged with that.
    const RelPath& from = reference.search.empty() ? reference.base.folder : reference.search.front().folder;
    auto named = RelPath::resolve(from, old);
    if (!named) return out;
    Habit habit = habit_of(named->str(), target);
    if (!reference.search.empty()) {
      out.push_back({});
      for (const RelPath& folder : merged_twins(need, need.moves.map_file(file), wanted)) {
        for (const std::string& text : spellings(habit, folder, wanted))
          propose(text.starts_with("../") ? text : "./" + text);
      }
    }
    if (is_relative && climbs_far) through_aliases(habit, "");
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
  bool is_open = old.size() > reference.lead().size();
  std::string star = is_open ? old.substr(reference.lead().size()) : "";
  auto named = RelPath::resolve(search.folder, star);
  Habit habit = named ? habit_of(named->str(), target) : Habit{};
  if (is_open && folder && wanted.is_within(*folder)) {
    for (const std::string& text : spellings(habit, *folder, wanted)) {
      if (text != ".") propose(std::string(reference.lead()) + text);
    }
  }
  // Through the same alias in its other shape, or another one that reaches there.
  through_aliases(habit, std::string(reference.lead()));
  // Past the border of a package a module is found by its package's name alone.
  if (package_of(need.tree, file) != package_of(need.tree, old_target->path)) return out;
  std::size_t aliased = out.size();
  // Relative at last: an alias shows no habit for that, so it is taken from what other modules do.
  Habit plain = habit;
  if (plain.left_out.empty() && plain.written.empty() && ending_of(old).empty()) {
    if (others_write_endings(need.graph)) {
      plain.written = written_for(ending_of_module(wanted.str()));
    } else {
      plain.left_out = ending_of_module(target);
    }
  } else if (!plain.left_out.empty() && others_write_endings(need.graph)) {
    plain = Habit{};
    plain.written = written_for(ending_of_module(wanted.str()));
  }
  relative(plain);
  // Where a rule asks for relative ones nearby, they come right after leaving the text as it is.
  if (need.alias_from != kNoRule && !climbs_far)
    std::rotate(out.begin() + 1, out.begin() + static_cast<std::ptrdiff_t>(aliased), out.end());
  return out;
}

std::string as_specified(const ReferenceGraph& graph, FileIndex file, std::string path) {
  bool typed = (path.ends_with(".ts") || path.ends_with(".tsx")) && !path.ends_with(".d.ts");
  if (!typed) return path;
  bool writes_endings =
      std::any_of(graph.references.begin(), graph.references.end(), [&](const Reference& other) {
        std::string text = other.text.text();
        return other.role == Role::module && !other.key.empty() && other.key.front().file == file &&
               (text.starts_with("./") || text.starts_with("../")) && ending_of(text) == ".js";
      });
  path.erase(path.rfind('.'));
  return writes_endings ? path + ".js" : path;
}

}  // namespace yc::modules
