// Settings of Cargo (the Cargo Book, "Configuration": .cargo/config.toml, and .cargo/config of old). Their
// paths are counted from the folder that holds .cargo.
#pragma once

#include "formats/format.h"

namespace yc::cargo {

bool is_config(const RelPath& path);
void add_config_references(const Reading& in, const RelPath& path, const Bytes& bytes);

}  // namespace yc::cargo
