// A layout for people: the tree of what would move, with where each thing comes from.
#pragma once

#include <string>

#include "plan/layout.h"
#include "report/text.h"

namespace yc::report {

std::string layout_tree_text(const Layout& layout, const TextStyle& style);
std::string layout_json(const Layout& layout);

}  // namespace yc::report
