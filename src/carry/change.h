// Changing a tree wholly or not at all: files are renamed, new contents put in their place, folders made and
// removed. If any step fails, all steps before it are taken back in reverse order.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "carry/file_system.h"
#include "tree/moves.h"

namespace yc {

struct NewContent {
  RelPath path;  // after the moves
  std::string bytes;
  unsigned mode = 0644;
};

struct Change {
  std::vector<RelPath> make;  // folders, parents first
  std::vector<Move> moves;    // files; swaps and chains are fine
  std::vector<NewContent> contents;
  std::vector<RelPath> remove;  // folders that are empty in the end, children first
};

// Applies a change to the tree at `root`. `scratch` is an existing empty folder for staged contents on the
// same file system; it is empty again afterwards. After an error the tree is as it was, unless the error says
// otherwise.
Status apply_change(FileSystem& disk, const std::string& root, const std::string& scratch,
                    const Change& change);

}  // namespace yc
