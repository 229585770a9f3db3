// What one evaluated project names in the tree, as references of the graph.
#pragma once

#include "formats/msbuild/evaluation.h"

namespace yc::msbuild {

void emit_project(const TreeReader& tree, const Project& project, std::uint8_t format, GraphBuilder& out);

}  // namespace yc::msbuild
