#include <algorithm>
#include <cstdlib>
#include <iterator>

#include "base/all_cores.h"
#include "formats/format.h"
#include "formats/kept_parts.h"

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

void Reading::count_runs(std::size_t runs) const {
  if (Timings* timings = cache.timings())
    timings->count("read", std::string(format_at(self).name()), "runs of scripts", runs);
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

ClaimedFiles claimed_files(const TreeReader& tree, const TreeReader& other, const ClaimedFiles& known) {
  std::vector<RelPath> fresh, gone;
  const std::vector<RelPath>&now = tree.files(), &then = other.files();
  std::set_difference(now.begin(), now.end(), then.begin(), then.end(), std::back_inserter(fresh));
  std::set_difference(then.begin(), then.end(), now.begin(), now.end(), std::back_inserter(gone));
  ClaimedFiles out(formats().size());
  for (std::size_t format = 0; format < out.size(); ++format) {
    std::vector<RelPath>& files = out[format];
    std::set_difference(known[format].begin(), known[format].end(), gone.begin(), gone.end(),
                        std::back_inserter(files));
    auto middle = static_cast<std::ptrdiff_t>(files.size());
    std::copy_if(fresh.begin(), fresh.end(), std::back_inserter(files), [&](const RelPath& path) {
      if (!formats()[format]->claims(path)) return false;
      const Entry* entry = tree.find(path);
      return entry && entry->kind == EntryKind::file && !entry->ignored;
    });
    std::inplace_merge(files.begin(), files.begin() + middle, files.end());
  }
  return out;
}

std::string Reading::part(const std::string& key,
                          const std::function<std::string(const Reading&)>& read) const {
  KeptParts& parts = cache.parts();
  std::string whole_key = std::string(format_at(self).name()) + "\n" + key;
  auto known = parts.find(whole_key, tree);
  if (Timings* timings = cache.timings())
    timings->count("read", std::string(format_at(self).name()), known ? "parts kept" : "parts read", 1);
  if (!known) {
    AskedTree asked(tree, parts.seed());
    GraphBuilder builder(parts.files());
    KeptPart fresh;
    fresh.more = read({asked, cache, self, builder, files, scopes});
    fresh.graph = std::move(builder.graph());
    auto answers = asked.answers();
    if (!answers || builder.is_spent()) {
      out.add_part(fresh.graph);
      return fresh.more;
    }
    fresh.answers = std::move(*answers);
    known = parts.keep(whole_key, std::move(fresh));
  }
  out.add_part(known->graph);
  return known->more;
}

Scopes Reading::scopes_by_now() const {
  Scopes known = scopes;
  add_scopes(known, out.graph(), format_at(self).gives());
  return known;
}

const std::vector<std::uint8_t>& reading_order() {
  static const std::vector<std::uint8_t> order = [] {
    std::vector<std::uint8_t> out;
    std::vector<char> placed(formats().size());
    auto is_ready = [&](std::size_t format) {
      for (std::size_t other = 0; other < formats().size(); ++other) {
        bool gives = !(formats()[other]->gives() & formats()[format]->needs()).empty();
        if (gives && other != format && !placed[other]) return false;
      }
      return true;
    };
    while (out.size() < formats().size()) {
      std::size_t next = 0;
      while (next < formats().size() && (placed[next] || !is_ready(next))) ++next;
      if (next == formats().size()) std::abort();  // formats that need each other; a test sees it first
      placed[next] = 1;
      out.push_back(static_cast<std::uint8_t>(next));
    }
    return out;
  }();
  return order;
}

// Of what is read anew it is not known whether it came out the same, so all that needs it is read anew too.
bool GraphReader::is_current(std::uint8_t format, const IsSame& same) const {
  const Part& part = parts_[format];
  if (!part.is_read || format_at(format).reads_sources()) return false;
  for (std::size_t other = 0; other < parts_.size(); ++other) {
    bool gives = !(formats()[other]->gives() & format_at(format).needs()).empty();
    if (gives && other != format && parts_[other].age > part.age) return false;
  }
  return std::all_of(part.read.begin(), part.read.end(), same);
}

Scopes GraphReader::scopes_for(std::uint8_t format) const {
  Scopes out;
  ScopeSet needs = format_at(format).needs();
  for (std::size_t other = 0; other < parts_.size(); ++other) {
    if (other != format) add_scopes(out, parts_[other].graph, formats()[other]->gives() & needs);
  }
  if (needs.has(Scope::search_roots)) add_scopes(out, observed_beside(out.compilations), Scope::search_roots);
  return out;
}

// Compilations that were observed of sources that are not among `known`, with the contexts that they need.
Scopes GraphReader::observed_beside(const std::vector<Compilation>& known) const {
  Scopes out;
  if (!observed_) return out;
  std::unordered_set<RelPath> sources;
  for (const Compilation& one : known) sources.insert(one.source);
  std::map<ContextIndex, ContextIndex> numbers;
  for (const Compilation& one : observed_->compilations) {
    if (sources.contains(one.source)) continue;
    auto [at, fresh] = numbers.try_emplace(one.context, static_cast<ContextIndex>(out.contexts.size()));
    if (fresh) out.contexts.push_back(observed_->contexts[static_cast<std::size_t>(one.context)]);
    out.compilations.push_back({one.source, at->second, -1});
  }
  return out;
}

GraphReader GraphReader::without_sources() const {
  GraphReader out;
  out.claimed_ = claimed_;
  out.observed_ = observed_;
  out.files_ = files_;
  out.readings_ = readings_;
  out.parts_.resize(parts_.size());
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    if (formats()[i]->reads_sources()) continue;
    out.parts_[i] = parts_[i];
    out.parts_[i].memory = {};  // is this reader's own
  }
  return out;
}

ReferenceGraph GraphReader::read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                                 const Focus* focus) {
  if (!claimed_) claimed_ = claimed_files(tree);
  if (!files_) files_ = cache.parts().files();
  parts_.resize(formats().size());
  ++readings_;
  std::size_t done = 0, all_files = 0;
  for (const std::vector<RelPath>& files : *claimed_) all_files += files.size();
  for (std::uint8_t i : reading_order()) {
    if (Timings* timings = cache.timings()) timings->reach(done, all_files);
    done += (*claimed_)[i].size();
    if (is_current(i, same)) continue;
    const Format& format = format_at(i);
    Part& part = parts_[i];
    Stopwatch watch(cache.timings(), "read", std::string(format.name()));
    Scopes scopes = scopes_for(i);
    GraphBuilder builder(files_);
    builder.graph().references.reserve(part.graph.references.size() + part.graph.references.size() / 8);
    if (format.reads_sources()) {
      builder.confine(focus);
      builder.know_made(scopes.made);
    }
    part.read.clear();
    LoggedTree logged(tree, part.read);
    const auto* incremental = offer<Incremental>(format);
    if (incremental) {
      incremental->read_again({tree, cache, i, builder, (*claimed_)[i], scopes}, part.memory, same);
    } else if (format.reads_sources()) {
      format.read({tree, cache, i, builder, (*claimed_)[i], scopes});
    } else {
      format.read({logged, cache, i, builder, (*claimed_)[i], scopes});
    }
    part.graph = std::move(builder.graph());
    part.is_read = true;
    part.age = readings_;
  }
  Stopwatch watch(cache.timings(), "put together");
  GraphBuilder all(files_);
  std::size_t count = 0;
  for (const Part& part : parts_) count += part.graph.references.size();
  all.graph().references.reserve(count);
  for (const Part& part : parts_) all.add_part(part.graph);
  // Behind all others, as those who read sources were given them.
  Scopes observed = observed_beside(all.graph().compilations);
  std::vector<ContextIndex> numbers;
  for (Context& context : observed.contexts) numbers.push_back(all.context(std::move(context)));
  for (const Compilation& one : observed.compilations)
    all.compile(one.source, numbers[static_cast<std::size_t>(one.context)], -1);
  return all.finish();
}

ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache) {
  return GraphReader().read(tree, cache, [](const RelPath&) { return false; });
}

}  // namespace yc
