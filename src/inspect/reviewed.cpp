#include "inspect/reviewed.h"

#include <fmt/format.h>

#include "plan/installed_copies.h"

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
    out.back().unit = one.unit;
    out.back().lacks = one.lacks;
  }
  for (const CopiedPackage& one : copied_packages(tree)) {
    if (one.different.empty()) continue;
    std::string more = one.different.size() > 1 ? fmt::format(" and {} more", one.different.size() - 1) : "";
    out.push_back({"differs-from-installed",
                   one.manifest,
                   {},
                   false,
                   fmt::format("is a copy of {}, which is installed too, and differs in {}{}",
                               one.installed.str(), one.different.front(), more),
                   "",
                   true});
  }
  return out;
}

}  // namespace yc
