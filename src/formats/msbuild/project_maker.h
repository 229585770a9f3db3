// A folder of C# sources gets a project of its own, taken out of the one that it is a part of, and back.
#pragma once

#include "formats/capabilities/unit_making.h"
#include "formats/msbuild/evaluation.h"

namespace yc::msbuild {

// `format` is this format's own index. Nothing if no project above the folder compiles sources of it.
std::optional<UnitChange> make_project(const TreeView& view, std::uint8_t format, const Surroundings& around,
                                       const RelPath& folder);
// The reverse: the sources go to the nearest project above. Nothing if the folder holds no project.
std::optional<UnitChange> drop_project(const TreeView& view, std::uint8_t format, const Surroundings& around,
                                       const RelPath& folder);

// The text that a pattern for all below a folder of a project is, as the project writes paths.
std::string all_below(std::string_view bytes, const RelPath& project, const RelPath& folder);

}  // namespace yc::msbuild
