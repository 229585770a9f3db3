// A constant that stands for a folder of assets, written into a program whose texts are then glued to it.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "formats/format.h"
#include "formats/glued_paths/glue_scan.h"

namespace yc::glued_paths {

// See Format::through_constant(). What the language cannot say there, as a text within an attribute of an
// element, is left as it is.
std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder, Language language);

// See Constants::in_loader(); the references stand in files of the language, which are those of `files` where
// `has_language`.
std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                            const std::vector<const Reference*>& references, const std::string& name,
                            const RelPath& folder, Language language,
                            const std::function<bool(const RelPath&)>& has_language);

// The statement that gives a folder a name, and where it goes so that it is seen in [first, last); nothing if
// there is no such place.
std::optional<Edit> constant_at(const RelPath& file, std::string_view bytes, Language language,
                                const std::string& name, const std::string& prefix, char quote, Span seen);

}  // namespace yc::glued_paths
