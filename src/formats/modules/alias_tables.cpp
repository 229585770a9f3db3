#include "formats/modules/alias_tables.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/json/json_tables.h"

namespace yc::modules {

namespace {

// In the manner of the entry that stands first in the table.
void program(const TreeReader& tree, const RelPath& path, const std::string& name, const RelPath& folder,
             AliasTables::Written& out) {
  auto read = tree.read(path);
  if (!read) return;
  std::string_view bytes = **read;
  std::string place = relative_text(path.parent(), folder);
  std::size_t mapper = json::table_of(bytes, "moduleNameMapper"), alias = json::table_of(bytes, "alias");
  if (mapper != std::string_view::npos)
    out.edits.push_back(
        json::entry_edit(path, bytes, mapper, fmt::format("'^{}/(.*)$': '<rootDir>/{}/$1'", name, place)));
  if (alias != std::string_view::npos) {
    std::size_t close = std::min(bytes.find('}', alias), bytes.size());
    std::string_view table = bytes.substr(alias, close - alias);
    std::string value = fmt::format("'./{}'", place);
    if (table.find("path.resolve(__dirname") != std::string_view::npos)
      value = fmt::format("path.resolve(__dirname, '{}')", place);
    else if (table.find("resolve(__dirname") != std::string_view::npos)
      value = fmt::format("resolve(__dirname, '{}')", place);
    else if (table.find("fileURLToPath(") != std::string_view::npos)
      value = fmt::format("fileURLToPath(new URL('./{}', import.meta.url))", place);
    out.edits.push_back(json::entry_edit(path, bytes, alias, fmt::format("'{}': {}", name, value)));
  }
  bool is_any = mapper != std::string_view::npos || alias != std::string_view::npos;
  if (!is_any)
    out.notices.push_back(
        {"no-alias-table",
         path,
         {},
         false,
         fmt::format("has no table of aliases; if its tool resolves modules, give it {} too", name)});
}

}  // namespace

AliasTables::Written name_in_programs(const ClaimedTree& before, const std::string& name,
                                      const RelPath& folder) {
  AliasTables::Written out;
  for (const RelPath& path : before.files) {
    bool applies = path.name().find(".config.") != std::string_view::npos && folder.is_within(path.parent());
    if (applies && before.tree.is_editable(path)) program(before.tree, path, name, folder, out);
  }
  return out;
}

}  // namespace yc::modules
