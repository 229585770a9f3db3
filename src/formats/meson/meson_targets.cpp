// Targets: their sources, search roots and what dependencies bring.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/shell/command_line.h"
#include "formats/shell/programs.h"

namespace yc::meson {

// What a unit is called must not change with a path.
void Evaluation::name_unit(const TracedText& word) {
  if (word.has_hole() || word.empty()) return;
  out_.add(Reference::of(Role::product, format_, key(), base(), word)
               .in(instance())
               .leading_to(RelPath::from_normal(word.text()), Target::Kind::name));
}

// A product may be called after the one file it is made from; whoever uses it does so by that name.
void Evaluation::name_output(const TracedText& word, const std::optional<RelPath>& source) {
  std::string text = word.text();
  if (word.has_hole()) return;
  if (text.find('@') == std::string::npos) {
    out_.make(base().folder / text, "meson", source);
    if (source && source->name() == text) note_copy({*source, false, base().anchor}, base().folder / text);
  }
  if (!source) return;
  TracedText out;
  std::size_t from = 0;
  for (std::size_t at; (at = text.find('@', from)) != std::string::npos;) {
    bool base = text.compare(at, 10, "@BASENAME@") == 0, plain = text.compare(at, 11, "@PLAINNAME@") == 0;
    if (!base && !plain) return;
    out.append(word.substr(from, at - from));
    std::string name(source->name());
    if (base) name = name.substr(0, name.rfind('.'));
    out.append(TracedText::plain(name));
    from = at + (base ? 10 : 11);
  }
  if (from == 0) return;
  out.append(word.substr(from));
  out_.make(base().folder / out.text(), "meson");
  name_unit(out);
}

void Evaluation::note_copy(BuildCopy copy, const RelPath& place) {
  out_.graph().copies.insert_or_assign(place.str(), std::move(copy));
}

void Evaluation::take_bundles(const Value& value, Bundle& into) const {
  for (const Value& item : value.flat()) {
    if (item.kind == Value::Kind::unknown) into.open = true;
    if (item.kind != Value::Kind::bundle) continue;
    const Bundle& from = *item.bundle;
    into.roots.insert(into.roots.end(), from.roots.begin(), from.roots.end());
    into.sources.insert(into.sources.end(), from.sources.begin(), from.sources.end());
    into.macros.insert(into.macros.end(), from.macros.begin(), from.macros.end());
    into.uses.insert(into.uses.end(), from.uses.begin(), from.uses.end());
    into.open = into.open || from.open;
  }
}

// Folders by name, or sets of them made before.
void Evaluation::take_folders(const Value& value, Bundle& into) {
  for (const Value& item : value.flat()) {
    if (item.kind == Value::Kind::bundle || item.kind == Value::Kind::unknown) {
      take_bundles(item, into);
      continue;
    }
    refer(item, Role::search_root);
    TracedText text = item.as_text();
    into.open = into.open || text.has_hole();
    Place place = place_of(base().folder, text.text());
    into.roots.push_back({text, place});
    if (place.space == Space::tree) into.roots.push_back({text, {Space::build, place.path}});
  }
}

// Targets that are linked, known by what they make.
void Evaluation::take_linked(const Value& value, Bundle& into) {
  for (const Value& item : value.flat()) {
    if (item.kind == Value::Kind::made && !item.text.empty()) into.uses.push_back(item.text.text());
  }
}

void Evaluation::take_sources(const Value& value, Bundle& into, bool wanted) {
  for (const Value& item : value.flat()) {
    refer(item, Role::source, Certainty::certain, wanted);
    auto path = path_of(item);
    if (path && shell::is_source_name(path->name())) into.sources.push_back(*path);
  }
}

// Options for a compiler or linker: it is started at the top of the build tree.
void Evaluation::take_options(const Values& words, Bundle& into) {
  run_line(words, build_base(), false);
  for (const Value& word : words) {
    TracedText text = word.as_text();
    std::string all = text.text();
    into.open = into.open || (text.has_hole() && !all.starts_with("-D"));
    if (all.starts_with("-I") && all.size() > 2) {
      TracedText folder = text.substr(2);
      Place place = place_of(build_base().folder, folder.text(), Space::build);
      if (place.space == Space::outside) place = place_of(guessed_base().folder, folder.text());
      into.roots.push_back({folder, place});
    }
    if (!all.starts_with("-D")) continue;
    auto macro = shell::path_macro(text.substr(2));
    if (!macro) continue;
    macro->definition.format = format_;
    macro->definition.construct = key();
    macro->definition.base = base();
    into.macros.push_back(std::move(*macro));
  }
}

Value Evaluation::do_target(const Call& call) {
  Bundle own, brought;
  name_unit(call.text(0));
  for (std::size_t i = 1; i < call.positional.size(); ++i) take_sources(call.positional[i], own);
  for (const auto& [name, value] : call.keywords) {
    if (name == "sources") {
      take_sources(value, own);
    } else if (name == "include_directories") {
      take_folders(value, own);
    } else if (name == "extra_files" || name == "link_depends" || name == "vs_module_defs" ||
               name == "resources") {
      refer(value, Role::listed, Certainty::certain, false);
    } else if (name.ends_with("_pch") || name == "objects" || name.starts_with("link_w")) {
      refer(value, Role::source, Certainty::certain, false);
      take_linked(value, own);
    } else if (name == "dependencies") {
      take_bundles(value, brought);
    } else if (name.ends_with("_args")) {
      take_options(value.flat(), own);
    }
  }
  std::vector<SearchRoot> roots;
  const Value* implicit = call.keyword("implicit_include_directories");
  if (!implicit || implicit->kind != Value::Kind::boolean || implicit->flag) {
    roots.push_back({{Space::build, base().folder}, false});
    roots.push_back({{Space::tree, base().folder}, false});
  }
  Holding& holding = out_.graph().holdings[base().folder];
  (call.node.text == "executable" ? holding.program : holding.library) = true;
  Unit unit;
  unit.name = call.text(0).text();
  unit.format = format_;
  unit.site = here_;
  bool open = false;
  std::vector<PathMacro> macros;
  Bundle for_all;
  if (auto known = variable(kForAll)) take_bundles(*known, for_all);
  for (const Bundle* from : {&own, &brought, &for_all}) {
    for (const RootWord& root : from->roots) {
      roots.push_back({root.place, false});
      if (root.place.space == Space::tree) unit.root_words.push_back(root.word);
    }
    open = open || from->open;
    unit.uses.insert(unit.uses.end(), from->uses.begin(), from->uses.end());
    macros.insert(macros.end(), from->macros.begin(), from->macros.end());
  }
  ContextIndex context = out_.context({roots, {}, macros, open, {}, "meson"});
  Value target = made();
  target.text = TracedText::plain(unit.name);
  out_.graph().units.push_back(std::move(unit));
  auto index = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
  for (const Bundle* from : {&own, &brought}) {
    for (const RelPath& source : from->sources) out_.compile(source, context, index);
  }
  return target;
}

Value Evaluation::do_declare_dependency(const Call& call) {
  Bundle out;
  for (const auto& [name, value] : call.keywords) {
    if (name == "include_directories") {
      take_folders(value, out);
    } else if (name == "dependencies") {
      take_bundles(value, out);
    } else if (name == "sources") {
      take_sources(value, out);
    } else if (name.starts_with("link_w")) {
      take_linked(value, out);
    } else if (name == "compile_args" || name == "link_args") {
      take_options(value.flat(), out);
    } else if (name == "extra_files") {
      refer(value, Role::listed);
    }
  }
  return Value::of(std::move(out));
}

}  // namespace yc::meson
