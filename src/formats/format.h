// What a format is: it reads one language into the graph, and writes in it. What only some languages can do
// are the interfaces in capabilities/, which their formats offer beside this one.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "base/edit.h"
#include "formats/facts_cache.h"
#include "formats/proposals.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

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
// Whether a file has the bytes that it had at the last reading.
using IsSame = std::function<bool(const RelPath&)>;

// What a format is given to read, and where it puts what it finds.
struct Reading {
  const TreeReader& tree;
  FactsCache& cache;
  std::uint8_t self;                  // the format's own index
  GraphBuilder& out;                  // files are numbered as in cache.parts()
  const std::vector<RelPath>& files;  // those that it claims, sorted; protected ones may be among them
  const Scopes& scopes;               // what other formats gave of the kinds that it needs

  // Calls read(path, bytes) for each of the files that may be edited and can be read, and counts those for
  // which it gives true.
  template <typename Read>
  void each(const Read& read) const {
    std::size_t done = 0;
    for (const RelPath& path : files) {
      auto bytes = tree.is_editable(path) ? tree.read(path) : Result<Bytes>(Error{});
      if (bytes && read(path, *bytes)) ++done;
    }
    count(done);
  }
  // Says how many files were read.
  void count(std::size_t done) const;
  // Says how often a script was run.
  void count_runs(std::size_t runs) const;
  // Has one part of what is read, which rests on nothing but what it asks the tree, read by `read`, or takes
  // what came of it where the tree gives the same answers. Gives what `read` gave: bytes that it packed with
  // the tables of cache.parts(). `key` tells the parts of a format apart.
  std::string part(const std::string& key, const std::function<std::string(const Reading&)>& read) const;
  // The scopes with what the format itself has given so far.
  Scopes scopes_by_now() const;
};

inline bool is_binary(std::string_view bytes) {
  return bytes.find('\0') != std::string_view::npos;
}

class Format {
 public:
  virtual ~Format() = default;
  virtual std::string_view name() const = 0;
  // What its units are called, in the singular: "project".
  virtual std::string_view unit_kind() const { return name(); }

  // Whether a file is of this format, as far as its path tells.
  virtual bool claims(const RelPath& path) const = 0;
  // What its files tell other formats, and what of others' it is read with. It is read after those that give
  // what it needs, and sees nothing else of them.
  virtual ScopeSet gives() const { return {}; }
  virtual ScopeSet needs() const { return {}; }
  // Whether its files are confined to what a move touches (see Focus). Such formats stand last in the
  // registry.
  virtual bool reads_sources() const { return false; }
  virtual void read(const Reading& in) const = 0;

  // `text` as it must be written in place of a literal of that style; nothing if the language cannot say it
  // there.
  virtual std::optional<std::string> write(std::string_view text, WritingStyle style) const = 0;
};

// Offered by formats that spare work between readings.
class Incremental {
 public:
  virtual ~Incremental() = default;
  // Reads, where only some files have changed since the last time.
  virtual void read_again(const Reading& in, Memory& memory, const IsSame& same) const = 0;
  // Fills the cache with what the bytes of single files tell, on all cores; with a focus, what the readings
  // that are confined to it will ask.
  virtual void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
                       const std::vector<RelPath>& files, const Focus* focus) const = 0;
};

// All formats. A format's index never changes while the program runs.
const std::vector<std::unique_ptr<Format>>& formats();
const Format& format_at(std::uint8_t index);

// What a format offers beside; null if it does not. See capabilities/.
template <typename Capability>
const Capability* offer(const Format& format) {
  return dynamic_cast<const Capability*>(&format);
}
template <typename Capability>
const Capability* offer(std::uint8_t format) {
  return offer<Capability>(format_at(format));
}
// What a format offers, with its index.
template <typename Capability>
struct Offered {
  std::uint8_t format;
  const Capability* what;
  const Capability* operator->() const { return what; }
};
// The formats that offer something, in order.
template <typename Capability>
std::vector<Offered<Capability>> all_that_offer() {
  std::vector<Offered<Capability>> out;
  for (std::size_t i = 0; i < formats().size(); ++i) {
    auto index = static_cast<std::uint8_t>(i);
    if (const Capability* offered = offer<Capability>(index)) out.push_back({index, offered});
  }
  return out;
}

// The files that each format claims, by the formats' indices. A tree is looked through once.
using ClaimedFiles = std::vector<std::vector<RelPath>>;
ClaimedFiles claimed_files(const TreeReader& tree);
// The same of a tree that has most of its paths in common with another, whose claimed files are known.
ClaimedFiles claimed_files(const TreeReader& tree, const TreeReader& other, const ClaimedFiles& known);

// The formats' indices in an order in which each comes behind those that give what it needs; as in the
// registry otherwise.
const std::vector<std::uint8_t>& reading_order();

// Reads one tree again and again while only some of its files change. What a format that reads no sources
// made of its files is kept as long as none of the files that were read for it changed, and none of the
// scopes that it needs.
class GraphReader {
 public:
  GraphReader() = default;
  // Of a tree whose claimed files are known.
  explicit GraphReader(ClaimedFiles claimed) : claimed_(std::move(claimed)) {}
  // With the contexts and compilations of `observed`, for sources of which no script says how they are
  // compiled.
  GraphReader(ClaimedFiles claimed, std::shared_ptr<const Scopes> observed)
      : claimed_(std::move(claimed)), observed_(std::move(observed)) {}
  // A reader of the same tree that has what this one knows of it, but for its sources: for a reading with a
  // focus.
  GraphReader without_sources() const;
  // `same` tells whether a file has the bytes that it had at the last call; at the first one it is not asked.
  ReferenceGraph read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                      const Focus* focus = nullptr);
  // Of the tree that is read; known from the first reading on.
  const ClaimedFiles& claimed() const { return *claimed_; }

 private:
  // What one format made of the tree.
  struct Part {
    bool is_read = false;
    ReferenceGraph graph;
    std::set<RelPath> read;  // the files that were read for it
    std::size_t age = 0;     // of the reading that made it
    Memory memory;
  };
  bool is_current(std::uint8_t format, const IsSame& same) const;
  Scopes scopes_for(std::uint8_t format) const;
  Scopes observed_beside(const std::vector<Compilation>& known) const;

  std::optional<ClaimedFiles> claimed_;
  std::shared_ptr<const Scopes> observed_;
  std::shared_ptr<FileTable> files_;  // of all parts that are kept
  std::vector<Part> parts_;
  std::size_t readings_ = 0;
};

// Reads a whole tree.
ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache);

}  // namespace yc
