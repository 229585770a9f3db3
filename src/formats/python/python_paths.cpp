#include "formats/python/python_references.h"

namespace yc::python {

void emit_paths(const Source&, GraphBuilder&) {}

}  // namespace yc::python
