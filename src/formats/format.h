// What a format is: it reads one language into the graph, and respells in it.
#pragma once

#include <array>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/edit.h"
#include "formats/carving.h"
#include "model/graph.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// Results of reading a file's bytes alone, kept while a plan is made. Safe to share by threads.
class FactsCache {
 public:
  // The same bytes in memory are the same key; a tree that keeps its contents gives them out again and again.
  template <typename Facts, typename Make>
  std::shared_ptr<const Facts> get(std::uint8_t format, const Bytes& bytes, Make make) {
    Shelf& shelf = shelves_[std::hash<const std::string*>{}(bytes.get()) / 64 % shelves_.size()];
    std::pair key{format, bytes.get()};
    {
      std::lock_guard lock(shelf.mutex);
      if (auto known = shelf.slots.find(key); known != shelf.slots.end())
        return std::static_pointer_cast<const Facts>(known->second.facts);
    }
    auto facts = std::make_shared<const Facts>(make(*bytes));
    std::lock_guard lock(shelf.mutex);
    shelf.slots.emplace(key, Slot{bytes, facts});
    return facts;
  }

  // Whether a file of so many bytes at a path is worth reading closely, asked once: a plan reads a tree
  // twice, and does not keep what is not worth it. Only for questions whose answer an edit of the plan does
  // not change; the answer is no only for a file that holds none of the names in the focus.
  template <typename Ask>
  bool verdict(const RelPath& path, std::size_t size, Ask ask) {
    Shelf& shelf = shelves_[std::hash<RelPath>{}(path) % shelves_.size()];
    {
      std::lock_guard lock(shelf.mutex);
      auto known = shelf.verdicts.find(path);
      if (known != shelf.verdicts.end() && known->second.first == size) return known->second.second;
    }
    bool answer = ask();
    std::lock_guard lock(shelf.mutex);
    shelf.verdicts[path] = {size, answer};
    return answer;
  }

  // Files that a format passed over when it prepared for all readings that are confined to `focus`, sorted:
  // they hold nothing that these ask for. Set before the readings begin.
  void pass_over(std::uint8_t format, const Focus* focus, std::vector<RelPath> files) {
    passed_over_[{format, focus}] = std::move(files);
  }
  const std::vector<RelPath>& passed_over(std::uint8_t format, const Focus* focus) const {
    static const std::vector<RelPath> none;
    auto at = passed_over_.find({format, focus});
    return at == passed_over_.end() ? none : at->second;
  }

  // The answer to verdict(), if it was asked.
  std::optional<bool> known_verdict(const RelPath& path, std::size_t size) {
    Shelf& shelf = shelves_[std::hash<RelPath>{}(path) % shelves_.size()];
    std::lock_guard lock(shelf.mutex);
    auto known = shelf.verdicts.find(path);
    if (known == shelf.verdicts.end() || known->second.first != size) return std::nullopt;
    return known->second.second;
  }

 private:
  struct Slot {
    Bytes bytes;  // kept, so that no other content can come to stand at its address
    std::shared_ptr<const void> facts;
  };
  // Many, so that threads seldom wait for each other.
  struct Shelf {
    std::mutex mutex;
    std::map<std::pair<std::uint8_t, const std::string*>, Slot> slots;
    std::unordered_map<RelPath, std::pair<std::size_t, bool>> verdicts;
  };
  std::array<Shelf, 16> shelves_;
  std::map<std::pair<std::uint8_t, const Focus*>, std::vector<RelPath>> passed_over_;
};

// One way to make references lead where they should: edits that belong together.
struct Way {
  std::vector<Edit> edits;
  std::string remark;  // worth telling the user, or empty
};

inline constexpr std::size_t kNoRule = static_cast<std::size_t>(-1);

// A reference that must lead somewhere else, as a format's own strategies see it.
struct Need {
  const ReferenceGraph& graph;  // of the tree before the move
  const Reference& reference;
  std::vector<Target> wanted;  // its targets after the move
  RelPath new_base;            // its base after the move
  const TreeReader& tree;      // before the move
  const MoveSet& moves;
  std::size_t alias_from = kNoRule;  // specifiers that would climb so many folders go through an alias
  FactsCache* cache = nullptr;       // of what files say, where one is kept
};

// What goes wrong when a program runs, though every reference leads where it should.
struct Hazard {
  std::string id;
  RelPath file;  // in the planned tree
  Span span;
  std::string text, reason, next;
};
// A tree with its graph, before a move and as it is planned.
struct TreeView {
  const TreeReader& tree;
  const ReferenceGraph& graph;
};

// What a move across the boundaries of units means for their references to each other.
struct BoundaryReport {
  std::vector<Notice> notices;   // which unit each file leaves and joins
  std::vector<Hazard> lacks;     // references that a unit would lack
  std::vector<Way> links;        // that add them, with edits of the tree before the move
  std::vector<Hazard> refusals;  // what no reference can mend
};

// What a format keeps from one reading of a tree for the next, in which only the contents of some files have
// changed. Empty at the first reading.
class Memory {
 public:
  template <typename Kept>
  Kept& get() {
    if (!kept_) kept_ = std::make_shared<Kept>();
    return *static_cast<Kept*>(kept_.get());
  }

 private:
  std::shared_ptr<void> kept_;
};
using IsSame =
    std::function<bool(const RelPath&)>;  // whether a file has the bytes it had at the last reading

class Format {
 public:
  virtual ~Format() = default;
  virtual std::string_view name() const = 0;
  // What its units are called, in the singular: "project".
  virtual std::string_view unit_kind() const { return name(); }

  // Reads all files of this format in the tree. Formats that come later in the registry see the graph so far,
  // so that sources are read in the contexts that build scripts gave.
  virtual void read(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
                    GraphBuilder& out) const = 0;
  // The same, where only some files have changed since the last time. Only saves time.
  virtual void read_again(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out,
                          Memory& memory, const IsSame& same) const;

  // Whether its files are read in the scopes that others give, and confined to what a move touches (see
  // Focus). Such formats stand last in the registry.
  virtual bool reads_sources() const { return false; }
  // Whether other files' references are looked up elsewhere once this file moves.
  virtual bool governs(const RelPath& path) const;

  // Fills the cache with what the bytes of single files tell, on all cores; with a focus, what the readings
  // that are confined to it will ask. Only saves time.
  virtual void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
                       const Focus* focus) const;

  // `text` as it must be written in place of a literal of that style; nothing if the language cannot say it
  // there.
  virtual std::optional<std::string> write(std::string_view text, WritingStyle style) const = 0;
  // The word or argument, with its quotes, that holds a literal.
  virtual Span word_at(std::string_view bytes, Span literal) const = 0;
  // Text to insert at the end of a word so that `text` stands beside it as a word of its own.
  virtual std::optional<std::string> beside(std::string_view bytes, Span word,
                                            std::string_view text) const = 0;
  // What to delete so that a word disappears with the space it needs; nothing if the construct cannot lose
  // it.
  virtual std::optional<Span> without(std::string_view bytes, Span word) const = 0;
  // All ways for a reference of its own spelling (Reference::own_spelling), best first.
  virtual std::vector<Way> own_ways(const Need& need) const;
  // Ways that only this language has, tried before the general ones, and after them.
  virtual std::vector<Way> first_ways(const Need& need) const;
  virtual std::vector<Way> further_ways(const Need& need) const;
  // A way to keep a path, spelled from the pattern's base, out of the list that a pattern fills.
  virtual std::optional<Way> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                     const std::string& path, const TreeReader& tree) const;
  // A way to list files by name, spelled from the pattern's new base, that a pattern without a spelling of
  // its own, such as a default of a tool, no longer takes in.
  virtual std::optional<Way> list_by_name(const ReferenceGraph& graph, const Reference& pattern,
                                          const std::vector<std::string>& paths,
                                          const TreeReader& tree) const;
  // Why a reference cannot lead to `target` in this language, and what would help, if it has a reason of its
  // own.
  struct Reason {
    std::string why, next;
  };
  virtual std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                        const RelPath& new_base, const RelPath& target) const;
  // Ways to have the folders made that products of a script need. Products are of the planned tree.
  virtual std::vector<Way> provide_folders(const RelPath& script, const std::string& bytes,
                                           const std::vector<const Reference*>& products) const;
  // Ways to have names follow that files take from their own paths, as include guards.
  virtual std::vector<Way> follow_names(const TreeReader& tree, const MoveSet& moves) const;
  // Files that new folders need so that what moves into them is found as before, with their bytes.
  virtual std::map<RelPath, std::string> needed_files(const TreeReader& tree, const MoveSet& moves) const;
  // Edits that hold whatever else is edited, because texts elsewhere go on meaning what they do by them.
  virtual std::vector<Way> needed_edits(const TreeReader& tree, const MoveSet& moves) const;
  // What the move would bring about that was not so before.
  virtual std::vector<Hazard> hazards(const TreeView& before, const TreeView& planned,
                                      const MoveSet& moves) const;
  // Whether its files are projects that list their members one by one, and may know no case of letters.
  virtual bool lists_members() const { return false; }
  virtual bool ignores_case() const { return lists_members(); }
  // Edits that have a project list a file as it lists the target of `like`, and that take a member out.
  virtual std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like,
                                        const RelPath& path, const TreeReader& tree) const;
  virtual std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                          const TreeReader& tree) const;
  virtual BoundaryReport boundary_changes(const TreeView& before, const TreeView& planned,
                                          const MoveSet& moves) const;
  // Edits of one file that give a folder a name in its program, and put that in the place of the folder in
  // all of `references`, which stand in the file and lead into the folder; none if the language cannot.
  virtual std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                             const std::vector<const Reference*>& references,
                                             const std::string& name, const RelPath& folder) const;
  // What to leave at the old place of a file so that those who name it there still get it; nothing if the
  // language has no such thing for this file.
  virtual std::optional<std::string> forwarder(const TreeReader& tree, const RelPath& old_path,
                                               const RelPath& new_path, std::string_view bytes) const;
  // Where that is left: at the old place, or where importers look who still ask for the old name.
  virtual RelPath forwarder_place(const RelPath& old_path, const RelPath& new_path) const;
  // The file that one which was left so forwards to.
  virtual std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const;
  // How folders get scripts of their own in this language; null if it has no such thing.
  virtual const Carver* carver() const { return nullptr; }
  // Ways to give a unit one more search root.
  virtual std::vector<Way> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                           const TreeReader& tree) const;
};

// A format whose literals stand alone: none is a word of a list that others could join or leave.
class LiteralFormat : public Format {
 public:
  Span word_at(std::string_view, Span literal) const override { return literal; }
  std::optional<std::string> beside(std::string_view, Span, std::string_view) const override {
    return std::nullopt;
  }
  std::optional<Span> without(std::string_view, Span) const override { return std::nullopt; }
};

// All formats, in the order in which they are read.
const std::vector<std::unique_ptr<Format>>& formats();
const Format& format_at(std::uint8_t index);

// Reads one tree again and again while only some of its files change. What build scripts mean is kept as long
// as none of the files that were read for it changed.
class GraphReader {
 public:
  // `same` tells whether a file has the bytes that it had at the last call; at the first one it is not asked.
  ReferenceGraph read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                      const Focus* focus = nullptr);

 private:
  std::optional<GraphBuilder> scripts_;  // as all formats left it that read no sources
  std::set<RelPath> read_;
  std::map<std::size_t, Memory> sources_;  // of the others
  std::size_t size_ = 4096;                // about how many references to expect
};

// Reads a whole tree.
ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache);

}  // namespace yc
