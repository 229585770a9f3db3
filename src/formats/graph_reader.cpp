#include <algorithm>

#include "formats/format.h"

namespace yc {

namespace {

// Remembers which files are read.
class LoggedTree : public TreeReader {
 public:
  LoggedTree(const TreeReader& tree, std::set<RelPath>& log) : tree_(tree), log_(log) {}
  const Entry* find(const RelPath& path) const override { return tree_.find(path); }
  std::vector<std::string> children(const RelPath& folder) const override { return tree_.children(folder); }
  const FileList& listing() const override { return tree_.listing(); }
  Result<Bytes> read(const RelPath& path) const override {
    log_.insert(path);
    return tree_.read(path);
  }

 private:
  const TreeReader& tree_;
  std::set<RelPath>& log_;
};

}  // namespace

ReferenceGraph GraphReader::read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                                 const Focus* focus) {
  bool kept = scripts_ && std::all_of(read_.begin(), read_.end(), same);
  if (!kept) {
    read_.clear();
    scripts_.reset();
    LoggedTree logged(tree, read_);
    GraphBuilder builder;
    builder.graph().references.reserve(size_);
    for (std::size_t i = 0; i < formats().size(); ++i) {
      if (!formats()[i]->reads_sources())
        formats()[i]->read(logged, cache, static_cast<std::uint8_t>(i), builder);
    }
    scripts_ = std::move(builder);
  }
  GraphBuilder builder = *scripts_;
  builder.graph().references.reserve(size_);
  builder.confine(focus);
  for (std::size_t i = 0; i < formats().size(); ++i) {
    if (formats()[i]->reads_sources())
      formats()[i]->read_again(tree, cache, static_cast<std::uint8_t>(i), builder, sources_[i], same);
  }
  ReferenceGraph graph = builder.finish();
  size_ = graph.references.size() + graph.references.size() / 8;
  return graph;
}

ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache) {
  return GraphReader().read(tree, cache, [](const RelPath&) { return false; });
}

}  // namespace yc
