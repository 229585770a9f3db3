// Rust sources (the Rust Reference): modules, the paths that lead into them, and what they let others see.
//
// Which sources make a crate, and what its sources call other crates, the formats of manifests tell. A module
// that moves changes its path: the line that declares it goes to the module that takes in its new folder,
// with its attributes and documentation, and paths follow in all crates of the tree. What macros make of
// modules is not known; sources that no known line declares are held back.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> rust_format();

}  // namespace yc
