// A reference: bytes that name something in the tree, what they lead to, and how they got their meaning.
#pragma once

#include <memory>
#include <string>
#include <string_view>
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

struct Reference {
  Role role = Role::source;
  Certainty certainty = Certainty::certain;
  std::uint8_t format = 0;    // index into the registry
  bool is_pattern = false;    // text is a wildcard pattern
  bool deep = false;          // its last component matches at any depth
  std::string filter;         // with `deep`: text is a folder, and this the pattern of names below it;
                              // else "*" if a command looks into the folders that its pattern takes
  TracedText whole;           // with `deep`: the word that holds it, if the text is only its head
  bool percent = false;       // '%' is its wildcard, matched against words rather than against the disk
  bool excludes = false;      // takes what it names out of a list
  bool may_gain = false;      // a file that comes into its reach changes nothing
  bool feeds_list = false;    // its result is a list that other constructs use and are judged by
  bool in_list = false;       // another word may stand beside it
  bool angled = false;        // <…> rather than "…"
  bool ordered = false;       // its command hands its targets on in the order of their names
  bool own_spelling = false;  // its text is no plain path: only its format can spell it
  std::string lead;           // what stands in the text for the first of `search`, as an alias: "@/"
  bool dangling = false;      // names something that is not there, in a construct that wants it
  SiteChain key;
  RelPath instance;  // the source that a rule for many is applied to here; tells constructs of one key apart
  TracedText text;
  Base base;                                     // for includes, the folder of the including file
  std::vector<Base> search;                      // further folders that the text is looked up in, in order
  std::vector<Target> targets;                   // sorted, no duplicates
  std::vector<InContext> contexts;               // for includes
  std::shared_ptr<const Derivation> derivation;  // if it was found so
};

}  // namespace yc
