// What settings say of Python projects: pyproject.toml (packaging.python.org, "pyproject.toml specification",
// and the tables of build backends and tools), setup.cfg and setup.py (setuptools, "Keywords"), MANIFEST.in,
// and the INI files of test runners, type checkers and linters. Folders in which modules are looked up,
// dotted names of modules, and paths.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> python_settings_format();

}  // namespace yc
