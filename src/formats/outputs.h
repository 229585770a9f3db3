// What compilers make, named in the tree where it is put: by the folders that settings and scripts give.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "formats/format.h"

namespace yc {

// The source of an output, if it is known and there.
std::optional<RelPath> source_of(const TreeReader& tree, const Scopes& scopes, const RelPath& output);

// Texts that could name the output of `need.wanted`, a source after the move, from `need.new_base`, the
// likeliest first.
std::vector<std::string> output_texts(const RewriteRequest& need, const std::string& old_text);

}  // namespace yc
