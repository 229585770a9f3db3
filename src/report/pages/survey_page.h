// What is in a tree, as a page for whoever comes to it for the first time.
#pragma once

#include <string>

#include "inspect/folder_links.h"
#include "inspect/inspect.h"
#include "inspect/units.h"

namespace yc::report {

std::string survey_page(const Survey& survey, const Impact& units, const FolderLinks& links,
                        const std::string& root);

}  // namespace yc::report
