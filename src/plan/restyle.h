// The same targets in another spelling: specifiers of modules and stylesheets through an alias, from a
// package's root, or relative.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"

namespace yc {

enum class Spelling : std::uint8_t {
  alias,     // through the alias that reaches nearest
  relative,  // from the file's own folder
  root,      // from a folder that names without a mark are looked up in, as baseUrl or a load path
};

struct RestyleRequest {
  Spelling to = Spelling::relative;
  std::vector<RelPath> paths;  // files and folders whose references are meant; empty for all
  std::size_t steps = 0;       // to an alias: only what climbs this many folders or more
  std::string alias;           // to an alias: only this one, by its head; empty for any
  std::string new_alias;       // a name that shall stand for `alias_folder` first; empty for none
  RelPath alias_folder;
  bool convert = true;  // false: only the new alias is written
};

// Edits for every reference that can be spelled so and then still leads to the same; the others are left as
// they are.
Result<Plan> restyle(const TreeReader& tree, const RestyleRequest& request);

// A specifier that is not spelled as the rule says: relative where it climbs fewer than `alias_from` folders,
// else through an alias, where one reaches.
struct AgainstRule {
  std::int32_t reference = -1;
  std::size_t steps = 0;  // that it climbs, or would
  std::string wanted;     // how it would be spelled
};
std::vector<AgainstRule> against_rule(const ReferenceGraph& graph, std::size_t alias_from);

// Has programs name a folder of assets by a constant, and takes the folder out of the paths that lead into
// it. Files that are not asked for, or whose paths would lead elsewhere then, are left as they are.
Result<Plan> name_asset_root(const TreeReader& tree, const std::vector<RelPath>& paths,
                             const std::string& name, const RelPath& folder);

// Has units inherit what they depend on from one definition at the top, or name it for themselves again. What
// does not come to the same is left as it is. `paths` confine it: empty for everything.
Plan share_definitions(const TreeReader& tree, const std::vector<RelPath>& paths, bool is_shared);

// Has `name` stand for a folder wherever the project's tools read such names: the settings of the compiler,
// the manifest's imports for a name with "#", and alias tables of bundlers and test runners that are there.
// Edits are added to `plan`; what has no table is told in a notice.
Status add_alias(const TreeReader& tree, const std::string& name, const RelPath& folder, Plan& plan);

}  // namespace yc
