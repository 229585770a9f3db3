// A command line in a string of a program: "python3 tools/gen.py --table data/low.txt", which is started from
// wherever the program is.
#pragma once

#include <vector>

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// What the words of `text`, a string of `user`, name, if it starts a script or a program of the tree: counted
// from the nearest folder above `user` from which that is there. Likely references, of the construct at
// `site`; none if it is no such text.
std::vector<Reference> command_in_string(const TreeReader& tree, const RelPath& user, const TracedText& text,
                                         Site site, std::uint8_t format);

// Whether what is asked for could be named by a word of a text.
bool wants_any_word(const GraphBuilder& out, std::string_view text);

}  // namespace yc
