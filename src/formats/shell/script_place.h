// What a script knows of where it lies: by "$0" and "${BASH_SOURCE[0]}" (bash manual, "Bash Variables"), by
// what automake and bats tell the tests that they run.
#pragma once

#include <optional>
#include <string>

#include "formats/shell/command_line.h"

namespace yc::shell {

class ScriptPlace {
 public:
  // Both must outlive this.
  ScriptPlace(const Script& script, const TreeReader& tree) : script_(script), tree_(tree) {}

  const Base& base() const { return script_.place; }
  TracedText folder() const;
  // Of ${0%/*} and ${BASH_SOURCE%/*}, given what stands between the braces.
  std::optional<TracedText> cut(const std::string& inside) const;
  // Of a variable that test runners set, though no script does.
  std::optional<TracedText> variable(const std::string& name) const;
  // What a command prints that only looks the script itself up: dirname "$0".
  std::optional<TracedText> printed_by(const std::string& command) const;
  // "load helper" in tests that bats runs: the same as a command that reads the file in place.
  void read_loads(Command& command) const;

 private:
  // "$0" is another script where this one is read in place.
  bool is_own_zero() const { return !script_.is_read_in_place; }
  std::optional<TracedText> package_folder() const;
  std::optional<TracedText> test_folder() const;

  const Script& script_;
  const TreeReader& tree_;
};

}  // namespace yc::shell
