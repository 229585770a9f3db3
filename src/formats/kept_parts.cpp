#include "formats/kept_parts.h"

#include <algorithm>
#include <random>

#include "model/graph_archive.h"

namespace yc {

template <typename Archive>
void serialize(Archive& archive, Answers::Answer& answer) {
  archive(answer.question, answer.path, answer.name, answer.hash.low, answer.hash.high);
}

namespace {

// Parts under one key: of the tree as it is, and of the last planned one.
constexpr std::size_t kMostAlike = 2;

std::uint64_t random_seed() {
  std::random_device random;
  return (static_cast<std::uint64_t>(random()) << 32U) | random();
}

}  // namespace

KeptParts::KeptParts(std::shared_ptr<PartShelf> shelf)
    : shelf_(std::move(shelf)), seed_(shelf_ ? shelf_->seed() : random_seed()) {}

ArchiveTables KeptParts::tables() const {
  return ArchiveTables(*files_);
}

std::shared_ptr<const KeptPart> KeptParts::find(const std::string& key, const TreeReader& tree) {
  Slot& slot = slots_[key];
  for (const auto& part : slot.parts) {
    if (part->answers.are_given_by(tree, seed_)) return part;
  }
  if (shelf_ && !slot.is_loaded) {
    for (std::string& bytes : shelf_->load(key)) slot.packed_parts.push_back(std::move(bytes));
    slot.is_loaded = true;
  }
  for (auto at = slot.packed_parts.begin(); at != slot.packed_parts.end();) {
    // The answers first: most often they tell that the rest need not be looked at.
    auto part = std::make_shared<KeptPart>();
    bool is_current = false;
    bool is_whole = unpack(*at, tables(), [&](Input& in) {
      in(part->answers.all);
      is_current = part->answers.are_given_by(tree, seed_);
      if (!is_current) return;
      load_graph(in, part->graph);
      in(part->more);
    });
    at = is_whole && !is_current ? std::next(at) : slot.packed_parts.erase(at);
    if (!is_whole || !is_current) continue;
    slot.parts.push_front(part);
    return part;
  }
  return nullptr;
}

std::shared_ptr<const KeptPart> KeptParts::keep(const std::string& key, KeptPart part) {
  auto kept = std::make_shared<const KeptPart>(std::move(part));
  Slot& slot = slots_[key];
  slot.parts.push_front(kept);
  if (slot.parts.size() > kMostAlike) slot.parts.erase(std::next(slot.parts.begin()));
  if (shelf_) {
    shelf_->save(key, packed(tables(), [&](Output& out) {
                   out(kept->answers.all);
                   save_graph(out, kept->graph);
                   out(kept->more);
                 }));
  }
  return kept;
}

}  // namespace yc
