// What a project of qmake says, with its variables put in and what it includes.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::qmake {

// How a word is written.
inline constexpr WritingStyle kBare = 0, kQuoted = 1;

struct Word {
  TracedText text;
  FileIndex file = kNoFile;  // that holds the assignment or the call
  Site site;                 // of it
};

struct Script {
  std::map<std::string, std::vector<Word>> variables;
  std::vector<Word> includes;   // that are there
  std::vector<Word> arguments;  // of functions
  std::vector<RelPath> files;   // the project itself and all that it includes
};

// `path` must be readable. What goes over the budget of `out` is left out, and said.
Script read_script(const TreeReader& tree, const RelPath& path, GraphBuilder& out);

}  // namespace yc::qmake
