// From values to references.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/shell/command_effects.h"
#include "formats/shell/command_line.h"
#include "formats/shell/copy_commands.h"
#include "model/add_reference.h"

namespace yc::meson {

Base Evaluation::build_base() const {
  Base out = top_;
  out.space = Space::build;
  return out;
}

// People start relative texts with "../" where the build folder stands in the project.
Base Evaluation::guessed_base() const {
  return {top_.folder / "build", kNoFile, Space::tree};
}

TracedText Evaluation::folder_text(Piece::Nature nature, const Base& folder) const {
  Space space = nature == Piece::Nature::build_folder ? Space::build : Space::tree;
  return TracedText::folder(nature, folder.anchor, marked(space, folder.folder));
}

Value Evaluation::made() const {
  Value out;
  out.kind = Value::Kind::made;
  out.site = here_;
  return out;
}

ConstructPart Evaluation::instance() const {
  std::string out;
  for (const auto& [loop, round] : rounds_) out += "round " + std::to_string(round) + " ";
  return ConstructPart::tagged(std::move(out));
}

std::optional<RelPath> Evaluation::path_of(const Value& value) const {
  bool is_path = value.kind == Value::Kind::text || value.kind == Value::Kind::file;
  if (!is_path || value.text.has_hole()) return std::nullopt;
  RelPath folder = value.kind == Value::Kind::file ? value.base.folder : base().folder;
  Place place = place_of(folder, value.text.text());
  return place.space == Space::tree && tree_.is_file(place.path) ? std::optional(place.path) : std::nullopt;
}

bool Evaluation::refer(const Value& value, Role role, Certainty certainty, bool wanted) {
  bool any = false;
  for (const Value& item : value.flat()) {
    if (item.kind == Value::Kind::file) {
      any = refer_text(item.text, item.base, role, certainty, wanted) || any;
    } else if (item.kind == Value::Kind::text) {
      any = refer_text(item.text, base(), role, certainty, wanted) || any;
    } else if (item.kind == Value::Kind::made) {
      use(item);
    }
  }
  return any;
}

// What another call makes must go on being used here.
void Evaluation::use(const Value& made) {
  Reference reference = Reference::of(Role::product, format_, key(), base(), {}).in(instance());
  reference.targets.push_back({Target::Kind::made, {}, made.site});
  out_.add(std::move(reference));
}

// Meson keeps projects apart: a subproject takes no files from outside, and its parent none from inside.
bool Evaluation::is_barred(const RelPath& path) const {
  if (!path.is_within(top_.folder)) return false;
  if (!path.is_within(root_.folder)) return true;
  auto inside = RelPath::resolve(root_.folder, subprojects_.text());
  return inside && path.is_within(*inside) && root_.folder == top_.folder && path != *inside;
}

// Of a Vala source that lies beside the script's folder Meson looks for the C code in the wrong place, unless
// the path is absolute.
bool Evaluation::is_beyond(const TracedText& text, const RelPath& path) const {
  return path.extension() == ".vala" && !text.text().starts_with('/') && !path.is_within(base().folder);
}

bool Evaluation::refer_text(const TracedText& text, const Base& from, Role role, Certainty certainty,
                            bool wanted) {
  if (text.empty()) return false;
  if (text.has_hole()) {
    if (!text.is_only_holes()) add_unseen(out_, tree_, text, from, format_, key());
    return false;
  }
  std::string all = text.text();
  Place place = place_of(from.folder, all, from.space);
  if (place.space == Space::outside) return false;
  Reference reference = Reference::of(role, format_, key(), from, text).in(instance());
  reference.certainty = certainty;
  reference.in_list = true;
  const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
  // The root itself counts only where a text climbs to it.
  bool is_root = place.path.is_root() && !climbs_to_root(all);
  bool takes_files = role == Role::source || role == Role::listed;
  if (place.space == Space::build) {
    if (all.front() == '/') reference.lead_to(place.path, Target::Kind::build);
  } else if (entry && !is_root && !(takes_files && (is_barred(place.path) || is_beyond(text, place.path)))) {
    reference.lead_to(place.path);
  }
  if (reference.targets.empty()) {
    if (!wanted || is_root || place.space == Space::build) return false;
    reference.dangling = true;
  }
  bool found = !reference.dangling && place.space == Space::tree;
  out_.add(std::move(reference));
  return found;
}

void Evaluation::likely(const Value& value) {
  if (value.kind == Value::Kind::file) {
    refer(value, Role::listed);
    return;
  }
  // Settings for the environment of a program.
  if (value.kind == Value::Kind::dictionary && value.entries) {
    for (const auto& [name, entry] : *value.entries) {
      for (const Value& item : entry.flat()) likely(item);
    }
  }
  if (value.kind != Value::Kind::text) return;
  std::string text = value.text.text();
  if (std::size_t equals = text.find('='); equals != std::string::npos && equals < text.find('/')) {
    likely(Value::of(value.text.substr(equals + 1)));
    return;
  }
  if (text.find_first_of("/.") == std::string::npos || text == "." || text == "..") return;
  refer_text(value.text, base_of_run(value.text), Role::argument, Certainty::likely, false);
}

// What a program is given as an absolute path it must be given so: where it is started, its text does not
// say.
Base Evaluation::base_of_run(const TracedText& text) const {
  return text.text().starts_with('/') ? build_base() : base();
}

// A program is looked up beside the script first.
void Evaluation::program(const Value& value) {
  if (value.kind == Value::Kind::text && !value.text.has_hole()) {
    Place place = place_of(base().folder, value.text.text());
    if (place.space != Space::tree || !tree_.is_file(place.path)) return;
  }
  refer(value, Role::argument, Certainty::certain, false);
}

// The folders that Meson puts in for words such as @SOURCE_ROOT@; what else it puts in nobody knows.
TracedText Evaluation::with_folders(const TracedText& word) const {
  std::string text = word.text();
  TracedText out;
  std::size_t from = 0;
  for (std::size_t at; (at = text.find('@', from)) != std::string::npos;) {
    std::size_t end = text.find('@', at + 1);
    if (end == std::string::npos) break;
    std::string name = text.substr(at + 1, end - at - 1);
    bool is_name = !name.empty() && std::all_of(name.begin(), name.end(), [](char c) {
      return (c >= 'A' && c <= 'Z') || c == '_' || (c >= '0' && c <= '9');
    });
    if (!is_name) {
      out.append(word.substr(from, end - from));
      from = end;
      continue;
    }
    out.append(word.substr(from, at - from));
    if (name == "SOURCE_ROOT") {
      out.append(folder_text(Piece::Nature::tree_folder, top_));
    } else if (name == "CURRENT_SOURCE_DIR" || name == "SOURCE_DIR") {
      out.append(folder_text(Piece::Nature::tree_folder, base()));
    } else if (name == "BUILD_ROOT") {
      out.append(folder_text(Piece::Nature::build_folder, top_));
    } else if (name == "OUTDIR" || name == "PRIVATE_DIR" || name == "BUILD_DIR") {
      out.append(folder_text(Piece::Nature::build_folder, base()));
    } else {
      out.append(TracedText::hole());
    }
    from = end + 1;
  }
  out.append(word.substr(from));
  return out;
}

void Evaluation::run_line(const Values& words, const Base& from, bool first_is_program) {
  shell::Command command;
  command.base = from;
  for (const Value& word : words) {
    if (word.kind == Value::Kind::file || word.kind == Value::Kind::made) {
      refer(word, Role::argument);
      command.words.push_back({TracedText::hole(), true});
      continue;
    }
    bool is_program = first_is_program && command.words.empty();
    if (is_program) program(word);
    TracedText text = with_folders(word.as_text());
    if (is_program && word.is_object("program") && word.items && !word.items->empty()) {
      // Where it is found, the call that looked for it says.
      std::string name = word.items->front().as_text().text();
      text = TracedText::plain(name.substr(name.rfind('/') + 1));
    }
    bool here = is_program && path_of(word);
    command.words.push_back({here ? TracedText::hole() : std::move(text), true});
  }
  // What stands first must be no file's name to be taken for a program's.
  if (!first_is_program) command.words.insert(command.words.begin(), {TracedText::hole(), true});
  if (command.words.empty()) return;
  for (const shell::Copied& copied : shell::copied_into_build(command, tree_))
    note_copy({copied.of, copied.named_after, base().anchor}, copied.place);
  shell::note_effects(command, tree_, out_);
  shell::note_started(command, tree_, out_);
  shell::Picked picked = shell::pick(command, tree_);
  for (Reference& reference : picked.references) {
    // Almost any word could be a path of the build tree; those count that mirror something here.
    std::erase_if(reference.targets, [&](const Target& target) {
      return target.kind == Target::Kind::build && !tree_.find(target.path);
    });
    if (reference.targets.empty() && !reference.dangling) continue;
    reference.format = format_;
    reference.construct = key();
    reference.construct_part = instance();
    out_.add(std::move(reference));
  }
  for (const TracedText& word : shell::words_with_holes(command)) {
    if (!word.is_only_holes()) add_unseen(out_, tree_, word, from, format_, key());
  }
  if (from.space != Space::build) return;
  for (const Value& word : words) {
    // "-I../include", "--vapidir=../vapi": relative to where the build folder is taken to be.
    if (word.kind != Value::Kind::text || word.text.has_hole()) continue;
    std::string text = word.text.text();
    std::size_t climb = text.find("../");
    bool begins =
        climb == 0 || (climb != std::string::npos && (text[climb - 1] == '=' || text[climb - 1] == ','));
    bool flagged = climb == 2 && (text.starts_with("-I") || text.starts_with("-L"));
    if (begins || flagged)
      refer_text(word.text.substr(climb), guessed_base(), Role::argument, Certainty::likely, false);
  }
}

}  // namespace yc::meson
