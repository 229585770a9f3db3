// Settings in scripting languages that give folders roles, as `images_dir = "assets/pictures"`: config.rb,
// settings.lua and the like. Only assignments of one string to a name that ends as that of a folder are read;
// nothing is run. What the language is otherwise able to do is not understood: a name that is assigned twice,
// or to anything but a string, gives no role. The paths are relative to the file's folder.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> role_settings_format();

}  // namespace yc
