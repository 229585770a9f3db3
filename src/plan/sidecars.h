// Files that accompany another by a naming rule, and so go where it goes: settings of an import, a licence, a
// picture for denser screens, a translation.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// A name in which {name} stands for the whole name of the file that is accompanied, {stem} for it without its
// ending, {ending} for that with its dot, and {language} for a language tag (BCP 47: "de", "pt-BR"). One that
// is built in may lie in a folder beside: "__snapshots__/{name}.snap".
struct SidecarRule {
  std::string pattern;
  std::vector<std::string> endings;  // of the files that have such; empty for all
};

const std::vector<SidecarRule>& known_sidecars();
Result<SidecarRule> parse_sidecar_rule(const std::string& text, const std::string& place);

// The moves, and those of what accompanies what moves, where it is there and no move of its own is asked for.
std::vector<Move> with_sidecars(const TreeReader& tree, const std::vector<Move>& moves,
                                const std::vector<SidecarRule>& rules);

}  // namespace yc
