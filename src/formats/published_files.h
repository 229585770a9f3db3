// Lists of what is published of a package: "files" of package.json (npm documentation), "include" and
// "exclude" of Cargo.toml (Cargo Book, "The Manifest Format").
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "tree/tree_reader.h"

namespace yc {

struct Published {
  std::size_t head = 0;    // bytes of the word that name a file, a folder, or a pattern of one folder's files
  bool is_pattern = true;  // else one file
  bool is_deep = false;    // all at any depth below the head whose names fit `names`
  std::string names = "*";
  std::vector<RelPath> files;  // none of them ignored
};

// What a word takes, without "!" and "/" in front of it: a file, a folder with all that is in it, "lib/*.js",
// "lib/**/*.js". Nothing for other patterns, and where nothing is there, as where the build fills a folder.
std::optional<Published> published_by(const TreeReader& tree, const RelPath& package,
                                      const std::string& word);

}  // namespace yc
