// Properties of targets, folders and sources (cmake-properties(7)) that say what their commands would.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

bool begins_owners(const std::string& text) {
  return text == "SOURCE" || text == "TARGET" || text == "DIRECTORY" || text == "GLOBAL" || text == "TEST" ||
         text == "CACHE" || text == "INSTALL";
}

}  // namespace

// set_target_properties(tide PROPERTIES NAME value …)
void Evaluation::do_target_properties(const Command&, const Words& words) {
  PropertyOwners owners{"TARGET", {}};
  std::size_t at = 0;
  for (; at < words.size() && words[at].text() != "PROPERTIES"; ++at) {
    use_target(words[at]);
    owners.names.push_back(words[at]);
  }
  for (++at; at + 1 < words.size(); at += 2) take_property(owners, words[at].text(), {words[at + 1]}, false);
}

// set_source_files_properties(a.c b.c [DIRECTORY … | TARGET_DIRECTORY …] PROPERTIES NAME value …)
void Evaluation::do_source_properties(const Command&, const Words& words) {
  PropertyOwners owners{"SOURCE", {}};
  bool is_source = true;
  for (std::size_t i = 0; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (text == "PROPERTIES") {
      for (++i; i + 1 < words.size(); i += 2) take_property(owners, words[i].text(), {words[i + 1]}, false);
      return;
    }
    is_source = is_source && text != "DIRECTORY" && text != "TARGET_DIRECTORY";
    if (!is_source) continue;
    refer_here(words[i], Role::source, Certainty::certain, false);
    owners.names.push_back(words[i]);
  }
}

// set_directory_properties(PROPERTIES NAME value …)
void Evaluation::do_folder_properties(const Command&, const Words& words) {
  for (std::size_t i = 1; i + 1 < words.size(); i += 2)
    take_property({"DIRECTORY", {}}, words[i].text(), {words[i + 1]}, false);
}

// set_tests_properties(levels PROPERTIES NAME value …)
void Evaluation::do_test_properties(const Command&, const Words& words) {
  PropertyOwners owners{"TEST", {}};
  std::size_t at = 0;
  for (; at < words.size() && words[at].text() != "PROPERTIES"; ++at) owners.names.push_back(words[at]);
  for (++at; at + 1 < words.size(); at += 2) take_property(owners, words[at].text(), {words[at + 1]}, false);
}

// set_property(TARGET tide [APPEND] PROPERTY NAME value …)
void Evaluation::do_property(const Command&, const Words& words) {
  PropertyOwners owners;
  bool is_added = false;
  for (std::size_t i = 0; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (text == "PROPERTY") {
      if (i + 1 < words.size())
        take_property(owners, words[i + 1].text(),
                      {words.begin() + static_cast<std::ptrdiff_t>(i) + 2, words.end()}, is_added);
      return;
    }
    if (begins_owners(text)) {
      owners.kind = text;
      continue;
    }
    is_added = is_added || text == "APPEND";
    if (text == "APPEND" || text == "APPEND_STRING") continue;
    if (owners.kind == "SOURCE") refer_here(words[i], Role::source, Certainty::certain, false);
    if (owners.kind == "TARGET") use_target(words[i]);
    owners.names.push_back(words[i]);
  }
}

// Folders that a property names, or that -I does in the options that it holds. It takes whole paths alone, so
// that nothing may be put beside them.
std::vector<RootWord> Evaluation::property_roots(const Words& given, bool is_public, bool are_options) {
  std::vector<RootWord> out;
  auto add = [&](const TracedText& folder) {
    out.push_back(root_word(folder, Role::search_root));
    (is_public ? out.back().is_public : out.back().is_private) = true;
    out.back().is_fixed = true;
  };
  for (const TracedText& word : given) {
    for (const TracedText& value : values(word)) {
      if (!are_options) add(value);
      for (const TracedText& option : are_options ? value.words() : Words()) {
        if (option.text().starts_with("-I") && option.text().size() > 2) add(option.substr(2));
      }
    }
  }
  return out;
}

void Evaluation::take_property(const PropertyOwners& owners, const std::string& name, const Words& given,
                               bool is_added) {
  if (owners.kind == "TEST" && name == "WORKING_DIRECTORY" && !given.empty()) {
    start_tests(owners.names, given.front());
    return;
  }
  bool is_public = name.starts_with("INTERFACE_");
  if (words::cmake::include_properties().contains(name)) {
    add_roots(owners, property_roots(given, is_public, false), is_added);
    return;
  }
  if (words::cmake::header_properties().contains(name)) {
    for (const TracedText& word : given) {
      refer_here(word, Role::listed, Certainty::certain, false);
      for (const TracedText& owner : owners.names) {
        TargetUnit* unit =
            owners.kind == "TARGET" && name == "PUBLIC_HEADER" ? target(owner.text()) : nullptr;
        if (unit) unit->public_headers.push_back(word);
      }
    }
    return;
  }
  if (words::cmake::option_properties().contains(name))
    add_roots(owners, property_roots(given, is_public, true), true);
  for (const TracedText& word : given) {
    std::size_t equals = word.text().find('=');
    likely(equals == std::string::npos ? word : word.substr(equals + 1));
  }
}

void Evaluation::add_roots(const PropertyOwners& owners, const std::vector<RootWord>& roots, bool is_added) {
  if (roots.empty()) return;
  bool is_public = roots.front().is_public;
  auto add_to = [&](std::vector<RootWord>& to) { to.insert(to.end(), roots.begin(), roots.end()); };
  if (owners.kind == "DIRECTORY") {
    Folder& folder = folders_[folder_];
    bool is_here = std::all_of(owners.names.begin(), owners.names.end(), [&](const TracedText& name) {
      return place_of(folder.base.folder, name.text()) == Place{Space::tree, folder.base.folder};
    });
    if (!is_here) return;
    if (!is_added) folder.roots.clear();
    add_to(folder.roots);
  }
  for (const TracedText& name : owners.names) {
    TargetUnit* unit = owners.kind == "TARGET" ? target(name.text()) : nullptr;
    if (unit) {
      for (RootWord& root : unit->roots) {
        if (!is_added) (is_public ? root.is_public : root.is_private) = false;
      }
      add_to(unit->roots);
    }
    if (owners.kind != "SOURCE") continue;
    for (const TracedText& value : values(name)) {
      Place place = place_of(base().folder, value.text());
      if (place.space == Space::tree && tree_.is_file(place.path)) add_to(source_roots_[place.path]);
    }
  }
}

}  // namespace yc::cmake
