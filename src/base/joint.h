// Where the parts of a text were put together.
#pragma once

#include <optional>

#include "base/traced_text.h"

namespace yc {

// The place in a script where all parts of a text stand side by side, as in "${name}.c".
struct Joint {
  FileIndex file = kNoFile;
  Span whole;
  Span first;                // of the first part
  bool is_expanded = false;  // the first part is an expansion rather than literal text
};

// Nothing for a text of one part, or one whose parts come from places that do not touch.
std::optional<Joint> joint_of(const TracedText& text);

}  // namespace yc
