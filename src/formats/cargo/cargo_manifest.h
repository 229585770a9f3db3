// What the values of a Cargo manifest name.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "formats/values/values.h"

namespace yc::cargo {

enum class Names : std::uint8_t {
  member,  // a folder with a manifest, or a pattern for such
  crate,   // a folder with a manifest
  file,
  packed,  // files that are published, or a pattern for such
  maybe,   // what other tools take for a path, if it leads somewhere
};

struct NamedPath {
  Names what = Names::file;
  values::Value value;
};

struct Manifest {
  std::string package;  // its name, if it has one
  bool is_workspace = false;
  bool is_private = false;  // not to be published
  std::vector<NamedPath> paths;
};

// Never fails: what cannot be parsed says nothing.
Manifest read_manifest(std::string_view bytes);

// Whether targets of a table ("bin", "test", …) are no longer looked for because one is named: so the edition
// of 2015 has it.
bool stops_looking(const std::vector<values::Value>& manifest, std::string_view table);

bool is_manifest(const RelPath& path);

}  // namespace yc::cargo
