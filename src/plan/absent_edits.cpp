#include "plan/absent_edits.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc {

namespace {

bool is_absent_file(const TreeReader& tree, const RelPath& path) {
  const Entry* entry = tree.find(path);
  return entry && entry->absent;
}

Blocker not_checked_out(const RelPath& path, std::string reason) {
  Blocker out;
  out.id = "not-checked-out";
  out.file = path;
  out.reason = std::move(reason);
  out.next = fmt::format("check it out (git sparse-checkout add {}), then move",
                         path.parent().is_root() ? std::string(path.name()) : path.parent().str());
  return out;
}

}  // namespace

std::vector<Blocker> set_absent_apart(const TreeReader& tree, Plan& plan) {
  std::vector<Blocker> out;
  std::vector<RelPath> absent;
  for (const Move& move : plan.moves.files()) {
    if (is_absent_file(tree, move.from)) absent.push_back(move.from);
  }
  for (const Move& requested : absent.empty() ? std::vector<Move>() : plan.moves.requested()) {
    std::vector<RelPath> files;
    for (const RelPath& path : absent) {
      if (path.is_within(requested.from)) files.push_back(path);
    }
    if (files.empty()) continue;
    out.push_back(not_checked_out(
        files.front(), files.size() == 1 ? fmt::format("is to move with {}, and is not checked out here",
                                                       requested.from.str())
                                         : fmt::format("and {} more are to move with {}, and are not checked "
                                                       "out here",
                                                       files.size() - 1, requested.from.str())));
  }
  for (const RelPath& path : plan.changes.dropped) {
    if (is_absent_file(tree, path))
      out.push_back(not_checked_out(path, "is to be taken away, and is not checked out here"));
  }
  for (auto at = plan.edits.begin(); at != plan.edits.end();) {
    const auto& [path, edits] = *at;
    if (!is_absent_file(tree, path)) {
      ++at;
      continue;
    }
    Blocker one = not_checked_out(path, "names what moves, and is not checked out here, so it cannot follow");
    one.span = edits.items().front().span;
    out.push_back(std::move(one));
    at = plan.edits.erase(at);
  }
  std::sort(out.begin(), out.end(), [](const Blocker& a, const Blocker& b) {
    return std::pair(a.file, a.span) < std::pair(b.file, b.span);
  });
  return out;
}

}  // namespace yc
