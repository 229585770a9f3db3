// Tables of keys in JSON, and in programs that write them alike: where one stands, and how an entry is put
// in.
#pragma once

#include <string>
#include <string_view>

#include "base/edit.h"

namespace yc::json {

// Where the table of a key opens: "paths": {, alias: {; npos if there is none. Comments are not looked into.
std::size_t table_of(std::string_view bytes, std::string_view key);

// Puts an entry before the first one of the table that opens at `open`, in that one's manner.
Edit entry_edit(const RelPath& file, std::string_view bytes, std::size_t open, const std::string& entry);

}  // namespace yc::json
