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
bool others_write_endings(const RewriteRequest& need) {
  const ReferenceGraph& graph = need.graph;
  std::optional<bool> asked;
  std::optional<bool>& answer = need.memory ? need.memory->get<std::optional<bool>>() : asked;
  if (!answer)
    answer = std::any_of(graph.references.begin(), graph.references.end(), [](const Reference& other) {
      std::string text = other.role == Role::module ? other.text.text() : "";
      return (text.starts_with("./") || text.starts_with("../")) && ending_of(text) == ".js" &&
             !other.targets.empty() && !written_for(other.targets.front().path.extension()).empty();
    });
  return *answer;
}

// The ways for one specifier, best first.
class Respelling {
 public:
  explicit Respelling(const RewriteRequest& need)
      : need_(need),
        reference_(need.reference),
        wanted_(need.wanted.front().path),
        file_(need.graph.files.path(need.reference.text.pieces().front().file)),
        old_(need.reference.text.text()),
        is_relative_(old_.starts_with("./") || old_.starts_with("../") || old_ == "." || old_ == ".."),
        climbs_far_(climb_of(relative_text(need.new_base, wanted_)) >= need.alias_from) {}

  std::vector<Proposal> run() {
    // The targets of code with its declarations move alike, so the one that was left out tells the habit.
    auto target = std::find_if(reference_.targets.begin(), reference_.targets.end(),
                               [&](const Target& one) { return need_.moves.map_file(one.path) == wanted_; });
    if (target == reference_.targets.end()) return {};
    if (is_relative_ || reference_.search.empty()) {
      from_folder(target->path);
    } else {
      from_alias(target->path);
    }
    return std::move(out_);
  }

 private:
  void propose(const std::string& text) {
    if (text.find_first_of("'\"`\\\n?!") != std::string::npos || text.empty()) return;
    if (text == old_) {
      out_.push_back({});  // something else will make it right
    } else {
      out_.push_back({{{file_, reference_.text.pieces().front().span, text}}, ""});
    }
  }

  void relative(const Habit& habit) {
    for (const std::string& text : spellings(habit, need_.new_base, wanted_)) {
      if (text == ".") {
        propose(old_.ends_with("/") ? "./" : ".");
      } else if (text.starts_with("../") || text == "..") {
        propose(text);
      } else {
        propose("./" + text);
      }
    }
  }

  // The ways through an alias: `first`, by its head, before the others, then the longest name of a folder.
  void through_aliases(const Habit& habit, const std::string& first) {
    struct Reach {
      const Alias* alias;
      RelPath place;  // after the move
    };
    std::vector<Reach> reaches;
    RelPath user = need_.moves.map_file(file_);
    for (const Alias& alias : need_.graph.aliases) {
      bool is_plain = alias.open && alias.before.empty() && alias.tail.empty() && !alias.head.empty();
      if (!is_plain || alias.styles || !user.is_within(alias.scope)) continue;
      for (const RelPath& place : places_of(need_, alias)) {
        if (wanted_.is_within(place) && wanted_ != place) reaches.push_back({&alias, place});
      }
    }
    std::stable_sort(reaches.begin(), reaches.end(), [&](const Reach& a, const Reach& b) {
      bool same_a = a.alias->head == first, same_b = b.alias->head == first;
      return same_a != same_b ? same_a : a.place.str().size() > b.place.str().size();
    });
    for (const Reach& reach : reaches) {
      if (reach.alias->after.empty()) {
        for (const std::string& text : spellings(habit, reach.place, wanted_)) {
          if (text != ".") propose(reach.alias->head + text);
        }
      } else {
        // The alias brings the ending.
        propose(reach.alias->head + cut_ending(std::string(wanted_.below(reach.place))));
      }
    }
  }

  void from_folder(const RelPath& target) {
    // Past its own folder it is looked up in one that is merged with that.
    const RelPath& from =
        reference_.search.empty() ? reference_.base.folder : reference_.search.front().folder;
    auto named = RelPath::resolve(from, old_);
    if (!named) return;
    Habit habit = habit_of(named->str(), target.str());
    if (!reference_.search.empty()) {
      out_.push_back({});
      for (const RelPath& folder : merged_twins(need_, need_.moves.map_file(file_), wanted_)) {
        for (const std::string& text : spellings(habit, folder, wanted_))
          propose(text.starts_with("../") ? text : "./" + text);
      }
    }
    if (is_relative_ && climbs_far_) through_aliases(habit, "");
    if (!is_relative_ && !old_.starts_with(".")) {
      // A text that needs no "./", as that of a URL.
      for (const std::string& text : spellings(habit, need_.new_base, wanted_)) propose(text);
    }
    relative(habit);
  }

  // First nothing is done, for the alias's folder may follow.
  void from_alias(const RelPath& target) {
    const Base& search = reference_.search.front();
    auto folder =
        search.folder.is_root() ? std::optional(search.folder) : need_.moves.map_folder(search.folder);
    out_.push_back({});
    std::string lead(reference_.lead());
    bool is_open = old_.size() > lead.size();
    auto named = RelPath::resolve(search.folder, is_open ? old_.substr(lead.size()) : "");
    Habit habit = named ? habit_of(named->str(), target.str()) : Habit{};
    if (is_open && folder && wanted_.is_within(*folder)) {
      for (const std::string& text : spellings(habit, *folder, wanted_)) {
        if (text != ".") propose(lead + text);
      }
    }
    // Through the same alias in its other shape, or another one that reaches there.
    through_aliases(habit, lead);
    // Past the border of a package a module is found by its package's name alone.
    if (package_of(need_.tree, file_) != package_of(need_.tree, target)) return;
    std::size_t aliased = out_.size();
    relative(habit_of_others(habit, target.str()));
    // Where a rule asks for relative ones nearby, they come right after leaving the text as it is.
    if (need_.alias_from != kNoRule && !climbs_far_)
      std::rotate(out_.begin() + 1, out_.begin() + static_cast<std::ptrdiff_t>(aliased), out_.end());
  }

  // An alias shows no habit for relative ones, so it is taken from what other modules do.
  Habit habit_of_others(Habit habit, const std::string& target) const {
    // Who lists an ending for an alias has a loader that adds none.
    std::string lead(reference_.lead()), ending = ending_of_module(wanted_.str());
    bool brings_ending =
        std::any_of(need_.graph.aliases.begin(), need_.graph.aliases.end(), [&](const Alias& one) {
          return one.head == lead && one.after == ending && target.ends_with(one.after);
        });
    if (brings_ending) return {};
    if (habit.left_out.empty() && habit.written.empty() && ending_of(old_).empty()) {
      if (others_write_endings(need_)) {
        habit.written = written_for(ending_of_module(wanted_.str()));
      } else {
        habit.left_out = ending_of_module(target);
      }
    } else if (!habit.left_out.empty() && others_write_endings(need_)) {
      habit = Habit{};
      habit.written = written_for(ending_of_module(wanted_.str()));
    }
    return habit;
  }

  const RewriteRequest& need_;
  const Reference& reference_;
  const RelPath& wanted_;
  RelPath file_;
  std::string old_;
  bool is_relative_, climbs_far_;
  std::vector<Proposal> out_;
};

}  // namespace

std::vector<Proposal> module_ways(const RewriteRequest& need) {
  bool is_plain = need.reference.text.pieces().size() == 1 && need.wanted.size() == 1;
  return is_plain ? Respelling(need).run() : std::vector<Proposal>();
}

std::string as_specified(const ReferenceGraph& graph, FileIndex file, std::string path) {
  bool typed = (path.ends_with(".ts") || path.ends_with(".tsx")) && !path.ends_with(".d.ts");
  if (!typed) return path;
  bool writes_endings =
      std::any_of(graph.references.begin(), graph.references.end(), [&](const Reference& other) {
        std::string text = other.text.text();
        return other.role == Role::module && !other.construct.empty() &&
               other.construct.front().file == file && (text.starts_with("./") || text.starts_with("../")) &&
               ending_of(text) == ".js";
      });
  path.erase(path.rfind('.'));
  return writes_endings ? path + ".js" : path;
}

}  // namespace yc::modules
