// Names of files as the protocol has them (RFC 3986, RFC 8089).
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace yc::serve {

// Of an absolute path.
std::string uri_of(std::string_view path);
// The absolute path that a "file:" URI names, without "." and ".."; nothing for another kind of URI, another
// machine's file, or one that is garbled.
std::optional<std::string> path_of(std::string_view uri);

}  // namespace yc::serve
