#include "plan/plan.h"

#include <algorithm>
#include <tuple>

#include "base/hash.h"

namespace yc {

void list_edits(const TreeReader& tree, const std::function<bool(const RelPath&, const Span&)>& is_likely,
                Plan& plan) {
  for (const auto& [file, edits] : plan.edits) {
    auto bytes = tree.read(file);
    if (!bytes || edits.empty()) continue;
    plan.hashes[file] = content_hash(**bytes);
    for (const FileEdits::Item& item : edits.items()) {
      PlannedEdit edit;
      edit.file = file;
      edit.span = item.span;
      edit.before = (*bytes)->substr(item.span.begin, item.span.size());
      edit.after = item.text;
      edit.likely = is_likely(file, item.span);
      plan.edit_list.push_back(std::move(edit));
    }
  }
  std::sort(plan.edit_list.begin(), plan.edit_list.end(), [](const PlannedEdit& a, const PlannedEdit& b) {
    return std::tie(a.file, a.span) < std::tie(b.file, b.span);
  });
}

}  // namespace yc
