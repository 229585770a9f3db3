// What a build script copies into the build tree, and texts of programs that are started there and open it:
// they name the copy, which may stay where it is when what it is copied from moves.
#pragma once

#include <optional>

#include "formats/capabilities/spellings.h"
#include "formats/format.h"
#include "model/graph.h"

namespace yc {

struct CopyUse {
  bool any = false;                    // whether the text names a copy
  std::optional<Reference> reference;  // to what is copied; nothing if it could be two things
};

// What `text` names in the build tree, looked for from the twins of the folders of the scripts that copy and
// from the top. `site` and `format` are of the construct that holds the text.
CopyUse copied_path(const Scopes& scopes, const FileTable& files, const TreeReader& tree,
                    const TracedText& text, Site site, std::uint8_t format);
// Whether copied_path() made the reference.
bool names_copy(const Reference& reference);
// Why such a text could not follow, and what would help; nothing for other references.
std::optional<Spellings::Reason> why_no_copy(const ReferenceGraph& graph, const Reference& reference);
// The text that names the copy where it is called after what it is copied from.
std::vector<Proposal> spelled_in_copy(const RewriteRequest& need);

}  // namespace yc
