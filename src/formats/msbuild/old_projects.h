// Projects of C and C++ as they were before MSBuild (.vcproj, property sheets .vsprops), in the same terms.
#pragma once

#include "formats/msbuild/evaluation.h"

namespace yc::msbuild {

Project read_old_project(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
                         const RelPath& path, const Surroundings& around);

}  // namespace yc::msbuild
