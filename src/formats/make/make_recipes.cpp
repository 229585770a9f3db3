// What recipes name, for each target that they are run for.
//
// A rule for many targets has one recipe, and one for many prerequisites a long one. It is expanded and split
// into words once, with slots where the automatic variables stand; for each target the slots are filled.
// Where that could come to another result than expanding for each target, each target's recipe is expanded by
// itself.
#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/shell/programs.h"
#include "words/make.h"

namespace yc::make {

namespace {

constexpr char kSlotMark = '\x04';
constexpr std::size_t kMostSlots = 26;

bool has_slot(const TracedText& text) {
  return std::any_of(text.pieces().begin(), text.pieces().end(),
                     [](const Piece& piece) { return !piece.text.empty() && piece.text[0] == kSlotMark; });
}

bool has_slot_at_first(const TracedText& text) {
  return !text.pieces().empty() && !text.pieces().front().text.empty() &&
         text.pieces().front().text[0] == kSlotMark;
}

// Whether a function of make has taken a slot apart.
bool is_torn(const TracedText& text, std::size_t slots) {
  return std::any_of(text.pieces().begin(), text.pieces().end(), [&](const Piece& piece) {
    std::size_t mark = piece.text.find(kSlotMark);
    if (mark == std::string::npos) return false;
    return mark != 0 || piece.text.size() != 2 || static_cast<std::size_t>(piece.text[1] - 'A') >= slots;
  });
}

bool has_torn_slots(const shell::CommandLine& line, std::size_t slots) {
  auto any = [&](const std::vector<shell::Word>& words) {
    return std::any_of(words.begin(), words.end(),
                       [&](const shell::Word& word) { return is_torn(word.text, slots); });
  };
  return std::any_of(line.commands.begin(), line.commands.end(), [&](const shell::Command& command) {
    return any(command.words) || any(command.redirects) ||
           std::any_of(command.environment.begin(), command.environment.end(),
                       [&](const auto& item) { return is_torn(item.second.text, slots); });
  });
}

// Whether the shell reads a value as plain words, whatever stands around it.
bool is_plain(const TracedText& value) {
  if (value.has_hole()) return false;
  return value.text().find_first_of("\\'\"$`;&|()<>#\r\n") == std::string::npos;
}

// A word with the values in its slots; several words if a value is a list and nothing quotes it.
std::vector<TracedText> with_values(const shell::Word& word, const std::vector<TracedText>& values) {
  TracedText out;
  bool may_split = false;
  for (const Piece& piece : word.text.pieces()) {
    if (piece.text.empty() || piece.text[0] != kSlotMark) {
      out.append(piece);
      continue;
    }
    const TracedText& value = values[static_cast<std::size_t>(piece.text[1] - 'A')];
    may_split = may_split || (!word.quoted && value.text().find_first_of(" \t") != std::string::npos);
    TracedText traced = value.through(piece.via, piece.style);
    if (word.text.pieces().size() == 1)
      out = std::move(traced);
    else
      out.append(traced);
  }
  if (may_split) return out.words(" \t");
  std::vector<TracedText> one;
  one.push_back(std::move(out));
  return one;
}

void fill(std::vector<shell::Word>& words, const std::vector<TracedText>& values) {
  std::vector<shell::Word> out;
  out.reserve(words.size());
  for (shell::Word& word : words) {
    if (!has_slot(word.text)) {
      out.push_back(std::move(word));
      continue;
    }
    for (TracedText& text : with_values(word, values)) {
      if (!text.empty() || word.quoted) out.push_back({std::move(text), word.quoted});
    }
  }
  words = std::move(out);
}

// Whether the shell would do something else than read a slot as words of a command.
bool uses_slots_otherwise(const shell::CommandLine& line) {
  return std::any_of(line.commands.begin(), line.commands.end(), [](const shell::Command& command) {
    if (command.words.empty()) return command.redirects.empty();
    std::string name = command.name();
    bool leads = name == "cd" || name == "pushd" || name == "for" || name == "make" || name == "gmake";
    return has_slot(command.words.front().text) || leads;
  });
}

// Whether two texts are the same, in the same place.
bool is_written_as(const TracedText& a, const TracedText& b) {
  Passage at = a.first_origin(), other = b.first_origin();
  return at.file == other.file && at.span == other.span && a.text() == b.text();
}

// What a slot stands for, as it is written.
std::string slot_in(const RecipeShape& shape, const Piece& piece) {
  return shape.slots[static_cast<std::size_t>(piece.text[1] - 'A')].inner.text();
}

// Whether an option of a compiler stands for itself, so that the next word is no value of it; or that value
// is what the command writes.
bool ends_in_itself(const std::string& option) {
  if (option.empty() || option[0] != '-') return true;
  if (words::make::output_options().contains(option) || words::make::plain_options().contains(option))
    return true;
  return option.size() > 2 && words::make::joined_options().contains(option.substr(0, 2)) &&
         option != "-include";
}

// Whether what a command is told about search roots depends on the target.
bool has_changing_flags(const RecipeShape& shape) {
  for (const shell::Command& command : shape.line.commands) {
    for (std::size_t i = 1; i < command.words.size(); ++i) {
      const TracedText& word = command.words[i].text;
      if (!has_slot(word)) continue;
      std::string before = command.words[i - 1].text.text();
      if (word.text()[0] == '-' || !ends_in_itself(before)) return true;
      // What a call comes to may be an option.
      bool is_call = has_slot_at_first(word) && slot_in(shape, word.pieces().front()).size() > 2;
      if (is_call && !words::make::output_options().contains(before)) return true;
    }
  }
  return false;
}

}  // namespace

// Of a command that compiles what depends on the target, and what says which object it makes.
void RecipeShape::leave_out_told() {
  if (!can_be_told_once) return;
  told = true;
  rest = line;
  for (std::size_t c = 0; c < line.commands.size(); ++c) {
    if (contexts[c] == kNoContext) continue;
    shell::Command& command = rest.commands[c];
    std::vector<shell::Word> kept = {command.words.front()};
    for (std::size_t i = 1; i < command.words.size(); ++i) {
      const TracedText& word = command.words[i].text;
      std::string text = word.text();
      bool leads = i + 1 < command.words.size() && has_slot(command.words[i + 1].text);
      bool is_object = text.starts_with("-o") || text == "-c" || text.ends_with(".o") ||
                       command.words[i - 1].text.text() == "-o";
      if (leads || is_object || has_slot(word) || word.has_hole()) kept.push_back(command.words[i]);
    }
    command.words = std::move(kept);
  }
}

namespace {

// ".c.o:" and "%.o: %.c", whose target is called what a compiler calls the object by itself.
bool names_object_as_compiler(const Rule& rule) {
  return rule.is_pattern && rule.static_stems.empty() && rule.target_texts.size() == 1 &&
         rule.target_texts.front() == "%.o" && !rule.prerequisites.empty() &&
         rule.prerequisites.front().text().starts_with("%.");
}

// Whether slots are words of their own for the target and its prerequisites, and an object's name is given
// by its target.
bool fills_plainly(const RecipeShape& shape, bool is_object) {
  static const std::set<std::string> names = {"@", "<", "^", "+", "?", "|"};
  auto fits = [&](const shell::Word& word) {
    return !has_slot(word.text) ||
           (word.text.pieces().size() == 1 && names.contains(slot_in(shape, word.text.pieces().front())));
  };
  return std::all_of(shape.line.commands.begin(), shape.line.commands.end(), [&](const auto& command) {
    auto has_word = [&](std::string_view wanted) {
      return std::any_of(command.words.begin(), command.words.end(),
                         [&](const shell::Word& word) { return word.text.text() == wanted; });
    };
    return std::all_of(command.words.begin(), command.words.end(), fits) &&
           std::all_of(command.redirects.begin(), command.redirects.end(), fits) &&
           std::none_of(command.environment.begin(), command.environment.end(),
                        [](const auto& item) { return has_slot(item.second.text); }) &&
           (is_object || !has_word("-c") || has_word("-o"));
  });
}

}  // namespace

// The source that a rule with a stem is applied to.
ConstructPart Evaluation::instance_of(const Rule& rule, const std::vector<TracedText>& found) const {
  if (!rule.is_pattern && rule.static_stems.empty()) return {};
  for (std::size_t i = 0; i < rule.prerequisites.size() && i < found.size(); ++i) {
    if (rule.prerequisites[i].text().find('%') == std::string::npos) continue;
    Place place = place_of(base_.folder, found[i].text(), base_.space);
    if (place.space == Space::tree && tree_.is_file(place.path)) return ConstructPart::of(place.path);
  }
  return {};
}

void Evaluation::emit_instance(const Rule& rule, Automatic automatic) {
  std::string place_name = spelled(automatic.target);
  if (!emitted_.emplace(&rule - rules_.data(), place_name).second) return;
  for (const auto& [pattern, scope] : pattern_scopes_) {
    if (match_percent(pattern, automatic.target)) automatic.own.insert(scope.begin(), scope.end());
  }
  if (auto own = target_scopes_.find(place_name); own != target_scopes_.end()) {
    automatic.own.insert(own->second.begin(), own->second.end());
    for (const auto& [word, site] : target_words_[place_name]) {
      if (!automatic.found.empty()) refer_by_stem(word, site, automatic.found.front());
    }
  }
  ConstructPart outer = instance_;
  instance_ = instance_of(rule, automatic.found);
  emit_recipe(rule, automatic);
  instance_ = outer;
}

// The sources that a command of a plain shape compiles for this target.
std::vector<RelPath> Evaluation::plain_sources(const RecipeShape& shape, std::size_t command,
                                               const Automatic& automatic) const {
  std::vector<RelPath> out;
  auto add = [&](const TracedText& word) {
    std::string text = word.text();
    if (!shell::is_source_name(text)) return;
    Place place = place_of(base_.folder, text, base_.space);
    if (place.space == Space::tree && tree_.find(place.path)) out.push_back(std::move(place.path));
  };
  for (const shell::Word& word : shape.line.commands[command].words) {
    if (!has_slot(word.text)) continue;
    std::string name = slot_in(shape, word.text.pieces().front());
    if (name == "<" && !automatic.found.empty()) add(automatic.found.front());
    if (name == "^" || name == "+" || name == "?") {
      for (const TracedText& prerequisite : automatic.found) add(prerequisite);
    }
  }
  return out;
}

// A plain recipe that was told before, for one more target. False if its names are no plain words.
bool Evaluation::compile_plainly(const RecipeShape& shape, const Automatic& automatic, Site site) {
  if (!is_plain(automatic.target) || !std::all_of(automatic.found.begin(), automatic.found.end(),
                                                  [](const TracedText& word) { return is_plain(word); }))
    return false;
  std::int32_t unit = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
  for (std::size_t c = 0; c < shape.line.commands.size(); ++c) {
    if (shape.contexts[c] == kNoContext) continue;
    for (const RelPath& source : plain_sources(shape, c, automatic)) {
      out_.compile(source, shape.contexts[c], unit);
      out_.graph().compile_options[source].insert(shape.options[c]);
      if (!shape.names_object[c]) note_stray_object(shape.line.commands[c], source, automatic.target, site);
    }
  }
  return true;
}

bool Evaluation::makes_folders(const Rule& rule) {
  return std::any_of(rule.recipe.lines.begin(), rule.recipe.lines.end(), [](const auto& line_and_site) {
    std::string line = line_and_site.first.text();
    return line.find("mkdir") != std::string::npos || line.find("install -d") != std::string::npos;
  });
}

// "mkdir -p $(@D)", or what a function makes of the target.
bool Evaluation::makes_target_folder(const Rule& rule) {
  static constexpr std::string_view kOfTarget[] = {"$@",  "$(@", "${@", "$(dir ",  "${dir ", "$*",
                                                   "$(*", "$<",  "$(<", "$(call ", "$(if "};
  return std::any_of(rule.recipe.lines.begin(), rule.recipe.lines.end(), [](const auto& line_and_site) {
    std::string line = line_and_site.first.text();
    bool makes = line.find("mkdir") != std::string::npos || line.find("install -d") != std::string::npos;
    return makes && std::any_of(std::begin(kOfTarget), std::end(kOfTarget),
                                [&](std::string_view part) { return line.find(part) != std::string::npos; });
  });
}

void Evaluation::emit_recipe(const Rule& rule, const Automatic& automatic) {
  makes_own_folder_ = makes_target_folder(rule);
  for (std::size_t i = 0; i < rule.recipe.lines.size(); ++i) {
    const auto& [line, site] = rule.recipe.lines[i];
    SiteChain key = key_at(site.file == kNoFile ? Site{base_.anchor, 0} : site);
    RecipeShape* shape = automatic.own.empty() ? shape_of(rule, i) : nullptr;
    if (shape && shape->is_plain && shape->told && compile_plainly(*shape, automatic, key.back())) continue;
    std::optional<shell::CommandLine> commands;
    if (shape) commands = filled(shape->told ? shape->rest : shape->line, *shape, automatic);
    if (!commands) {
      shape = nullptr;
      commands = shell::read(expand_recipe(line, site, automatic), base_, tree_);
    }
    emit_commands(*commands, key, automatic, shape);
  }
}

// A line as the shell gets it, without make's own marks in front.
TracedText Evaluation::expand_recipe(const TracedText& line, Site site, const Automatic& automatic) {
  const Automatic* outer = automatic_;
  automatic_ = &automatic;
  Site outside = here_;
  here_ = site;
  TracedText text = expand(line);
  here_ = outside;
  automatic_ = outer;
  std::string head = text.text();
  std::size_t skip = 0;
  while (skip < head.size() && std::string_view("@-+ \t").find(head[skip]) != std::string_view::npos) ++skip;
  return skip ? text.substr(skip) : text;
}

// Null if the recipe line must be expanded for each target.
RecipeShape* Evaluation::shape_of(const Rule& rule, std::size_t index) {
  auto [at, fresh] = shapes_.try_emplace({&rule - rules_.data(), index});
  RecipeShape& shape = at->second;
  if (!fresh) return shape.is_usable ? &shape : nullptr;
  const auto& [line, site] = rule.recipe.lines[index];
  if (line.text().find(kSlotMark) != std::string::npos) return nullptr;
  Automatic slots{TracedText()};
  slots.shape = &shape;
  TracedText text = expand_recipe(line, site, slots);
  shape.line = shell::read(text, base_, tree_);
  shape.contexts.assign(shape.line.commands.size(), kNoContext);
  shape.is_usable = !shape.is_broken && !has_torn_slots(shape.line, shape.slots.size()) &&
                    !uses_slots_otherwise(shape.line);
  if (!shape.is_usable) return nullptr;
  shape.can_be_told_once = !has_changing_flags(shape);
  shape.is_plain = shape.can_be_told_once && fills_plainly(shape, names_object_as_compiler(rule));
  for (const shell::Command& command : shape.line.commands) {
    shape.options.push_back(options_of(command, {}));  // slots are names of files, and no options
    shape.names_object.push_back(
        std::any_of(command.words.begin(), command.words.end(),
                    [](const shell::Word& word) { return word.text.text().starts_with("-o"); }));
  }
  return shape.is_usable ? &shape : nullptr;
}

// What depends on the target stands for itself while the shape of a recipe is made.
std::optional<TracedText> Evaluation::slot(const TracedText& inner) const {
  RecipeShape& shape = *automatic_->shape;
  ++shape.slots_met;
  auto at = std::find_if(shape.slots.begin(), shape.slots.end(),
                         [&](const Slot& known) { return is_written_as(known.inner, inner); });
  if (at == shape.slots.end() && shape.slots.size() == kMostSlots) {
    shape.is_broken = true;
    return TracedText::hole();
  }
  if (at == shape.slots.end()) at = shape.slots.insert(at, {inner, here_});
  std::string text = {kSlotMark, static_cast<char>('A' + (at - shape.slots.begin()))};
  TracedText out = TracedText::plain(std::move(text));
  out.mark_automatic();
  return out;
}

Evaluation::SlotsBefore Evaluation::slots_before() const {
  if (!automatic_ || !automatic_->shape) return {};
  return {automatic_->shape->slots_met, automatic_->shape->slots.size()};
}

// A function cannot be given slots, so that its whole call becomes one. Where functions give variables values
// for as long as they run, it is the outermost of them.
std::optional<TracedText> Evaluation::slot_for_all(const SlotsBefore& before, const TracedText& inner) const {
  if (!automatic_ || !automatic_->shape || automatic_->shape->slots_met == before.met || bound_ > 0)
    return std::nullopt;
  automatic_->shape->slots.resize(before.count);
  return slot(inner);
}

// Nothing if a value of this target holds characters that the shell would take for more than words.
std::optional<shell::CommandLine> Evaluation::filled(shell::CommandLine line, const RecipeShape& shape,
                                                     const Automatic& automatic) {
  std::vector<TracedText> values;
  const Automatic* outer = automatic_;
  automatic_ = &automatic;
  Site outside = here_;
  for (const Slot& slot : shape.slots) {
    here_ = slot.site;
    values.push_back(expand_reference(slot.inner));
  }
  here_ = outside;
  automatic_ = outer;
  if (!std::all_of(values.begin(), values.end(), is_plain)) return std::nullopt;
  for (shell::Command& command : line.commands) {
    fill(command.words, values);
    fill(command.redirects, values);
    for (auto& [name, word] : command.environment) {
      std::vector<TracedText> texts = with_values({word.text, true}, values);
      word.text = std::move(texts.front());
    }
  }
  return line;
}

}  // namespace yc::make
