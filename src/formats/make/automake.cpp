// Makefile.am (GNU automake manual): make's language with conditionals of its own, and variables whose names
// say what their words are.
#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/shell/programs.h"
#include "words/make.h"

namespace yc::make {

namespace {

constexpr std::string_view kAsBuilt = "/.";

std::string canonical(const std::string& name) {
  std::string out = name;
  for (char& c : out) {
    bool kept =
        (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c == '@';
    if (!kept) c = '_';
  }
  return out;
}

std::string without_prefixes(std::string name) {
  for (bool any = true; any;) {
    any = false;
    for (std::string_view prefix : {"dist_", "nodist_", "nobase_", "notrans_"}) {
      if (!name.starts_with(prefix)) continue;
      name.erase(0, prefix.size());
      any = true;
    }
  }
  return name;
}

// Variables whose words are files, by the end of their names (manual, "The Uniform Naming Scheme").
bool lists_files(const std::string& name) {
  if (name == "LDADD" || words::make::automake_whole_lists().contains(name)) return true;
  for (std::string_view ending :
       {"_SOURCES", "_DATA", "_SCRIPTS", "_HEADERS", "_MANS", "_TEXINFOS", "_PYTHON", "_LISP", "_JAVA",
        "_SCHEMAS", "_DEPENDENCIES", "_LDADD", "_LIBADD"}) {
    if (name.ends_with(ending)) return true;
  }
  return false;
}

bool is_unit_list(const std::string& name) {
  return name.ends_with("_PROGRAMS") || name.ends_with("_LIBRARIES") || name.ends_with("_LTLIBRARIES");
}

bool is_flags(const std::string& name) {
  for (std::string_view ending : {"CPPFLAGS", "CFLAGS", "CXXFLAGS", "LDFLAGS", "VALAFLAGS"}) {
    if (name == ending || name.ends_with("_" + std::string(ending))) return true;
  }
  return name == "INCLUDES" || name == "ACLOCAL_AMFLAGS";
}

void replace_all(TracedText& text, const std::string& token, const TracedText& by) {
  std::string all = text.text();
  TracedText out;
  std::size_t from = 0;
  // What is put in is not looked at again: a folder may be called like the token.
  for (std::size_t at; (at = all.find(token, from)) != std::string::npos; from = at + token.size()) {
    out.append(text.substr(from, at - from));
    out.append(by);
  }
  if (from == 0) return;
  out.append(text.substr(from));
  text = std::move(out);
}

}  // namespace

// Words that configure and automake put in for folders: of the whole, and of the fragment that they stand in.
void Evaluation::put_in_folders(Block& block, FileIndex fragment) const {
  RelPath folder = out_.files().path(fragment).parent();
  TracedText place = TracedText::folder(Piece::Nature::tree_folder, fragment, marked(Space::tree, folder));
  std::string below = relative_text(base_.folder, folder);
  TracedText name = TracedText::plain(below == "." ? "" : canonical(below));
  for (Statement& statement : block) {
    for (TracedText* text : {&statement.name, &statement.value}) {
      if (text->text().find('@') != std::string::npos) {
        for (const char* token : {"@srcdir@", "@builddir@"})
          replace_all(*text, token, TracedText::plain("."));
        for (const char* token : {"@top_srcdir@", "@top_builddir@", "@abs_top_srcdir@", "@abs_top_builddir@"})
          replace_all(*text, token, top_text());
        replace_all(*text, "@OBJEXT@", TracedText::plain("o"));
        for (const char* token : {"@CC@", "@CXX@", "@EXEEXT@"})
          replace_all(*text, token, TracedText::plain(token == std::string_view("@EXEEXT@") ? "" : "cc"));
      }
      if (!automake_ || text->text().find('%') == std::string::npos) continue;
      for (const char* token : {"%D%", "%reldir%"}) replace_all(*text, token, place);
      for (const char* token : {"%C%_", "%canon_reldir%_"}) {
        TracedText head = name;
        if (!name.empty()) head.append(TracedText::plain("_"));
        replace_all(*text, token, head);
      }
    }
    for (Branch& branch : statement.branches) put_in_folders(branch.block, fragment);
  }
}

TracedText Evaluation::top_text() const {
  return TracedText::folder(Piece::Nature::tree_folder, top_.anchor, marked(Space::tree, top_.folder));
}

void Evaluation::configured_by(const Base& top, bool automake, ConfigureScripts scripts) {
  automake_ = automake;
  configure_scripts_ = std::move(scripts);
  is_configured_ = true;
  if (automake) built_in_ = false;
  top_ = top;
  TracedText folder = top_text();
  // People build in the tree itself more often than not, and then the two are one.
  for (const char* name : {"top_srcdir", "top_builddir", "abs_top_srcdir", "abs_top_builddir"})
    set_override(name, folder);
  for (const char* name : {"srcdir", "builddir"}) set_override(name, TracedText::plain("."));
  for (const char* name : {"abs_srcdir", "abs_builddir"})
    set_override(name, expand_special("CURDIR").value_or(TracedText::plain(".")));
}

Evaluation::Flags Evaluation::flags_of(const std::string& name) {
  Flags out;
  auto variable = scope_.find(name);
  if (variable == scope_.end() || variable->second.site.file == kNoFile) return out;
  shell::Command command;
  command.base = base_;
  command.words.push_back({TracedText::plain("cc"), true});
  // While the flags are looked at, the folders of the build tree are spelled so that they can be told apart.
  Scope around;
  for (const char* folder : {"top_builddir", "abs_top_builddir", "builddir", "abs_builddir"}) {
    around[folder] = scope_[folder];
    TracedText known = expand_variable(folder);
    known.append(TracedText::plain(std::string(kAsBuilt)));
    set_override(folder, known);
  }
  for (const TracedText& word : expand_variable(name).words()) command.words.push_back({word, true});
  for (auto& [folder, value] : around) scope_[folder] = std::move(value);
  shell::Picked picked = shell::pick(command, tree_);
  SiteChain key = key_at(variable->second.site);
  for (Reference& reference : picked.references) {
    reference.format = format_;
    reference.construct = key;
    add(std::move(reference));
  }
  if (picked.compile) {
    out.roots = picked.compile->roots;
    out.words = picked.compile->root_words;
    for (std::size_t i = 0; i < out.roots.size(); ++i)
      out.roots[i].as_built =
          (out.words[i].text() + "/").find(std::string(kAsBuilt) + "/") != std::string::npos;
    out.macros = picked.compile->macros;
    for (PathMacro& macro : out.macros) macro.definition.format = format_, macro.definition.construct = key;
  }
  return out;
}

// A file that a variable names; it may be one that the build makes.
std::optional<RelPath> Evaluation::refer_word(const TracedText& word, Role role, const SiteChain& key) {
  if (word.empty() || word.has_hole()) return std::nullopt;
  std::string text = word.text();
  if (text.starts_with("-") || text.find('@') != std::string::npos) return std::nullopt;
  Place place = place_of(base_.folder, text);
  if (place.space != Space::tree || place.path.is_root()) return std::nullopt;
  bool is_there = tree_.find(place.path) != nullptr;
  RelPath folder = place.path.parent();
  if (!is_there) {
    out_.make(place.path, "autotools");
    refer_to_origin(word, key);
    // Made by another script or by configure, in a folder that may move.
    if (folder.is_root() || folder == base_.folder || !tree_.is_folder(folder)) return std::nullopt;
  }
  Reference reference = reference_by(word, role, key);
  reference.in_list = true;
  reference.targets.push_back({is_there ? Target::Kind::tree : Target::Kind::output, place.path, {}});
  add(std::move(reference));
  return is_there ? std::optional(place.path) : std::nullopt;
}

// What a rule for many makes a listed file of, beside it: a file of another name or in another folder would
// make another one.
void Evaluation::refer_to_origin(const TracedText& product, const SiteChain& key) {
  auto derived = derive(product, 0);
  if (!derived) return;
  for (const TracedText& word : derived->prerequisites) {
    Place place = place_of(base_.folder, word.text());
    if (place.space != Space::tree || !tree_.is_file(place.path)) continue;
    Reference reference = reference_by(word, Role::source, key);
    reference.construct_part = ConstructPart::tagged("of " + product.text());
    reference.kind = OwnSpelling{};
    reference.lead_to(place.path);
    add(std::move(reference));
  }
}

// "pkginclude_HEADERS = …": into one folder, unless "nobase_" keeps theirs (manual, "Alternative
// Hierarchies").
void Evaluation::note_installed(const std::string& name, const std::string& plain) {
  bool keeps = name.find("nobase_") != std::string::npos;
  TracedText folder = TracedText::plain(plain.substr(0, plain.size() - std::string_view("_HEADERS").size()));
  for (const TracedText& word : expand_variable(name).words()) {
    Place place = place_of(base_.folder, word.text());
    if (word.has_hole() || place.space != Space::tree) continue;
    std::string as = keeps ? word.text() : std::string(place.path.name());
    if (tree_.is_file(place.path))
      out_.install(place.path, folder, as);
    else
      out_.install_made(place.path, folder, as);
  }
}

void Evaluation::emit_automake() {
  std::map<std::string, SiteChain> keys;  // of the variables that the script itself sets
  for (const auto& [name, variable] : scope_) {
    if (variable.site.file != kNoFile) keys[name] = key_at(variable.site);
  }
  if (base_.anchor != kNoFile) {
    const RelPath script = out_.files().path(base_.anchor);
    out_.generated({script, script.parent() / "Makefile.in", "autoreconf -fi"});
  }
  for (const auto& [name, key] : keys) {
    std::string plain = without_prefixes(name);
    if (is_flags(name)) flags_of(name);
    if (lists_files(plain)) {
      Role role = plain.ends_with("_SOURCES") ? Role::source : Role::listed;
      for (const TracedText& word : expand_variable(name).words()) refer_word(word, role, key);
    }
    if (plain.ends_with("_HEADERS") && !plain.starts_with("noinst_") && !plain.starts_with("check_"))
      note_installed(name, plain);
    if (plain == "SUBDIRS" || plain == "DIST_SUBDIRS") {
      for (const TracedText& word : expand_variable(name).words()) refer_word(word, Role::subfolder, key);
    }
    if (is_unit_list(plain)) {
      for (const TracedText& word : expand_variable(name).words()) emit_unit(word, key);
    }
  }
}

// Whether automake has an option, from the script or from configure.ac: "subdir-objects" puts objects into
// the folders of their sources, and not all into the script's; with "nostdinc" compilers look in no folder by
// themselves.
bool Evaluation::has_automake_option(std::string_view option) {
  if (expand_variable("AUTOMAKE_OPTIONS").text().find(option) != std::string::npos) return true;
  for (const auto& script : configure_scripts_) {
    for (const autoconf::MacroCall& call : script->calls) {
      if (call.name != "AM_INIT_AUTOMAKE" || call.arguments.empty()) continue;
      const auto& words = call.arguments.front();
      if (std::any_of(words.begin(), words.end(),
                      [&](const autoconf::Word& word) { return word.text == option; }))
        return true;
    }
  }
  return false;
}

// The folders of the headers that configure makes, in which compilers look by themselves (GNU Automake
// manual, "nostdinc"): in the build tree, which most people have in the tree of the sources.
const std::vector<RelPath>& Evaluation::header_folders() {
  if (header_folders_) return *header_folders_;
  std::vector<RelPath>& out = header_folders_.emplace();
  static const std::set<std::string> macros = {"AC_CONFIG_HEADERS", "AC_CONFIG_HEADER", "AM_CONFIG_HEADER"};
  for (const auto& script : configure_scripts_) {
    for (const autoconf::MacroCall& call : script->calls) {
      if (!macros.contains(call.name) || call.arguments.empty()) continue;
      for (const autoconf::Word& header : call.arguments.front()) {
        auto path = RelPath::resolve(top_.folder, header.text.substr(0, header.text.find(':')));
        if (path && std::find(out.begin(), out.end(), path->parent()) == out.end())
          out.push_back(path->parent());
      }
    }
  }
  return out;
}

std::vector<RelPath> Evaluation::unit_sources(const TracedText& word, const std::string& name,
                                              const SiteChain& key) {
  std::vector<RelPath> sources;
  bool listed = false;
  for (const std::string& variable : {name + "_SOURCES", "nodist_" + name + "_SOURCES"}) {
    if (!scope_.contains(variable)) continue;
    listed = true;
    for (const TracedText& source : expand_variable(variable).words()) {
      Place place = place_of(base_.folder, source.text());
      if (place.space == Space::tree && tree_.is_file(place.path) && shell::is_source_name(place.path.name()))
        sources.push_back(place.path);
    }
  }
  if (!listed) {
    // Without a list the one source is called like the unit.
    TracedText source = word;
    std::string text = word.text();
    for (std::string_view ending : {".la", ".a"}) {
      if (text.ends_with(ending)) source = word.substr(0, text.size() - ending.size());
    }
    source.append(TracedText::plain(".c"));
    if (auto path = refer_word(source, Role::source, key)) sources.push_back(*path);
  }
  return sources;
}

void Evaluation::emit_unit(const TracedText& word, const SiteChain& key) {
  if (word.has_hole() || word.text().find('@') != std::string::npos) return;
  std::string name = canonical(word.text());
  // What a program is called must not change with a path.
  Reference named = reference_by(word, Role::product, key);
  named.lead_to(RelPath::from_normal(word.text()), Target::Kind::name);
  add(std::move(named));
  std::vector<RelPath> sources = unit_sources(word, name, key);
  std::vector<SearchRoot> roots;
  Holding& holding = out_.graph().holdings[base_.folder];
  bool is_library = word.text().ends_with(".la") || word.text().ends_with(".a");
  (is_library ? holding.library : holding.program) = true;
  Unit unit;
  unit.name = word.text();
  unit.format = format_;
  unit.site = key.back();
  auto add_root = [&](const SearchRoot& root) {
    roots.push_back(root);
    // What the build makes lies in the same place of the build tree.
    if (root.place.space == Space::tree)
      roots.push_back({{Space::build, root.place.path}, root.quoted_only, root.as_built});
  };
  if (!has_automake_option("nostdinc")) {
    add_root({{Space::tree, base_.folder}});
    for (const RelPath& folder : header_folders()) add_root({{Space::tree, folder}, false, true});
  }
  std::vector<PathMacro> macros;
  bool own = scope_.contains(name + "_CPPFLAGS"), own_c = scope_.contains(name + "_CFLAGS");
  for (const std::string& variable : {own ? name + "_CPPFLAGS" : "AM_CPPFLAGS", std::string("INCLUDES"),
                                      own_c ? name + "_CFLAGS" : "AM_CFLAGS", std::string("AM_CXXFLAGS")}) {
    Flags flags = flags_of(variable);
    for (const SearchRoot& root : flags.roots) add_root(root);
    unit.root_words.insert(unit.root_words.end(), flags.words.begin(), flags.words.end());
    macros.insert(macros.end(), flags.macros.begin(), flags.macros.end());
  }
  // Whoever runs configure may give more.
  ContextIndex context = out_.context({roots, {}, macros, true, {Space::tree, base_.folder}, "autotools"});
  out_.graph().units.push_back(std::move(unit));
  auto index = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
  bool is_flat = !has_automake_option("subdir-objects");
  // Flags of its own give a unit objects of its own.
  bool has_own = std::any_of(scope_.begin(), scope_.end(), [&](const auto& item) {
    return item.first.starts_with(name + "_") && is_flags(item.first) && !item.first.ends_with("LDFLAGS");
  });
  for (const RelPath& source : sources) {
    out_.compile(source, context, index);
    std::string stem(source.name());
    stem.resize(stem.rfind('.'));
    std::string object = (has_own ? name + "-" : "") + stem + ".o";
    if (is_flat) note_object({Space::build, base_.folder / object}, source, key.back());
  }
}

}  // namespace yc::make
