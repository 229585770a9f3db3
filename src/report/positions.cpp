#include "report/positions.h"

#include <algorithm>

namespace yc::report {

std::optional<Position> Positions::at(const RelPath& file, std::uint32_t offset) const {
  if (file_ != file) {
    auto bytes = tree_.read(file);
    if (!bytes) return std::nullopt;
    file_ = file;
    size_ = static_cast<std::uint32_t>((*bytes)->size());
    begins_ = {0};
    for (std::size_t end = (*bytes)->find('\n'); end != std::string::npos;
         end = (*bytes)->find('\n', end + 1))
      begins_.push_back(static_cast<std::uint32_t>(end + 1));
  }
  offset = std::min(offset, size_);
  auto next = std::upper_bound(begins_.begin(), begins_.end(), offset);
  return Position{static_cast<std::uint32_t>(next - begins_.begin()), offset - *std::prev(next) + 1};
}

}  // namespace yc::report
