// What JSON settings of web projects have in common: values that name files, folders and patterns from a
// folder.
#pragma once

#include <optional>
#include <string>

#include "formats/json/json_strings.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::web_settings {

// One settings file while it is read.
struct Settings {
  const TreeReader& tree;
  GraphBuilder& out;
  std::uint8_t format;
  RelPath path;
  FileIndex file;
  std::string_view bytes;

  RelPath folder() const { return path.parent(); }
  Base base() const { return {folder(), file, Space::tree}; }
};

// A value, or a part of one: `begin` and `end` count bytes of its text.
TracedText text_of(const Settings& settings, const json::StringValue& value, std::size_t begin = 0,
                   std::size_t end = std::string::npos);

// A reference at the place of a value; role, targets and certainty are for the caller to set.
Reference reference_to(const Settings& settings, const json::StringValue& value, Role role, TracedText text);

// Names a file or folder that is there and not ignored. False, and nothing added, if there is none.
bool add_path(const Settings& settings, const json::StringValue& value, Role role,
              Certainty certainty = Certainty::certain, std::size_t begin = 0,
              std::size_t end = std::string::npos);

// A reference to the folder of a package, which must be there, from a byte of the value on.
void add_package(const Settings& settings, const json::StringValue& value, std::size_t begin);

// A pattern with `*` and `**`: what is named for sure is the folder before the first wildcard.
bool add_pattern_head(const Settings& settings, const json::StringValue& value, std::size_t begin = 0,
                      Role role = Role::argument);

}  // namespace yc::web_settings
