// Folders of packages that manifests name.
#pragma once

#include "formats/web_settings/settings_paths.h"

namespace yc::web_settings {

// "repository": { "directory": … }: the package's own folder, from the root of the repository.
void add_own_folder(const Settings& settings, const json::StringValue& value);
// "../level:build": a task of another package. False, and nothing added, if it is none.
bool add_task_of_package(const Settings& settings, const json::StringValue& value);

}  // namespace yc::web_settings
