// How a module is called from another: by dots from its package, or below a root that modules are looked up
// in.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "formats/format.h"
#include "formats/python/python_resolver.h"

namespace yc::python {

// Where a module goes, as packages and folders of modules go too.
std::optional<RelPath> image_of(const RewriteRequest& need, const RelPath& module);
// A module's path without its ending; of a package its folder.
RelPath place_of_module(const RelPath& file);

// One way to spell: relative, or below a root.
struct Manner {
  bool relative = false;
  RelPath root;
};

// The name of the module `file` from a folder; nothing if none leads there.
std::optional<std::string> spelled(const Manner& manner, const RelPath& folder, const RelPath& file);
// The manners to try, those that the old spelling shows first.
std::vector<Manner> manners(const RewriteRequest& need, const PythonResolver& resolver, bool was_relative,
                            const std::vector<RelPath>& old_roots);

// For "from gauges import tide" in code within a string; see kTakenInString.
std::vector<Proposal> taken_ways(const RewriteRequest& need, const PythonResolver& resolver,
                                 const std::string& bytes);

}  // namespace yc::python
