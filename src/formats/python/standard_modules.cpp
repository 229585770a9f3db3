// The modules of Python's standard library, versions 3.9 to 3.13.

#include "formats/python/python_resolver.h"
#include "words/python.h"

namespace yc::python {

bool is_standard_module(const std::string& name) {
  return words::python::standard_modules().contains(name);
}

}  // namespace yc::python
