// Targets: their sources, search roots and libraries, and what is compiled with what in the end.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

int visibility(const std::string& text) {
  if (text == "PRIVATE" || text == "LINK_PRIVATE") return 0;
  if (text == "PUBLIC" || text == "LINK_PUBLIC") return 1;
  if (text == "INTERFACE" || text == "LINK_INTERFACE_LIBRARIES") return 2;
  return -1;
}

bool is_compiled(const RelPath& path) {
  return words::cmake::compiled_endings().contains(path.extension());
}

}  // namespace

TargetUnit* Evaluation::target(const std::string& name) {
  auto alias = aliases_.find(name);
  auto at = target_index_.find(alias == aliases_.end() ? name : alias->second);
  return at == target_index_.end() ? nullptr : &targets_[at->second];
}

// The name of a target is a reference too: it must go on naming what it named.
void Evaluation::use_target(const TracedText& word) {
  std::string text = word.text();
  const TargetUnit* named = target(text);
  if (!named) return;
  Reference reference = Reference::of(Role::product, format_, key(), base(), word);
  reference.targets.push_back({Target::Kind::made, {}, named->site});
  out_.add(std::move(reference));
}

// Of what only a target of this project, or one that was fetched, can be given.
void Evaluation::use_own_target(const TracedText& word) {
  use_target(word);
  bool is_plain =
      !word.has_hole() && !word.text().empty() && word.text().find_first_of("$<;") == std::string::npos;
  if (is_plain) names_.wanted.emplace(word.text(), word.first_origin());
}

// What a unit is called must not change with a path.
void Evaluation::name_unit(const TracedText& word) {
  if (word.has_hole()) return;
  out_.add(Reference::of(Role::product, format_, key(), base(), word)
               .leading_to(RelPath::from_normal(word.text()), Target::Kind::name));
}

void Evaluation::add_source(TargetUnit* owner, const TracedText& word) {
  refer_here(word, Role::source);
  for (const TracedText& value : values(word)) {
    Place place = place_of(base().folder, value.text());
    if (!owner || place.space != Space::tree || !tree_.is_file(place.path) || !is_compiled(place.path))
      continue;
    owner->sources.push_back(place.path);
  }
}

void Evaluation::do_add_target(const Command& command, const Words& words) {
  if (words.empty()) return;
  std::string name = words[0].text();
  if (words.size() >= 3 && words[1].text() == "ALIAS") {
    aliases_[name] = words[2].text();
    names_.known.insert(name);
    if (!words[2].has_hole()) names_.wanted.emplace(words[2].text(), words[2].first_origin());
    use_target(words[2]);
    return;
  }
  name_unit(words[0]);
  names_.known.insert(name);
  TargetUnit unit;
  unit.name = name;
  unit.site = here_;
  unit.folder = folder_;
  Holding& holding = out_.graph().holdings[base().folder];
  (command.name == "add_executable" ? holding.program : holding.library) = true;
  TracedText current = variable("CMAKE_INCLUDE_CURRENT_DIR");
  unit.includes_current = current.text() == "ON" || current.text() == "TRUE" || current.text() == "1";
  target_index_[name] = targets_.size();
  targets_.push_back(std::move(unit));
  std::size_t index = targets_.size() - 1;
  for (std::size_t i = 1; i < words.size(); ++i) {
    if (!words::cmake::target_kinds().contains(words[i].text())) add_source(&targets_[index], words[i]);
  }
}

// target_sources(tide PRIVATE a.c PUBLIC FILE_SET HEADERS BASE_DIRS include FILES include/a.h)
void Evaluation::do_target_sources(const Command&, const Words& words) {
  if (words.empty()) return;
  use_own_target(words[0]);
  TargetUnit* owner = target(words[0].text());
  int reach = 0;
  std::string keyword, set;
  Words bases, files;
  auto end_set = [&] {
    if (!set.empty()) take_header_set(owner, reach, set, bases, files);
    set.clear(), bases.clear(), files.clear();
  };
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (visibility(text) >= 0 || text == "FILE_SET") {
      end_set();
      if (visibility(text) >= 0) reach = visibility(text);
      keyword = text;
    } else if (text == "TYPE" || text == "BASE_DIRS" || text == "FILES") {
      keyword = text;
    } else if (keyword == "FILE_SET") {
      set = text;
    } else if (keyword == "BASE_DIRS") {
      bases.push_back(words[i]);
    } else if (keyword == "FILES" && !set.empty()) {
      files.push_back(words[i]);
    } else if (keyword != "TYPE") {
      add_source(owner, words[i]);
    }
  }
  end_set();
}

// A set's files lie below its base folders, which are searched for what is included.
void Evaluation::take_header_set(TargetUnit* owner, int reach, const std::string& set, const Words& bases,
                                 const Words& files) {
  std::vector<RelPath> unowned;
  std::vector<RelPath>& folders = owner ? owner->set_bases[set] : unowned;
  bool is_known = owner != nullptr;
  auto add_base = [&](RootWord root) {
    is_known = is_known && !root.word.has_hole() && root.place.space == Space::tree;
    folders.push_back(root.place.path);
    root.is_private = reach != 2;
    root.is_public = reach != 0;
    root.is_fixed = true;  // base folders must not lie in each other
    if (owner) owner->roots.push_back(std::move(root));
  };
  for (const TracedText& word : bases) {
    for (const TracedText& value : values(word)) add_base(root_word(value, Role::search_root));
  }
  if (folders.empty()) {
    RootWord root;
    root.word = variable("CMAKE_CURRENT_SOURCE_DIR");
    root.place = {Space::tree, base().folder};
    add_base(std::move(root));
  }
  for (const TracedText& word : files) {
    for (const TracedText& value : values(word)) {
      Place place = place_of(base().folder, value.text());
      bool is_below = std::any_of(folders.begin(), folders.end(),
                                  [&](const RelPath& folder) { return place.path.is_within(folder); });
      if (is_known && is_below && place.space == Space::tree && tree_.is_file(place.path)) {
        out_.add(Reference::of(Role::argument, format_, key(), base(), value)
                     .in(ConstructPart::tagged(kSetPart))
                     .leading_to(place.path));
      }
      refer_here(value, Role::source);
      if (owner && place.space == Space::tree) owner->set_files.emplace_back(place.path, set);
    }
  }
}

RootWord Evaluation::root_word(const TracedText& word, Role role) {
  refer_here(word, role);
  RootWord out;
  out.word = word;
  out.place = place_of(base().folder, word.text());
  return out;
}

void Evaluation::do_target_includes(const Command&, const Words& words) {
  if (words.empty()) return;
  use_own_target(words[0]);
  TargetUnit* owner = target(words[0].text());
  int seen = 1;
  bool before = false;
  std::size_t front = 0;
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (visibility(text) >= 0) {
      seen = visibility(text);
      continue;
    }
    if (text == "SYSTEM" || text == "AFTER") continue;
    if (text == "BEFORE") {
      before = true;
      continue;
    }
    for (const TracedText& value : values(words[i])) {
      RootWord root = root_word(value, Role::search_root);
      root.is_private = seen != 2;
      root.is_public = seen != 0;
      if (!owner) continue;
      auto at = before ? owner->roots.begin() + static_cast<std::ptrdiff_t>(front++) : owner->roots.end();
      owner->roots.insert(at, std::move(root));
    }
  }
}

void Evaluation::do_include_directories(const Command&, const Words& words) {
  bool before = false;
  std::size_t front = 0;
  for (const TracedText& word : words) {
    std::string text = word.text();
    if (text == "SYSTEM" || text == "AFTER") continue;
    if (text == "BEFORE") {
      before = true;
      continue;
    }
    for (const TracedText& value : values(word)) {
      RootWord root = root_word(value, Role::search_root);
      std::vector<RootWord>& roots = folders_[folder_].roots;
      roots.insert(before ? roots.begin() + static_cast<std::ptrdiff_t>(front++) : roots.end(),
                   std::move(root));
    }
  }
}

void Evaluation::do_target_links(const Command&, const Words& words) {
  if (words.empty()) return;
  use_own_target(words[0]);
  TargetUnit* owner = target(words[0].text());
  int seen = 1;
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (visibility(text) >= 0) {
      seen = visibility(text);
      continue;
    }
    if (text == "debug" || text == "optimized" || text == "general") continue;
    for (const TracedText& value : values(words[i])) {
      use_target(value);
      if (owner) owner->links.emplace_back(value.text(), seen);
      if (!value.has_hole() && value.text().find("::") != std::string::npos)
        names_.wanted.emplace(value.text(), value.first_origin());
      if (!target(value.text())) likely(value);
    }
  }
}

void Evaluation::do_link_libraries(const Command&, const Words& words) {
  for (const TracedText& word : words) {
    use_target(word);
    folders_[folder_].links.push_back(word.text());
  }
}

void Evaluation::do_target_options(const Command& command, const Words& words) {
  TargetUnit* owner = nullptr;
  std::size_t begin = 0;
  if (command.name == "target_compile_options" && !words.empty()) {
    use_target(words[0]);
    owner = target(words[0].text());
    begin = 1;
  }
  for (std::size_t i = begin; i < words.size(); ++i) {
    for (const TracedText& value : values(words[i])) {
      std::string text = value.text();
      if (text.substr(0, 2) == "-I" && text.size() > 2) {
        RootWord root = root_word(value.substr(2), Role::search_root);
        root.is_private = true;
        if (owner)
          owner->roots.push_back(std::move(root));
        else
          folders_[folder_].roots.push_back(std::move(root));
      } else if (text == "-include" && i + 1 < words.size()) {
        continue;
      } else if (text.find('=') != std::string::npos) {
        likely(value.substr(text.find('=') + 1));
      } else {
        likely(value);
      }
    }
  }
}

// Options as text, in which folders to search stand. A compiler starts in the build tree, so only whole paths
// count.
void Evaluation::take_flags(const Words& flags) {
  for (const TracedText& text : flags) {
    std::vector<TracedText> words = text.words();
    for (std::size_t i = 0; i < words.size(); ++i) {
      std::string option = words[i].text();
      bool beside = (option == "-I" || option == "-isystem" || option == "-iquote") && i + 1 < words.size();
      if (!beside && !option.starts_with("-I/")) continue;
      TracedText folder = beside ? words[++i] : words[i].substr(2);
      if (place_of({}, folder.text()).space != Space::tree || !folder.text().starts_with(kTreeMark)) continue;
      bool known =
          std::any_of(folders_[folder_].roots.begin(), folders_[folder_].roots.end(),
                      [&](const RootWord& root) { return root.place == place_of({}, folder.text()); });
      if (!known) folders_[folder_].roots.push_back(root_word(folder, Role::search_root));
    }
  }
}

void Evaluation::do_definitions(const Command& command, const Words& words) {
  TargetUnit* owner = nullptr;
  bool for_target = command.name == "target_compile_definitions" && !words.empty();
  if (for_target) {
    use_target(words[0]);
    owner = target(words[0].text());
  }
  for (std::size_t i = for_target ? 1 : 0; i < words.size(); ++i) {
    for (const TracedText& value : values(words[i])) {
      std::string text = value.text();
      TracedText definition = text.substr(0, 2) == "-D" ? value.substr(2) : value;
      auto macro = shell::path_macro(definition);
      if (!macro) {
        std::size_t equals = text.find('=');
        likely(equals == std::string::npos ? value : value.substr(equals + 1));
        continue;
      }
      macro->definition.format = format_;
      macro->definition.construct = key();
      macro->definition.base = base();
      if (owner)
        owner->macros.push_back(std::move(*macro));
      else
        folders_[folder_].macros.push_back(std::move(*macro));
    }
  }
}

void Evaluation::do_precompile(const Command&, const Words& words) {
  if (words.empty()) return;
  use_target(words[0]);
  TargetUnit* owner = target(words[0].text());
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (visibility(text) >= 0 || text == "REUSE_FROM" ||
        (!text.empty() && (text.front() == '<' || text.front() == '"')))
      continue;
    refer_here(words[i], Role::source, Certainty::certain, false);
    Place place = place_of(base().folder, text);
    if (owner && place.space == Space::tree && tree_.is_file(place.path)) owner->forced.push_back(place.path);
  }
}

void Evaluation::do_target_names(const Command&, const Words& words) {
  for (const TracedText& word : words) {
    if (word.text() == "PROPERTIES") break;
    use_target(word);
  }
  for (const TracedText& word : words) {
    std::string text = word.text();
    std::size_t equals = text.find('=');
    if (text.find("INCLUDE_DIRECTORIES") != std::string::npos) continue;
    likely(equals == std::string::npos ? word : word.substr(equals + 1));
  }
}

void Evaluation::collect_interface(const std::string& name, std::set<std::string>& seen,
                                   std::vector<SearchRoot>& roots) {
  if (!seen.insert(name).second) return;
  const TargetUnit* library = target(name);
  if (!library) return;
  for (const RootWord& root : library->roots) {
    if (root.is_public) roots.push_back({root.place, false});
  }
  for (const auto& [link, how] : library->links) {
    if (how != 0) collect_interface(link, seen, roots);
  }
}

void Evaluation::emit_units() {
  for (const TargetUnit& item : targets_) {
    Unit unit;
    unit.name = item.name;
    unit.format = format_;
    unit.site = item.site;
    std::vector<SearchRoot> roots;
    const Folder& folder = folders_[item.folder];
    if (item.includes_current) {
      roots.push_back({{Space::tree, folder.base.folder}, false});
      roots.push_back({{Space::build, folder.base.folder}, false});
    }
    for (const RootWord& root : folder.roots) roots.push_back({root.place, false});
    for (const RootWord& root : item.roots) {
      if (root.is_private) roots.push_back({root.place, false});
      if (!root.is_fixed) unit.root_words.push_back(root.word);
    }
    std::set<std::string> seen = {item.name};
    for (const auto& [link, how] : item.links) {
      if (how != 2) collect_interface(link, seen, roots);
    }
    for (const std::string& link : folder.links) collect_interface(link, seen, roots);
    bool open = std::any_of(unit.root_words.begin(), unit.root_words.end(),
                            [](const TracedText& word) { return word.has_hole(); });
    for (const RootWord& root : folder.roots) open = open || root.word.has_hole();
    for (const auto& [link, how] : item.links)
      open = open || !target(link);  // another package may bring its own roots
    for (const auto& [link, how] : item.links) unit.uses.push_back(link);
    std::vector<PathMacro> macros = folder.macros;
    macros.insert(macros.end(), item.macros.begin(), item.macros.end());
    ContextIndex context = out_.context({roots, item.forced, macros, open, {}, "cmake"});
    out_.graph().units.push_back(std::move(unit));
    auto index = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
    for (const RelPath& source : item.sources) {
      auto own = source_roots_.find(source);
      if (own == source_roots_.end()) {
        out_.compile(source, context, index);
        continue;
      }
      Context more = out_.graph().contexts[static_cast<std::size_t>(context)];
      for (const RootWord& root : own->second) {
        more.roots.push_back({root.place, false});
        more.open = more.open || root.word.has_hole();
      }
      out_.compile(source, out_.context(more), index);
    }
  }
}

}  // namespace yc::cmake
