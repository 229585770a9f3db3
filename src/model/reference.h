// A reference: bytes that name something in the tree, what they lead to, and how they got their meaning.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "base/path.h"
#include "base/traced_text.h"

namespace yc {

// A place in a file, by the offset at which a construct begins there.
struct Site {
  FileIndex file = kNoFile;
  std::uint32_t offset = 0;
  auto operator<=>(const Site&) const = default;
};

// The construct that uses a reference: the calls that led to it, outermost first, then the construct itself.
// Two readings of a tree, before and after a move, are matched by it.
using SiteChain = std::vector<Site>;

// What a construct wants with the path.
enum class Role : std::uint8_t {
  source,       // compiled, linked or otherwise read by a build unit
  script,       // another build script that is read in place
  subfolder,    // a folder whose own build script takes over
  search_root,  // a folder that other references are looked up in
  include,      // text that is included by a source
  pattern,      // a set of paths by wildcard
  argument,     // of a command that is run
  listed,       // named in a list, for installation or otherwise
  product,      // something that the build makes
  link,         // the text of a symbolic link
  module,       // what a source imports, by a specifier
};
std::string_view name_of(Role role);

enum class Certainty : std::uint8_t { certain, likely };

// What a text is relative to. A folder that belongs to a script follows that script.
struct Base {
  RelPath folder;
  FileIndex anchor = kNoFile;  // the script whose folder it is, if it is one's
  Space space = Space::tree;
  std::uint8_t levels = 1;  // with `anchor`: how far up from it. More than one for a script that is a part of
                            // a bundle, a folder that is opened as one document ("Gauges.xcodeproj")
};

struct Target {
  enum class Kind : std::uint8_t {
    tree,  // a file or folder of the tree
    made,  // made by a rule of the build out of `path`, or by the rule at `site` when it has no source of its
           // own
    build,   // a path in the build tree
    name,    // no path: what a build unit or a test is called; `path` holds the text
    output,  // a path that is not there yet, in a folder of the tree: the build will put it there
  };
  Kind kind = Kind::tree;
  RelPath path;
  Site site;
  auto operator<=>(const Target&) const = default;
};

using ContextIndex = std::int32_t;
inline constexpr ContextIndex kNoContext = -1;

// The target that one compilation context gives a reference; no target when it leads nowhere there.
struct InContext {
  ContextIndex context = kNoContext;
  bool found = false;
  RelPath target;
  bool is_made = false;  // target is a path of the build tree
  // How sure it is: 0 where the compiler looks there, more where it is only likely that some compiler does.
  // What is found after a move must be found as surely.
  std::uint8_t doubt = 0;
};

// A source found through the name of what is made from it: name = name_head + stem + name_tail, and likewise
// the source.
struct Derivation {
  TracedText name;
  std::string name_head, name_tail, source_head, source_tail;
  Site rule;              // that tells how; no file for a rule that the tool knows by itself
  std::size_t place = 0;  // among the sources that the rule names by the stem
};

// What tells references of one construct apart. The path follows a move, the tag does not.
struct ConstructPart {
  std::optional<RelPath> path;  // of the source that a rule for many is applied to, or of the folder that
                                // this is looked up in, where the construct may be looked up in others
  std::string tag;              // a word of the format's own, such as the number of a loop's round

  static ConstructPart of(RelPath path) { return {std::move(path), ""}; }
  static ConstructPart tagged(std::string tag) { return {std::nullopt, std::move(tag)}; }
  // Whether what the construct says is said for more than this one. A folder that is the root itself is where
  // everything is looked up.
  bool is_one_of_many() const { return (path && !path->is_root()) || !tag.empty(); }
  // Different for different ones.
  std::string str() const { return path ? "at " + path->str() + "\n" + tag : tag; }
  auto operator<=>(const ConstructPart&) const = default;
  bool operator==(const ConstructPart&) const = default;
};

// A set of paths by wildcard, where the text is not just one of them.
struct GlobPattern {
  enum class Kind : std::uint8_t {
    shell,    // matched folder by folder against the disk
    deep,     // the text is a folder; `names` is the pattern of the names at any depth below it
    percent,  // '%' is its wildcard, matched against words rather than against the disk
  };
  Kind kind = Kind::shell;
  std::string names = {};           // if deep
  TracedText whole = {};            // if deep: the word that holds it, if the text is only its head
  bool looks_into_folders = false;  // a command looks into the folders that it takes
};

// Text that is included by a source: <…> rather than "…", if angled.
struct IncludeText {
  bool angled = false;
};

// A text that is no plain path: only its format can spell it.
struct OwnSpelling {
  std::string lead;  // what stands in the text for the first of `search`, as an alias: "@/"
};

struct Reference {
  Role role = Role::source;
  Certainty certainty = Certainty::certain;
  std::uint8_t format = 0;                                                   // index into the registry
  std::variant<std::monostate, GlobPattern, IncludeText, OwnSpelling> kind;  // a plain word, if none
  bool excludes = false;    // takes what it names out of a list
  bool may_gain = false;    // a file that comes into its reach changes nothing
  bool feeds_list = false;  // its result is a list that other constructs use and are judged by
  bool in_list = false;     // another word may stand beside it
  bool ordered = false;     // its command hands its targets on in the order of their names
  bool dangling = false;    // names something that is not there, in a construct that wants it
  SiteChain construct;
  ConstructPart construct_part;
  TracedText text;
  Base base;                                     // for includes, the folder of the including file
  std::vector<Base> search;                      // further folders that the text is looked up in, in order
  std::vector<Target> targets;                   // sorted, no duplicates
  std::vector<InContext> contexts;               // for includes
  std::shared_ptr<const Derivation> derivation;  // if it was found so

  // A reference that leads nowhere yet.
  static Reference of(Role role, std::uint8_t format, SiteChain construct, Base base, TracedText text);
  // The same with one more thing known of it.
  Reference in(ConstructPart of_which) &&;
  Reference likely() &&;
  Reference guessed() &&;                    // likely, and what comes to lead somewhere changes nothing
  Reference as_sure_as(Certainty known) &&;  // guessed, if only likely
  Reference spelled_by_format(std::string lead = "") &&;
  Reference leading_to(RelPath path, Target::Kind as = Target::Kind::tree) &&;
  void lead_to(RelPath path, Target::Kind as = Target::Kind::tree) {
    targets.push_back({as, std::move(path), {}});
  }
  void lead_to(const std::vector<RelPath>& paths) {
    for (const RelPath& path : paths) lead_to(path);
  }

  const GlobPattern* glob() const { return std::get_if<GlobPattern>(&kind); }
  bool is_pattern() const { return glob() != nullptr; }
  bool is_deep() const { return glob() && glob()->kind == GlobPattern::Kind::deep; }
  bool is_percent() const { return glob() && glob()->kind == GlobPattern::Kind::percent; }
  bool is_angled() const {
    const auto* form = std::get_if<IncludeText>(&kind);
    return form && form->angled;
  }
  bool has_own_spelling() const { return std::holds_alternative<OwnSpelling>(kind); }
  std::string_view lead() const {
    const auto* own = std::get_if<OwnSpelling>(&kind);
    return own ? std::string_view(own->lead) : std::string_view();
  }
};

}  // namespace yc
