// One symbolic run of CMake over one project. As for make, a project is run in several branches, so that
// every side of every if() is taken in one of them; nothing is executed, and what only CMake itself could
// know is a hole.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <unordered_map>
#include <unordered_set>
#include <vector>

#include "formats/branch_explorer.h"
#include "formats/cmake/cmake_syntax.h"
#include "formats/cmake/cmake_variables.h"
#include "formats/shell/command_line.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::cmake {

inline constexpr WritingStyle kUnquoted = 0, kQuoted = 1, kBracket = 2;

// Marks references of a target's file set, which only lead to what lies below one of its base folders.
inline constexpr const char* kSetPart = "file set";
// Marks what an installation leaves out by its name.
inline constexpr const char* kLeftOut = "left out";

using Words = std::vector<TracedText>;

struct Script {
  FileIndex file = kNoFile;
  Bytes bytes;
  Syntax syntax;
  bool is_binary = false;
};
using ParsedScripts = std::map<RelPath, std::shared_ptr<const Script>>;

// A range of commands of a script: the body of a function, a loop or a branch.
struct Body {
  std::shared_ptr<const Script> script;
  std::size_t begin = 0;
  std::size_t end = 0;
};

struct Routine {
  std::vector<std::string> parameters;
  Body body;
  bool is_macro = false;
};

struct RootWord {
  TracedText word;
  Place place;
  bool is_public = false;   // users of the target see it
  bool is_private = false;  // the target itself sees it
  bool is_fixed = false;    // nothing may be put beside it
};

struct TargetUnit {
  std::string name;
  Site site;
  std::size_t folder = 0;  // index of its directory
  std::vector<RelPath> sources;
  std::vector<RootWord> roots;
  std::vector<std::pair<std::string, int>> links;  // name; 0 private, 1 public, 2 interface
  std::vector<RelPath> forced;
  std::vector<PathMacro> macros;
  Words public_headers;
  std::map<std::string, std::vector<RelPath>> set_bases;  // of file sets, by their names
  std::vector<std::pair<RelPath, std::string>> set_files;
  bool includes_current = false;
};

struct Folder {
  Base base;
  std::vector<RootWord> roots;  // of include_directories, inherited ones first
  std::vector<std::string> links;
  std::vector<PathMacro> macros;
};

class Evaluation {
 public:
  // All runs of one reading share `parsed`.
  Evaluation(const TreeReader& tree, GraphBuilder& out, std::uint8_t format, BranchExplorer& branches,
             ParsedScripts& parsed);
  // Runs the project whose top script this is.
  void run_project(const RelPath& top);
  // Runs a script that no project includes, from the folder of the one that it is likely for.
  void run_loose(const RelPath& script, const RelPath& top);
  const std::set<RelPath>& read_scripts() const { return read_; }
  // Targets that this run knew, and names that it linked as those of libraries with an alias, or gave one to.
  struct Names {
    std::set<std::string> known;
    std::map<std::string, Passage> wanted;  // that must be targets
    bool may_be_fetched = false;            // there may be targets of projects that a configuration fetches
  };
  const Names& names() const { return names_; }

 private:
  using Handler = void (Evaluation::*)(const Command&, const Words&);
  static Handler handler_for(const std::string& name);

  // cmake_text.cpp
  TracedText expand(const Argument& argument);
  bool is_bounded(const TracedText& value, std::size_t read, const Passage& where);
  TracedText expand_text(std::string_view text, std::uint32_t offset, WritingStyle style, bool unescape);
  std::string inner_text(std::string_view text, std::uint32_t offset, WritingStyle style);
  int nesting_ = 0;  // of names in names
  int blocks_ = 0;   // that are being run, one in the other
  TracedText variable(const std::string& name) const;
  Words words_of(const Command& command);
  Words values(const TracedText& word) const;  // a word's list members, generator expressions opened

  // cmake_run.cpp
  void begin_in(const RelPath& top);
  void run_folder(const RelPath& script, const Base& base);
  void enter_scope();
  void leave_scope();
  void tell_set(const std::string& name, bool in_parent, const std::string& before);
  void run_script(const RelPath& path);
  void run_body(const Body& body);
  void run_commands(const Body& body);
  std::size_t run_if(const Body& body, std::size_t at);
  std::size_t run_loop(const Body& body, std::size_t at);
  std::size_t define_routine(const Body& body, std::size_t at);
  std::size_t block_end(const Body& body, std::size_t at, const std::string& open,
                        const std::string& close) const;
  void run_command(const Command& command);
  void call_routine(const Routine& routine, const Words& words);
  void set_variable(const std::string& name, TracedText value);
  std::optional<bool> condition(const Command& command);
  std::optional<bool> comparison(const Command& command, const Words& words) const;

  // cmake_lists.cpp
  void give_up(const std::string& why);  // of the script, at the command that runs
  void do_set(const Command& command, const Words& words);
  void do_unset(const Command& command, const Words& words);
  void do_list(const Command& command, const Words& words);
  void filter_items(const std::string& expression, bool keep, Words& items);
  TracedText with_matches_replaced(const TracedText& input, const std::string& expression,
                                   const std::string& by);
  void do_string(const Command& command, const Words& words);
  void do_filename(const Command& command, const Words& words);
  void do_parse_arguments(const Command& command, const Words& words);
  void do_unknown_result(const Command& command, const Words& words);

  // cmake_commands.cpp
  void do_project(const Command& command, const Words& words);
  void do_include(const Command& command, const Words& words);
  void do_subdirectory(const Command& command, const Words& words);
  void do_file(const Command& command, const Words& words);
  void do_configure_file(const Command& command, const Words& words);
  void do_custom(const Command& command, const Words& words);
  void do_test(const Command& command, const Words& words);
  void start_tests(const Words& names, const TracedText& folder);
  void do_execute(const Command& command, const Words& words);
  void find_by_name(const char* name);
  void do_find_package(const Command& command, const Words& words);
  void do_aux_source(const Command& command, const Words& words);
  void do_other(const Command& command, const Words& words);
  void do_nothing(const Command& command, const Words& words);
  std::vector<RelPath> matching(const std::string& pattern, bool deep) const;
  TracedText glob(const Words& patterns, const TracedText& relative_to, bool deep);
  shell::Command run_line(const Words& line, const Base& base);
  void note_made(const RelPath& path);
  void refer_to_output(const TracedText& word);

  // cmake_properties.cpp
  struct PropertyOwners {
    std::string kind;  // as set_property() calls it
    Words names;
  };
  void do_target_properties(const Command& command, const Words& words);
  void do_test_properties(const Command& command, const Words& words);
  void do_source_properties(const Command& command, const Words& words);
  void do_folder_properties(const Command& command, const Words& words);
  void do_property(const Command& command, const Words& words);
  std::vector<RootWord> property_roots(const Words& given, bool is_public, bool are_options);
  void take_property(const PropertyOwners& owners, const std::string& name, const Words& given,
                     bool is_added);
  void add_roots(const PropertyOwners& owners, const std::vector<RootWord>& roots, bool is_added);

  // cmake_install.cpp
  struct Installing;
  void do_install(const Command& command, const Words& words);
  void refer_to_excluded(const Words& folders, const TracedText& name);
  void install_later(const Words& targets, const std::string& what);
  void note_installed(const Installing& all);
  void emit_installed();

  // cmake_copies.cpp
  void note_copied(const Words& words);
  void note_copy_command(shell::Command command);
  void note_copy(const RelPath& place, const RelPath& of, bool named_after);

  // cmake_targets.cpp
  void do_add_target(const Command& command, const Words& words);
  void do_target_sources(const Command& command, const Words& words);
  void do_target_includes(const Command& command, const Words& words);
  void do_target_links(const Command& command, const Words& words);
  void do_target_options(const Command& command, const Words& words);
  void take_flags(const Words& flags);
  void do_definitions(const Command& command, const Words& words);
  void do_precompile(const Command& command, const Words& words);
  void do_include_directories(const Command& command, const Words& words);
  void do_link_libraries(const Command& command, const Words& words);
  void do_target_names(const Command& command, const Words& words);
  void take_header_set(TargetUnit* owner, int reach, const std::string& set, const Words& bases,
                       const Words& files);
  void add_source(TargetUnit* target, const TracedText& word);
  TargetUnit* target(const std::string& name);
  void use_target(const TracedText& word);
  void use_own_target(const TracedText& word);
  void name_unit(const TracedText& word);
  RootWord root_word(const TracedText& word, Role role);
  void emit_units();
  void collect_interface(const std::string& name, std::set<std::string>& seen,
                         std::vector<SearchRoot>& roots);

  // cmake_references.cpp
  // Adds a reference if the text names something; true if it names something in the tree.
  bool refer(const TracedText& word, Role role, Certainty certainty, const Base& base, bool wanted);
  bool refer_here(const TracedText& word, Role role, Certainty certainty = Certainty::certain,
                  bool wanted = true);
  void likely(const TracedText& word);
  void note_written_includes(const TracedText& word);
  void note_paths_within(const TracedText& word, std::size_t first_reference);
  // cmake_unread_values.cpp
  void note_set(const std::string& name, const Words& words);
  void emit_unread_values();
  SiteChain key() const;
  Base base() const { return folders_[folder_].base; }

  const TreeReader& tree_;
  GraphBuilder& out_;
  std::uint8_t format_;
  BranchExplorer& branches_;

  Variables variables_;
  std::map<std::string, Routine> routines_;
  std::vector<Folder> folders_;
  std::size_t folder_ = 0;
  std::vector<TargetUnit> targets_;
  std::map<std::string, std::size_t> target_index_;
  std::map<std::string, std::string> aliases_;
  std::vector<std::shared_ptr<const Script>> scripts_;  // being run, innermost last
  std::vector<Site> calls_;                             // of routines and includes, outermost first
  Site here_;                                           // the command that is being run
  std::set<RelPath> read_;
  std::map<RelPath, std::vector<RootWord>> source_roots_;  // that properties of single sources add
  // Headers that a target has when all is read.
  struct InstalledHeaders {
    Words targets;
    std::string what;  // PUBLIC_HEADER, or the name of a file set
    TracedText destination;
  };
  std::vector<InstalledHeaders> later_;
  std::map<std::string, shell::Command> tests_;  // what each starts
  ParsedScripts& parsed_;
  Names names_;
  std::set<std::string> generated_;  // build paths that commands make
  std::set<RelPath> written_;        // files that commands write among the sources
  // Tell the scopes that are open apart, in all runs alike; and how often each was entered from a place.
  std::vector<std::string> scopes_ = {""};
  std::map<std::pair<std::string, Site>, unsigned> entered_;
  // A value that is a path of the tree, and where it is set.
  struct SetPath {
    std::string name;
    TracedText value;
    SiteChain site;
    Base base;
  };
  std::vector<SetPath> set_paths_;
  std::unordered_set<std::string> expanded_;  // names of variables
  std::size_t steps_ = 0;
  int loops_ = 0;  // that are being run
  bool returning_ = false;
  bool breaking_ = false;
};

}  // namespace yc::cmake
