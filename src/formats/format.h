// What a format is: it reads one language into the graph, and writes in it. What only some languages can do
// are the interfaces in capabilities/, which their formats offer beside this one.
#pragma once

#include <memory>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "base/edit.h"
#include "formats/facts_cache.h"
#include "formats/ways.h"
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
  std::uint8_t self;  // the format's own index
  GraphBuilder& out;
  const std::vector<RelPath>& files;  // those that it claims, sorted; protected ones may be among them

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
  // Reads the files of this format. Formats that come later in the registry see the graph so far, so that
  // sources are read in the contexts that build scripts gave.
  virtual void read(const Reading& in) const = 0;
  // The same, where only some files have changed since the last time. Only saves time.
  virtual void read_again(const Reading& in, Memory& /*memory*/, const IsSame& /*same*/) const { read(in); }
  // Whether its files are read in the scopes that others give, and confined to what a move touches (see
  // Focus). Such formats stand last in the registry.
  virtual bool reads_sources() const { return false; }
  // Fills the cache with what the bytes of single files tell, on all cores; with a focus, what the readings
  // that are confined to it will ask. Only saves time.
  virtual void prepare(const TreeReader&, FactsCache&, std::uint8_t /*self*/,
                       const std::vector<RelPath>& /*files*/, const Focus*) const {}

  // `text` as it must be written in place of a literal of that style; nothing if the language cannot say it
  // there.
  virtual std::optional<std::string> write(std::string_view text, WritingStyle style) const = 0;
};

// All formats, in the order in which they are read.
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
// The formats that offer something, in order.
template <typename Capability>
std::vector<const Capability*> all_that_offer() {
  std::vector<const Capability*> out;
  for (const auto& format : formats()) {
    if (const Capability* offered = offer<Capability>(*format)) out.push_back(offered);
  }
  return out;
}

// The files that each format claims, by the formats' indices. A tree is looked through once.
using ClaimedFiles = std::vector<std::vector<RelPath>>;
ClaimedFiles claimed_files(const TreeReader& tree);

// Reads one tree again and again while only some of its files change. What build scripts mean is kept as long
// as none of the files that were read for it changed.
class GraphReader {
 public:
  // `same` tells whether a file has the bytes that it had at the last call; at the first one it is not asked.
  ReferenceGraph read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                      const Focus* focus = nullptr);

 private:
  std::optional<ClaimedFiles> claimed_;
  std::optional<GraphBuilder> scripts_;  // as all formats left it that read no sources
  std::set<RelPath> read_;
  std::map<std::size_t, Memory> sources_;  // of the others
  std::size_t size_ = 4096;                // about how many references to expect
};

// Reads a whole tree.
ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache);

}  // namespace yc
