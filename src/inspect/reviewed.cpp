#include "inspect/reviewed.h"

namespace yc {

std::vector<Remark> review(const TreeReader& tree, const ReferenceGraph& graph) {
  std::vector<Remark> out;
  ClaimedFiles claimed = claimed_files(tree);
  for (const auto& offered : all_that_offer<Reviews>()) {
    for (Remark& one : offered->review({{tree, graph}, claimed[offered.format]}))
      out.push_back(std::move(one));
  }
  return out;
}

std::vector<Finding> check_reviewed(const TreeReader& tree, const ReferenceGraph& graph) {
  std::vector<Finding> out;
  for (const Remark& one : review(tree, graph)) {
    const Notice& notice = one.notice;
    out.push_back(
        {notice.id, notice.file, notice.span, notice.has_place, notice.message, one.meant, one.is_note});
  }
  return out;
}

}  // namespace yc
