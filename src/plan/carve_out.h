// Which statements of one build script a folder's own script takes along, and where that one is read from.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "formats/capabilities/carving.h"
#include "plan/carve.h"

namespace yc {

// One script that a folder is carved out of.
class CarveOut {
 public:
  // All must outlive it.
  CarveOut(const TreeReader& tree, const ReferenceGraph& graph, std::uint8_t format, const RelPath& script,
           const RelPath& folder);

  // Whether anything goes to the folder's script; `put_into` then adds it to a plan.
  bool choose();
  // `looks_above`: units go on looking for includes in the folder of the script that they leave.
  void put_into(Plan& plan, bool looks_above);
  const RelPath& own_script() const { return child_; }
  const RelPath& script() const { return script_; }

 private:
  struct About {  // what a statement names
    bool here = false, elsewhere = false;
    bool root_here = false, root_elsewhere = false;  // folders to look in
    bool spells = false;                             // itself, a path of the folder
    bool has_unit = false;                           // it defines something that is built of sources here
    bool names_folder = false;                       // as a whole, for another use than to look in it
    bool moves = false, was_dropped = false;
    std::optional<ScriptSplit> split;
  };

  std::size_t part_at(FileIndex file, std::uint32_t offset) const;
  void look_at_references();
  void look_at_units();
  bool drop_misfits();
  bool drop_orphans();
  bool drop_relative_strangers();
  bool drop_shared_names();
  bool fit_order();
  bool bring_along_or_drop();
  void drop(std::size_t index);
  void add_companions();
  void split_lists();
  bool depends(const std::set<std::string>& sets, const std::set<std::string>& uses,
               const ScriptPart& other) const;
  std::string child_text(std::size_t from, std::size_t to, std::vector<Blocker>& blockers) const;
  void parent_edits(Plan& plan) const;

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  std::uint8_t format_;
  const Carver& carver_;
  RelPath script_, folder_, child_;
  bool looks_above_ = false;
  std::string below_;  // the folder, from the script's
  Bytes bytes_;
  FileIndex file_;
  std::vector<ScriptPart> parts_;
  std::vector<About> about_;
  std::optional<std::size_t> entered_at_;  // the statement that has the folder's script read already
  std::size_t call_at_ = 0;                // the statement that the call is put before
};

}  // namespace yc
