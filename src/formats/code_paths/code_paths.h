// Paths in the code of languages that are written with braces: C and C++, C#, Rust, Go, Java, Kotlin, Swift.
// What the language itself opens is certain (Rust's include_str!() and #[path], C's
// #embed); a string that leads to something is likely.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> code_paths_format();

}  // namespace yc
