// The folder that the commands of a shell work in: what cd, pushd and popd make of it, also within
// parentheses and in the rounds of loops (IEEE Std 1003.1, "cd"; the others are those of bash).
#pragma once

#include <optional>
#include <tuple>
#include <vector>

#include "formats/shell/command_line.h"

namespace yc::shell {

class WorkingFolder {
 public:
  // Of the rounds of a loop behind the first, where each goes to another folder; nothing where one is
  // unknown.
  using Rounds = std::vector<std::optional<Base>>;

  // `script` is the folder of the script, if the text is one; it must outlive this.
  WorkingFolder(Base start, const Base* script) : base_(std::move(start)), script_(script) {}

  const Base& base() const { return base_; }
  bool is_known() const { return is_known_; }
  void set_known(bool is_known) { is_known_ = is_known; }
  const Rounds& rounds() const { return rounds_; }

  void enter_subshell() { subshells_.push_back(here()); }
  void leave_subshell();
  void enter_loop() { ++loops_; }
  void leave_loop();
  // Goes where a command goes, if it is one that goes somewhere.
  void follow(const Command& command);

 private:
  using Where = std::tuple<Base, bool, Rounds>;

  Where here() const { return {base_, is_known_, rounds_}; }
  void change(const Command& command);
  std::optional<Base> folder_from(const Base& base, const TracedText& word) const;

  Base base_;
  const Base* script_;
  bool is_known_ = true;
  Rounds rounds_;
  int loops_ = 0, loop_of_rounds_ = 0;   // that are open, and the one in which the rounds part
  std::vector<Where> pushed_;            // folders that "popd" goes back to
  Where last_{Base{}, false, Rounds{}};  // the one that "cd -" goes back to
  std::vector<Where> subshells_;
};

}  // namespace yc::shell
