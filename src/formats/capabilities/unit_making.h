// Giving a folder a unit of its own by a file in it, as an assembly definition, and taking that back.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/edit.h"
#include "formats/capabilities/consequences.h"

namespace yc {

// A unit that is made, as lists of units show it.
struct MadeUnit {
  RelPath file, like;  // its boundary file, and that of the unit which it was a part of
  std::string name, identifier;
};

// What it takes: files that are made, edits of others, files that go; what stands in the way, if anything
// does.
struct UnitChange {
  std::map<RelPath, std::string> made;
  std::vector<Edit> edits;
  std::set<RelPath> dropped;
  std::vector<Blocker> blockers;
  std::vector<MadeUnit> units = {};
  std::vector<Notice> notices = {};  // what is left to do
};

// What stands in the way of a unit, or of a reference to one.
inline Blocker unit_blocker(const RelPath& file, std::string reason, std::string next) {
  return {"unit-reference", file, {}, "", std::move(reason), std::move(next)};
}

class UnitMaking {
 public:
  virtual ~UnitMaking() = default;
  // A unit of the folder's own within the one that its sources are in, with the references that it needs, and
  // those to it that its users then need. Nothing if no source of the folder is of a unit of this kind.
  virtual std::optional<UnitChange> make_unit(const TreeView& view, const RelPath& folder) const = 0;
  // Has the folder's sources belong to the unit called `name`, wherever that is.
  virtual std::optional<UnitChange> join_unit(const TreeView& view, const RelPath& folder,
                                              const std::string& name) const = 0;
  // The reverse of either.
  virtual std::optional<UnitChange> drop_unit(const TreeView& view, const RelPath& folder) const = 0;
};

// Lists of units, as solutions and workspaces are.
class UnitLists {
 public:
  virtual ~UnitLists() = default;
  // Lists the unit beside the one that it is like, wherever that is listed, and where a list has no pattern
  // for it.
  virtual std::vector<Edit> list_unit(const TreeView& view, const MadeUnit& unit) const = 0;
  // Takes the unit of a boundary file out of all lists by name.
  virtual std::vector<Edit> unlist_unit(const TreeView& view, const RelPath& file) const = 0;
};

}  // namespace yc
