// What readers do once they have found a word: find out where it leads, and add what it then is.
#pragma once

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

enum class Letters : std::uint8_t {
  exact,
  any_case,  // as systems find a path that know no case of letters
};
enum class IfMissing : std::uint8_t {
  skip,
  dangling,  // the construct wants it to be there
};

// What the text of a reference names from its base, if it is there and not ignored. The root itself counts
// only for a search root whose text climbs to it.
std::optional<RelPath> leads_to(const TreeReader& tree, const Reference& reference,
                                Letters letters = Letters::exact);
// Adds a reference to what its text names. True if that is there. Nothing is added for what is ignored, is
// the root, or lies outside; a text that is not fully known is added as such (see add_unseen).
bool add_leading(GraphBuilder& out, const TreeReader& tree, Reference reference,
                 IfMissing missing = IfMissing::skip, Letters letters = Letters::exact);

// The folder that a text with such a part begins with, if it is known and there, as a reference.
void add_known_folder(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                      std::uint8_t format, const SiteChain& key);
// Records a text with a part that evaluation cannot know, and takes its known folder as a reference of its
// own.
void add_unseen(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                std::uint8_t format, const SiteChain& key);

}  // namespace yc
