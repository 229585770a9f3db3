#include <algorithm>
#include <iterator>

#include "base/all_cores.h"
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

void Reading::count(std::size_t done) const {
  out.graph().files_by_format[std::string(format_at(self).name())] = done;
}

ClaimedFiles claimed_files(const TreeReader& tree) {
  const std::vector<RelPath>& all = tree.files();
  // In parts, so that each core has some.
  constexpr std::size_t kPart = 4096;
  std::size_t parts = (all.size() + kPart - 1) / kPart;
  std::vector<ClaimedFiles> found(parts, ClaimedFiles(formats().size()));
  on_all_cores(parts, [&](std::size_t part) {
    for (std::size_t i = part * kPart; i < std::min(all.size(), (part + 1) * kPart); ++i) {
      for (std::size_t format = 0; format < formats().size(); ++format) {
        if (!formats()[format]->claims(all[i])) continue;
        const Entry* entry = tree.find(all[i]);
        if (entry && entry->kind == EntryKind::file && !entry->ignored) found[part][format].push_back(all[i]);
      }
    }
  });
  ClaimedFiles out(formats().size());
  for (ClaimedFiles& part : found) {
    for (std::size_t format = 0; format < out.size(); ++format)
      std::move(part[format].begin(), part[format].end(), std::back_inserter(out[format]));
  }
  return out;
}

ReferenceGraph GraphReader::read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                                 const Focus* focus) {
  if (!claimed_) claimed_ = claimed_files(tree);
  bool kept = scripts_ && std::all_of(read_.begin(), read_.end(), same);
  if (!kept) {
    read_.clear();
    scripts_.reset();
    LoggedTree logged(tree, read_);
    GraphBuilder builder;
    builder.graph().references.reserve(size_);
    for (std::size_t i = 0; i < formats().size(); ++i) {
      if (!formats()[i]->reads_sources())
        formats()[i]->read({logged, cache, static_cast<std::uint8_t>(i), builder, (*claimed_)[i]});
    }
    scripts_ = std::move(builder);
  }
  GraphBuilder builder = *scripts_;
  builder.graph().references.reserve(size_);
  builder.confine(focus);
  for (std::size_t i = 0; i < formats().size(); ++i) {
    if (formats()[i]->reads_sources())
      formats()[i]->read_again({tree, cache, static_cast<std::uint8_t>(i), builder, (*claimed_)[i]},
                               sources_[i], same);
  }
  ReferenceGraph graph = builder.finish();
  size_ = graph.references.size() + graph.references.size() / 8;
  return graph;
}

ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache) {
  return GraphReader().read(tree, cache, [](const RelPath&) { return false; });
}

}  // namespace yc
