#include "formats/web_settings/package_folders.h"

namespace yc::web_settings {

void add_own_folder(const Settings& settings, const json::StringValue& value) {
  auto place = RelPath::resolve({}, value.text);
  if (!place || place->is_root() || *place != settings.folder()) return;
  Reference reference = reference_to(settings, value, Role::subfolder, text_of(settings, value));
  reference.base = {RelPath(), kNoFile, Space::tree};
  settings.out.add(std::move(reference).leading_to(*place));
}

bool add_task_of_package(const Settings& settings, const json::StringValue& value) {
  std::size_t colon = value.text.find(':');
  if (colon == std::string::npos || !value.text.starts_with(".")) return false;
  auto place = RelPath::resolve(settings.folder(), value.text.substr(0, colon));
  if (!place || !settings.tree.is_file(*place / "package.json")) return false;
  Reference reference = reference_to(settings, value, Role::subfolder, text_of(settings, value, 0, colon));
  if (!place->is_root()) settings.out.add(std::move(reference).leading_to(*place));
  return true;
}

}  // namespace yc::web_settings
