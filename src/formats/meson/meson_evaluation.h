// One symbolic run of Meson over one project. Every side of every conditional is run, and values keep which
// they came from (see guards.h); nothing is executed, and what only Meson itself or the machine could know is
// a hole.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <unordered_map>
#include <vector>

#include "formats/format.h"
#include "formats/guards.h"
#include "formats/meson/meson_stamps.h"
#include "formats/meson/meson_syntax.h"
#include "formats/meson/meson_value.h"

namespace yc::meson {

// Writing styles. An expression is written as a string of its own; the others stand inside quotes.
inline constexpr WritingStyle kExpression = 0, kSingle = 1, kTriple = 2, kWordInString = 3, kSubfolder = 4;

struct Script {
  FileIndex file = kNoFile;
  Bytes bytes;
  std::shared_ptr<const Syntax> syntax;
};

struct Call {
  const Node& node;
  const Value* object = nullptr;  // of a method
  Values positional;              // lists are not opened
  std::map<std::string, Value> keywords;

  Values flat(std::size_t from = 0) const;  // positional ones, lists opened
  const Value* keyword(const std::string& name) const;
  TracedText text(std::size_t index) const;  // of a positional one; empty if there is none
};

class Evaluation {
 public:
  Evaluation(const TreeReader& tree, FactsCache& cache, GraphBuilder& out, std::uint8_t format);
  void run_project(const RelPath& top);
  const std::set<RelPath>& read_scripts() const { return read_; }
  // The scripts in which a variable could have more values than were looked at.
  const std::set<FileIndex>& left_out() const { return left_out_; }

 private:
  using Alternatives = yc::Alternatives<Stamped>;
  // How a sequence of statements ends before its last one.
  enum class Leaving : unsigned char { no, round, loop, script };
  // One round of a loop: what its variables get, and where that holds.
  struct Round {
    Guard guard;
    std::vector<Stamped> values;
  };
  // A folder that a step enters.
  struct Entered {
    Guard guard;
    RelPath folder;
  };
  using Handler = Value (Evaluation::*)(const Call&);

  // meson_run.cpp
  void run_script(const RelPath& path);
  void run(const std::vector<Statement>& statements);
  void run_branches(const Statement& statement);
  void run_loop(const Statement& statement);
  void run_round(const Statement& statement, const Round& round);
  std::vector<Round> rounds_over(const Statement& statement);
  std::vector<Round> rounds_over(const Alternatives& values);
  std::vector<std::vector<Stamped>> rounds_over(const Value& value);
  void leave(const Guard& side, Leaving how);
  void reopen(Leaving scope, std::size_t from);
  std::optional<bool> condition(const Node& node);
  bool mentions_loop(const Node& node) const;
  template <typename Take>
  Alternatives step(const Take& take);
  void enter_folders(std::size_t worlds);
  void enter(const RelPath& folder);
  template <typename Run>
  void run_apart(const Guard& guard, const Run& run);
  std::shared_ptr<const Variables> run_subproject(const RelPath& folder);
  Value do_subdir(const Call& call);
  Value do_subproject(const Call& call);
  Value do_subdir_done(const Call& call);

  // meson_variables.cpp
  void limit(Alternatives& values);
  bool matters(const Alternative<Stamped>& value);
  void assign(const std::string& name, Value value);
  void assign(const std::string& name, Alternatives values);
  bool grow(const std::string& name, const Alternatives& before, const Alternatives& more);
  void append(const std::string& name, const Alternatives& more);
  std::shared_ptr<const Value> variable(const std::string& name);  // null if there is none
  std::shared_ptr<const Value> value_of(const Alternatives& values);

  // meson_expressions.cpp
  Value evaluate(const Node& node);
  Value evaluate_plain(const Node& node);
  Value string(const Node& node);
  Value identifier(const Node& node);
  Value binary(const Node& node);
  Value logic(const Node& node);
  Value index(const Node& node);
  Value ternary(const Node& node);
  Value call(const Node& node);
  Value method(const Node& node);
  void fill(Call& call);
  Value made() const;  // what the call that is being made will make
  Passage passage(const Span& span) const { return {script().file, span}; }

  // meson_methods.cpp
  Value method_of_text(const Call& call, const std::string& name);
  Value method_of_list(const Call& call, const std::string& name);
  Value method_of_dictionary(const Call& call, const std::string& name);
  Value method_of_meson(const Call& call, const std::string& name);
  Value method_of_fs(const Call& call, const std::string& name);
  Value method_of_object(const Call& call, const std::string& name);
  Value format_text(const Call& call);
  Value split_text(const Call& call);

  // meson_functions.cpp
  Value function(const Call& call, const std::string& name);
  Value do_project(const Call& call);
  Value do_files(const Call& call);
  Value do_include_directories(const Call& call);
  Value do_custom_target(const Call& call);
  Value do_run_target(const Call& call);
  Value do_run_command(const Call& call);
  Value do_test(const Call& call);
  Value do_find_program(const Call& call);
  Value do_import(const Call& call);
  Value do_generator(const Call& call);
  Value do_process(const Call& call);
  Value do_get_variable(const Call& call);
  Value do_set_variable(const Call& call);
  Value do_join_paths(const Call& call);
  Value do_dependency(const Call& call);
  Value do_add_script(const Call& call);
  Value do_project_arguments(const Call& call);
  Value do_compile_resources(const Call& call);
  Value do_find_library(const Call& call);
  void note_installed(const Call& call);
  void note_installed_folder(const Call& call);
  void note_installed(const Values& outputs, const Values& folders);
  Value do_nothing(const Call& call);
  Value do_other(const Call& call);

  // meson_targets.cpp
  Value do_target(const Call& call);
  Value do_declare_dependency(const Call& call);
  void take_bundles(const Value& value, Bundle& into) const;
  void take_folders(const Value& value, Bundle& into);
  static void take_linked(const Value& value, Bundle& into);
  void take_sources(const Value& value, Bundle& into, bool wanted = true);
  void take_options(const Values& words, Bundle& into);
  void name_unit(const TracedText& word);
  void name_output(const TracedText& word, const std::optional<RelPath>& source);
  // A program that is started in the build tree opens it there.
  void note_copy(BuildCopy copy, const RelPath& place);

  // meson_references.cpp
  bool refer(const Value& value, Role role, Certainty certainty = Certainty::certain, bool wanted = true);
  bool refer_text(const TracedText& text, const Base& from, Role role, Certainty certainty, bool wanted);
  bool is_barred(const RelPath& path) const;
  bool is_beyond(const TracedText& text, const RelPath& path) const;
  void likely(const Value& value);
  void use(const Value& made);
  void program(const Value& value);
  void run_line(const Values& words, const Base& from, bool first_is_program);
  TracedText with_folders(const TracedText& word) const;
  std::optional<RelPath> path_of(const Value& value) const;  // of a file of the tree that it names
  SiteChain key() const { return {here_}; }
  ConstructPart instance() const;  // tells the rounds of a loop apart
  const Script& script() const { return *scripts_.back(); }
  Base base() const { return folders_.back(); }
  Base build_base() const;  // where commands are started: the top of the build tree
  Base base_of_run(const TracedText& text) const;
  Base guessed_base() const;  // the same, for texts that take it to be a folder of the project
  TracedText folder_text(Piece::Nature nature, const Base& folder) const;

  const TreeReader& tree_;
  FactsCache& cache_;
  GraphBuilder& out_;
  std::uint8_t format_;

  static constexpr const char* kForAll = "(for all)";  // from add_project_arguments, as a variable

  ValueStamps stamps_;
  Choices choices_;
  Path path_;
  Worlds* worlds_ = nullptr;  // of the step that is taken
  Variables variables_;
  // Sides that are closed on the path, and for how long.
  std::vector<std::pair<Side, Leaving>> closed_;
  std::vector<Entered> entering_;  // by the step that is taken
  std::set<FileIndex> left_out_;
  std::map<std::pair<Stamp, FileIndex>, bool> matters_;  // of values, in the folder of a script
  Base root_;                                            // of the project
  Base top_;                                             // of the outermost project
  TracedText subprojects_ = TracedText::plain("subprojects");
  std::vector<Base> folders_;  // entered by subdir(), innermost last
  std::vector<const Script*> scripts_;
  std::map<RelPath, Script> loaded_;
  std::map<RelPath, std::shared_ptr<const Variables>> projects_;
  std::set<std::string> loop_names_;  // variables that a loop sets
  Site here_;                         // the call that is being made
  std::set<RelPath> read_;
  std::map<RelPath, std::vector<Guard>> entered_;  // folders, and on which paths
  std::size_t steps_ = 0;
  Choices::Rounds rounds_;  // of the loops that are being run
  int depth_ = 0;
  Leaving leaving_ = Leaving::no;
  bool in_ternary_ = false;
};

}  // namespace yc::meson
