// References between assemblies as bytes of a definition.
#pragma once

#include <optional>
#include <string>

#include "base/edit.h"
#include "formats/assemblies/assembly_map.h"

namespace yc::assemblies {

// How `from` refers to `to` in its habit: by name or by identifier, in quotes.
std::string written_reference(const Assembly& from, const Assembly& to);
// One more element in "references" of the definition at `file`, which is that of `from`, as the others are
// written.
std::optional<Edit> link_edit(const TreeReader& tree, const RelPath& file, const Assembly& from,
                              const Assembly& to);
// Puts another one, in quotes, in a reference's place.
std::optional<Edit> relink_edit(const TreeReader& tree, const RelPath& file, const std::string& reference,
                                const std::string& written);
// Takes the reference out again; nothing if there is none.
std::optional<Edit> unlink_edit(const TreeReader& tree, const RelPath& file, const std::string& reference);

}  // namespace yc::assemblies
