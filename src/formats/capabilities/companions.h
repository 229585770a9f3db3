// What else must change, or be there, when files of a language move.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "formats/proposals.h"

namespace yc {

// A tree before a move, and the files of it that the format claims, sorted.
struct ClaimedTree {
  const TreeReader& tree;
  const std::vector<RelPath>& files;
};

class FollowingNames {
 public:
  virtual ~FollowingNames() = default;
  // Ways to have names follow that files take from their own paths, as include guards.
  virtual std::vector<Proposal> follow_names(const ClaimedTree&, const MoveSet&) const { return {}; }
  // Ways to have lists name what is new to them, as the package that a module goes to. What they name already
  // is left, so that it may be asked of moves that were made before.
  virtual std::vector<Proposal> list_new_members(const ClaimedTree&, const MoveSet&) const { return {}; }
};

class NeededChanges {
 public:
  virtual ~NeededChanges() = default;
  // Files that new folders need so that what moves into them is found as before, with their bytes.
  virtual std::map<RelPath, std::string> needed_files(const TreeReader&, const MoveSet&) const { return {}; }
  // Edits that hold whatever else is edited, because texts elsewhere go on meaning what they do by them.
  virtual std::vector<Proposal> needed_edits(const ClaimedTree&, const MoveSet&) const { return {}; }
};

class Forwarding {
 public:
  virtual ~Forwarding() = default;
  // What to leave at the old place of a file so that those who name it there still get it; nothing if the
  // language has no such thing for this file.
  virtual std::optional<std::string> forwarder(const TreeReader& tree, const RelPath& old_path,
                                               const RelPath& new_path, std::string_view bytes) const = 0;
  // Where that is left: at the old place, or where importers look who still ask for the old name.
  virtual RelPath forwarder_place(const RelPath& old_path, const RelPath& /*new_path*/) const {
    return old_path;
  }
  // Whether the language forwards by a name in another source instead (see BoundaryReport::forwards).
  virtual bool leaves_name(const Move&) const { return false; }
  // The file that one which was left so forwards to.
  virtual std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const = 0;
};

}  // namespace yc
