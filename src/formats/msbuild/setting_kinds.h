// What the values of items and properties are, by their names.
#pragma once

#include <string>
#include <string_view>

namespace yc::msbuild {

enum class ValueKind {
  other,         // may be a path all the same
  no_path,       // a name, a version, a switch
  path,          // one path or a list of them
  search_roots,  // folders that others are looked up in
  output,        // what the build writes
  command,       // lines for the command interpreter
  beside_item,   // a file beside the item's own
};
ValueKind kind_of(std::string_view owner, std::string_view name);

// Whether items of a type are files or folders.
enum class ItemKind { no_path, compiled, file, folder };
ItemKind item_kind(std::string_view type);

}  // namespace yc::msbuild
