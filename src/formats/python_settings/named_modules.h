// Modules that are named outside of Python: started by commands (python -m pole.intake), and named with dots
// in commands and settings (gunicorn pole.web:application, "class": "pole.logs.Writer").
#pragma once

#include "formats/python/python_resolver.h"

namespace yc::python_settings {

// Files whose text may hold such commands.
bool may_name_modules(const RelPath& path);

// What those of `files` name; the others are passed over.
void emit_named_modules(const TreeReader& tree, const std::vector<RelPath>& files,
                        const python::PythonResolver& resolver, std::uint8_t format, GraphBuilder& out);

}  // namespace yc::python_settings
