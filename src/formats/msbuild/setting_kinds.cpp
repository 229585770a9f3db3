#include "formats/msbuild/setting_kinds.h"
#include "words/msbuild.h"

namespace yc::msbuild {

ValueKind kind_of(std::string_view owner, std::string_view name) {
  if (name == "Command") return ValueKind::command;
  if (words::msbuild::command_settings().contains(name))
    return owner == "PropertyGroup" ? ValueKind::command : ValueKind::no_path;
  if (words::msbuild::plain_settings().contains(name)) return ValueKind::no_path;
  if (words::msbuild::path_settings().contains(name)) return ValueKind::path;
  if (words::msbuild::root_settings().contains(name)) return ValueKind::search_roots;
  if (words::msbuild::output_settings().contains(name)) return ValueKind::output;
  if (name == "DependentUpon" || name == "LastGenOutput") return ValueKind::beside_item;
  return ValueKind::other;
}

ItemKind item_kind(std::string_view type) {
  if (words::msbuild::plain_items().contains(type)) return ItemKind::no_path;
  if (type == "Folder") return ItemKind::folder;
  return words::msbuild::compiled_items().contains(type) ? ItemKind::compiled : ItemKind::file;
}

}  // namespace yc::msbuild
