// Imports whose names a program puts together while it runs.
#pragma once

#include <map>
#include <string>

#include "formats/python/emission.h"

namespace yc::python {

// What the call whose name is the token at `index` imports of packages that are known: a hole for each.
// `packages`: those that are bound in the source, by their names there.
void emit_computed_import(Emission& to, std::size_t index, const std::map<std::string, Found>& packages);

}  // namespace yc::python
