// Calls of stylesheet compilers in the scripts of a manifest.
#pragma once

#include "formats/shell/command_line.h"
#include "formats/web_settings/settings_paths.h"

namespace yc::web_settings {

// Where such a call has stylesheets looked up, and where it puts what is made of them:
// sass --load-path=scss scss/:public/css/, lessc main.less main.css. Any other command tells nothing.
void read_style_call(const Settings& settings, const shell::Command& command);

}  // namespace yc::web_settings
