// The reference graph of a tree: what its readers found, resolved.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <tuple>
#include <unordered_map>
#include <unordered_set>
#include <vector>

#include "base/budget.h"
#include "model/reference.h"

namespace yc {

// Interns paths, so that sites and origins stay small.
class FileTable {
 public:
  FileIndex index(const RelPath& path);
  FileIndex find(const RelPath& path) const;  // kNoFile when never seen
  const RelPath& path(FileIndex index) const {
    auto at = static_cast<std::size_t>(index);
    return settled_ && at < settled_->paths.size() ? settled_->paths[at] : fresh_.paths[at - settled()];
  }
  std::size_t size() const { return settled() + fresh_.paths.size(); }
  // Has copies share most of the numbers that were given so far: those of a large tree are copied for each of
  // its graphs otherwise.
  void settle();

 private:
  struct Numbers {
    std::vector<RelPath> paths;
    std::unordered_map<RelPath, FileIndex> indices;
  };
  std::size_t settled() const { return settled_ ? settled_->paths.size() : 0; }

  std::shared_ptr<Numbers> settled_;  // never changed while others have it; null at first
  Numbers fresh_;                     // the numbers behind those
};

struct SearchRoot {
  Place place;
  bool quoted_only = false;
  // Named as a folder of the build tree. Whoever builds in the source tree finds sources there, too, and
  // nobody else does: nothing new may rest on that.
  bool as_built = false;
  auto operator<=>(const SearchRoot& other) const {
    if (auto c = place.space <=> other.place.space; c != 0) return c;
    if (auto c = place.path <=> other.place.path; c != 0) return c;
    if (auto c = quoted_only <=> other.quoted_only; c != 0) return c;
    return as_built <=> other.as_built;
  }
  bool operator==(const SearchRoot&) const = default;
};

// A macro that a build script defines as a quoted or angled path.
struct PathMacro {
  std::string name;
  TracedText value;  // the path, without its quotes
  bool angled = false;
  Reference definition;  // how the script itself would refer to the path: its format, construct and base
};

// Whose build tree is meant, where a project has scripts of several tools: one does not see what another
// makes. A literal that the formats of one tool share; empty for any.
using BuildTool = std::string_view;
// The one that leaves what it makes among the sources, as a plain makefile does. What it makes is found from
// beside it.
inline constexpr BuildTool kBuildsInPlace = "in place";

// The ordered search roots that some sources are compiled with, and files forced into each of them.
struct Context {
  std::vector<SearchRoot> roots;
  std::vector<RelPath> forced;
  std::vector<PathMacro> macros;
  bool open = false;  // there may be more roots, which evaluation cannot know
  Place start = {};   // the folder that the compiler is started in; outside where that is not known
  BuildTool tool = {};
};

// Equal for contexts that mean the same.
using ContextKey =
    std::tuple<std::vector<SearchRoot>, std::vector<RelPath>, std::string, bool, std::string, BuildTool>;
ContextKey key_of(const Context& context);

// What is compiled or packaged as one.
struct Unit {
  std::string name;
  std::uint8_t format = 0;
  Site site;                           // where it is defined
  std::vector<TracedText> root_words;  // words that give it a search root, in order
  std::vector<std::string> uses = {};  // names of other units of its format that it links or depends on
};

// One compilation of one source.
struct Compilation {
  RelPath source;
  ContextIndex context = kNoContext;
  std::int32_t unit = -1;
};

// A text with a part that evaluation cannot know.
struct Hole {
  TracedText text;
  Base base;
  std::uint8_t format = 0;
};

struct Notice {
  std::string id;  // stable, e.g. "unreadable-script"
  RelPath file;
  Span span;
  bool has_place = false;
  std::string message;
};

// A text that names something which is not there, as may be right: it may be made later, installed, or served
// by others. Where the tree has a file of that name elsewhere, it is most likely meant.
inline constexpr std::string_view kMissingSource = "source";  // that a command would compile
struct Unmet {
  RelPath file;
  Span span;
  std::string_view what;  // "link", "module": a literal; kMissingSource in what is kept of build scripts
  std::string text;
  RelPath wanted;                           // where it would be
  std::vector<std::string_view> endings{};  // of which `wanted` leaves one out; literals
  bool is_note = false;                     // it may as well be something that is installed
  bool is_told = false;                     // also where nothing else has its name, as a note
};

// What a build script copies into the build tree.
struct BuildCopy {
  RelPath of;                // a file or folder of the tree
  bool named_after = false;  // is called in the build tree what `of` is called
  FileIndex script = kNoFile;
  bool is_of_project = false;  // is put beside a program whose sources lie in the script's folder
};

// A file kept in the tree that a tool makes from a script: stale once the script has changed.
struct Generated {
  RelPath script, product;
  std::string command;  // that makes it anew
};

// An object that several sources would be compiled to in one run of a build, one over the other.
struct ObjectClash {
  std::string object;  // its path
  std::set<RelPath> sources;
  Site site;  // the construct that says so
  auto operator<=>(const ObjectClash&) const = default;
};

// An object that a command does not leave where its rule is to make it, so that the build goes on without it:
// in the folder that the compiler is started in, or in one that nothing makes.
struct StrayObject {
  RelPath wanted;
  std::optional<RelPath> left;  // where the compiler puts it; nothing where its folder is missing
  Site site;                    // the command
  auto operator<=>(const StrayObject&) const = default;
};

// A name, or the head of names, that stands for a place: a compiler's path alias, what a package exports.
struct Alias {
  RelPath scope;              // files in this folder and below may use it
  RelPath settings;           // the file that says so
  std::string head, tail;     // of the names; a name that is not open is its head
  bool open = false;          // something stands between head and tail, and takes the place of the star
  RelPath place;              // what the name stands for; if open, the folder of what the names stand for
  std::string before, after;  // open: what stands around the star: place/before*after
  bool styles = false;        // for stylesheets only: a folder that they are looked up in
};

// Folders that relative specifiers of the files within them look through as if they were one.
struct MergedFolders {
  RelPath scope;  // whose files the settings are for
  std::vector<RelPath> folders;
};

// A folder that modules are looked up in by dotted names, as settings or a program say.
struct ModuleRoot {
  RelPath folder;
  RelPath scope;     // whose files are looked at for the settings to be theirs
  RelPath settings;  // the file that says so
};

// A unit whose files follow from where they are: the nearest file of its kind upwards decides (an assembly
// definition, a package's manifest), or a project lists them.
struct Boundary {
  RelPath file;  // that says so
  std::string name, kind;
  bool nearest = true;
  std::set<RelPath> members;           // if not `nearest`
  std::vector<RelPath> uses;           // the files of other boundaries that it refers to
  std::vector<std::string> platforms;  // the only ones it is built for; all, if empty
  RelPath joins = {};                  // what lies here is a part of that boundary; the root if it is its own
};

// Where a project shows a file: in a folder that need not be one on disk.
struct VirtualPlace {
  RelPath list;  // the file that says so
  RelPath path;
  std::string shown;  // parts between backslashes; empty for the top
  Span span;
};

// A folder that settings give a role, as that of pictures. Helpers of a language look files up in it.
struct RoleFolder {
  RelPath scope;     // whose files the settings are for
  RelPath settings;  // the file that says so
  std::string role;  // "images", "fonts", "styles"
  RelPath folder;
};

// Where a compiler puts what it makes of sources: `sources`/a/b.ts becomes `outputs`/a/b.js.
struct OutputFolder {
  RelPath settings;
  RelPath sources, outputs;
  bool inferred = false;  // `sources` is told by no setting: it is the deepest folder of all sources
};

// What a compiler makes of one source and the modules that it takes in.
struct Crate {
  RelPath root;      // its first source
  RelPath settings;  // the file that says so
  std::string name;  // by which other crates call it
  bool is_library = false;
  bool names_from_root = false;         // its imports are counted from its root, as in the edition of 2015
  std::map<std::string, RelPath> uses;  // what its sources call other crates, and the roots of these
};
// Why it is not known what a file of a known format names.
enum class Unread : std::uint8_t {
  garbled,    // it does not follow its language
  partly,     // not every side of its conditionals was looked at
  cut_short,  // evaluating it was given up
  no_access,  // it is there and cannot be read, or is too large for it
};

// What readers tell each other: where to look, and what is made of what.
struct Scopes {
  std::vector<Context> contexts;
  std::vector<Compilation> compilations;
  // Paths of the build tree that build scripts say they make; those of kBuildsInPlace lie in the tree itself.
  std::map<RelPath, std::set<BuildTool>> made;
  std::map<RelPath, RelPath> templates;     // files of the tree that are filled in, and what each becomes
  std::map<std::string, BuildCopy> copies;  // by their paths in the build tree
  std::map<RelPath, std::vector<Base>> lookups;    // where build scripts have the paths in a file looked up
  std::map<RelPath, std::set<RelPath>> solutions;  // that list each project
  std::vector<MergedFolders> merged_folders;
  std::vector<Alias> aliases;
  std::vector<OutputFolder> outputs;
  std::vector<RoleFolder> roles;
  std::map<RelPath, RelPath> entries;  // folders of packages, and the file that each begins with
  std::vector<ModuleRoot> module_roots;
  // Files and folders, and the paths at which they are installed with all that is in them: from whatever the
  // place of the installation is. Who uses what is installed looks for it there.
  std::map<RelPath, std::set<RelPath>> installed;
  std::map<RelPath, std::set<RelPath>> installed_made;  // the same of what the build makes
  std::set<RelPath> started;  // programs that are started by themselves, where imports depend on that
  std::map<RelPath, std::set<RelPath>> starts;  // scripts, and the folders that build scripts start them in
  std::vector<Crate> crates;
};

// Whether a file is installed: by itself, with a folder, or filled in.
bool is_installed(const Scopes& scopes, const RelPath& path);

// The kinds of scopes that a format gives or needs.
enum class Scope : std::uint16_t {
  search_roots = 1U << 0U,  // contexts, compilations
  products = 1U << 1U,      // made, templates
  copies = 1U << 2U,
  lookups = 1U << 3U,
  solutions = 1U << 4U,
  // Aliases, merged folders and entries, by who tells them: compilers, manifests, bundlers and pages.
  compiler_names = 1U << 5U,
  package_names = 1U << 6U,
  bundler_names = 1U << 7U,
  page_names = 1U << 8U,
  outputs = 1U << 9U,
  module_roots = 1U << 10U,
  programs = 1U << 11U,  // started
  installed = 1U << 12U,
  crates = 1U << 13U,
  roles = 1U << 14U,
  starts = 1U << 15U,
};
class ScopeSet {
 public:
  constexpr ScopeSet() = default;
  constexpr ScopeSet(Scope scope) : bits_(static_cast<std::uint16_t>(scope)) {}  // NOLINT: a set of one
  constexpr ScopeSet operator|(ScopeSet other) const {
    ScopeSet out;
    out.bits_ = static_cast<std::uint16_t>(bits_ | other.bits_);
    return out;
  }
  constexpr ScopeSet operator&(ScopeSet other) const {
    ScopeSet out;
    out.bits_ = static_cast<std::uint16_t>(bits_ & other.bits_);
    return out;
  }
  constexpr bool has(Scope scope) const { return !(*this & scope).empty(); }
  constexpr bool empty() const { return bits_ == 0; }
  constexpr bool operator==(const ScopeSet&) const = default;

 private:
  std::uint16_t bits_ = 0;
};
constexpr ScopeSet operator|(Scope a, Scope b) {
  return ScopeSet(a) | ScopeSet(b);
}
inline constexpr ScopeSet kAllNames =
    Scope::compiler_names | Scope::package_names | Scope::bundler_names | Scope::page_names;

// Adds what `more` holds of some kinds. Contexts keep their order, and are numbered anew; equal ones are one.
void add_scopes(Scopes& to, const Scopes& more, ScopeSet which);
// The kinds of which there is something; names count as any kind of names.
ScopeSet held_by(const Scopes& scopes);

// What is in a folder that is built or used as one, as its scripts and manifests say.
struct Holding {
  bool program = false, library = false;
  bool is_private = false;  // not for users outside of the tree
};
// What a format makes of a whole tree, kept with the graph for its own questions later.
struct Findings {
  virtual ~Findings() = default;
};

// A folder that a program of the project is given, or whose files a command lists for others.
struct HandedFolder {
  RelPath folder;
  bool is_copied = false;  // or that a command copies or packs, with all that is in it
  Site command;
  Passage at;
  auto operator<=>(const HandedFolder&) const = default;
};

struct ReferenceGraph : Scopes {
  FileTable files;
  std::vector<Reference> references;
  std::vector<Unit> units;
  std::vector<Hole> holes;
  std::vector<Notice> notices;
  std::vector<Unmet> unmet;
  std::vector<Generated> generated;
  std::set<ObjectClash> clashes;
  std::set<StrayObject> stray_objects;
  // Files and folders whose bytes a command compares with others, and where.
  std::map<RelPath, Site> compared;
  std::set<HandedFolder> handed;
  // For sources the options of each command that compiles them, but for those that name paths or the source.
  std::map<RelPath, std::set<std::string>> compile_options;
  std::vector<Boundary> boundaries;
  std::vector<VirtualPlace> virtual_places;
  std::map<RelPath, Unread> unread;  // files of known formats of which nobody knows what they name
  std::map<std::string, std::size_t> files_by_format;
  std::map<RelPath, Holding> holdings;
  std::map<std::uint8_t, std::shared_ptr<const Findings>> findings;  // by format
};

// What a reader of sources may confine itself to when a move is planned: references that stand in one of
// these files, or whose path ends in one of these names. All others lead to where they did, as long as no
// unit's search roots change.
struct Focus {
  std::unordered_set<RelPath> files;      // that move, by their old and new paths
  std::unordered_set<std::string> names;  // of files and folders that move, old and new
  std::unordered_set<std::string> left;   // of folders that files leave, which a program may complete
  std::unordered_set<std::string> stems;  // the same by which modules are named: without their endings
};

// Gathers what readers find; equal contexts are kept once.
class GraphBuilder {
 public:
  GraphBuilder() : files_(std::make_shared<FileTable>()) {}
  // With the numbers of files that others use too.
  explicit GraphBuilder(std::shared_ptr<FileTable> files) : files_(std::move(files)) {}
  // Has the products that others tell of wanted by their names (see wants_name()).
  void know_made(const std::map<RelPath, std::set<BuildTool>>& made);
  // Adds all that a part holds, whose files have the same numbers. Contexts and units are numbered anew,
  // but for the contexts of references: a part that has some got them from the parts before.
  void add_part(const ReferenceGraph& part);
  // `focus` must outlive the builder; null asks for everything.
  void confine(const Focus* focus) { focus_ = focus; }
  bool wants(const RelPath& file) const { return !focus_ || focus_->files.contains(file); }
  // By its last component. What the build makes is always wanted: its place follows that of its script.
  bool wants_name(std::string_view path) const;
  // The same for the specifier of a module, which may leave endings out.
  bool wants_stem(std::string_view path) const;
  const Focus* focus() const { return focus_; }
  bool wants_any_name(std::string_view path) const;  // by any component
  ReferenceGraph& graph() { return graph_; }
  FileTable& files() { return *files_; }
  // Keeps a reference, unless it is known already.
  void add(Reference reference);
  // Where in the graph each reference stands that was added, known ones included.
  const std::vector<std::size_t>& added() const { return added_; }
  ContextIndex context(Context context);
  void compile(const RelPath& source, ContextIndex context, std::int32_t unit);
  void hole(const TracedText& text, const Base& base, std::uint8_t format);
  // Says that the build makes a file at this path of the build tree, and of which file of the tree, if one is
  // filled in.
  void make(const RelPath& path, BuildTool tool, const std::optional<RelPath>& filled_in = std::nullopt);
  // Says that a file or a folder is installed in the folder that a text names, as `name` (empty: its contents
  // are). Where that folder is not known, holes stand for it.
  void install(const RelPath& path, const TracedText& folder, std::string_view name);
  // The same of a file that the build makes. What it includes is known if it is a template, filled in.
  void install_made(const RelPath& made, const TracedText& folder, std::string_view name);
  void generated(Generated file) { graph_.generated.push_back(std::move(file)); }
  // Has the paths in `file` looked up in these folders, in order.
  void look_up(const RelPath& file, const std::vector<Base>& folders);
  // Only where nothing is confined: no plan asks for it.
  void unmet(Unmet text) {
    if (!focus_) graph_.unmet.push_back(std::move(text));
  }
  void notice(std::string id, const RelPath& file, std::optional<Span> span, std::string message);
  // The same of a file that is not read, or not in full, so that it may name more than is known.
  void incomplete(Unread why, std::string id, const RelPath& file, std::optional<Span> span,
                  std::string message);
  // Every file of a script, when it is read: work is granted by how much there is to read.
  void admit(const RelPath& script, std::size_t bytes);
  // False once evaluating scripts has cost all that is granted. Whoever evaluates stops then, and says so.
  bool spend(std::size_t work) { return budget_.spend(work); }
  bool is_spent() { return !budget_.spend(0); }
  // Drops what was found twice, and puts the numbers of files in. Called once, at the end.
  ReferenceGraph finish();

 private:
  std::shared_ptr<FileTable> files_;
  ReferenceGraph graph_;
  Budget budget_;
  std::unordered_set<RelPath> admitted_;
  const Focus* focus_ = nullptr;
  // Of each reference that was added its hash and place, to see what is found again.
  std::unordered_multimap<std::size_t, std::size_t> known_;
  std::unordered_multimap<std::size_t, std::size_t> known_holes_;
  std::vector<std::size_t> added_;
  std::map<ContextKey, ContextIndex> contexts_;
  std::unordered_set<std::string> made_names_;
};

// Where a reference stands for a person: the first bytes that spell it, else the construct that uses it.
struct Standing {
  FileIndex file = kNoFile;
  Span span;
};
Standing standing_of(const Reference& reference);

}  // namespace yc
