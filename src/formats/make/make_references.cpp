// From rules and recipes to references, compilations and child makefiles.
#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/unseen_text.h"

namespace yc::make {

namespace {

bool looks_like_source(const std::string& text) {
  static const std::set<std::string_view> endings = {".c", ".cc", ".cpp", ".cxx", ".h",  ".hpp",
                                                     ".S", ".s",  ".y",   ".l",   ".in", ".ld"};
  return endings.contains(ending_of(text));
}

// Files that a compiler writes beside an object, with its name.
bool is_object_sibling(std::string_view extension) {
  static const std::set<std::string_view> endings = {".lo",  ".d", ".obj", ".gcno", ".gcda", ".su",
                                                     ".dep", ".P", ".o",   ".os",   ".pic.o"};
  return endings.contains(extension);
}

}  // namespace

// The sources of one object; worlds in which it is made of others are none of its concern.
void Evaluation::note_object(const Place& place, const RelPath& source, const Site& site) {
  if (place.space == Space::outside) return;
  ObjectClash& object = objects_[place.path];
  object.object = place.path.str();
  if (object.sources.empty()) object.site = site;
  object.sources.insert(source);
}

void Evaluation::emit_clashes() {
  for (const auto& [path, object] : objects_) {
    if (object.sources.size() > 1) out_.graph().clashes.insert(object);
  }
}

void Evaluation::mention_derived(const TracedText& name, const Derived& derived, const SiteChain& key,
                                 bool with_folder) {
  std::size_t next_by_stem = 0;
  for (std::size_t i = 0; i < derived.prerequisites.size(); ++i) {
    const TracedText& word = derived.prerequisites[i];
    bool is_by_stem = i < derived.rule->prerequisites.size() &&
                      derived.rule->prerequisites[i].text().find('%') != std::string::npos;
    std::size_t by_stem = next_by_stem;
    next_by_stem += is_by_stem;
    Place place = place_of(base_.folder, derived.found[i].text());
    if (place.space != Space::tree || !tree_.is_file(place.path)) {
      if (auto deeper = derive(word, 1)) {
        mention_derived(word, *deeper, key, false);
        emit_instance(*deeper->rule,
                      {word, std::move(deeper->stem), std::move(deeper->found), deeper->rule->order_only});
      }
      continue;
    }
    Reference reference;
    reference.role = Role::source;
    reference.format = format_;
    reference.text = word;
    reference.base = base_;
    reference.key = key;
    std::string stem = derived.stem.text(), name_text = name.text(), source_text = word.text();
    std::size_t in_name = name_text.find(stem), in_source = source_text.find(stem);
    if (!stem.empty() && in_name != std::string::npos && in_source != std::string::npos) {
      reference.derivation = std::make_shared<const Derivation>(
          Derivation{name, name_text.substr(0, in_name), name_text.substr(in_name + stem.size()),
                     source_text.substr(0, in_source), source_text.substr(in_source + stem.size()),
                     derived.rule->site, by_stem});
    }
    for (const TracedText& folder : vpath_for(word.text())) {
      Place at = place_of(base_.folder, folder.text());
      reference.search.push_back({at.path, kNoFile, at.space});
    }
    reference.targets.push_back({Target::Kind::tree, place.path, {}});
    add(std::move(reference));
  }
  if (!with_folder) return;
  bool ready = folder_is_there(name, *derived.rule);
  for (const TracedText& folder : derived.rule->order_only) {
    ready = ready || spelled(fill_percent(folder, derived.stem)) ==
                         marked(Space::tree, place_of(base_.folder, name.text()).path.parent());
  }
  Reference product;
  product.role = Role::product;
  product.format = format_;
  product.text = name;
  product.base = base_;
  product.key = key;
  product.dangling = !ready;
  Place first = derived.found.empty() ? Place{} : place_of(base_.folder, derived.found.front().text());
  bool in_tree = first.space == Space::tree && tree_.is_file(first.path);
  product.targets.push_back(
      {Target::Kind::made, in_tree ? first.path : RelPath(), in_tree ? Site() : derived.rule->site});
  if (in_tree) note_object(place_of(base_.folder, name.text()), first.path, key.back());
  add(std::move(product));
}

void Evaluation::mention(const TracedText& name, Role role, const SiteChain& key, Certainty certainty) {
  if (name.empty()) return;
  if (name.has_hole()) {
    if (!name.is_only_holes()) add_unseen(out_, tree_, name, base_, format_, key);
    return;
  }
  auto make_reference = [&] {
    Reference reference;
    reference.role = role;
    reference.certainty = certainty;
    reference.format = format_;
    reference.text = name;
    reference.base = base_;
    reference.key = key;
    reference.in_list = true;
    return reference;
  };
  Place place = place_of(base_.folder, name.text(), base_.space);
  std::string place_name = place.space == Space::outside ? name.text() : marked(place.space, place.path);
  const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
  bool is_phony = phony_.contains(place_name);
  auto explicit_rules = rules_by_target_.find(place_name);
  if (explicit_rules != rules_by_target_.end()) {
    const Rule* with_recipe = nullptr;
    for (std::size_t index : explicit_rules->second) {
      if (!rules_[index].recipe.lines.empty()) with_recipe = &rules_[index];
    }
    auto derived = with_recipe || is_phony ? std::nullopt : derive(name, 0);
    bool real = entry && !entry->ignored && !is_phony && entry->kind != EntryKind::folder;
    Reference reference = make_reference();
    if (real) reference.targets.push_back({Target::Kind::tree, place.path, {}});
    if (derived) {
      mention_derived(name, *derived, key, true);
      emit_instance(*derived->rule,
                    {name, std::move(derived->stem), std::move(derived->found), derived->rule->order_only});
      if (!real) return;
    } else if (!real) {
      reference.role = Role::product;
      const Rule& rule = with_recipe ? *with_recipe : rules_[explicit_rules->second.front()];
      RelPath source = with_recipe ? first_source(rule) : RelPath();
      reference.targets.push_back({Target::Kind::made, source, source.is_root() ? rule.site : Site()});
      bool in_folder = place.space == Space::tree && !place.path.parent().is_root() &&
                       tree_.is_folder(place.path.parent());
      if (with_recipe && !is_phony && in_folder)
        reference.targets.push_back({Target::Kind::output, place.path, {}});
      if (with_recipe && !is_phony) {
        reference.dangling = !folder_is_there(name, *with_recipe);
      }
    }
    add(std::move(reference));
    return;
  }
  if (entry && !entry->ignored && !place.path.is_root()) {
    Reference reference = make_reference();
    reference.targets.push_back({Target::Kind::tree, place.path, {}});
    add(std::move(reference));
    return;
  }
  if (auto found = find_in_vpath(name)) {
    Reference reference = make_reference();
    for (const TracedText& folder : vpath_for(name.text())) {
      Place at = place_of(base_.folder, folder.text());
      reference.search.push_back({at.path, kNoFile, at.space});
    }
    reference.targets.push_back({Target::Kind::tree, place_of(base_.folder, found->text()).path, {}});
    add(std::move(reference));
    return;
  }
  if (auto derived = derive(name, 0)) {
    mention_derived(name, *derived, key, true);
    emit_instance(*derived->rule,
                  {name, std::move(derived->stem), std::move(derived->found), derived->rule->order_only});
    return;
  }
  std::string extension = ending_of(name.text());
  if (is_object_sibling(extension)) {
    TracedText object = name.substr(0, name.size() - extension.size());
    object.append(TracedText::plain(".o"));
    if (extension != ".o" && comes_with_product(name)) {
      mention(object, role, key, certainty);
      return;
    }
  }
  if (role != Role::source || !looks_like_source(name.text())) return;
  Reference reference = make_reference();
  reference.dangling = true;
  add(std::move(reference));
}

// The source that an explicit rule makes its one product from, if it names one first and no other: headers
// aside, a product of several sources is not any one's.
RelPath Evaluation::first_source(const Rule& rule) const {
  if (rule.prerequisites.empty() || rule.targets.size() != 1) return {};
  const TracedText& first = rule.prerequisites.front();
  auto is_other_source = [&](const TracedText& word) {
    std::string ending = ending_of(word.text());
    return &word != &first && looks_like_source(word.text()) && ending != ".h" && ending != ".hpp";
  };
  if (std::any_of(rule.prerequisites.begin(), rule.prerequisites.end(), is_other_source)) return {};
  Place place = place_of(base_.folder, first.text(), base_.space);
  if (place.space != Space::tree || !tree_.is_file(place.path) || !looks_like_source(first.text())) return {};
  return place.path;
}

void Evaluation::emit_rule(const Rule& rule) {
  SiteChain key = key_at(rule.site);
  if (rule.is_pattern) {
    for (const auto* list : {&rule.prerequisites, &rule.order_only}) {
      for (const TracedText& word : *list) {
        if (word.text().find('%') == std::string::npos) mention(word, Role::source, key, Certainty::certain);
      }
    }
    return;
  }
  for (std::size_t i = 0; i < rule.targets.size(); ++i) {
    const TracedText& target = rule.targets[i];
    mention(target, Role::product, key, Certainty::certain);
    std::vector<TracedText> found;
    std::unordered_set<std::string> products;
    for (const TracedText& form : rule.prerequisites) {
      TracedText word = rule.static_stems.empty() ? form : fill_percent(form, rule.static_stems[i]);
      mention(word, Role::source, key, Certainty::certain);
      auto there = find_in_vpath(word);
      Place place = place_of(base_.folder, word.text());
      bool direct = place.space == Space::tree && tree_.find(place.path);
      if (!there && !direct) products.insert(word.text());
      found.push_back(there && !direct ? std::move(*there) : std::move(word));
    }
    for (const TracedText& word : rule.order_only) mention(word, Role::source, key, Certainty::certain);
    TracedText stem = rule.static_stems.empty() ? TracedText() : rule.static_stems[i];
    if (rule.recipe.lines.empty()) continue;
    Automatic automatic{target, std::move(stem), std::move(found), rule.order_only};
    automatic.products = &products;
    emit_instance(rule, std::move(automatic));
  }
}

void Evaluation::add(Reference reference) {
  // What does not depend on the target is the same for every target of the rule.
  if (reference.text.is_automatic()) reference.instance = instance_;
  out_.add(std::move(reference));
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
      emit_child(command, key);
      continue;
    }
    shell::Picked picked = shell::pick(command, tree_, is_known);
    auto has_word = [&](std::string_view wanted) {
      return std::any_of(command.words.begin(), command.words.end(),
                         [&](const shell::Word& word) { return word.text.text() == wanted; });
    };
    // Without -o a compiler names the object after the source, and others know it by that name.
    bool names_object = picked.compile && has_word("-c") && !has_word("-o");
    for (const Reference& source : picked.references) {
      if (!names_object || source.targets.size() != 1) continue;
      const RelPath& path = source.targets.front().path;
      const std::vector<RelPath>& sources = picked.compile->sources;
      if (std::find(sources.begin(), sources.end(), path) == sources.end()) continue;
      Reference object = source;
      object.role = Role::product;
      object.format = format_;
      object.key = key;
      std::string name(path.name());
      name = name.substr(0, name.rfind('.')) + ".o";
      object.targets = {{Target::Kind::name, RelPath::from_normal(name), {}}};
      add(std::move(object));
      note_object(place_of(command.base.folder, name, command.base.space), path, key.back());
    }
    for (Reference& reference : picked.references) {
      reference.format = format_;
      reference.key = key;
      // What a rule makes is not a reference to a stale copy of it in the tree.
      std::string name = spelled(reference.text);
      if (name == own_name) continue;  // the rule itself names it
      bool is_output = !reference.targets.empty() && reference.targets.front().kind == Target::Kind::output;
      if (is_output && !rules_by_target_.contains(name) && comes_with_product(reference.text)) continue;
      if (rules_by_target_.contains(name) && reference.role != Role::search_root) {
        mention(reference.text, reference.role, key, reference.certainty);
        continue;
      }
      add(std::move(reference));
    }
    for (const TracedText& word : shell::words_with_holes(command)) {
      if (again && !word.is_automatic()) continue;
      add_unseen(out_, tree_, word, command.base, format_, key);
    }
    for (const RelPath& script : picked.linker.scripts) out_.look_up(script, picked.linker.folders);
    if (!command.base_known) continue;
    bool here = command.base.folder == base_.folder && command.base.space == base_.space;
    for (const TracedText& word : picked.others) {
      if (!here || word.has_hole()) continue;
      std::string name = spelled(word);
      if (name == own_name) continue;
      std::string extension = ending_of(name);
      bool known = rules_by_target_.contains(name) || is_object_sibling(extension) || extension == ".a";
      if (known) mention(word, Role::argument, key, Certainty::certain);
    }
    std::int32_t unit = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
    if (picked.compile && shape && shape->is_plain) {
      for (RelPath& source : plain_sources(*shape, c, automatic))
        picked.compile->sources.push_back(std::move(source));
    }
    if (auto& call = picked.compile; call && again) {
      for (const RelPath& source : call->sources) out_.compile(source, shape->contexts[c], unit);
    } else if (call && !call->sources.empty()) {
      for (PathMacro& macro : call->macros) {
        macro.definition.format = format_;
        macro.definition.key = key;
        if (macro.value.is_automatic()) macro.definition.instance = instance_;
      }
      Context context{call->roots, call->forced, call->macros, call->open, call->start};
      ContextIndex index = out_.context(std::move(context));
      if (shape) shape->contexts[c] = index;
      for (const RelPath& source : call->sources) out_.compile(source, index, unit);
      Unit& current = out_.graph().units.back();
      for (const TracedText& word : call->root_words) {
        if (current.root_words.size() < 64) current.root_words.push_back(word);
      }
    } else if (call) {
      told_all = false;  // its context is not known yet
    }
  }
  if (shape) shape->told = shape->can_be_told_once && told_all;
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
    Reference reference;
    reference.role = Role::subfolder;
    reference.format = format_;
    reference.text = folder;
    reference.base = child.base;
    reference.key = key;
    reference.in_list = false;
    if (folder.has_hole()) {
      add_unseen(out_, tree_, folder, child.base, format_, key);
    } else if (there && !place.path.is_root()) {
      reference.targets.push_back({Target::Kind::tree, place.path, {}});
      add(std::move(reference));
    }
    child.base = Base{place.path, kNoFile, there ? Space::tree : Space::outside};
  };
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text.text();
    std::size_t equals = text.find('=');
    if (text == "-C" || text == "--directory" || text == "-f" || text == "--file" || text == "--makefile") {
      if (++i >= words.size()) break;
      if (text == "-f" || text == "--file" || text == "--makefile")
        makefile = words[i].text;
      else
        enter(words[i].text);
    } else if (text.substr(0, 2) == "-C") {
      enter(words[i].text.substr(2));
    } else if (text.substr(0, 2) == "-f") {
      makefile = words[i].text.substr(2);
    } else if (equals != std::string::npos && equals > 0 && text[0] != '-') {
      child.overrides.emplace_back(text.substr(0, equals), words[i].text.substr(equals + 1));
    }
  }
  if (child.base.space != Space::tree) return;
  for (const auto& [name, variable] : scope_) {
    bool passed = variable.is_exported || variable.from_command_line || exports_all_;
    if (!passed || name == "MAKEFLAGS") continue;
    if (std::any_of(child.overrides.begin(), child.overrides.end(),
                    [&](const auto& o) { return o.first == name; }))
      continue;
    child.overrides.emplace_back(name, expand_variable(name));
  }
  if (!makefile.empty()) {
    Place place = place_of(child.base.folder, makefile.text(), child.base.space);
    if (place.space != Space::tree || !tree_.is_file(place.path)) return;
    Reference reference;
    reference.role = Role::script;
    reference.format = format_;
    reference.text = makefile;
    reference.base = child.base;
    reference.key = key;
    reference.targets.push_back({Target::Kind::tree, place.path, {}});
    add(std::move(reference));
    child.makefile = place.path;
  } else {
    for (const char* name : {"GNUmakefile", "makefile", "Makefile"}) {
      if (!tree_.is_file(child.base.folder / name)) continue;
      child.makefile = child.base.folder / name;
      break;
    }
  }
  if (!child.makefile.is_root()) children_.push_back(std::move(child));
}

// Lists that no rule used: their words are likely references all the same.
void Evaluation::emit_lists() {
  // Where a piece comes from: its own bytes, or the call that found it on disk.
  auto origin = [](const Piece& piece) {
    if (piece.has_origin()) return Passage{piece.file, piece.span};
    return piece.via.empty() ? Passage{} : piece.via.back();
  };
  std::set<std::pair<FileIndex, std::uint32_t>> used;
  for (const Reference& reference : out_.graph().references) {
    if (reference.targets.empty()) continue;
    for (const Piece& piece : reference.text.pieces())
      used.emplace(origin(piece).file, origin(piece).span.begin);
  }
  for (const Statement& statement : assignments_) {
    if (statement.site.file == kNoFile) continue;
    for (TracedText word : expand(statement.value).words()) {
      std::string text = word.text();
      if (text.starts_with("-I") || text.starts_with("-L")) {
        word = word.substr(2);
        text.erase(0, 2);
      } else if (text.starts_with("-")) {
        continue;
      }
      if (word.has_hole() || text.find_first_of("/.") == std::string::npos) continue;
      bool fresh = std::all_of(word.pieces().begin(), word.pieces().end(), [&](const Piece& piece) {
        return origin(piece).file == kNoFile ||
               !used.contains({origin(piece).file, origin(piece).span.begin});
      });
      if (!fresh) continue;
      Place place = place_of(base_.folder, text, base_.space);
      if (place.space != Space::tree || place.path.is_root() || !tree_.find(place.path)) continue;
      Reference reference;
      reference.role = Role::listed;
      reference.certainty = Certainty::likely;
      reference.format = format_;
      reference.text = word;
      reference.base = base_;
      reference.key = key_at(statement.site);
      reference.in_list = true;
      reference.targets.push_back({Target::Kind::tree, place.path, {}});
      add(std::move(reference));
    }
  }
}

void Evaluation::emit_all() {
  if (auto path = scope_.find("VPATH"); path != scope_.end()) {
    vpaths_.emplace_back(TracedText::plain("%"), expand_variable("VPATH").words(" \t:"));
  }
  read_built_in();
  // A folder given to mkdir anywhere is there when it is needed.
  for (const Rule& rule : rules_) {
    for (const auto& [line, site] : rule.recipe.lines) {
      if (line.text().find("mkdir") == std::string::npos) continue;
      Automatic empty{rule.targets.front()};
      const Automatic* outer = automatic_;
      automatic_ = &empty;
      for (const TracedText& word : expand(line).words()) {
        Place place = place_of(base_.folder, word.text(), base_.space);
        if (place.space == Space::tree) made_folders_.insert(place.path.str());
      }
      automatic_ = outer;
    }
  }
  for (const auto& [pattern, folders] : vpaths_) {
    for (const TracedText& folder : folders) {
      Place place = place_of(base_.folder, folder.text());
      Reference reference;
      reference.role = Role::search_root;
      reference.format = format_;
      reference.in_list = true;
      reference.text = folder;
      reference.base = base_;
      reference.key = key_at({base_.anchor, 0});
      if (folder.has_hole()) continue;
      if (place.space == Space::tree && tree_.find(place.path) && !place.path.is_root()) {
        reference.targets.push_back({Target::Kind::tree, place.path, {}});
        add(std::move(reference));
      }
    }
  }
  for (std::size_t i = 0; i < rules_.size(); ++i) {
    if (!rules_[i].is_built_in) emit_rule(rules_[i]);
  }
  if (automake_) emit_automake();
  emit_lists();
  emit_clashes();
}

}  // namespace yc::make
