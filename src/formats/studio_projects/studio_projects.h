// Projects (.dsp) and workspaces (.dsw) of Visual C++ 4 to 6. They have no specification: read is what the
// program itself wrote.
//
// Read: SOURCE lines and what they are compiled with (/I of "# ADD CPP" lines, of all configurations
// together), the projects of a workspace, and any other word that leads to something in the tree, as in the
// commands of a custom build. Not read: what macros such as $(OutDir) stand for; such words are unseen texts.
// Paths are respelled with the separators that they have, from the folder of the project.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> studio_projects_format();

}  // namespace yc
