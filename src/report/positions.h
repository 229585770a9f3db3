// Lines and columns of places in the files of a tree, where many are asked for in a file after another.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "base/path.h"
#include "base/span.h"
#include "tree/tree_reader.h"

namespace yc::report {

class Positions {
 public:
  Positions(const TreeReader& tree) : tree_(tree) {}  // NOLINT: a tree has positions
  // Nothing where the file cannot be read.
  std::optional<Position> at(const RelPath& file, std::uint32_t offset) const;

 private:
  const TreeReader& tree_;
  // Of the file that was asked for last: where its lines begin.
  mutable std::optional<RelPath> file_;
  mutable std::vector<std::uint32_t> begins_;
  mutable std::uint32_t size_ = 0;
};

}  // namespace yc::report
