// Cargo manifests (the Cargo Book, "The Manifest Format", "Workspaces", "Specifying Dependencies",
// "Overriding Dependencies"; Cargo.toml is TOML 1.0).
//
// Read are the members of workspaces, also by patterns, what they exclude, path dependencies of every table
// and target, replacements, the paths of targets, the files that a package names, and settings
// (.cargo/config.toml). A crate moves whole, with its manifest and all its sources. Which sources its targets
// begin with, and what these call other crates, is told to whoever reads the sources. What climbs out of a
// crate at run time or when it is compiled ("CARGO_MANIFEST_DIR" with "..") is told and held back.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> cargo_format();

}  // namespace yc
