// What an editor would write for a text that it holds.
#pragma once

#include <string>
#include <string_view>

namespace yc::serve {

// The bytes that a text has in a file which held `saved`: an editor shows neither a byte-order mark nor
// UTF-16 nor, some of them, that lines end as on Windows, and keeps all of these when it saves.
std::string as_saved(std::string_view saved, std::string_view text);

}  // namespace yc::serve
