// Texts with a part that evaluation cannot know: recorded, and their known folder taken as a reference of its
// own.
#pragma once

#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

void add_unseen(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                std::uint8_t format, const SiteChain& key);

}  // namespace yc
