#include "plan/compared_files.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc {

std::vector<Blocker> edits_of_compared(const ReferenceGraph& graph, const EditMap& edits) {
  std::vector<Blocker> out;
  if (graph.compared.empty()) return out;
  for (const auto& [path, changes] : edits) {
    auto found = graph.compared.end();
    for (RelPath up = path; !up.is_root() && found == graph.compared.end(); up = up.parent())
      found = graph.compared.find(up);
    if (found == graph.compared.end()) continue;
    Blocker one;
    one.id = "compared";
    one.file = path;
    one.span = changes.items().front().span;
    std::string where = found->second.file == kNoFile
                            ? "a command"
                            : "a command in " + graph.files.path(found->second.file).str();
    one.reason = fmt::format("would change, and {} compares it with another file, byte by byte", where);
    one.next =
        "let the project's own build judge (… -- BUILD COMMAND), settle it for good if the other file "
        "follows "
        "(--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
    one.is_doubt = true;
    out.push_back(std::move(one));
  }
  std::sort(out.begin(), out.end(), [](const Blocker& a, const Blocker& b) { return a.file < b.file; });
  return out;
}

}  // namespace yc
