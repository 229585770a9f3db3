// Which words of a command name paths, and what for.
#include <algorithm>

#include "formats/shell/code_words.h"
#include "formats/shell/command_line.h"
#include "formats/shell/command_output.h"
#include "formats/shell/programs.h"
#include "words/shell.h"

namespace yc::shell {

namespace {

struct Option {
  std::string_view flag;
  Role role;
  bool quoted_only;
  bool forced;
};
constexpr Option kOptions[] = {
    {"-isystem", Role::search_root, false, false},
    {"-iquote", Role::search_root, true, false},
    {"-idirafter", Role::search_root, false, false},
    {"-include", Role::source, false, true},
    {"-imacros", Role::source, false, true},
    {"--include", Role::source, false, true},
    {"-I", Role::search_root, false, false},
    {"-L", Role::argument, false, false},
    {"-T", Role::argument, false, false},
    {"-B", Role::argument, false, false},
    {"-F", Role::argument, false, false},
    {"-specs", Role::argument, false, false},
};

// "set -- a b": the words that the script goes on with.
bool sets_words(const Command& command) {
  return command.words.size() > 2 && command.words[0].text.text() == "set" &&
         command.words[1].text.text() == "--";
}

// Whether any of a text stands there, and not only what variables hold.
bool is_spelled(const TracedText& text) {
  return std::any_of(text.pieces().begin(), text.pieces().end(),
                     [](const Piece& piece) { return piece.has_origin(); });
}

class Picker {
 public:
  Picker(const Command& command, const TreeReader& tree, const IsKnown& is_known)
      : command_(command),
        tree_(tree),
        is_known_(is_known),
        name_(effective_name()),
        text_only_(takes_text(name_) && !sets_words(command)),
        starts_own_program_(!is_compile && starts_own_program(command, tree)) {}

  void run() {
    if (!command_.base_known) return;
    compile.start = {command_.base.space, command_.base.folder};
    const auto& words = command_.words;
    for (std::size_t i = 0; i < words.size(); ++i) {
      std::string text = words[i].text.text();
      if (i == 0) {
        // A program that is started is there, or was made before.
        if (text.find('/') != std::string::npos &&
            !take(words[i], words[i].text, Role::argument, Certainty::certain))
          take_output(words[i].text, Output::program);
        continue;
      }
      compile.open = compile.open || words[i].text.has_hole();
      if (is_output_option(text)) {
        if (++i < words.size()) take_output(words[i].text, Output::named);
        continue;
      }
      if (text == "-c" && is_shell(name_) && i + 1 < words.size()) {
        run_inside(words[++i].text);
        continue;
      }
      if (is_code(command_, name_, i)) {
        code(words[i]);
        continue;
      }
      // dirname "$HERE" says where something is, and opens nothing.
      if (only_says_where(name_) && !is_spelled(words[i].text)) continue;
      // "python3 -m gauges": a module by its name.
      if (text == "-m" && name_.starts_with("python")) {
        ++i;
        continue;
      }
      if (name_ == "tar" && text == "-C" && i + 1 < words.size()) {
        i = run_in_folder(i + 1);
        continue;
      }
      if (option(i)) continue;
      if (text_only_ || is_package(text)) continue;
      if (is_compile && text.substr(0, 2) == "-D") {
        if (auto macro = path_macro(words[i].text.substr(2))) {
          macro->definition.base = command_.base;
          compile.macros.push_back(std::move(*macro));
          continue;
        }
      }
      if (text.size() > 1 && text[0] == '-') {
        parts(words[i]);
      } else {
        argument(words[i], is_folder_argument(i));
      }
    }
    for (const Word& word : command_.redirects) {
      if (!take(word, word.text, Role::argument, Certainty::certain))
        take_output(word.text, Output::redirected);
    }
    for (const auto& [name, word] : command_.environment) parts(word);
    if (!command_.handed_on) return;
    for (Reference& reference : references) reference.ordered = name_ == "ls" || reference.is_pattern();
  }

  std::vector<Reference> references;
  std::vector<TracedText> others;
  CompileCall compile;
  LinkerCall linker;
  bool is_compile = false;

 private:
  // "go build ." names the package that the sources in the folder make up: its reader tells of them.
  bool is_package(const std::string& text) const { return name_ == "go" && (text == "." || text == "./"); }

  // The program that does the work, past wrappers such as libtool or env.
  std::string effective_name() {
    std::string first = command_.name();
    for (const Word& word : command_.words) {
      std::string text = word.text.text();
      std::size_t cut = text.rfind('/');
      std::string last = cut == std::string::npos ? text : text.substr(cut + 1);
      if (is_compiler(last)) {
        is_compile = true;
        return last;
      }
    }
    if (!command_.words.empty() && command_.words.front().text.has_hole()) is_compile = looks_like_compiler();
    return first;
  }

  // A compiler that only the environment knows shows itself by -c, or by a source and the program that it
  // makes of it.
  bool looks_like_compiler() const {
    bool takes_source = false, names_program = false;
    for (std::size_t i = 1; i < command_.words.size(); ++i) {
      std::string text = command_.words[i].text.text();
      if (text == "-c") return true;
      if (text == "-o" && i + 1 < command_.words.size())
        names_program = !is_source_name(command_.words[++i].text.text());
      else
        takes_source = takes_source || (text[0] != '-' && is_source_name(text));
    }
    return takes_source && names_program;
  }

  bool option(std::size_t& i) {
    if (text_only_ || name_ == "tar" || name_ == "grep" || name_ == "install" || name_ == "cp") return false;
    const Word& word = command_.words[i];
    std::string text = word.text.text();
    if (text.empty() || text[0] != '-') return false;
    for (const Option& known : kOptions) {
      if (text.substr(0, known.flag.size()) != known.flag) continue;
      bool separate = text.size() == known.flag.size();
      if (separate && i + 1 >= command_.words.size()) return true;
      // "-include" is also the head of longer words; only compilers know the short forms.
      TracedText value = separate ? command_.words[i + 1].text : word.text.substr(known.flag.size());
      if (!separate && known.flag.size() > 2) {
        if (value.text().substr(0, 1) != "=") continue;
        value = value.substr(1);
      }
      if (separate && !is_compile && known.flag.size() == 2 && known.role != Role::search_root) return false;
      if (separate) ++i;
      record_option(known, command_.words[i], value);
      return true;
    }
    return false;
  }

  void record_option(const Option& known, const Word& word, const TracedText& value) {
    Place place = place_of(command_.base.folder, value.text(), command_.base.space);
    take(word, value, known.role, Certainty::certain);
    if (known.role == Role::search_root) {
      compile.roots.push_back({place, known.quoted_only});
      compile.root_words.push_back(value);
    }
    if (known.flag == "-T" && place.space == Space::tree && tree_.is_file(place.path))
      linker.scripts.push_back(place.path);
    if (known.flag == "-L" && place.space == Space::tree)
      linker.folders.push_back({place.path, kNoFile, Space::tree});
    if (known.forced && place.space == Space::tree) compile.forced.push_back(place.path);
  }

  bool is_passed_over(const TracedText& value) const { return is_known_ && is_known_(value); }

  // How an output is named: as a word of a command, as the program that is started, behind an option for
  // outputs, by the shell.
  enum class Output : unsigned char { word, program, named, redirected };

  // A file that is not there yet, named in a folder that is: the build will put it there. Behind an option
  // that names an output also one that climbs, whose folders may all be made.
  bool take_output(const TracedText& value, Output how = Output::word) {
    if (is_passed_over(value)) return false;
    std::string text = value.text();
    if (text.ends_with(kOwnName)) return false;
    bool is_text = text_only_ && how != Output::redirected;
    // "rm -f src/*.o"
    bool has_pattern =
        how == Output::word ? has_wildcard(text.substr(0, text.rfind('/') + 1)) : has_wildcard(text);
    if (is_text || value.has_hole() || has_pattern || text.find('/') == std::string::npos) return false;
    Place place = place_of(command_.base.folder, text, command_.base.space);
    if (place.space != Space::tree || place.path.is_root() || tree_.find(place.path)) return false;
    // What is made deeper follows the folder in which that begins, if the text names that and it is no
    // output.
    RelPath folder = place.path.parent();
    bool is_in_folder = !folder.is_root() && tree_.is_folder(folder);
    while (!folder.is_root() && !tree_.find(folder)) folder = folder.parent();
    const Entry* first = folder.is_root() ? nullptr : tree_.find(folder);
    bool is_named_folder = first && first->kind == EntryKind::folder && !first->ignored &&
                           !command_.base.folder.is_within(folder);
    is_in_folder = is_in_folder || is_named_folder;
    if (!is_in_folder && !(how == Output::named && text.starts_with("../"))) return false;
    // "./configure" alone says nothing about the folder that a script is started in.
    if (how == Output::program && text.starts_with("./") && text.find('/', 2) == std::string::npos)
      return false;
    references.push_back(Reference::of(Role::argument, 0, {}, command_.base, value)
                             .likely()
                             .leading_to(place.path, Target::Kind::output));
    return true;
  }

  // "-Wl,-T,a.ld" and "-Wl,-Ta.ld" name a linker script, "-Wl,-L,dir" where it looks.
  void note_linker(const std::string& text) {
    if (!text.starts_with("-Wl,")) return;
    std::string last;
    for (std::size_t at = 4; at <= text.size();) {
      std::size_t end = std::min(text.find(',', at), text.size());
      std::string part = text.substr(at, end - at);
      bool script = last == "-T" || part.starts_with("-T"), folder = last == "-L" || part.starts_with("-L");
      std::string value = last == "-T" || last == "-L" ? part : part.size() > 2 ? part.substr(2) : "";
      Place place = place_of(command_.base.folder, value, command_.base.space);
      if (script && place.space == Space::tree && tree_.is_file(place.path))
        linker.scripts.push_back(place.path);
      if (folder && !value.empty() && place.space == Space::tree)
        linker.folders.push_back({place.path, kNoFile, Space::tree});
      last = part;
      at = end + 1;
    }
  }

  // A command line of its own: sh -c "cat src/a.c | tools/gen". Its words are written as that one is.
  void run_inside(const TracedText& line) {
    if (line.pieces().empty()) return;
    WritingStyle style = line.pieces().front().style;
    for (const Command& inner : read(line, command_.base, tree_).commands) {
      Picked picked = pick(inner, tree_, is_known_);
      for (Reference& reference : picked.references) {
        reference.text = reference.text.through({}, style);
        reference.in_list = false;
        references.push_back(std::move(reference));
      }
    }
  }

  void code(const Word& word) {
    for (const TracedText& part : strings_in_code(word.text)) {
      if (!take(word, part, Role::argument, Certainty::likely)) take_output(part);
    }
  }

  // tar looks for what stands behind "-C folder" in that folder, but for the archive. Gives the last word
  // that it read.
  std::size_t run_in_folder(std::size_t folder) {
    const auto& words = command_.words;
    argument(words[folder], true);
    Place place = place_of(command_.base.folder, words[folder].text.text(), command_.base.space);
    Command inner;
    inner.base = {place.path, kNoFile, place.space};
    inner.base_known = place.space == Space::tree && !words[folder].text.has_hole();
    inner.words.push_back(words[0]);
    std::size_t at = folder + 1;
    for (; at < words.size() && words[at].text.text() != "-C"; ++at) {
      std::string text = words[at].text.text();
      if (!text.starts_with("-")) {
        inner.words.push_back(words[at]);
      } else if (text.ends_with("f") && at + 1 < words.size()) {
        argument(words[++at], false);
      } else {
        parts(words[at]);
      }
    }
    Picked picked = pick(inner, tree_, is_known_);
    std::move(picked.references.begin(), picked.references.end(), std::back_inserter(references));
    return at - 1;
  }

  // "--config=a/b", "-Wl,--script,a/b", "-DX=\"a/b\"": the parts that are paths.
  void parts(const Word& word) {
    std::string text = word.text.text();
    note_linker(text);
    if (is_passed_over(word.text)) return;
    std::size_t begin = 0;
    for (std::size_t i = 0; i <= text.size(); ++i) {
      bool border = i == text.size() || text[i] == '=' || text[i] == ',' || text[i] == '"' ||
                    text[i] == ':' || text[i] == '@' || text[i] == ' ';
      if (!border) continue;
      TracedText part = word.text.substr(begin, i - begin);
      begin = i + 1;
      std::string piece = part.text();
      if (piece.size() > 2 && (piece.substr(0, 2) == "-I" || piece.substr(0, 2) == "-L"))
        part = part.substr(2), piece = part.text();
      // "--directory=api"
      bool may_be_bare = begin > piece.size() + 1 && text[begin - piece.size() - 2] == '=' &&
                         takes_folder(name_, text.substr(0, begin - piece.size() - 2));
      if (!may_be_bare && piece.find('/') == std::string::npos && piece.find('.') == std::string::npos)
        continue;
      if (piece == "." || piece == "..") continue;
      bool is_value = begin > piece.size() + 1 && text[begin - piece.size() - 2] == '=';
      if (!take(word, part, Role::argument, Certainty::likely) && is_value) take_output(part);
    }
  }

  // Whether the word at i stands where a folder is asked for.
  bool is_folder_argument(std::size_t i) const {
    if (takes_folders(name_)) return true;
    if (starts_own_program_ && !words::shell::verbs().contains(command_.words[i].text.text())) return true;
    if (!is_compile && takes_folder(name_, command_.words[i - 1].text.text())) return true;
    // "docker build --pull api"
    bool is_last = i + 1 == command_.words.size();
    return is_last && words::shell::image_programs().contains(name_) &&
           std::any_of(command_.words.begin(), command_.words.end(),
                       [](const Word& word) { return word.text.text() == "build"; });
  }

  void argument(const Word& word, bool may_be_folder) {
    if (is_passed_over(word.text)) return;
    std::string text = word.text.text();
    bool bare = text.find('/') == std::string::npos && text.find('.') == std::string::npos;
    if (bare && !has_wildcard(text)) {
      Place place = place_of(command_.base.folder, text, command_.base.space);
      bool is_folder = place.space == Space::tree && tree_.is_folder(place.path);
      if (is_folder && !may_be_folder) return;
    }
    bool taken = take(word, word.text, is_compile ? Role::source : Role::argument,
                      is_compile ? Certainty::certain : Certainty::likely);
    if (!taken) {
      if (text.find('=') != std::string::npos)
        parts(word);
      else if (!word.quoted || !has_wildcard(text))
        take_output(word.text);
      others.push_back(word.text);
    }
    if (taken && is_compile && is_source_name(text)) {
      for (const Target& target : references.back().targets) compile.sources.push_back(target.path);
    }
  }

  // Whether a folder among the arguments is not looked into.
  bool takes_only_files() const {
    if (!words::shell::file_programs().contains(name_)) return false;
    return std::none_of(command_.words.begin(), command_.words.end(), [](const Word& word) {
      std::string text = word.text.text();
      bool options = text.size() > 1 && text[0] == '-' && text[1] != '-';
      return text == "--recursive" || (options && text.find_first_of("rRa") != std::string::npos);
    });
  }

  bool take(const Word& word, const TracedText& value, Role role, Certainty certainty) {
    if (is_passed_over(value)) return false;
    std::string text = value.text();
    if (text.empty() || value.has_hole()) return false;
    std::vector<Target> targets;
    bool is_pattern = !word.quoted && has_wildcard(text);
    if (is_pattern && command_.deep_globs && text.find("**/") != std::string::npos) return take_deep(value);
    if (is_pattern) {
      for (const RelPath& path : match_paths(tree_, command_.base.folder, text))
        targets.push_back({Target::Kind::tree, path, {}});
    } else {
      Place place = place_of(command_.base.folder, text, command_.base.space);
      if (place.space == Space::build) targets.push_back({Target::Kind::build, place.path, {}});
      // The root itself counts only where a text climbs to it.
      bool counts = !place.path.is_root() || climbs_to_root(text);
      if (place.space == Space::tree && counts && tree_.find(place.path))
        targets.push_back({Target::Kind::tree, place.path, {}});
    }
    bool dangling = targets.empty() && role == Role::search_root;
    if (targets.empty() && !dangling) return false;
    Reference reference = Reference::of(is_pattern ? Role::pattern : role, 0, {}, command_.base, value);
    reference.certainty = certainty;
    reference.in_list = !text_only_ && value.size() == word.text.size();
    // "*" asks for whatever is there, unless the command passes over folders.
    reference.may_gain =
        is_pattern && !is_compile && (text == "*" || text.ends_with("/*")) && !takes_only_files();
    if (is_pattern) {
      GlobPattern pattern;
      pattern.looks_into_folders = reference.may_gain;
      reference.kind = pattern;
    }
    reference.targets = std::move(targets);
    reference.dangling = dangling;
    references.push_back(std::move(reference));
    return true;
  }

  // "src/**/*.py": whatever is there, at any depth.
  bool take_deep(const TracedText& value) {
    std::string text = value.text();
    std::size_t deep = text.find("**/");
    std::string head = text.substr(0, deep), rest = text.substr(deep + 3);
    if (has_wildcard(head) || rest.find('/') != std::string::npos) return false;
    if (!head.empty()) head.pop_back();
    Reference reference = Reference::of(Role::pattern, 0, {}, command_.base, {}).likely();
    reference.kind = GlobPattern{GlobPattern::Kind::deep, rest, value};
    reference.may_gain = true;
    reference.text = value.substr(0, head.size());
    for (const RelPath& path :
         match_deep(tree_, command_.base.folder, head.empty() ? rest : head + "/" + rest))
      reference.lead_to(path);
    if (reference.targets.empty() || head.empty()) return true;  // all there is, wherever it stands
    references.push_back(std::move(reference));
    return true;
  }

  const Command& command_;
  const TreeReader& tree_;
  const IsKnown& is_known_;
  std::string name_;
  bool text_only_;
  bool starts_own_program_;
};

}  // namespace

namespace {

// Whether an option is given another value in each round of a loop: for d in a b; do make -C $d; done.
bool has_option_by_round(const Command& command) {
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    if (!command.words[i].is_next) continue;
    std::size_t first = i - 1;
    while (first > 0 && command.words[first].is_next) --first;
    if (command.words[first].text.text().starts_with('-')) return true;
    if (first > 0 && command.words[first - 1].text.text().starts_with('-')) return true;
  }
  return false;
}

}  // namespace

Picked pick(const Command& command, const TreeReader& tree, const IsKnown& is_known) {
  Picker picker(command, tree, is_known);
  picker.run();
  Picked out{std::move(picker.references), std::move(picker.others), std::nullopt, std::move(picker.linker)};
  out.linker.folders.insert(out.linker.folders.begin(), command.base);
  if (picker.is_compile) {
    out.compile = std::move(picker.compile);
  } else if (has_option_by_round(command)) {
    for (const Command& round : command.by_round()) {
      Picker one(round, tree, is_known);
      one.run();
      std::move(one.references.begin(), one.references.end(), std::back_inserter(out.references));
    }
  }
  return out;
}

std::optional<PathMacro> path_macro(const TracedText& definition) {
  std::string text = definition.text();
  std::size_t equals = text.find('=');
  if (equals == std::string::npos || equals + 3 > text.size()) return std::nullopt;
  char open = text[equals + 1], close = text.back();
  bool quoted = open == '"' && close == '"', angled = open == '<' && close == '>';
  if ((!quoted && !angled) || equals + 2 >= text.size() - 1) return std::nullopt;
  PathMacro out;
  out.name = text.substr(0, equals);
  out.value = definition.substr(equals + 2, text.size() - equals - 3);
  out.angled = angled;
  bool like_a_path = !out.value.has_hole() && out.value.text().find_first_of("./") != std::string::npos;
  return like_a_path ? std::optional(std::move(out)) : std::nullopt;
}

}  // namespace yc::shell
