// References of Rust sources: modules that they declare, and paths that lead into other sources.
#pragma once

#include "formats/format.h"
#include "formats/rust/rust_crates.h"

namespace yc::rust {

// References of module lines bear this tag, and the conditions under which they hold.
inline const std::string kModuleTag = "module";

// Has all sources scanned on all cores.
void scan_all(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
              const std::vector<RelPath>& files);
// Adds them, and keeps the crates with the graph.
void add_references(const Reading& in);

// The segments of an import or a path that name a module, as pieces of text that stand together.
struct Prefix {
  std::vector<Segment> segments;
  std::vector<Span> chunks() const;
};

// The reference for a path from the graph, found again by what it spells.
struct Spelled {
  int module = -1;  // the source that it stands in
  bool is_import = false;
  std::size_t index = 0;  // among the imports or paths of that
};
std::optional<Spelled> spelled_by(const Crates& crates, const Reference& reference, const FileTable& files);

}  // namespace yc::rust
