#include "serve/workspace.h"

#include <algorithm>

#include "base/all_cores.h"
#include "formats/kept_parts.h"
#include "plan/observed_contexts.h"
#include "serve/saved_text.h"

namespace yc::serve {

namespace {

// That may still come again elsewhere.
constexpr std::size_t kMostGone = 10'000;

}  // namespace

Result<std::unique_ptr<Workspace>> Workspace::open(OpenTree open, const std::string& folder) {
  auto out = std::unique_ptr<Workspace>(new Workspace(std::move(open)));
  auto opened = out->open_(folder);
  if (!opened) return opened.error();
  out->now_ = std::move(*opened);
  out->facts_ = std::make_shared<FactsCache>(out->now_.timings, out->now_.parts);
  return out;
}

std::optional<RelPath> Workspace::path_in(const std::string& absolute) const {
  const std::string& root = now_.root;
  if (absolute == root) return RelPath();
  if (!absolute.starts_with(root + "/")) return std::nullopt;
  return RelPath::resolve({}, absolute.substr(root.size() + 1));
}

void Workspace::set_text(const RelPath& path, Bytes text) {
  ++age_;
  changed_.insert(path);
  is_current_ = are_texts_laid_ = false;
  if (text)
    texts_.insert_or_assign(path, std::move(text));
  else
    texts_.erase(path);
}

void Workspace::changed_on_disk(const std::set<RelPath>& files) {
  ++age_;
  is_disk_known_ = is_current_ = are_texts_laid_ = false;
  on_disk_.insert(files.begin(), files.end());
}

// Whether the system watched all folders since the whole disk was last looked at, and saw nothing happen.
bool Workspace::is_watched_quietly() {
  if (is_watched()) return watch_ && watch_->is_quiet();
  // What happens from now on is seen; what happened before, by whoever is told now that nobody knows.
  watched_late_ = now_.disk->late_folders();
  watch_ = FolderWatch::begin(now_.disk->folders());
  return false;
}

void Workspace::look_for_changes(bool of_texts) {
  if (!is_disk_known_) return;
  std::set<RelPath> changed;
  if (of_texts || !is_watched()) {
    bool is_quiet = is_watched_quietly();
    changed = is_quiet ? now_.disk->changed_links() : now_.disk->changed_files();
    if (is_quiet && changed.empty()) return;
  }
  // A file that somebody writes to all the time is not read again and again while nobody asks.
  if (!of_texts && !changed.empty()) {
    changed.clear();
    watched_late_.reset();
  }
  if (!changed.empty() || now_.disk->has_other_names()) changed_on_disk(changed);
}

// Of all files that are not known, on all cores.
void Workspace::learn_texts() {
  constexpr std::uint64_t kLargest = 1'000'000;
  std::vector<RelPath> missing = signatures_.unknown(now_.disk->files());
  std::erase_if(missing, [&](const RelPath& path) {
    const Entry* entry = now_.disk->find(path);
    return entry->kind != EntryKind::file || entry->size > kLargest;
  });
  std::vector<std::pair<RelPath, TextSignatures::Signature>> found(missing.size());
  on_all_cores(missing.size(), [&](std::size_t i) {
    thread_local std::string buffer;
    if (auto text = now_.disk->peek(missing[i], buffer)) found[i] = {missing[i], TextSignatures::of(*text)};
  });
  std::erase_if(found, [](const auto& one) { return one.second.empty(); });
  signatures_.keep_all(std::move(found));
}

std::vector<Move> Workspace::take_moves_seen() {
  tree();
  return std::exchange(moves_seen_, {});
}

// A file that went and one that came are one that was moved, if they hold the same; where nobody had read the
// old one, if they have the same size and time, which whoever moves a file keeps.
void Workspace::note_moves(const DiskTree& before) {
  const DiskTree& now = *now_.disk;
  std::vector<RelPath> went, came;
  std::set_difference(before.files().begin(), before.files().end(), now.files().begin(), now.files().end(),
                      std::back_inserter(went));
  std::set_difference(now.files().begin(), now.files().end(), before.files().begin(), before.files().end(),
                      std::back_inserter(came));
  for (const RelPath& path : came) gone_.erase(path);
  for (const RelPath& path : went) {
    const Entry* entry = before.find(path);
    if (entry && gone_.size() < kMostGone)
      gone_[path] = {entry->size, entry->mtime_ns, before.known_bytes(path)};
  }
  std::multimap<std::uint64_t, RelPath> by_size;
  for (const RelPath& path : came) {
    if (const Entry* entry = now.find(path)) by_size.emplace(entry->size, path);
  }
  for (auto gone = gone_.begin(); gone != gone_.end();) {
    auto [from, to] = by_size.equal_range(gone->second.size);
    std::vector<decltype(from)> alike;
    for (auto at = from; at != to; ++at) {
      if (is_same(gone->second, at->second)) alike.push_back(at);
    }
    auto best = std::find_if(alike.begin(), alike.end(),
                             [&](auto at) { return at->second.name() == gone->first.name(); });
    if (best == alike.end() && alike.size() == 1) best = alike.begin();
    if (best == alike.end()) {
      ++gone;
      continue;
    }
    moves_seen_.push_back({gone->first, (*best)->second});
    by_size.erase(*best);
    gone = gone_.erase(gone);
  }
}

bool Workspace::is_same(const GoneFile& gone, const RelPath& path) const {
  if (!gone.bytes) return now_.disk->find(path)->mtime_ns == gone.mtime_ns;
  auto bytes = now_.disk->read(path);
  return bytes && **bytes == *gone.bytes;
}

void Workspace::look_again() {
  if (is_disk_known_) return;
  is_disk_known_ = true;
  auto opened = open_(now_.root);
  if (!opened) return;  // it is gone, or its configuration is garbled: what was known is all there is
  std::shared_ptr<DiskTree> before = now_.disk;
  std::shared_ptr<KeptParts> parts = now_.parts;
  now_ = std::move(*opened);
  now_.parts = std::move(parts);
  watch_.reset();
  watched_late_.reset();
  now_.disk->take_over(*before, on_disk_);
  // Whoever looked up what is ignored, as what a build made, may have asked for what was not there.
  const std::vector<RelPath>& listed = now_.disk->files();
  bool has_same_names =
      before->files() == listed && std::all_of(on_disk_.begin(), on_disk_.end(), [&](const RelPath& path) {
        return std::binary_search(listed.begin(), listed.end(), path);
      });
  for (const RelPath& path : listed) {
    const Entry *then = before->find(path), *now = now_.disk->find(path);
    if (!then || then->size != now->size || then->mtime_ns != now->mtime_ns) changed_.insert(path);
    has_same_names = has_same_names && then && then->kind == now->kind && then->guarded == now->guarded;
  }
  changed_.insert(on_disk_.begin(), on_disk_.end());
  on_disk_.clear();
  for (const RelPath& path : changed_) signatures_.forget(path);
  if (has_same_names) return;
  note_moves(*before);
  reader_.reset();
}

void Workspace::lay_texts() {
  if (are_texts_laid_) return;
  tree_ = std::make_unique<BufferTree>(now_.disk, &signatures_);
  for (const auto& [path, text] : texts_) {
    // What is saved is not laid: the bytes in memory stay those that facts are known of.
    auto saved = now_.disk->read(path);
    if (!saved) continue;
    std::string bytes = as_saved(**saved, *text);
    if (bytes != **saved)
      tree_->set(path, bytes == *text ? text : std::make_shared<const std::string>(bytes));
  }
  are_texts_laid_ = true;
}

const TreeReader& Workspace::tree() {
  look_again();
  lay_texts();
  return *tree_;
}

const ReferenceGraph& Workspace::graph() {
  tree();
  if (is_current_ && graph_) return *graph_;
  graph_.reset();  // gives its memory to the next
  by_file_.clear();
  facts_->begin_plan();
  if (!reader_)
    reader_ = std::make_unique<GraphReader>(claimed_files(*tree_), observed_contexts(*tree_, now_.observed));
  ReferenceGraph read =
      reader_->read(*tree_, *facts_, [&](const RelPath& path) { return !changed_.contains(path); });
  graph_ = std::make_unique<ReferenceGraph>(std::move(read));
  changed_.clear();
  is_current_ = true;
  learn_texts();
  for (std::size_t i = 0; i < graph_->references.size(); ++i) {
    Standing at = standing_of(graph_->references[i]);
    if (at.file != kNoFile) by_file_[graph_->files.path(at.file)].push_back(i);
  }
  return *graph_;
}

const std::vector<std::size_t>& Workspace::standing_in(const RelPath& file) {
  static const std::vector<std::size_t> none;
  graph();
  auto at = by_file_.find(file);
  return at == by_file_.end() ? none : at->second;
}

PlanOptions Workspace::plan_options() {
  facts_->begin_plan();
  PlanOptions out;
  out.timings = now_.timings;
  out.parts = now_.parts;
  out.facts = facts_;
  out.include_order = now_.config.include_order;
  out.alias_from = now_.config.alias_from;
  out.observed = now_.observed;
  out.settled = now_.config.settled;
  out.routes = now_.config.routes;
  return out;
}

Plan Workspace::plan(MoveSet moves, std::function<bool()> is_unwanted) {
  tree();
  PlanOptions options = plan_options();
  options.is_unwanted = std::move(is_unwanted);
  // Where the tree changed since, a plan takes less time than reading all of it.
  if (is_current_) options.reader = reader_.get();
  return make_plan(*tree_, std::move(moves), options);
}

}  // namespace yc::serve
