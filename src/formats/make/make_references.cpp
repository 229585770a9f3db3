// From rules to references.
#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/make/make_proposals.h"
#include "model/add_reference.h"
#include "words/make.h"

namespace yc::make {

namespace {

bool looks_like_source(const std::string& text) {
  return words::make::source_endings().contains(ending_of(text));
}

}  // namespace

Reference Evaluation::reference_by(const TracedText& word, Role role, const SiteChain& key) const {
  Reference reference = Reference::of(role, format_, key, base_, word);
  return reference;
}

void Evaluation::mention_derived(const TracedText& name, const Derived& derived, const SiteChain& key,
                                 int depth) {
  std::size_t next_by_stem = 0;
  for (std::size_t i = 0; i < derived.prerequisites.size(); ++i) {
    const TracedText& word = derived.prerequisites[i];
    bool is_by_stem = i < derived.rule->prerequisites.size() &&
                      derived.rule->prerequisites[i].text().find('%') != std::string::npos;
    std::size_t by_stem = next_by_stem;
    next_by_stem += is_by_stem;
    Place place = place_of(base_.folder, derived.found[i].text());
    if (place.space != Space::tree || !tree_.is_file(place.path)) {
      if (auto deeper = depth < kMostRules ? derive(word, depth + 1) : std::nullopt) {
        mention_derived(word, *deeper, key, depth + 1);
        emit_instance(*deeper->rule,
                      {word, std::move(deeper->stem), std::move(deeper->found), deeper->rule->order_only});
      }
      continue;
    }
    Reference reference = reference_by(word, Role::source, key);
    std::string stem = derived.stem.text(), name_text = name.text(), source_text = word.text();
    std::size_t in_name = name_text.find(stem), in_source = source_text.find(stem);
    if (!is_by_stem) {
      // The product is made of this one source and of no other.
      reference.derivation = std::make_shared<const Derivation>(
          Derivation{name, name_text, "", source_text, "", derived.rule->site, kNoPlace});
    } else if (!stem.empty() && in_name != std::string::npos && in_source != std::string::npos) {
      reference.derivation = std::make_shared<const Derivation>(
          Derivation{name, name_text.substr(0, in_name), name_text.substr(in_name + stem.size()),
                     source_text.substr(0, in_source), source_text.substr(in_source + stem.size()),
                     derived.rule->site, by_stem});
    }
    for (const TracedText& folder : vpath_for(word.text())) {
      Place at = place_of(base_.folder, folder.text());
      reference.search.push_back({at.path, kNoFile, at.space});
    }
    reference.lead_to(place.path);
    add(std::move(reference));
  }
  if (depth > 0) return;  // what is made on the way is nobody's product
  bool ready = folder_is_there(name, *derived.rule);
  for (const TracedText& folder : derived.rule->order_only) {
    ready = ready || spelled(fill_percent(folder, derived.stem)) ==
                         marked(Space::tree, place_of(base_.folder, name.text()).path.parent());
  }
  note_made(place_of(base_.folder, name.text(), base_.space));
  Reference product = reference_by(name, Role::product, key);
  product.dangling = !ready;
  Place first = derived.found.empty() ? Place{} : place_of(base_.folder, derived.found.front().text());
  bool in_tree = first.space == Space::tree && tree_.is_file(first.path);
  product.targets.push_back(
      {Target::Kind::made, in_tree ? first.path : RelPath(), in_tree ? Site() : derived.rule->site});
  if (in_tree) note_object(place_of(base_.folder, name.text()), first.path, key.back());
  add(std::move(product));
}

// Sources include what rules make, but for objects and libraries.
void Evaluation::note_made(const Place& place) {
  if (place.space != Space::tree || place.path.is_root() || tree_.find(place.path)) return;
  std::string_view ending = place.path.extension();
  bool is_linked = ending == ".o" || ending == ".lo" || ending == ".a" || ending == ".so" || ending == ".la";
  if (!is_linked) out_.make(place.path, kBuildsInPlace);
}

// Where a rule says that it makes something: of several targets, where that one is spelled, as each is
// something else.
Site Evaluation::site_of_target(const Rule& rule, const std::string& place_name) const {
  for (std::size_t i = 0; rule.targets.size() > 1 && i < rule.targets.size(); ++i) {
    Passage at = rule.targets[i].first_origin();
    if (at.file != kNoFile && spelled(rule.targets[i]) == place_name) return {at.file, at.span.begin};
  }
  return rule.site;
}

namespace {

// "$(SUBDIRS): ; $(MAKE) -C $@": the target is the name of a folder, too.
bool uses_target(const Rule& rule) {
  return std::any_of(rule.recipe.lines.begin(), rule.recipe.lines.end(), [](const auto& line_and_site) {
    return line_and_site.first.text().find("$@") != std::string::npos;
  });
}

}  // namespace

// What rules have as their target.
void Evaluation::mention_target(const TracedText& name, Reference reference, const Place& place,
                                const std::vector<std::size_t>& rules) {
  std::string place_name = place.space == Space::outside ? name.text() : marked(place.space, place.path);
  const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
  bool is_phony = phony_.contains(place_name);
  const Rule* with_recipe = nullptr;
  for (std::size_t index : rules) {
    if (!rules_[index].recipe.lines.empty()) with_recipe = &rules_[index];
  }
  auto derived = with_recipe || is_phony ? std::nullopt : derive(name, 0);
  bool real = entry && !entry->ignored && !is_phony && entry->kind != EntryKind::folder;
  if (real) reference.lead_to(place.path);
  if (derived) {
    mention_derived(name, *derived, reference.construct, 0);
    emit_instance(*derived->rule,
                  {name, std::move(derived->stem), std::move(derived->found), derived->rule->order_only});
    if (!real) return;
  } else if (!real) {
    reference.role = Role::product;
    const Rule& rule = with_recipe ? *with_recipe : rules_[rules.front()];
    RelPath source = with_recipe ? first_source(rule, place_name) : RelPath();
    reference.targets.push_back(
        {Target::Kind::made, source, source.is_root() ? site_of_target(rule, place_name) : Site()});
    bool is_folder = entry && !entry->ignored && entry->kind == EntryKind::folder;
    if (is_folder && with_recipe && uses_target(*with_recipe)) reference.lead_to(place.path);
    // What one of many targets is made of, names it: it goes where that goes, as with a pattern rule.
    bool goes_with_source = !rule.static_stems.empty() && !source.is_root();
    bool in_folder = place.space == Space::tree && !place.path.parent().is_root() && !goes_with_source &&
                     tree_.is_folder(place.path.parent());
    if (with_recipe && !is_phony && in_folder) reference.lead_to(place.path, Target::Kind::output);
    if (with_recipe && !is_phony) {
      note_made(place);
      reference.dangling = !folder_is_there(name, *with_recipe);
    }
  }
  add(std::move(reference));
}

// Whether a rule's target is spelled with the same variables, of which nobody knows what they come to:
// "all: lib/$(LIB)" and "lib/$(LIB): …".
bool Evaluation::is_target_as_spelled(const TracedText& name) const {
  auto rules = rules_by_target_.find(spelled(name));
  if (rules == rules_by_target_.end()) return false;
  auto variables = [&](const TracedText& text) {
    std::vector<std::string> out;
    for (const Piece& piece : text.pieces()) {
      if (piece.nature != Piece::Nature::hole) continue;
      Passage innermost;
      for (const Passage& passage : piece.via) innermost = passage;
      auto bytes =
          innermost.file == kNoFile ? Result<Bytes>(Error{}) : tree_.read(out_.files().path(innermost.file));
      bool is_there = bytes && innermost.span.end <= (*bytes)->size();
      out.push_back(
          is_there ? (*bytes)->substr(innermost.span.begin, innermost.span.end - innermost.span.begin) : "");
    }
    return out;
  };
  std::vector<std::string> wanted = variables(name);
  if (std::find(wanted.begin(), wanted.end(), "") != wanted.end()) return false;
  return std::any_of(rules->second.begin(), rules->second.end(), [&](std::size_t rule) {
    const std::vector<TracedText>& targets = rules_[rule].targets;
    return std::any_of(targets.begin(), targets.end(), [&](const TracedText& target) {
      return target.text() == name.text() && variables(target) == wanted;
    });
  });
}

void Evaluation::mention_in_part(const TracedText& name, const SiteChain& key) {
  if (is_target_as_spelled(name))
    add_known_folder(out_, tree_, name, base_, format_, key);
  else if (!name.is_only_holes())
    add_unseen(out_, tree_, name, base_, format_, key);
}

void Evaluation::mention(const TracedText& name, Role role, const SiteChain& key, Certainty certainty) {
  if (name.empty()) return;
  if (name.has_hole()) return mention_in_part(name, key);
  auto make_reference = [&] {
    Reference reference = reference_by(name, role, key);
    reference.certainty = certainty;
    reference.in_list = true;
    return reference;
  };
  Place place = place_of(base_.folder, name.text(), base_.space);
  std::string place_name = place.space == Space::outside ? name.text() : marked(place.space, place.path);
  const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
  auto explicit_rules = rules_by_target_.find(place_name);
  if (explicit_rules != rules_by_target_.end()) {
    mention_target(name, make_reference(), place, explicit_rules->second);
    return;
  }
  // An object that somebody left there is made anew once its source is newer, and is not there in a fresh
  // clone.
  bool is_left_over = entry && is_object_sibling(ending_of(name.text())) && application(name.text(), 0);
  if (entry && !entry->ignored && !place.path.is_root() && !is_left_over) {
    Reference reference = make_reference();
    reference.lead_to(place.path);
    add(std::move(reference));
    return;
  }
  if (auto found = is_left_over ? std::nullopt : find_in_vpath(name)) {
    Reference reference = make_reference();
    for (const TracedText& folder : vpath_for(name.text())) {
      Place at = place_of(base_.folder, folder.text());
      reference.search.push_back({at.path, kNoFile, at.space});
    }
    reference.lead_to(place_of(base_.folder, found->text()).path);
    add(std::move(reference));
    return;
  }
  if (auto derived = derive(name, 0)) {
    mention_derived(name, *derived, key, 0);
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
  if (role == Role::source && extension == ".o") complain("unmade-object", key.back(), name.text());
  if (role != Role::source || !looks_like_source(name.text())) return;
  Reference reference = make_reference();
  reference.dangling = true;
  add(std::move(reference));
}

// The source that an explicit rule makes its one product from, if it names one first and no other: headers
// aside, a product of several sources is not any one's.
RelPath Evaluation::first_source(const Rule& rule, const std::string& product) {
  if (rule.prerequisites.empty()) return {};
  if (!rule.static_stems.empty()) {
    // Each of many targets has a source of its own.
    auto at = rule.static_targets.find(product);
    if (at == rule.static_targets.end()) return {};
    TracedText source = fill_percent(rule.prerequisites.front(), rule.static_stems[at->second]);
    Place place = place_of(base_.folder, source.text(), base_.space);
    return place.space == Space::tree && tree_.is_file(place.path) ? place.path : RelPath();
  }
  if (rule.targets.size() != 1) return {};
  auto [at, fresh] = only_sources_.try_emplace(&rule - rules_.data());
  if (fresh) at->second = only_source(rule);
  return at->second;
}

RelPath Evaluation::only_source(const Rule& rule) const {
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

// What make, or the linker, would stop at or pass over. Where it is so before a move, it stays as it is.
void Evaluation::complain(const char* id, Site site, const std::string& name) {
  if (site.file != kNoFile)
    out_.notice(std::string("~") + id, out_.files().path(site.file), Span{site.offset, site.offset}, name);
}

// A target that is there as a folder is taken for done, if it is not phony.
bool Evaluation::is_hidden_by_folder(const Rule& rule, const TracedText& target) const {
  if (rule.recipe.lines.empty() || target.has_hole() || phony_.contains(spelled(target))) return false;
  Place place = place_of(base_.folder, target.text(), base_.space);
  const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
  return entry && entry->kind == EntryKind::folder && !entry->ignored && !makes_folders(rule);
}

void Evaluation::emit_rule(const Rule& rule) {
  SiteChain key = key_at(rule.site);
  refer_to_folder_of(rule.static_form, rule.site);
  // What a pattern rule puts beside sources stays where whoever names it looks for it.
  bool is_apart = std::none_of(rule.targets.begin(), rule.targets.end(), [&](const TracedText& form) {
    Place place = place_of(base_.folder, form.text(), base_.space);
    return place.space == Space::tree && !place.path.parent().is_root() &&
           tree_.is_folder(place.path.parent());
  });
  if ((rule.is_pattern && is_apart) || !rule.static_stems.empty()) {
    for (const TracedText& form : rule.prerequisites) refer_to_folder_of(form, rule.site);
  }
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
    if (is_hidden_by_folder(rule, target)) complain("shadowed-target", rule.site, target.text());
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
  if (reference.text.is_automatic()) reference.construct_part = instance_;
  out_.add(std::move(reference));
}

namespace {

// Where a piece comes from: its own bytes, or the call that found it on disk.
Passage origin_of(const Piece& piece) {
  if (piece.has_origin()) return {piece.file, piece.span};
  return piece.via.empty() ? Passage{} : piece.via.back();
}

std::uint64_t place_number(const Passage& at) {
  return (static_cast<std::uint64_t>(static_cast<std::uint32_t>(at.file)) << 32U) | at.span.begin;
}

}  // namespace

void UsedPlaces::see(const std::vector<Reference>& references) {
  for (; seen_ < references.size(); ++seen_) see(references[seen_]);
}

void UsedPlaces::see(const Reference& reference) {
  if (reference.targets.empty()) return;
  for (const Piece& piece : reference.text.pieces()) places_.insert(place_number(origin_of(piece)));
}

bool UsedPlaces::are_new_to(const TracedText& word) const {
  return std::all_of(word.pieces().begin(), word.pieces().end(), [&](const Piece& piece) {
    Passage at = origin_of(piece);
    return at.file == kNoFile || !places_.contains(place_number(at));
  });
}

// Lists that no rule used: their words are likely references all the same.
void Evaluation::emit_lists() {
  used_.see(out_.graph().references);
  std::size_t known = unused_lists_.size();
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
      if (!used_.are_new_to(word)) continue;
      Place place = place_of(base_.folder, text, base_.space);
      if (place.space != Space::tree || place.path.is_root() || !tree_.find(place.path)) continue;
      Reference reference = reference_by(word, Role::listed, key_at(statement.site));
      reference.certainty = Certainty::likely;
      reference.in_list = true;
      reference.may_gain = true;  // it is a text that equals a path, and no more
      reference.lead_to(place.path);
      if (reference.text.is_automatic()) reference.construct_part = instance_;
      unused_lists_.push_back(std::move(reference));
    }
  }
  // Other branches need not say it again.
  for (; known < unused_lists_.size(); ++known) used_.see(unused_lists_[known]);
}

void Evaluation::emit_all() {
  if (auto path = scope_.find("VPATH"); path != scope_.end()) {
    vpaths_.emplace_back(TracedText::plain("%"), expand_variable("VPATH").words(" \t:"));
  }
  read_built_in();
  is_emitting_ = true;
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
      Reference reference = reference_by(folder, Role::search_root, key_at({base_.anchor, 0}));
      reference.in_list = true;
      if (folder.has_hole()) continue;
      if (place.space == Space::tree && tree_.find(place.path) && !place.path.is_root()) {
        reference.lead_to(place.path);
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
