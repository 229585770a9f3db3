// Giving a source a rule again that goes where none of inference is for it.
#pragma once

#include <string>
#include <vector>

#include "formats/proposals.h"

namespace yc::nmake {

// A file's name without its ending, which its object shares.
std::string stem_of(const RelPath& path);
// Where a makefile has the name of an object: "tide" in "tide.obj" and "$(OUT)\tide$(O)".
std::vector<Span> object_names(std::string_view bytes, std::string_view stem);

struct Homeless {
  std::string stem;    // of its old name, and so of its object
  std::string way;     // from the folder of the old rule to its new one
  std::string source;  // its new place, from the folder of the start
  bool is_renamed = false;
};

// Ways to have the makefile at `path` compile what the rule did whose line begins at `rule`. As a neighbour
// has it: all lines that name a folder beside are said for the new one too. Else, where objects are listed by
// their names alone, the rule is said again for the new folder; or the source's own rule gets the commands,
// if it has none.
std::vector<Proposal> rule_ways(const RelPath& path, std::string_view bytes, std::uint32_t rule,
                                const Homeless& what);

}  // namespace yc::nmake
