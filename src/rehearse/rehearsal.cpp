#include "rehearse/rehearsal.h"

#include <fmt/format.h>
#include <unistd.h>

#include <filesystem>

#include "observe/watch.h"
#include "rehearse/installed.h"
#include "rehearse/scratch_copy.h"
#include "tree/overlay_tree.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

// A temporary folder that goes when nobody wants to keep it.
class Scratch {
 public:
  explicit Scratch(bool keep) : keep_(keep) {
    std::error_code error;
    fs::path all = fs::canonical(fs::temp_directory_path(error), error);
    std::string pattern = (all / "yellow-compass-XXXXXX").string();
    if (const char* made = mkdtemp(pattern.data())) path_ = made;
  }
  ~Scratch() {
    std::error_code ignored;
    if (!keep_ && !path_.empty()) fs::remove_all(path_, ignored);
  }
  Scratch(const Scratch&) = delete;
  Scratch& operator=(const Scratch&) = delete;
  const std::string& path() const { return path_; }

 private:
  bool keep_;
  std::string path_;
};

class Rehearsal {
 public:
  Rehearsal(const TreeReader& start, const DiskTree& disk, const Plan* plan, const RehearsalOptions& options)
      : start_(start), disk_(disk), plan_(plan), options_(options) {
    if (!plan) return;
    after_.emplace(start, plan->moves, plan->changes);
    after_->set_edits(&plan->edits);
  }

  Result<Rehearsed> one(const std::string& command, std::size_t number) {
    command_ = command;
    number_ = number;
    Rehearsed out;
    out.command = command;
    Scratch first(options_.keep);
    auto before = build(first, start_, "before", out, out.seen_before);
    if (!before) return before.error();
    out.before = *before;
    out.verdict = before->built ? Verdict::built : Verdict::never;
    if (!before->built || !after_) return out;
    {
      Scratch second(options_.keep);
      auto after = build(second, *after_, "after", out, out.seen_after);
      if (!after) return after.error();
      out.after = *after;
    }
    if (!out.after->built) {
      out.verdict = Verdict::broke;
      return out;
    }
    if (!out.seen_before || !out.seen_after) return out;
    out.differences = compare_observations(*out.seen_before, *out.seen_after, plan_->moves, plan_->changes);
    for (Difference& warning : new_warnings(whole_text(out.before.log), whole_text(out.after->log)))
      out.differences.push_back(std::move(warning));
    if (!out.differences.empty() && out.differences.front().breaks) out.verdict = Verdict::differs;
    auto again = build_again(first);
    if (!again) return again.error();
    out.again = *again;
    return out;
  }

 private:
  std::string log_of(const char* when) const {
    return fmt::format("{}/{}-{}.log", options_.logs, number_, when);
  }

  std::function<void(double)> tick(const char* when) const {
    if (!options_.progress) return {};
    return [this, when](double seconds) {
      options_.progress(fmt::format("Building {} the move: {}", when, command_), seconds);
    };
  }

  Result<BuildRun> build(Scratch& scratch, const TreeReader& tree, const char* when, Rehearsed& out,
                         std::optional<Observation>& seen) {
    if (scratch.path().empty()) return Error{Failure::io, "", "no temporary folder can be made", ""};
    if (options_.keep) out.kept.push_back(scratch.path());
    bool is_after = &tree != &start_;
    CopyFrom from;
    from.disk = &disk_;
    from.old_path = [&](const RelPath& path) { return is_after ? plan_->moves.unmap_file(path) : path; };
    if (static_cast<const TreeReader*>(&disk_) == &start_)
      from.is_as_it_was = [&](const RelPath& path) {
        return !is_after || !plan_->edits.contains(from.old_path(path));
      };
    if (Status ok = write_copy(tree, scratch.path(), from); !ok) return ok.error();
    if (Status ok = copy_installed(disk_, options_.installed, scratch.path()); !ok) return ok.error();
    BuildCall call{command_, scratch.path(), log_of(when), options_.seconds, {}};
    std::string trace = fmt::format("{}/{}-{}.trace", options_.logs, number_, when);
    if (options_.watch) call.watching = watching(trace);
    auto run = run_build(call, tick(when));
    if (run && !run->built)
      out.telling = explain_failure(run->log, scratch.path(), tree, is_after ? &plan_->moves : nullptr);
    if (run && options_.watch) {
      auto what = observed(command_, trace, scratch.path(), tree);
      std::error_code ignored;
      fs::remove(trace, ignored);
      if (!what) return what.error();
      seen = std::move(*what);
    }
    return run;
  }

  // As it goes for whoever has built already: the move in the copy that was built, then the build once more.
  Result<BuildRun> build_again(const Scratch& built) {
    if (Status ok = move_in_copy(*plan_, *after_, built.path()); !ok) return ok.error();
    return run_build({command_, built.path(), log_of("again"), options_.seconds, {}},
                     tick("once more after"));
  }

  const TreeReader& start_;
  const DiskTree& disk_;
  const Plan* plan_;
  const RehearsalOptions& options_;
  std::optional<OverlayTree> after_;
  std::string command_;
  std::size_t number_ = 0;
};

}  // namespace

Result<std::vector<Rehearsed>> rehearse(const TreeReader& start, const DiskTree& disk, const Plan* plan,
                                        const RehearsalOptions& options) {
  Rehearsal rehearsal(start, disk, plan, options);
  std::vector<Rehearsed> out;
  for (std::size_t i = 0; i < options.commands.size(); ++i) {
    auto one = rehearsal.one(options.commands[i], i + 1);
    if (!one) return one.error();
    out.push_back(std::move(*one));
  }
  return out;
}

}  // namespace yc
