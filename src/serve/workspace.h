// One tree that an editor has open: its snapshot, the unsaved texts on top, and its graph, all kept warm.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "carry/file_system.h"
#include "carry/state.h"
#include "formats/format.h"
#include "observe/observation.h"
#include "plan/config.h"
#include "plan/plan.h"
#include "tree/buffer_tree.h"
#include "tree/disk_tree.h"
#include "tree/folder_watch.h"

namespace yc {
class KeptParts;
}

namespace yc::serve {

// A tree as a program opens it: see docs/editors.md for how its root is found.
struct OpenedTree {
  std::string root;  // absolute
  Config config;
  std::shared_ptr<DiskTree> disk;
  std::shared_ptr<KeptParts> parts;
  std::vector<Observation> observed;
  StatePlace place;
  std::shared_ptr<Timings> timings;  // is told what answers take; may be null
};
// Opens the tree that a folder (absolute) lies in.
using OpenTree = std::function<Result<OpenedTree>(const std::string& folder)>;

class Workspace {
 public:
  // Reads the listing; what files say is read when it is asked for.
  static Result<std::unique_ptr<Workspace>> open(OpenTree open, const std::string& folder);

  const std::string& root() const { return now_.root; }
  const Config& config() const { return now_.config; }
  const StatePlace& place() const { return now_.place; }
  std::string absolute(const RelPath& path) const { return now_.disk->absolute(path); }
  // Nothing for what lies outside.
  std::optional<RelPath> path_in(const std::string& absolute) const;

  // An unsaved text; null once the editor has closed the file.
  void set_text(const RelPath& path, Bytes text);
  // Somebody changed, made or took away files: the disk is looked at again before the next question.
  void changed_on_disk(const std::set<RelPath>& files);
  // Looks for names that came or went without a word; or for any change, before an answer that others rely
  // on.
  void look_for_changes(bool of_texts = false);
  // Files that were seen to have gone from one place to another since somebody last asked, one by one.
  std::vector<Move> take_moves_seen();

  // With the unsaved texts.
  const TreeReader& tree();
  const ReferenceGraph& graph();
  // The references that stand in a file, by their numbers, in order.
  const std::vector<std::size_t>& standing_in(const RelPath& file);
  Plan plan(MoveSet moves, std::function<bool()> is_unwanted);
  // For one plan.
  PlanOptions plan_options();
  // Grows by one with whatever may change an answer.
  std::size_t age() const { return age_; }
  bool is_read() const { return is_current_ && graph_; }

 private:
  explicit Workspace(OpenTree open) : open_(std::move(open)) {}
  void look_again();
  bool is_watched() const { return watched_late_ == std::optional(now_.disk->late_folders()); }
  bool is_watched_quietly();
  void lay_texts();
  void learn_texts();
  struct GoneFile {
    std::uint64_t size = 0;
    std::int64_t mtime_ns = 0;
    Bytes bytes;  // null if nobody had read it
  };
  void note_moves(const DiskTree& before);
  bool is_same(const GoneFile& gone, const RelPath& path) const;

  OpenTree open_;
  OpenedTree now_;
  std::map<RelPath, Bytes> texts_;
  std::unique_ptr<FolderWatch> watch_;       // of the disk as it was last scanned; null where it cannot be
  std::optional<std::size_t> watched_late_;  // late folders of the disk that are watched; nothing before
  std::unique_ptr<BufferTree> tree_;
  std::shared_ptr<FactsCache> facts_;
  TextSignatures signatures_;  // of what is saved
  std::unique_ptr<GraphReader> reader_;
  std::unique_ptr<ReferenceGraph> graph_;
  bool is_current_ = false;    // the graph is that of the tree
  bool is_disk_known_ = true;  // nobody changed the disk since it was looked at
  bool are_texts_laid_ = false;
  std::set<RelPath> changed_;         // since the graph was read
  std::set<RelPath> on_disk_;         // since the disk was looked at
  std::map<RelPath, GoneFile> gone_;  // that may still come again elsewhere
  std::vector<Move> moves_seen_;
  std::map<RelPath, std::vector<std::size_t>> by_file_;
  std::size_t age_ = 0;
};

}  // namespace yc::serve
