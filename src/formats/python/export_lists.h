// Names that a package says it exports ("__all__", The Python Language Reference, section 7.11): a star
// import asks for each, and a module of the package that is called so is imported for it.
#pragma once

#include <string_view>
#include <vector>

#include "formats/python/python_references.h"

namespace yc::python {

// Where the names stand in "__all__ = […]" and "__all__ += (…)" of a module's top level, without quotes.
std::vector<Span> exported_names(std::string_view bytes, const PythonFacts& facts);

// For a module that a package exports by its name and that is found there no more: the package imports it
// under that name.
std::vector<Proposal> export_ways(const RewriteRequest& need);

}  // namespace yc::python
