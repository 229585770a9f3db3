// A place for bytes that are worth keeping between runs of the program.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace yc {

// Keeps bytes by keys between runs of the program. What it gives back is what this program put there. Safe
// under several programs at once; whatever goes wrong in it only means that nothing is kept.
class PartShelf {
 public:
  virtual ~PartShelf() = default;
  // For the hashes in what is kept: nobody but the shelf's owner knows it.
  virtual std::uint64_t seed() const = 0;
  // Everything under a key, the newest first.
  virtual std::vector<std::string> load(const std::string& key) = 0;
  virtual void save(const std::string& key, const std::string& bytes) = 0;
};

}  // namespace yc
