// Writing a new alias where the tools of a project read such names.
#include "formats/capabilities/spellings.h"
#include "plan/restyle.h"

namespace yc {

Status add_alias(const TreeReader& tree, const std::string& name, const RelPath& folder, Plan& plan) {
  const ClaimedFiles claimed = claimed_files(tree);
  for (const auto& format : all_that_offer<AliasTables>()) {
    AliasTables::Written written = format->name_folder({tree, claimed[format.format]}, name, folder);
    for (const Edit& edit : written.edits) plan.edits[edit.file].add(edit.span, edit.text);
    plan.notices.insert(plan.notices.end(), written.notices.begin(), written.notices.end());
  }
  if (plan.edits.empty())
    return Error{Failure::usage, "--add-alias", "nothing here keeps a table of names for folders",
                 "make a tsconfig.json or jsconfig.json first"};
  return {};
}

}  // namespace yc
