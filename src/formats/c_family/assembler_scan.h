// What assembler sources include: .include and .incbin (GNU as), %include and incbin (NASM).
#pragma once

#include <string_view>
#include <vector>

#include "formats/c_family/include_scan.h"

namespace yc::c_family {

bool is_assembler(std::string_view name);  // by its ending

// Adds to `out` what the lines of a source include. Such a text is looked for in the folder that the
// assembler is started in and in its search roots, and not beside the source.
void scan_assembler(std::string_view bytes, std::vector<Include>& out);

// The path after .incbin or .include in the text of a string literal of C, where quotes are escaped:
// `.incbin \"fonts/x.bin\"`. `begin` is where the text stands in its file.
void scan_inline_assembler(std::string_view text, std::size_t begin, std::vector<Include>& out);

}  // namespace yc::c_family
