// The build units of a tree, whatever says so: who builds a file, who uses whom, and what a change or a move
// means for them.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/format.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

struct UnitInfo {
  std::string name;
  std::string kind;           // what kind of unit: "cmake", "assembly", "package", …
  RelPath file;               // that defines it
  std::set<RelPath> members;  // files that it builds
  bool nearest = false;       // the members are what lies below its folder, up to the next unit of its kind
  std::vector<std::size_t> uses;       // other units, by their numbers
  std::vector<std::string> platforms;  // the only ones it is built for; all, if empty
};

class UnitMap {
 public:
  UnitMap(const TreeReader& tree, const ReferenceGraph& graph);

  const std::vector<UnitInfo>& all() const { return units_; }
  // The units that a file is a part of.
  std::vector<std::size_t> owners(const RelPath& path) const;
  // The same, and those that include it.
  std::vector<std::size_t> builders(const RelPath& path) const;
  // Those that use any of `units`, directly or through others, each with the unit through which it does.
  std::map<std::size_t, std::size_t> users(const std::set<std::size_t>& units) const;

 private:
  using ByFile = std::map<RelPath, std::size_t>;  // units, by the boundary file that defines them
  ByFile take_boundaries(const ReferenceGraph& graph);
  std::vector<std::size_t> take_units(const ReferenceGraph& graph, const ByFile& by_file);
  void take_source_units(const TreeReader& tree, const ReferenceGraph& graph);
  void take_folders(const TreeReader& tree, const ReferenceGraph& graph, const ByFile& by_file);
  void note_includers(const ReferenceGraph& graph, const std::vector<std::size_t>& number);

  std::vector<UnitInfo> units_;
  std::map<RelPath, std::vector<std::size_t>> owners_, includers_;
};

struct Impact {
  struct Row {
    std::string unit, kind, why;
  };
  struct Change {
    RelPath from, to;                        // the file, before and after
    std::vector<std::string> before, after;  // the units that it is a part of
  };
  std::size_t files = 0;           // that were asked about
  std::vector<UnitInfo> units;     // all of them
  std::vector<Row> rebuilt;        // if these files change
  std::vector<Change> changes;     // if they move
  std::vector<RelPath> unreached;  // files that no unit would be made of any more, though one is now
};

// What is rebuilt if files change; folders stand for all that is in them.
Impact impact_of_change(const TreeReader& tree, const ReferenceGraph& graph,
                        const std::vector<RelPath>& paths);
// The same for what moves, and what the move means for its units. `planned` is the tree after the move.
Impact impact_of_move(const ReadTree& before, const ReadTree& planned, const MoveSet& moves);

}  // namespace yc
