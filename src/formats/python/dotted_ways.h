// Ways to write the dotted name of a module that stands by itself, in settings and documents.
#pragma once

#include <functional>
#include <vector>

#include "formats/capabilities/spellings.h"
#include "formats/python/python_resolver.h"

namespace yc::python {

// Names from the folder that the old one was found in, then from the others that `takes` lets through.
std::vector<Proposal> dotted_ways(const RewriteRequest& need,
                                  const std::function<bool(const PythonResolver::Root&)>& takes);

}  // namespace yc::python
