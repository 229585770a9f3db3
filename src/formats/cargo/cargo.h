// Cargo manifests (the Cargo Book, "The Manifest Format", "Workspaces", "Specifying Dependencies",
// "Overriding Dependencies"; Cargo.toml is TOML 1.0).
//
// Read are the members of workspaces, also by patterns, what they exclude, path dependencies of every table
// and target, replacements, the paths of targets, and the files that a package names. Not read is what Rust's
// sources name of each other: a crate moves whole, with its manifest and all its sources, and then its
// modules are what they were. What climbs out of a crate at run time or when it is compiled
// ("CARGO_MANIFEST_DIR" with "..") is told and held back.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> cargo_format();

}  // namespace yc
