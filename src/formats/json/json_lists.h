// Members of a JSON array: how one more is put in, and how one is taken out.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/span.h"

namespace yc::json {

// What to insert behind the member at `word` (with its quotes) so that `text` is a string beside it, on a
// line of its own where that one has one; nothing if JSON cannot hold the text.
std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text);

// What to delete so that the array loses the member at `word` and the comma that it needs; nothing if it is
// the only one, or if what stands around it is no array.
std::optional<Span> without(std::string_view bytes, Span word);

}  // namespace yc::json
