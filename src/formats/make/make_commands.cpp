// From the commands of recipes to references, compilations and child makefiles.
#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/shell/command_effects.h"
#include "formats/shell/script_references.h"
#include "model/add_reference.h"
#include "words/make.h"

namespace yc::make {

bool is_object_sibling(std::string_view extension) {
  return words::make::object_sibling_endings().contains(extension);
}

// The sources of one object; branches in which it is made of others are none of its concern.
void Evaluation::note_object(const Place& place, const RelPath& source, const Site& site) {
  if (place.space == Space::outside) return;
  ObjectClash& object = objects_[place.path];
  object.object = place.path.str();
  if (object.sources.empty()) object.site = site;
  object.sources.insert(source);
}

// What a source is compiled with must not change because a text of the makefile was compared with its name:
// "$(if $(findstring tide,$<),-DTIDE)".
std::string Evaluation::options_of(const shell::Command& command, const RelPath& source) {
  std::string options, name(source.name());
  std::string stem = name.substr(0, name.rfind('.'));
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    bool is_spelled_by_name = word.is_automatic() && text.find(stem) != std::string::npos;
    // What a macro is defined as may be a path, which follows.
    if (text.starts_with("-D")) text.resize(std::min(text.find('='), text.size()));
    bool is_option = text.starts_with('-') && text.size() > 1 && text.find('/') == std::string::npos &&
                     !words::make::path_options().contains(text.substr(0, 2));
    if (is_option && !is_spelled_by_name && !word.has_hole()) options += " " + text;
  }
  return options;
}

// Without -o the object lies where the compiler is started, whatever the rule says; with it, in a folder that
// must be there.
void Evaluation::note_stray_object(const shell::Command& command, const RelPath& source,
                                   const TracedText& target, Site site) {
  bool compiles = false;
  std::string output;
  for (std::size_t i = 0; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    compiles = compiles || text == "-c";
    if (!text.starts_with("-o")) continue;  // nobody gives that by what is not known: "$(CFLAGS)", "-DV=`…`"
    const TracedText& named = text == "-o" && i + 1 < command.words.size() ? command.words[i + 1].text : word;
    if (named.has_hole()) return;
    output = text == "-o" ? named.text() : text.substr(2);
  }
  if (!compiles || target.has_hole()) return;
  Place wanted = place_of(base_.folder, target.text(), base_.space);
  std::string name(source.name());
  Place left = place_of(command.base.folder, output.empty() ? name.substr(0, name.rfind('.')) + ".o" : output,
                        command.base.space);
  if (left == wanted || left.space != Space::tree || wanted.space != Space::tree) return;
  if (output.empty()) {
    if (left.path.name() == wanted.path.name())
      out_.graph().stray_objects.insert({std::move(wanted.path), std::move(left.path), site});
  } else if (!makes_own_folder_ && !is_folder_made(left.path.parent())) {
    out_.graph().stray_objects.insert({std::move(left.path), std::nullopt, site});
  }
}

void Evaluation::emit_clashes() {
  for (const auto& [path, object] : objects_) {
    if (object.sources.size() > 1) out_.graph().clashes.insert(object);
  }
}

// Whether a rule makes what a text names, or an object beside which a compiler leaves it.
bool Evaluation::comes_with_product(const TracedText& name) {
  if (is_product(name)) return true;
  std::string ending = ending_of(name.text());
  if (!is_object_sibling(ending) || ending == ".o") return false;
  TracedText object = name.substr(0, name.size() - ending.size());
  object.append(TracedText::plain(".o"));
  return is_product(object);
}

namespace {

// The object that a compiler's command names itself, in the folder that it starts in: "-o tide.o".
std::optional<Reference> object_named_by(const shell::Command& command) {
  for (std::size_t i = 0; i + 1 < command.words.size(); ++i) {
    if (command.words[i].text.text() != "-o") continue;
    const TracedText& word = command.words[i + 1].text;
    std::string name = word.text();
    bool plain = !word.has_hole() && !word.is_automatic() && name.ends_with(".o") &&
                 name.find('/') == std::string::npos;
    if (!plain) return std::nullopt;
    Reference out = Reference::of(Role::product, 0, {}, command.base, word);
    out.targets = {{Target::Kind::name, RelPath::from_normal(name), {}}};
    return out;
  }
  return std::nullopt;
}

}  // namespace

// Without -o a compiler names the object after the source, and others know it by that name, unless a rule
// for many says so itself.
void Evaluation::emit_objects(const shell::Command& command, const shell::Picked& picked,
                              const Automatic& automatic, const SiteChain& key) {
  Place wanted = place_of(base_.folder, automatic.target.text(), base_.space);
  bool by_stem = !automatic.stem.empty();
  auto has_word = [&](std::string_view text) {
    return std::any_of(command.words.begin(), command.words.end(),
                       [&](const shell::Word& word) { return word.text.text() == text; });
  };
  bool names_object = picked.compile && has_word("-c") && !has_word("-o");
  for (const Reference& source : picked.references) {
    if (!names_object || source.targets.size() != 1) continue;
    const RelPath& path = source.targets.front().path;
    const std::vector<RelPath>& sources = picked.compile->sources;
    if (std::find(sources.begin(), sources.end(), path) == sources.end()) continue;
    Reference object = source;
    object.role = Role::product;
    object.format = format_;
    object.construct = key;
    std::string name(path.name());
    name = name.substr(0, name.rfind('.')) + ".o";
    Place made = place_of(command.base.folder, name, command.base.space);
    note_object(made, path, key.back());
    if (by_stem && made == wanted) continue;  // whoever uses it names the rule's target
    object.targets = {{Target::Kind::name, RelPath::from_normal(name), {}}};
    add(std::move(object));
  }
  if (picked.compile && has_word("-c")) {
    if (auto object = object_named_by(command)) {
      object->format = format_;
      object->construct = key;
      add(std::move(*object));
    }
  }
}

namespace {

// Whether all of a word comes from the rule, as "$@": such words follow by themselves.
bool is_given(const TracedText& word) {
  return std::all_of(word.pieces().begin(), word.pieces().end(),
                     [](const Piece& piece) { return piece.automatic; });
}

}  // namespace

void Evaluation::emit_picked(std::vector<Reference>& references, const std::string& own_name,
                             const SiteChain& key) {
  for (Reference& reference : references) {
    reference.format = format_;
    reference.construct = key;
    // What a rule makes is not a reference to a stale copy of it in the tree.
    std::string name = spelled(reference.text);
    if (name == own_name && is_given(reference.text)) continue;  // the rule itself names it
    bool is_output = !reference.targets.empty() && reference.targets.front().kind == Target::Kind::output;
    if (is_output && !rules_by_target_.contains(name) && comes_with_product(reference.text)) continue;
    if (rules_by_target_.contains(name) && reference.role != Role::search_root) {
      mention(reference.text, reference.role, key, reference.certainty);
      continue;
    }
    add(std::move(reference));
  }
}

// Words that are no paths by themselves may name what rules make.
void Evaluation::emit_others(const shell::Command& command, const shell::Picked& picked,
                             const std::string& own_name, const SiteChain& key) {
  shell::note_missing_sources(
      command, picked, tree_, [&](const TracedText& word) { return word.is_automatic() || is_product(word); },
      out_);
  bool here = command.base.folder == base_.folder && command.base.space == base_.space;
  for (const TracedText& word : picked.others) {
    if (!here || word.has_hole()) continue;
    std::string name = spelled(word);
    if (name == own_name && is_given(word)) continue;
    std::string extension = ending_of(name);
    bool known = rules_by_target_.contains(name) || is_object_sibling(extension) || extension == ".a";
    if (known) mention(word, Role::argument, key, Certainty::certain);
  }
}

ContextIndex Evaluation::emit_compilation(shell::CompileCall& call, const SiteChain& key, std::int32_t unit) {
  for (PathMacro& macro : call.macros) {
    macro.definition.format = format_;
    macro.definition.construct = key;
    if (macro.value.is_automatic()) macro.definition.construct_part = instance_;
  }
  Context context{call.roots, call.forced, call.macros, call.open, call.start};
  ContextIndex index = out_.context(std::move(context));
  for (const RelPath& source : call.sources) out_.compile(source, index, unit);
  Unit& current = out_.graph().units.back();
  for (const TracedText& word : call.root_words) {
    if (current.root_words.size() < 64) current.root_words.push_back(word);
  }
  return index;
}

// With a shape that was told before, only what depends on the target is new.
void Evaluation::emit_commands(const shell::CommandLine& line, const SiteChain& key,
                               const Automatic& automatic, RecipeShape* shape) {
  bool again = shape && shape->told;
  const std::string own_name = spelled(automatic.target);
  auto is_known = [&](const TracedText& word) {
    bool is_automatic = word.is_automatic();
    if (again && !is_automatic) return true;
    if (shape && shape->is_plain && is_automatic) return true;
    return is_automatic && automatic.products && automatic.products->contains(word.text());
  };
  bool told_all = true;
  for (std::size_t c = 0; c < line.commands.size(); ++c) {
    const shell::Command& command = line.commands[c];
    std::string program = command.name();
    if (program == "make" || program == "gmake") {
      for (const shell::Command& round : command.by_round()) emit_child(round, key);
      continue;
    }
    note_installing(command);
    complain_of_doubles(command, key);
    shell::note_effects(command, tree_, out_);
    shell::note_started(command, tree_, out_);
    // The packages of go's commands are their reader's, where they are started in the makefile's own folder.
    bool is_go = program == "go" && command.base.folder == base_.folder && command.base.space == base_.space;
    auto is_read = [&](const TracedText& word) {
      if (is_known(word)) return true;
      Passage at = word.first_origin();
      if (!is_go || at.file == kNoFile || word.has_hole() || !word.text().starts_with("./")) return false;
      const RelPath& script = out_.files().path(at.file);
      return script.extension() == ".mk" || script.name().find("akefile") != std::string_view::npos;
    };
    shell::Picked picked = shell::pick(command, tree_, is_read);
    emit_objects(command, picked, automatic, key);
    emit_picked(picked.references, own_name, key);
    for (const TracedText& word : shell::words_with_holes(command)) {
      if (again && !word.is_automatic()) continue;
      add_unseen(out_, tree_, word, command.base, format_, key);
    }
    for (const RelPath& script : picked.linker.scripts) out_.look_up(script, picked.linker.folders);
    if (!command.base_known) continue;
    emit_others(command, picked, own_name, key);
    std::int32_t unit = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
    if (picked.compile && shape && shape->is_plain) {
      for (RelPath& source : plain_sources(*shape, c, automatic))
        picked.compile->sources.push_back(std::move(source));
    }
    if (picked.compile) {
      for (const RelPath& source : picked.compile->sources) {
        out_.graph().compile_options[source].insert(again ? shape->options[c] : options_of(command, source));
        note_stray_object(command, source, automatic.target, key.back());
      }
    }
    if (auto& call = picked.compile; call && again) {
      for (const RelPath& source : call->sources) out_.compile(source, shape->contexts[c], unit);
    } else if (call && !call->sources.empty()) {
      ContextIndex index = emit_compilation(*call, key, unit);
      if (shape) shape->contexts[c] = index;
    } else if (call) {
      told_all = false;  // its context is not known yet
    }
  }
  if (shape && !again && told_all) shape->leave_out_told();
}

// An object that a linker is given twice defines everything twice.
void Evaluation::complain_of_doubles(const shell::Command& command, const SiteChain& key) {
  static const std::set<std::string_view> harmless = {"rm", "echo", "printf", "cp", "install", "ls", "cat"};
  if (harmless.contains(command.name())) return;
  std::set<std::string> objects;
  for (const shell::Word& word : command.words) {
    std::string text = word.text.text();
    if (text.ends_with(".o") && !word.text.has_hole() && !objects.insert(spelled(word.text)).second)
      complain("doubled-object", key.back(), text);
  }
}

// "install -m 644 a.h b.h $(DESTDIR)$(includedir)": headers into a folder, all with their names.
void Evaluation::note_installing(const shell::Command& command) {
  std::string program = command.name();
  if (program != "install" && program != "cp") return;
  std::vector<RelPath> headers;
  const TracedText& to = command.words.back().text;
  for (std::size_t i = 1; i + 1 < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    Place place = place_of(command.base.folder, word.text(), command.base.space);
    if (word.text() == "-d") return;
    if (word.has_hole() || place.space != Space::tree) continue;
    if (tree_.is_file(place.path)) headers.push_back(place.path);
    if (!has_wildcard(word.text())) continue;
    for (RelPath& path : match_paths(tree_, command.base.folder, word.text()))
      if (tree_.is_file(path)) headers.push_back(std::move(path));
  }
  // To a place in the tree it only copies; and one file may get another name.
  Place place = place_of(command.base.folder, to.text(), command.base.space);
  bool goes_out = to.has_hole() || place.space == Space::outside;
  if (!goes_out || to.text().ends_with(".h")) return;
  for (const RelPath& header : headers) out_.install(header, to, header.name());
}

void Evaluation::emit_child(const shell::Command& command, const SiteChain& key) {
  if (!command.base_known) return;
  ChildMake child;
  child.base = command.base;
  child.call = key;
  TracedText makefile;
  const auto& words = command.words;
  auto enter = [&](const TracedText& folder) {
    Place place = place_of(child.base.folder, folder.text(), child.base.space);
    bool there = place.space == Space::tree && tree_.is_folder(place.path);
    Reference reference = Reference::of(Role::subfolder, format_, key, child.base, folder);
    reference.in_list = false;
    if (folder.has_hole()) {
      add_unseen(out_, tree_, folder, child.base, format_, key);
    } else if (there && !place.path.is_root()) {
      reference.lead_to(place.path);
      add(std::move(reference));
    }
    child.base = Base{place.path, kNoFile, there ? Space::tree : Space::outside};
  };
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text.text();
    std::size_t equals = text.find('=');
    bool names_file = text == "-f" || text == "--file" || text == "--makefile";
    if (text == "-C" || text == "--directory" || names_file) {
      if (++i >= words.size()) break;
      if (names_file) makefile = words[i].text;
      if (!names_file) enter(words[i].text);
    } else if (text.starts_with("--directory=") || text.starts_with("-C")) {
      enter(words[i].text.substr(text[1] == '-' ? equals + 1 : 2));
    } else if (text.starts_with("--file=") || text.starts_with("--makefile=")) {
      makefile = words[i].text.substr(equals + 1);
    } else if (text.substr(0, 2) == "-f") {
      makefile = words[i].text.substr(2);
    } else if (equals != std::string::npos && equals > 0 && text[0] != '-') {
      child.overrides.emplace_back(text.substr(0, equals), words[i].text.substr(equals + 1));
    }
  }
  if (child.base.space != Space::tree) return;
  pass_variables(child);
  Reference script = Reference::of(Role::script, format_, key, child.base, {});
  if (!makefile.empty()) {
    Place place = place_of(child.base.folder, makefile.text(), child.base.space);
    if (place.space != Space::tree || !tree_.is_file(place.path)) return;
    script.text = makefile;
    child.makefile = place.path;
  } else {
    // It is looked for by its name, where the call stands for it.
    script.text = words.front().text;
    script.kind = OwnSpelling{};
    for (const char* name : {"GNUmakefile", "makefile", "Makefile"}) {
      if (!tree_.is_file(child.base.folder / name)) continue;
      child.makefile = child.base.folder / name;
      break;
    }
  }
  if (child.makefile.is_root()) return;
  script.lead_to(child.makefile);
  add(std::move(script));
  children_.push_back(std::move(child));
}

// What the child gets of this one's variables.
void Evaluation::pass_variables(ChildMake& child) {
  std::vector<std::string> passed;  // expanding them may define others
  for (const auto& [name, variable] : scope_) {
    bool is_passed = variable.is_exported || variable.from_command_line || exports_all_;
    if (is_passed && name != "MAKEFLAGS") passed.push_back(name);
  }
  for (const std::string& name : passed) {
    if (std::any_of(child.overrides.begin(), child.overrides.end(),
                    [&](const auto& o) { return o.first == name; }))
      continue;
    child.overrides.emplace_back(name, expand_variable(name));
  }
}

}  // namespace yc::make
