// What was read from single files, kept while a plan is made.
#pragma once

#include <array>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "base/timings.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

class KeptParts;

// Results of reading a file's bytes alone, kept while a plan is made. Safe to share by threads.
class FactsCache {
 public:
  // `timings` is told what readings that share the cache take; it may be null.
  // So may `parts`; without them it keeps its own.
  explicit FactsCache(std::shared_ptr<Timings> timings = nullptr, std::shared_ptr<KeptParts> parts = nullptr);
  Timings* timings() const { return timings_.get(); }
  // Parts that formats made of trees. Not safe to share by threads.
  KeptParts& parts() { return *parts_; }

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
    if (shelf.slots.emplace(key, Slot{bytes, facts}).second) {
      ++shelf.fresh_slots;
      shelf.fresh_bytes += bytes->size();
    }
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

  // The files that a format let through when it looked at all of its files for the readings that are confined
  // to `focus`, sorted: what the others hold is nothing that these ask for. Set before the readings begin.
  void let_through(std::uint8_t format, const Focus* focus, std::vector<RelPath> files) {
    let_through_[{format, focus}] = std::move(files);
  }
  // Null where it did not look.
  const std::vector<RelPath>* passed(std::uint8_t format, const Focus* focus) const {
    auto at = let_through_.find({format, focus});
    return at == let_through_.end() ? nullptr : &at->second;
  }

  // Before another move is planned with the same cache: what hangs on the names in a focus is forgotten, and
  // so, now and then, are the facts of bytes that nobody else has any more.
  void begin_plan() {
    for (Shelf& shelf : shelves_) {
      shelf.verdicts.clear();
      if (!shelf.is_due()) continue;
      std::unordered_map<const std::string*, long> held;  // how many formats have facts of them
      for (const auto& [key, slot] : shelf.slots) ++held[key.second];
      std::erase_if(shelf.slots, [&](const auto& item) {
        return item.second.bytes.use_count() <= held.at(item.first.second);
      });
      shelf.fresh_slots = shelf.fresh_bytes = 0;
    }
    let_through_.clear();
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
    // Since what nobody has any more was last looked for, which takes as long as there are slots.
    std::size_t fresh_slots = 0, fresh_bytes = 0;
    bool is_due() const { return fresh_slots > 8 + slots.size() / 8 || fresh_bytes > 1'000'000; }
  };
  std::shared_ptr<Timings> timings_;
  std::shared_ptr<KeptParts> parts_;
  std::array<Shelf, 16> shelves_;
  std::map<std::pair<std::uint8_t, const Focus*>, std::vector<RelPath>> let_through_;
};

}  // namespace yc
