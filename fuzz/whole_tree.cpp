#include "whole_tree.h"

#include <cstdio>
#include <cstdlib>

#include "plan/plan.h"
#include "support/generated_tree.h"

namespace yc::fuzz {

namespace {

using test::BuildKind;

// Takes choices from bytes; once they are used up, every choice is the first.
class Chooser {
 public:
  explicit Chooser(const std::string& bytes) : bytes_(bytes) {}
  std::size_t below(std::size_t count) {
    std::size_t value = 0;
    for (int i = 0; i < 2; ++i)
      value = value * 256 + (at_ < bytes_.size() ? static_cast<unsigned char>(bytes_[at_++]) : 0);
    return count == 0 ? 0 : value % count;
  }
  bool is_done() const { return at_ >= bytes_.size(); }

 private:
  const std::string& bytes_;
  std::size_t at_ = 0;
};

RelPath some_place(Chooser& choose, const std::vector<RelPath>& files) {
  static const char* const kFolders[] = {"", "src", "lib/net", "core", "a", "a/b", "include", "src/deep/er"};
  static const char* const kNames[] = {"tide.c", "tide.h", "gauge", "a.c", "x y.h", "level.h"};
  RelPath folder = choose.below(2) == 0 ? files[choose.below(files.size())].parent()
                                        : RelPath::from_normal(kFolders[choose.below(std::size(kFolders))]);
  std::string name = choose.below(3) == 0 ? kNames[choose.below(std::size(kNames))]
                                          : std::string(files[choose.below(files.size())].name());
  return folder / name;
}

[[noreturn]] void fail(const Plan& plan) {
  for (const Move& move : plan.moves.requested())
    std::fprintf(stderr, "%s -> %s\n", move.from.str().c_str(), move.to.str().c_str());
  for (const PlannedEdit& edit : plan.edit_list)
    std::fprintf(stderr, "%s: \"%s\" becomes \"%s\"\n", edit.file.str().c_str(), edit.before.c_str(),
                 edit.after.c_str());
  std::fprintf(stderr, "verified, but what leads to what is not the same\n");
  std::abort();
}

}  // namespace

void move_in_generated_tree(const std::string& bytes) {
  Chooser choose(bytes);
  BuildKind kind = choose.below(2) == 0 ? BuildKind::make : BuildKind::cmake;
  test::GeneratedProject project = test::generate(static_cast<unsigned>(choose.below(5000)), kind);
  std::vector<Move> wanted;
  while (!choose.is_done() && wanted.size() < 4) {
    RelPath from = project.files[choose.below(project.files.size())];
    if (choose.below(4) == 0 && !from.parent().is_root()) from = from.parent();
    wanted.push_back({from, some_place(choose, project.files)});
  }
  auto moves = MoveSet::make(project.tree, wanted);
  if (!moves || moves->files().empty()) return;
  Plan plan = make_plan(project.tree, std::move(*moves), {});
  if (!plan.verified) return;
  if (test::meaning(test::carried_out(project.tree, plan), kind) != test::meaning(project.tree, kind))
    fail(plan);
}

}  // namespace yc::fuzz
