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
  void skip(std::uint8_t format, const Focus* focus, std::vector<RelPath> files) {
    passed_over_[{format, focus}] = std::move(files);
  }
  const std::vector<RelPath>& skipped(std::uint8_t format, const Focus* focus) const {
    static const std::vector<RelPath> none;
    auto at = passed_over_.find({format, focus});
    return at == passed_over_.end() ? none : at->second;
  }

  // Before another move is planned with the same cache: what hangs on the names in a focus is forgotten, and
  // so are the facts of bytes that nobody else has any more.
  void begin_plan() {
    for (Shelf& shelf : shelves_) {
      shelf.verdicts.clear();
      std::unordered_map<const std::string*, long> held;  // how many formats have facts of them
      for (const auto& [key, slot] : shelf.slots) ++held[key.second];
      std::erase_if(shelf.slots, [&](const auto& item) {
        return item.second.bytes.use_count() <= held.at(item.first.second);
      });
    }
    passed_over_.clear();
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
  std::shared_ptr<Timings> timings_;
  std::shared_ptr<KeptParts> parts_;
  std::array<Shelf, 16> shelves_;
  std::map<std::pair<std::uint8_t, const Focus*>, std::vector<RelPath>> passed_over_;
};

}  // namespace yc
