// One symbolic run of GNU make over one makefile: variables, rules, and what its recipes would name.
//
// A makefile is run in several branches, so that after all of them each side of each conditional was taken.
// Nothing is executed; $(shell …) is a hole unless it only lists files.
#pragma once

#include <array>
#include <functional>
#include <map>
#include <memory>
#include <set>
#include <string>
#include <unordered_map>
#include <unordered_set>
#include <vector>

#include "formats/autoconf/macro_scan.h"
#include "formats/branch_explorer.h"
#include "formats/make/make_syntax.h"
#include "formats/shell/command_line.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::make {

struct Variable {
  TracedText value;  // as written if recursive, expanded if simple
  bool simple = false;
  bool from_command_line = false;
  bool is_exported = false;
  Site site;
  TracedText name = {};
};
using Scope = std::unordered_map<std::string, Variable>;

struct Recipe {
  std::vector<std::pair<TracedText, Site>> lines;
};

struct Rule {
  std::vector<TracedText> targets;
  std::vector<std::string> target_texts;  // of a pattern rule, to see quickly whether it can fit
  std::vector<TracedText> prerequisites;  // patterns if the rule is one
  std::vector<TracedText> order_only;
  std::vector<TracedText> static_stems;  // of a static pattern rule, one for each target
  TracedText static_form = {};           // the pattern of its targets
  std::unordered_map<std::string, std::size_t> static_targets = {};  // their numbers, by how they are spelled
  Recipe recipe;
  Site site;
  bool is_pattern = false;
  bool is_built_in = false;
};

// What stands in a slot: an automatic variable, or a call or reference that is made of one: "dir $@".
struct Slot {
  TracedText inner;  // as it stands in $(…)
  Site site = {};
};

// One line of a recipe for many targets, split into words, with slots for what depends on the target.
struct RecipeShape {
  shell::CommandLine line;
  std::vector<Slot> slots;    // in the order of their letters
  std::size_t slots_met = 0;  // while it is made
  bool is_broken = false;     // a function was given a slot, so slots cannot be filled afterwards
  bool is_usable = false;
  // Each slot is a word of its own and stands for the target or its prerequisites, which the rule names: for
  // a target there is nothing to tell but what is compiled.
  bool is_plain = false;
  bool can_be_told_once = false;       // what holds no slot means the same for every target
  bool told = false;                   // and has been added to the graph
  shell::CommandLine rest = {};        // what is left to tell then
  std::vector<ContextIndex> contexts;  // of each command, if it compiles
  // Of each command: its options, and whether it names the object.
  std::vector<std::string> options;
  std::vector<bool> names_object;

  // After the first target: the next ones need not tell again what is the same for all of them.
  void leave_out_told();
};

// What the automatic variables of one recipe stand for (manual, section 10.5.3), and its target's own
// variables.
struct Automatic {
  TracedText target;
  TracedText stem = {};
  std::vector<TracedText> found = {}, order_only = {};
  Scope own = {};
  RecipeShape* shape = nullptr;  // if set, only the shape of the recipe is made
  // Prerequisites that the build makes and that were mentioned already, as spelled.
  const std::unordered_set<std::string>* products = nullptr;
};

// A makefile run with other variables or from another folder by a recipe.
struct ChildMake {
  RelPath makefile;
  Base base;
  std::vector<std::pair<std::string, TracedText>> overrides;
  SiteChain call;
};

// Where the pieces stand that references are spelled by which lead somewhere.
class UsedPlaces {
 public:
  // Looks at those references of a list that it has not seen yet.
  void see(const std::vector<Reference>& references);
  void see(const Reference& reference);
  // Whether no piece of a word stands where one of a reference does.
  bool are_new_to(const TracedText& word) const;

 private:
  std::unordered_set<std::uint64_t> places_;  // file and offset
  std::size_t seen_ = 0;
};

using ConfigureScripts = std::vector<std::shared_ptr<const autoconf::Facts>>;

// Whether an ending is one of files that a compiler writes beside an object, with its name.
bool is_object_sibling(std::string_view extension);

class Evaluation {
 public:
  // `used` must outlive it, as all but `base` and `call`.
  Evaluation(const TreeReader& tree, GraphBuilder& out, std::uint8_t format, BranchExplorer& branches,
             UsedPlaces& used, Base base, SiteChain call);

  void set_override(const std::string& name, const TracedText& value);
  // The script is filled in by a configure script in folder `top`, and is automake's if `automake` says so.
  // `scripts` are what that folder's say.
  void configured_by(const Base& top, bool automake, ConfigureScripts scripts);
  // Reads the makefile and everything it includes.
  void read_file(const RelPath& makefile);
  // Expands all recipes, finds what is built from what, and adds references, compilations and units to the
  // graph.
  void emit_all();

  const std::vector<ChildMake>& children() const { return children_; }
  // Words of lists that no rule of this run used, and that lead somewhere; another makefile may use them.
  const std::vector<Reference>& unused_lists() const { return unused_lists_; }
  const std::set<RelPath>& included() const { return included_; }

 private:
  // make_expand.cpp
  TracedText expand(const TracedText& raw);
  TracedText expand_reference(const TracedText& inner);
  TracedText expand_variable(const std::string& name);
  TracedText expand_recursive(const std::string& name, const Variable& variable);
  void refer_to_own_variable(const std::string& name);
  void refer_to_folder_of(const TracedText& form, Site site);
  void refer_by_stem(const TracedText& name, Site site, const TracedText& source);
  std::optional<TracedText> expand_special(const std::string& name);
  std::optional<TracedText> expand_automatic(const std::string& name) const;
  void problem(const std::string& id, Site site, const std::string& message);

  // make_functions.cpp
  std::optional<TracedText> call_function(const std::string& name, const TracedText& arguments);
  TracedText absolute(const TracedText& words);
  TracedText evaluate_as_makefile(const TracedText& text);
  TracedText choose(const std::string& name, const TracedText& raw);  // $(if …), $(or …), $(and …)
  TracedText for_each(const TracedText& raw);
  TracedText call(const TracedText& raw);
  TracedText shell_output(const TracedText& command);
  TracedText wildcard(const TracedText& patterns);
  void note_unset(const Block& block);
  bool comes_with_product(const TracedText& name);
  void note_object(const Place& place, const RelPath& source, const Site& site);
  void emit_clashes();
  static std::string options_of(const shell::Command& command, const RelPath& source);
  void note_stray_object(const shell::Command& command, const RelPath& source, const TracedText& target,
                         Site site);
  TracedText without_folders(const TracedText& words);
  TracedText filter(const TracedText& patterns, const TracedText& words, bool keep);

  // make_reader.cpp
  void run(const Block& block);
  void run_statement(const Statement& statement);
  void assign(const Statement& statement, Scope& scope);
  void define_rule(const Statement& statement);
  bool note_special(const std::string& first, const std::vector<TracedText>& prerequisites);
  void add_rule(Rule rule);
  void target_assignment(const std::vector<TracedText>& targets, const Statement& assignment);
  void include(const Statement& statement);
  void vpath(const TracedText& arguments);
  void read_built_in();

  // make_products.cpp
  struct Derived {  // how a name is made by a pattern rule
    const Rule* rule = nullptr;
    TracedText stem;
    TracedText folder;                      // put before the prerequisites
    std::vector<TracedText> prerequisites;  // as spelled, before any search
    std::vector<TracedText> found;          // as found, with the folder of the search path
  };
  struct Application {  // the same on bare text: which rule makes a name, and from which part of it
    std::size_t rule = 0;
    std::size_t folder = 0;  // bytes of the name before what the rule's pattern was matched with
    std::size_t stem_begin = 0, stem_size = 0;
    std::vector<TracedText> searched;  // for each prerequisite the folder of the search path, or empty
  };
  struct Found {
    bool there = false;
    TracedText folder;  // of the search path, if it was found through that
  };
  std::optional<Derived> derive(const TracedText& name, int depth);
  const Application* application(const std::string& name, int depth);
  std::optional<Application> apply(std::size_t rule, const std::string& name, int depth, std::size_t best);
  Found look_for(const std::string& name, int depth);
  std::optional<TracedText> vpath_folder(const std::string& name) const;
  std::optional<TracedText> find_in_vpath(const TracedText& name) const;
  std::vector<TracedText> vpath_for(const std::string& name) const;
  bool is_product(const TracedText& name);
  std::string spelled(const TracedText& name) const;

  // make_recipes.cpp
  ConstructPart instance_of(const Rule& rule, const std::vector<TracedText>& found) const;
  void emit_instance(const Rule& rule, Automatic automatic);
  void emit_recipe(const Rule& rule, const Automatic& automatic);
  TracedText expand_recipe(const TracedText& line, Site site, const Automatic& automatic);
  RecipeShape* shape_of(const Rule& rule, std::size_t line);
  std::optional<TracedText> slot(const TracedText& inner) const;
  // Before and after what may meet slots is expanded: gives one slot for all of it if it did.
  struct SlotsBefore {
    std::size_t met = 0, count = 0;
  };
  SlotsBefore slots_before() const;
  std::optional<TracedText> slot_for_all(const SlotsBefore& before, const TracedText& inner) const;
  std::optional<shell::CommandLine> filled(shell::CommandLine line, const RecipeShape& shape,
                                           const Automatic& automatic);

  // make_references.cpp
  void note_made(const Place& place);
  void mention_target(const TracedText& name, Reference reference, const Place& place,
                      const std::vector<std::size_t>& rules);
  void mention_in_part(const TracedText& name, const SiteChain& key);  // of which a part is not known
  bool is_target_as_spelled(const TracedText& name) const;
  void mention(const TracedText& name, Role role, const SiteChain& key, Certainty certainty);
  // By a word of this makefile, leading nowhere yet.
  Reference reference_by(const TracedText& word, Role role, const SiteChain& key) const;
  // `depth` counts the rules that are applied one after the other.
  void mention_derived(const TracedText& name, const Derived& derived, const SiteChain& key, int depth);
  RelPath first_source(const Rule& rule, const std::string& product);
  Site site_of_target(const Rule& rule, const std::string& place_name) const;
  RelPath only_source(const Rule& rule) const;
  void emit_rule(const Rule& rule);
  void complain(const char* id, Site site, const std::string& name);
  bool is_hidden_by_folder(const Rule& rule, const TracedText& target) const;
  static bool makes_folders(const Rule& rule);
  static bool makes_target_folder(const Rule& rule);
  void add(Reference reference);  // with the instance that is being read
  std::vector<RelPath> plain_sources(const RecipeShape& shape, std::size_t command,
                                     const Automatic& automatic) const;
  bool compile_plainly(const RecipeShape& shape, const Automatic& automatic, Site site);
  void emit_objects(const shell::Command& command, const shell::Picked& picked, const Automatic& automatic,
                    const SiteChain& key);
  void emit_picked(std::vector<Reference>& references, const std::string& own_name, const SiteChain& key);
  void emit_others(const shell::Command& command, const shell::Picked& picked, const std::string& own_name,
                   const SiteChain& key);
  ContextIndex emit_compilation(shell::CompileCall& call, const SiteChain& key, std::int32_t unit);
  void emit_commands(const shell::CommandLine& line, const SiteChain& key, const Automatic& automatic,
                     RecipeShape* shape);
  void pass_variables(ChildMake& child);
  void emit_child(const shell::Command& command, const SiteChain& key);
  void complain_of_doubles(const shell::Command& command, const SiteChain& key);
  void note_installing(const shell::Command& command);
  void emit_lists();

  // automake.cpp
  struct Flags {
    std::vector<SearchRoot> roots;
    std::vector<TracedText> words;
    std::vector<PathMacro> macros;
  };
  TracedText top_text() const;
  void put_in_folders(Block& block, FileIndex fragment) const;
  void emit_automake();
  void note_installed(const std::string& name, const std::string& plain);
  bool has_automake_option(std::string_view option);
  const std::vector<RelPath>& header_folders();
  std::vector<RelPath> unit_sources(const TracedText& word, const std::string& name, const SiteChain& key);
  void emit_unit(const TracedText& word, const SiteChain& key);
  Flags flags_of(const std::string& name);
  void refer_to_origin(const TracedText& product, const SiteChain& key);
  std::optional<RelPath> refer_word(const TracedText& word, Role role, const SiteChain& key);
  bool is_folder_made(const RelPath& folder) const;
  bool folder_is_there(const TracedText& product, const Rule& rule) const;
  SiteChain key_at(Site site) const;

  const TreeReader& tree_;
  GraphBuilder& out_;
  std::uint8_t format_;
  BranchExplorer& branches_;
  UsedPlaces& used_;
  Base base_;
  SiteChain call_;

  Scope scope_;
  const Automatic* automatic_ = nullptr;  // while a recipe is expanded
  std::vector<Rule> rules_;
  std::vector<std::size_t> open_rules_;  // those that the next recipe line belongs to
  std::vector<std::size_t> pattern_rules_;
  std::set<std::string> suffixes_;  // that .SUFFIXES declares
  std::unordered_map<std::string, std::vector<std::size_t>> rules_by_target_;
  std::map<std::string, Scope> target_scopes_;
  std::map<std::string, std::vector<std::pair<TracedText, Site>>> target_words_;  // that gave them
  std::vector<std::pair<TracedText, Scope>> pattern_scopes_;
  std::vector<std::pair<TracedText, std::vector<TracedText>>> vpaths_;  // pattern, folders; "%" for VPATH
  std::set<std::string> phony_;
  std::set<std::string> made_folders_;
  bool makes_folders_at_once_ = false;  // while the makefile is read, nobody knows which
  bool makes_own_folder_ = false;       // the recipe that is being read, of its target
  std::vector<Statement> assignments_;
  std::set<std::string> unset_;  // variables that a side of a conditional sets which is not taken here
  std::map<RelPath, ObjectClash> objects_;  // by path, also those with one source; of this branch alone
  std::vector<ChildMake> children_;
  std::vector<Reference> unused_lists_;
  std::set<RelPath> included_;
  std::vector<FileIndex> reading_;
  // By name, for each depth of rules applied one after the other.
  static constexpr int kMostRules = 2;
  std::array<std::unordered_map<std::string, std::optional<Application>>, kMostRules + 1> applications_;
  std::set<std::pair<std::size_t, std::string>> emitted_;
  std::unordered_map<std::ptrdiff_t, RelPath> only_sources_;  // of rules for one target, by their numbers
  std::map<std::pair<std::size_t, std::size_t>, RecipeShape> shapes_;  // by rule and line of its recipe
  std::set<std::string> expanding_;
  // What recursive variables come to, once all is read and only recipes are expanded.
  std::unordered_map<std::string, TracedText> expanded_;
  bool is_fixed_ = true;  // what is being expanded would be the same in any other recipe
  int bound_ = 0;         // functions that give variables values of their own for as long as they run
  bool secondary_ = false;
  bool automake_ = false;
  bool is_configured_ = false;
  Base top_;  // where configure stands, if the script is filled in by one
  ConfigureScripts configure_scripts_;
  std::optional<std::vector<RelPath>> header_folders_;  // once they were asked for
  bool built_in_ = true;
  bool exports_all_ = false;
  ConstructPart instance_;  // of the rule whose recipe is being read
  Site here_;               // of the function call that is being expanded
  int depth_ = 0;
  int evals_ = 0;  // that are being run, one inside the other
  std::size_t work_ = 0;
  // Everything is read, references are being made. A recipe that evaluates text can set variables then, no
  // more: make refuses rules there, too.
  bool is_emitting_ = false;
};

// '%' matching: the stem, if the word fits.
std::optional<TracedText> match_percent(const TracedText& pattern, const TracedText& word);
TracedText fill_percent(const TracedText& pattern, const TracedText& stem);
// The place where a whole text was written, if it is one stretch of one file.
std::optional<Passage> passage_of(const TracedText& text);

}  // namespace yc::make
