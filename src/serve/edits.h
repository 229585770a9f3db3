// A plan as an edit that an editor carries out ("WorkspaceEdit").
#pragma once

#include "serve/asked.h"

namespace yc::serve {

// The edits of a plan, by the paths before its moves, and the renames of `along`: files that accompany what
// the editor moves itself. An error where an edit cannot say what the plan does, as for a symbolic link, or
// this editor cannot do it.
Result<json> workspace_edit(const Asked& asked, const Plan& plan, const std::vector<Move>& along = {});

}  // namespace yc::serve
