// Compositions of containers ("Compose Specification"): compose.yaml and its older names.
#pragma once

#include <map>
#include <vector>

#include "formats/format.h"

namespace yc::containers {

bool is_composition(const RelPath& path);

// The folders that container files are built in, as compositions and the commands of scripts say.
using Contexts = std::map<RelPath, std::vector<Base>>;
void read_composition(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out,
                      Contexts& contexts);

}  // namespace yc::containers
