// Go (the Go Programming Language Specification, "Packages"; Go Modules Reference; documentation of the
// packages cmd/go and embed): a folder with sources is a package, which others import by the path of its
// module and its folder.
//
// Read are the package clause, imports, //go:embed, //go:generate and //go:linkname of sources; `module`,
// `replace` and `use` of go.mod and go.work; and import paths and patterns ("./gauge/...") in scripts,
// settings and interface descriptions. Not read: what plugins load when they run, and modules that lie
// outside of the tree. A package moves whole: imports of it are spelled anew, and get a name where its folder
// is not called as they name it.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> go_format();

}  // namespace yc
