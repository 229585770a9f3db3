// A path in a string of a program: opened from wherever the program is started.
#pragma once

#include <optional>

#include "formats/format.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// What `text`, a string at `span` of `user`, likely names: the one thing that it leads to from a folder
// between the file's own and the root, or a file that the program would write into a folder that is there.
// Nothing if it could be two things, or no path.
std::optional<Reference> literal_path(const TreeReader& tree, const RelPath& user, FileIndex file,
                                      const std::string& text, Span span, WritingStyle style,
                                      std::uint8_t format);
// The same for a text that is put together, of a construct at `site`.
std::optional<Reference> literal_path(const TreeReader& tree, const RelPath& user, const TracedText& text,
                                      Site site, std::uint8_t format);

// "./tides.xml" for what comes to lie in the folder that such a string is relative to: a name alone could be
// any word of the program, a path says that it is one.
std::vector<Proposal> spelled_as_path(const RewriteRequest& need);

}  // namespace yc
