// The commands of a project that name files, targets aside.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "formats/shell/command_effects.h"
#include "model/add_reference.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

bool is_keyword(const std::string& text) {
  return text.size() > 1 &&
         std::all_of(text.begin(), text.end(), [](char c) { return (c >= 'A' && c <= 'Z') || c == '_'; });
}

}  // namespace

void Evaluation::do_project(const Command&, const Words& words) {
  if (words.empty()) return;
  std::string name = words[0].text();
  for (const std::string& prefix : {std::string("PROJECT"), name}) {
    set_variable(prefix + "_SOURCE_DIR", variable("CMAKE_CURRENT_SOURCE_DIR"));
    set_variable(prefix + "_BINARY_DIR", variable("CMAKE_CURRENT_BINARY_DIR"));
  }
  set_variable("PROJECT_NAME", words[0]);
  if (folder_ == 0) set_variable("CMAKE_PROJECT_NAME", words[0]);
}

void Evaluation::do_include(const Command&, const Words& words) {
  if (words.empty()) return;
  const TracedText& word = words[0];
  std::string text = word.text();
  if (word.has_hole()) {
    refer_here(word, Role::script, Certainty::certain, false);
    return;
  }
  Place place = place_of(base().folder, text);
  if (place.space == Space::tree && tree_.is_file(place.path)) {
    refer_here(word, Role::script);
  } else if (text.find('/') == std::string::npos) {
    // A module: its name plus ".cmake", looked up in the module path.
    for (const TracedText& folder : variable("CMAKE_MODULE_PATH").split(';')) {
      Place root = place_of(base().folder, folder.text());
      if (root.space != Space::tree || !tree_.is_file(root.path / (text + ".cmake"))) continue;
      place = {Space::tree, root.path / (text + ".cmake")};
      refer_here(folder, Role::search_root);
      TracedText file = word;
      file.append(TracedText::plain(".cmake"));
      out_.add(Reference::of(Role::script, format_, key(), {root.path, kNoFile, Space::tree}, file)
                   .leading_to(place.path));
      break;
    }
    if (text == "CTest") find_by_name("CTestConfig.cmake");
    if (place.space != Space::tree || !tree_.is_file(place.path)) return;  // a module of CMake itself
  } else {
    bool optional =
        std::any_of(words.begin(), words.end(), [](const TracedText& w) { return w.text() == "OPTIONAL"; });
    refer_here(word, Role::script, Certainty::certain, !optional);
    return;
  }
  Site call = here_;
  calls_.push_back(call);
  run_script(place.path);
  calls_.pop_back();
  here_ = call;
}

// What a module of CMake's includes where it is: no text spells it, so none can follow.
void Evaluation::find_by_name(const char* name) {
  RelPath file = base().folder / name;
  if (!tree_.is_file(file)) return;
  out_.add(Reference::of(Role::script, format_, key(), base(), TracedText::plain(name))
               .in(ConstructPart::tagged(name))
               .leading_to(file));
}

void Evaluation::do_find_package(const Command&, const Words& words) {
  if (words.empty() || words[0].has_hole()) return;
  std::string module = "Find" + words[0].text() + ".cmake";
  for (const TracedText& folder : variable("CMAKE_MODULE_PATH").split(';')) {
    Place root = place_of(base().folder, folder.text());
    if (root.space != Space::tree || folder.empty() || !tree_.is_file(root.path / module)) continue;
    refer_here(folder, Role::search_root);
    TracedText file = TracedText::plain("Find");
    file.append(words[0]);
    file.append(TracedText::plain(".cmake"));
    out_.add(Reference::of(Role::script, format_, key(), {root.path, kNoFile, Space::tree}, file)
                 .leading_to(root.path / module));
    Site call = here_;
    calls_.push_back(call);
    run_script(root.path / module);
    calls_.pop_back();
    here_ = call;
    return;
  }
}

void Evaluation::do_subdirectory(const Command&, const Words& words) {
  if (words.empty()) return;
  Place place = place_of(base().folder, words[0].text());
  RelPath script = place.path / "CMakeLists.txt";
  if (place.space != Space::tree || !tree_.is_file(script)) {
    refer_here(words[0], Role::subfolder);
    return;
  }
  // Named is the folder, and meant the script in it: that may go without the folder's other files.
  TracedText meant = words[0];
  meant.append(TracedText::plain(words[0].text().ends_with("/") ? "CMakeLists.txt" : "/CMakeLists.txt"));
  if (!refer_here(meant, Role::subfolder)) return;
  if (scripts_.size() > 50) return;
  Site call = here_;
  run_folder(script, {place.path, out_.files().index(script), Space::tree});
  here_ = call;
}

// Unlike a shell's, a wildcard takes names that begin with a dot, too.
std::vector<RelPath> Evaluation::matching(const std::string& pattern, bool deep) const {
  auto match = [&](const std::string& text) {
    return deep ? match_deep(tree_, base().folder, text) : match_paths(tree_, base().folder, text);
  };
  std::vector<RelPath> out = match(pattern);
  std::size_t name = pattern.rfind('/') + 1;  // 0 if there is no slash
  if (name == pattern.size() || (pattern[name] != '*' && pattern[name] != '?')) return out;
  std::string dotted = pattern;
  dotted.replace(name, pattern[name] == '?' ? 1 : 0, ".");
  std::vector<RelPath> hidden = match(dotted);
  out.insert(out.end(), hidden.begin(), hidden.end());
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return out;
}

TracedText Evaluation::glob(const Words& patterns, const TracedText& relative_to, bool deep) {
  Words found;
  for (const TracedText& word : patterns) {
    for (const TracedText& pattern : values(word)) {
      std::string text = pattern.text();
      if (pattern.has_hole()) {
        add_unseen(out_, tree_, pattern, base(), format_, key());
        continue;
      }
      Place place = place_of(base().folder, text);
      if (place.space != Space::tree) continue;
      Reference reference = Reference::of(Role::pattern, format_, key(), base(), pattern);
      if (has_wildcard(text)) reference.kind = GlobPattern{};
      reference.feeds_list = true;
      reference.in_list = true;
      std::vector<RelPath> paths = matching(text, deep);
      reference.lead_to(paths);
      if (deep) {
        // The pattern's last component holds at any depth below the folder before it.
        std::size_t cut = text.rfind('/');
        reference.kind = GlobPattern{GlobPattern::Kind::deep,
                                     cut == std::string::npos ? text : text.substr(cut + 1), pattern};
        reference.text = cut == std::string::npos ? TracedText::plain(".") : pattern.substr(0, cut);
      }
      out_.add(std::move(reference));
      std::size_t wild = std::min(text.find_first_of("*?["), text.size());
      std::size_t slash = text.rfind('/', wild == 0 ? 0 : wild - 1);
      std::size_t head = wild == text.size() && !deep              ? text.size()
                         : slash == std::string::npos || wild == 0 ? 0
                                                                   : slash + 1;
      Place head_place = place_of(base().folder, head == 0 ? "." : text.substr(0, head));
      for (const RelPath& path : paths) {
        TracedText item;
        if (!relative_to.empty()) {
          Place from = place_of(base().folder, relative_to.text());
          item = TracedText::plain(relative_text(from.path, path));
        } else {
          if (text.front() != '/') {
            item = variable("CMAKE_CURRENT_SOURCE_DIR");
            item.append(TracedText::plain("/"));
          }
          item.append(pattern.substr(0, head));
          std::string_view below = path.below(head_place.path);
          if (head < text.size() || deep) item.append(TracedText::plain(std::string(below)));
        }
        found.push_back(std::move(item));
      }
    }
  }
  return join(found, ";");
}

void Evaluation::do_file(const Command&, const Words& words) {
  if (words.size() < 2) return;
  std::string action = words[0].text();
  if (action == "GLOB" || action == "GLOB_RECURSE") {
    Words patterns;
    TracedText relative;
    for (std::size_t i = 2; i < words.size(); ++i) {
      std::string text = words[i].text();
      if (text == "CONFIGURE_DEPENDS" || text == "FOLLOW_SYMLINKS") continue;
      if ((text == "RELATIVE" || text == "LIST_DIRECTORIES") && i + 1 < words.size()) {
        ++i;
        if (text == "RELATIVE") relative = words[i];
        continue;
      }
      patterns.push_back(words[i]);
    }
    set_variable(words[1].text(), glob(patterns, relative, action == "GLOB_RECURSE"));
    return;
  }
  if (action == "READ" || action == "STRINGS" || action == "SHA256" || action == "MD5" || action == "SHA1") {
    refer_here(words[1], Role::argument);
    if (words.size() > 2) set_variable(words[2].text(), TracedText::hole());
    return;
  }
  if (action == "RELATIVE_PATH" || action == "REAL_PATH" || action == "TIMESTAMP" || action == "SIZE") {
    set_variable(words[1].text(), TracedText::hole());
    return;
  }
  if (action == "COPY") note_copied(words);
  bool writes = action == "WRITE" || action == "APPEND" || action == "MAKE_DIRECTORY" || action == "REMOVE" ||
                action == "REMOVE_RECURSE" || action == "TOUCH" || action == "DOWNLOAD" ||
                action == "GENERATE";
  std::string keyword;
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (is_keyword(text)) {
      keyword = text;
      continue;
    }
    if (keyword == "DESTINATION" || keyword == "CONTENT" || keyword == "OUTPUT" || keyword == "PATTERN" ||
        keyword == "REGEX")
      continue;
    if (writes && i == 1) {
      refer_to_output(words[i]);
      continue;
    }
    if ((action == "WRITE" || action == "APPEND") && i > 1) continue;
    refer_here(words[i], Role::argument, Certainty::certain, false);
  }
}

void Evaluation::do_configure_file(const Command&, const Words& words) {
  if (words.empty()) return;
  refer_here(words[0], Role::argument);
  if (words.size() < 2) return;
  refer_to_output(words[1]);
  Base made = base();
  made.space = Space::build;
  Place place = place_of(made.folder, words[1].text(), Space::build);
  if (words[1].has_hole()) return;
  Place input = place_of(base().folder, words[0].text());
  bool is_file = !words[0].has_hole() && input.space == Space::tree && tree_.is_file(input.path);
  note_made(place.path);
  if (!is_file) return;
  out_.make(place.path, "cmake", input.path);
  // A header goes with its folder, as those do who include it.
  if (!words::cmake::header_endings().contains(place.path.extension()))
    note_copy(place.path, input.path, false);
}

// A place in the build tree that a command writes to goes where those look that read it there; a file that it
// writes among the sources goes with its folder.
void Evaluation::refer_to_output(const TracedText& word) {
  if (word.text().starts_with(kBuildMark)) {
    refer_here(word, Role::argument, Certainty::certain, false);
    return;
  }
  Place place = place_of(base().folder, word.text(), Space::build);
  RelPath folder = place.path.parent();
  bool is_among_sources = !word.has_hole() && place.space == Space::tree && !folder.is_root() &&
                          tree_.is_folder(folder) && !tree_.find(place.path);
  if (!is_among_sources) return;
  written_.insert(place.path);
  refer_here(word, Role::argument, Certainty::certain, false);
}

void Evaluation::note_made(const RelPath& path) {
  generated_.insert(path.str());
  out_.make(path, "cmake");
}

// One command line of add_custom_command, add_test and the like.
shell::Command Evaluation::run_line(const Words& line, const Base& from) {
  shell::Command command;
  command.base = from;
  for (const TracedText& word : line) {
    for (const TracedText& value : values(word)) command.words.push_back({value, true});
  }
  if (command.words.empty()) return command;
  use_target(command.words.front().text);
  note_copy_command(command);
  shell::note_effects(command, tree_, out_);
  shell::note_started(command, tree_, out_);
  shell::Picked picked = shell::pick(command, tree_);
  for (Reference& reference : picked.references) {
    reference.format = format_;
    reference.construct = key();
    out_.add(std::move(reference));
  }
  for (const TracedText& word : shell::words_with_holes(command))
    add_unseen(out_, tree_, word, from, format_, key());
  // A shell's redirections come as words here.
  bool redirected = false;
  for (const shell::Word& word : command.words) {
    if (redirected) refer(word.text, Role::argument, Certainty::certain, from, false);
    redirected = word.text.text() == "<";
  }
  return command;
}

void Evaluation::do_custom(const Command& command, const Words& words) {
  std::map<std::string, Words> parts;
  std::vector<Words> lines;
  std::string keyword = command.name == "add_custom_target" ? "COMMAND" : "";
  bool first = true;
  for (const TracedText& word : words) {
    std::string text = word.text();
    if (first && command.name == "add_custom_target") {
      first = false;
      name_unit(word);
      lines.emplace_back();
      continue;
    }
    if (words::cmake::custom_keywords().contains(text)) {
      keyword = text == "ARGS" ? "COMMAND" : text;
      if (text == "COMMAND") lines.emplace_back();
      if (text == "ALL") keyword = "COMMAND";
      continue;
    }
    if (keyword == "COMMAND" && !lines.empty())
      lines.back().push_back(word);
    else
      parts[keyword].push_back(word);
  }
  // Without a working folder of its own a command runs in the build tree.
  Base from = base();
  from.space = Space::build;
  if (!parts["WORKING_DIRECTORY"].empty()) {
    const TracedText& folder = parts["WORKING_DIRECTORY"].front();
    Place place = place_of(from.folder, folder.text(), Space::build);
    refer(folder, Role::argument, Certainty::certain, from, false);
    FileIndex anchor = place.path == base().folder ? base().anchor : kNoFile;
    from = {place.path, anchor, place.space};
  }
  for (const char* list : {"OUTPUT", "BYPRODUCTS"}) {
    for (const TracedText& word : parts[list]) {
      Place place = place_of(base().folder, word.text(), Space::build);
      if (place.space == Space::build) note_made(place.path);
      refer_to_output(word);
    }
  }
  for (const char* list : {"DEPENDS", "MAIN_DEPENDENCY", "IMPLICIT_DEPENDS", "SOURCES"}) {
    for (const TracedText& word : parts[list]) {
      use_target(word);
      refer_here(word, Role::source, Certainty::certain, false);
    }
  }
  for (const TracedText& word : parts["TARGET"]) use_target(word);
  for (const Words& line : lines) run_line(line, from);
}

void Evaluation::do_test(const Command&, const Words& words) {
  Words line;
  Base from = base();
  from.space = Space::build;
  bool named = !words.empty() && words[0].text() == "NAME";
  std::string keyword = named ? "NAME" : "COMMAND", name = words.empty() ? "" : words[0].text();
  for (std::size_t i = named ? 0 : 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (named && (text == "NAME" || text == "COMMAND" || text == "CONFIGURATIONS" ||
                  text == "WORKING_DIRECTORY" || text == "COMMAND_EXPAND_LISTS")) {
      keyword = text;
      continue;
    }
    if (keyword == "NAME") {
      name_unit(words[i]);
      name = text;
    }
    if (keyword == "COMMAND") line.push_back(words[i]);
    if (keyword == "WORKING_DIRECTORY") {
      refer(words[i], Role::argument, Certainty::certain, from, false);
      Place place = place_of(from.folder, words[i].text(), Space::build);
      from = {place.path, place.path == base().folder ? base().anchor : kNoFile, place.space};
    }
  }
  tests_[name] = run_line(line, from);
}

// Tests are started in another folder than was known when they were added.
void Evaluation::start_tests(const Words& names, const TracedText& folder) {
  Base from = base();
  from.space = Space::build;
  refer(folder, Role::argument, Certainty::certain, from, false);
  Place place = place_of(from.folder, folder.text(), Space::build);
  for (const TracedText& name : names) {
    auto test = tests_.find(name.text());
    if (test == tests_.end() || folder.has_hole()) continue;
    shell::Command command = test->second;
    command.base = {place.path, place.path == base().folder ? base().anchor : kNoFile, place.space};
    shell::note_effects(command, tree_, out_);
    shell::note_started(command, tree_, out_);
  }
}

void Evaluation::do_execute(const Command&, const Words& words) {
  std::vector<Words> lines;
  Base from = base();
  from.space = Space::build;
  std::string keyword;
  for (const TracedText& word : words) {
    std::string text = word.text();
    if (is_keyword(text)) {
      keyword = text;
      if (text == "COMMAND") lines.emplace_back();
      continue;
    }
    if (keyword == "COMMAND" && !lines.empty()) lines.back().push_back(word);
    if (keyword == "OUTPUT_VARIABLE" || keyword == "RESULT_VARIABLE" || keyword == "ERROR_VARIABLE")
      set_variable(text, TracedText::hole());
    if (keyword == "INPUT_FILE") refer_here(word, Role::argument);
    if (keyword == "WORKING_DIRECTORY") {
      refer(word, Role::argument, Certainty::certain, from, false);
      Place place = place_of(from.folder, text, Space::build);
      from = {place.path, place.path == base().folder ? base().anchor : kNoFile, place.space};
    }
  }
  for (const Words& line : lines) run_line(line, from);
}

void Evaluation::do_aux_source(const Command&, const Words& words) {
  if (words.size() < 2) return;
  // Every source of a folder: a pattern without a byte that spells it.
  refer_here(words[0], Role::subfolder);
  Place place = place_of(base().folder, words[0].text());
  Words found;
  for (const RelPath& path : match_paths(tree_, place.path, "*")) {
    if (!tree_.is_file(path) || !words::cmake::aux_source_endings().contains(path.extension())) continue;
    TracedText word = words[0];
    word.append(TracedText::plain("/" + std::string(path.name())));
    found.push_back(std::move(word));
  }
  set_variable(words[1].text(), join(found, ";"));
}

// A command that is not read may make targets: of any name that it is given, or of what it fetches.
void Evaluation::do_other(const Command& command, const Words& words) {
  names_.may_be_fetched = names_.may_be_fetched || command.name.starts_with("fetchcontent_") ||
                          command.name.starts_with("cpm") || command.name.starts_with("hunter_");
  for (const TracedText& word : words) {
    names_.known.insert(word.text());
    likely(word);
  }
}

}  // namespace yc::cmake
